// SPDX-License-Identifier: MIT
// Finds syllables by a grammar, puts circles under broken ones, and orders the glyphs of one.
#include "text/shaping/scripts/syllables.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr char32_t kCircle = 0x25CC;

std::ptrdiff_t offset(std::size_t i) { return static_cast<std::ptrdiff_t>(i); }

}  // namespace

void find_syllables(ScriptWork& work, const SyllableGrammar& grammar,
                    bool (*passed_over)(const ShapeBuffer& items, std::size_t at)) {
  ShapeBuffer& items = work.buffer;
  std::vector<std::uint8_t>& classes = work.numbers;
  classes.clear();
  for (std::size_t i = 0; i < items.size(); ++i) {
    if (passed_over == nullptr || !passed_over(items, i)) classes.push_back(items[i].category);
  }
  std::uint16_t serial = 0;
  std::size_t at = 0;
  for (std::size_t seen = 0; seen < classes.size();) {
    Syllable found = grammar.find(std::span(classes).subspan(seen));
    if (found.length > kLongestSyllable) found.kind = Syllable::kNoKind;
    serial = static_cast<std::uint16_t>(serial % 0xFFF + 1);
    const std::size_t first = at;
    for (std::size_t left = found.length; at < items.size(); ++at) {
      const bool passed = passed_over != nullptr && passed_over(items, at);
      if (left == 0 && !passed) break;
      items[at].syllable = static_cast<std::uint16_t>(serial << 4U | found.kind);
      if (!passed) --left;
    }
    if (found.kind != Syllable::kNoKind) items.keep_together(first, at);
    seen += found.length;
  }
}

SyllableRange syllable_at(const ShapeBuffer& items, std::size_t first) {
  SyllableRange out{first, first + 1, static_cast<std::uint8_t>(items[first].syllable & 15U)};
  while (out.end < items.size() && items[out.end].syllable == items[first].syllable) ++out.end;
  return out;
}

ShapeItem made_circle(const FaceLookups& face, const ShapeItem& mark) {
  ShapeItem circle;
  circle.character = kCircle;
  circle.glyph = face.find_glyph(kCircle);
  circle.cluster = mark.cluster;
  circle.syllable = mark.syllable;
  circle.features = mark.features;
  circle.kind = face.has_classes() ? face.class_of(circle.glyph) : GlyphClass::base;
  circle.mark_class = face.mark_class_of(circle.glyph);
  circle.is_broken = true;
  return circle;
}

void add_circles(ScriptWork& work, std::uint8_t broken, std::uint8_t category, std::uint8_t behind) {
  ShapeBuffer& items = work.buffer;
  for (std::size_t i = 0; i < items.size();) {
    SyllableRange syllable = syllable_at(items, i);
    if (syllable.kind == broken) {
      ShapeItem circle = made_circle(work.face, items[i]);
      circle.category = category;
      const bool is_there = circle.glyph != kMissingGlyph;
      items[i].is_broken = !is_there;
      const std::size_t at = items[i].category == behind ? i + 1 : i;
      if (is_there && items.replace(at, 0, {&circle, 1})) ++syllable.end;
    }
    i = syllable.end;
  }
}

void move_item(ShapeBuffer& items, std::size_t from, std::size_t to) {
  if (from == to) return;
  items.join_clusters(std::min(from, to), std::max(from, to) + 1);
  const std::span<ShapeItem> all = items.close_gap();
  if (from < to) {
    std::rotate(all.begin() + offset(from), all.begin() + offset(from + 1), all.begin() + offset(to + 1));
  } else {
    std::rotate(all.begin() + offset(to), all.begin() + offset(from), all.begin() + offset(from + 1));
  }
}

void sort_by_place(ScriptWork& work, std::size_t first, std::size_t end) {
  const std::span<ShapeItem> all = work.buffer.close_gap().subspan(first, end - first);
  const auto by_place = [](const ShapeItem& a, const ShapeItem& b) { return a.place < b.place; };
  if (std::is_sorted(all.begin(), all.end(), by_place)) return;
  // Gathered place by place, which takes no more memory than there is; `attached` remembers where each was.
  std::vector<ShapeItem>& made = work.items;
  made.clear();
  for (std::size_t i = 0; i < all.size(); ++i) all[i].attached = static_cast<std::int32_t>(i);
  for (unsigned place = 0; made.size() < all.size() && place < 256; ++place) {
    for (const ShapeItem& item : all) {
      if (item.place == place) made.push_back(item);
    }
  }
  std::copy(made.begin(), made.end(), all.begin());
  std::size_t begin = 0, farthest = 0;  // of items that only trade places with one another
  for (std::size_t i = 0; i < all.size(); ++i) {
    farthest = std::max(farthest, static_cast<std::size_t>(all[i].attached));
    all[i].attached = 0;
    if (farthest > i) continue;
    work.buffer.join_clusters(first + begin, first + i + 1);
    begin = i + 1;
  }
}

void reverse_left_vowels(ShapeBuffer& items, std::size_t first, std::size_t end, std::uint8_t left,
                         bool (*owns)(std::uint8_t category)) {
  std::size_t begin = first;
  while (begin < end && items[begin].place != left) ++begin;
  std::size_t last = begin;
  while (last < end && items[last].place == left) ++last;
  if (last - begin < 2) return;
  items.join_clusters(begin, last);
  const std::span<ShapeItem> all = items.close_gap();
  std::reverse(all.begin() + offset(begin), all.begin() + offset(last));
  // What follows a vowel stands before it now: each group is turned back.
  for (std::size_t i = begin, from = begin; i < last; ++i) {
    if (!owns(all[i].category)) continue;
    std::reverse(all.begin() + offset(from), all.begin() + offset(i + 1));
    from = i + 1;
  }
}

void clear_substituted(ShapeBuffer& items) {
  constexpr auto kKept = static_cast<std::uint8_t>(~ShapeItem::kSubstituted);
  for (std::size_t i = 0; i < items.size(); ++i) {
    if (!items[i].is(ShapeItem::kIgnorable)) items[i].flags &= kKept;
  }
}

}  // namespace grafema::detail
