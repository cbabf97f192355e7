// SPDX-License-Identifier: MIT
// Finds out whether digits stand alone, keeps what they draw, and writes numbers from it.
#include "draw/set/set_numbers.hpp"

#include <algorithm>
#include <cmath>

#include "draw/set/set_state.hpp"

namespace grafema {
namespace detail {

bool stand_alone(const FontStack& fonts, const TextStyle& style, ShapeCache& cache) {
  // Every pair of them, the last of each row beside the first of the next.
  std::string pairs;
  for (const char a : kNumberCharacters) {
    for (const char b : kNumberCharacters) pairs += {a, b};
  }
  ShapedText shaped;
  if (!shaped.set(fonts, pairs, style, cache)) return false;
  const std::span<const ShapedGlyph> glyphs = shaped.glyphs();
  if (glyphs.size() != pairs.size()) return false;
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    if (glyphs[i].cluster != i || (i > 0 && glyphs[i].flags != 0)) return false;
  }
  return std::all_of(shaped.runs().begin(), shaped.runs().end(),
                     [](const ShapedRun& run) { return run.level == 0; });
}

const NumberSigns* SetNumbers::find(std::uint8_t context, const std::shared_ptr<const SharedStyle>& style,
                                    LookId look) {
  const auto is_wanted = [&](const NumberSigns& n) {
    return n.context == context && n.look == look && !n.style.owner_before(style) &&
           !style.owner_before(n.style);
  };
  if (last_ < known_.size() && is_wanted(*known_[last_])) return known_[last_].get();
  for (std::size_t i = 0; i < known_.size(); ++i) {
    if (!is_wanted(*known_[i])) continue;
    last_ = i;
    return known_[i].get();
  }
  return nullptr;
}

NumberSigns& SetNumbers::add(std::uint8_t context, const std::shared_ptr<const SharedStyle>& style,
                             LookId look) {
  if (known_.size() >= kMost) known_.erase(known_.begin());
  known_.push_back(std::make_unique<NumberSigns>());
  NumberSigns& made = *known_.back();
  made.context = context, made.style = style, made.look = look;
  last_ = known_.size() - 1;
  return made;
}

namespace {

/// Styles in which a number is one line from the left, whatever it is.
bool is_simple(const TextStyle& style) {
  const bool in_box = style.wrap || style.box_height || style.max_lines != 0 || !style.reserve.empty();
  const bool ranged = std::any_of(style.features.begin(), style.features.end(), [](const FeatureSetting& f) {
    return f.start != 0 || f.end != FeatureSetting::kToTheEnd;
  });
  return !in_box && !ranged && style.first_indent == 0 && style.word_spacing == 0 &&
         style.align != TextAlign::justify && style.direction != TextDirection::right_to_left;
}

}  // namespace
}  // namespace detail

/// Lays each character out alone and keeps what it draws.
const detail::NumberSigns* LabelSet::State::learn_numbers(std::uint32_t i) {
  const StillLabel& s = still[i];
  if (const detail::NumberSigns* known = numbers.find(s.context, s.style, s.look)) return known;
  detail::NumberSigns& made = numbers.add(s.context, s.style, s.look);
  detail::SetContext& c = contexts[s.context];
  const TextStyle& style = s.style->text;
  const FontStack& fonts = s.style->fonts ? *s.style->fonts : c.context->fonts();
  if (!detail::is_simple(style) || !detail::stand_alone(fonts, style, c.context->shapes())) return &made;
  const std::string own = s.text;
  const LookBook& looks = c.context->looks();
  made.tracking = style.tracking;
  made.layers = looks.get(s.look).count;
  bool good = true;
  for (const char character : detail::kNumberCharacters) {
    still[i].text.assign(1, character);
    Label::State& label = prepare(i);
    const unsigned sign = detail::NumberSigns::index_of(character);
    good = good && !label.unsettled && label.quads.size() <= 1 && label.paragraph.glyphs.size() == 1;
    if (!good) break;
    made.known |= std::uint64_t{1} << sign;
    made.steps[sign] = label.box.width() + style.tracking;
    made.height = label.box.height(), made.size = label.paragraph.size;
    if (label.quads.empty()) continue;
    made.painted |= std::uint64_t{1} << sign;
    Variant& variant = label.variants[0];
    const auto layer = layers.find(s.context, looks, variant, s.look, tables.layers, next);
    // Coverage is made for the place of its pen.
    good = good && layer && variant.kind != QuadKind::coverage;
    if (!good) break;
    variant.first_record = layer->first;
    made.features = layer->features;
    const std::uint32_t array = array_number(s.context, variant);
    good = array < kMostArrays;
    if (!good) break;
    made.arrays |= 1U << array;
    made.records[sign] = record_of(i, label, 0, 0);
    made.extent = made.extent.empty() ? painted_extent(label, looks)
                                      : enclosing(made.extent, painted_extent(label, looks));
    made.pages |= pages_of(label);
  }
  still[i].text = own;
  made.alone = good;
  return &made;
}

/// Writes the records of a number at once; false where it must be laid out.
bool LabelSet::State::write_number_of(std::uint32_t i, std::string_view text) {
  StillLabel& s = still[i];
  if (s.contents_stale || s.pictures_stale || (s.features & kMoves) != 0) return false;
  const detail::NumberSigns* known = learn_numbers(i);
  if (known == nullptr || !known->alone) return false;
  // What the number before began with stands where it stood.
  std::size_t same = 0;
  const std::size_t most = std::min(text.size(), s.text.size());
  while (same < most && text[same] == s.text[same]) ++same;
  float pen = 0, pen_at_same = 0;
  std::uint32_t painted = 0, kept = 0;
  for (std::size_t k = 0; k < text.size(); ++k) {
    if (k == same) pen_at_same = pen, kept = painted;
    const unsigned sign = detail::NumberSigns::index_of(text[k]);
    if (sign >= 64 || (known->known >> sign & 1U) == 0) return false;
    painted += static_cast<std::uint32_t>(known->painted >> sign & 1U);
    pen += known->steps[sign];
  }
  if (same == text.size()) kept = painted;
  const float end = pen;
  const std::uint32_t first_before = s.first_glyph, slots_before = s.slots;
  take_glyph_room(i, painted);
  if (s.first_glyph != first_before) same = 0, kept = 0, pen_at_same = 0;
  pen = pen_at_same;
  GlyphRecord* record = tables.glyphs.change(s.first_glyph + kept, painted - kept, next).data();
  for (std::size_t k = same; k < text.size(); ++k) {
    const unsigned sign = detail::NumberSigns::index_of(text[k]);
    if ((known->painted >> sign & 1U) != 0) {
      *record = known->records[sign];
      record->x += pen;
      record->row = i;
      record->index = static_cast<std::uint16_t>(k);
      ++record;
    }
    pen += known->steps[sign];
  }
  pen = end;
  ++work.numbers;
  const float width = text.empty() ? 0 : pen - known->tracking;
  if (s.first_glyph != first_before || slots_before != painted * known->layers) {
    slots_made.clear();
    for (std::uint32_t layer = 0; layer < known->layers; ++layer) {
      for (std::uint32_t k = 0; k < painted; ++k) slots_made.push_back((s.first_glyph + k) * 8 + layer);
    }
    place_slots(i, slots_made);
  }
  const std::uint32_t features = known->features | (moving[i].clip != 0 ? kClips : 0U);
  if (features != s.features || known->arrays != s.arrays) batches_stale = true;
  s.features = features, s.arrays = known->arrays;
  const Rect extent{known->extent.left, known->extent.top, known->extent.right + pen, known->extent.bottom};
  if (width != s.box.width() || known->height != s.box.height() || extent != s.extent) {
    s.box = {0, 0, width, known->height};
    s.extent = painted > 0 ? extent : Rect{};
    tables.heads.change(i, next) = {width, known->height, known->size, 0};
    touch_row(i);
  }
  if (known->pages != s.pages) change_pages(i, known->pages);
  return true;
}

}  // namespace grafema
