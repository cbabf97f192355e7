// SPDX-License-Identifier: MIT
// What lookups of GSUB replace: one glyph, several, a choice, ligatures, and from the end (OpenType, GSUB).
#include <algorithm>

#include "text/shaping/engine/lookup_runner.hpp"

namespace grafema::detail {
namespace {

/// The list that belongs to the glyph's number: offsets stand behind their count.
TableView list_of(const CompiledRule& rule, GlyphId glyph) {
  const TableView table = view(rule.bytes);
  const std::optional<std::uint32_t> number = GlyphSet(sub_table(table, 2)).find(glyph);
  if (!number || *number >= table.u16(4)) return {};
  return view(sub_table(table, 6 + std::size_t{*number} * 2));
}

}  // namespace

void LookupRunner::put(ShapeItem& item, GlyphId glyph, std::optional<GlyphClass> guess) {
  item.glyph = glyph;
  if (row_ != nullptr) row_->add_mask(glyph, wanted_);
  item.flags |= ShapeItem::kSubstituted;
  if (face_.has_classes()) {
    item.kind = face_.class_of(glyph);
  } else if (guess) {
    item.kind = *guess;
  }
  item.mark_class = face_.mark_class_of(glyph);
}

std::optional<std::size_t> LookupRunner::apply_single(const CompiledRule& rule, std::size_t at) {
  ShapeItem& item = buffer_[at];
  const std::optional<GlyphId> found =
      SingleSubstitution{GlyphSet(sub_table(view(rule.bytes), 2)), rule.bytes}.find(item.glyph);
  if (!found) return std::nullopt;
  put(item, *found, std::nullopt);
  return at + 1;
}

std::optional<std::size_t> LookupRunner::apply_multiple(const CompiledRule& rule, std::size_t at) {
  const TableView list = list_of(rule, buffer_[at].glyph);
  if (list.bytes.size() < 2) return std::nullopt;
  const std::size_t count = std::min<std::size_t>(list.u16(0), (list.bytes.size() - 2) / 2);
  if (count == 0) {  // deletes: what it showed belongs to a neighbor
    if (at + 1 < buffer_.size()) {
      buffer_.join_clusters(at, at + 2);
    } else if (at > 0) {
      buffer_.join_clusters(at - 1, at + 1);
    }
    buffer_.replace(at, 1, {});
    return at;
  }
  if (count == 1) {
    put(buffer_[at], GlyphId{list.u16(2)}, std::nullopt);
    return at + 1;
  }
  if (!spend(count)) return std::nullopt;
  made_.assign(count, buffer_[at]);
  for (std::size_t i = 0; i < count; ++i) {
    put(made_[i], GlyphId{list.u16(2 + i * 2)},
        made_[i].kind == GlyphClass::ligature ? GlyphClass::base : made_[i].kind);
    made_[i].flags |= ShapeItem::kMultiplied;
    // Marks behind stand on the last of them unless the glyph itself stands on a part of a ligature.
    if (made_[i].part == 0) made_[i].parts = 1;
  }
  return buffer_.replace(at, 1, made_) ? std::optional(at + count) : std::nullopt;
}

std::optional<std::size_t> LookupRunner::apply_alternate(const LookupCall& call, const CompiledRule& rule,
                                                         std::size_t at) {
  const TableView list = list_of(rule, buffer_[at].glyph);
  std::size_t which = call.chosen.value;
  if (which == ChosenLookup::kAnyAlternate && list.u16(0) > 0) {
    const std::uint64_t place = (seed_ ^ buffer_[at].cluster) * 0x9E3779B97F4A7C15U;
    which = 1 + (place >> 33U) % list.u16(0);
  }
  if (which == 0 || which > list.u16(0) || !list.holds(which * 2, 2)) return std::nullopt;
  put(buffer_[at], GlyphId{list.u16(which * 2)}, std::nullopt);
  return at + 1;
}

std::optional<std::size_t> LookupRunner::apply_ligature(const LookupCall& call, const CompiledRule& rule,
                                                        std::size_t at) {
  const TableView set = list_of(rule, buffer_[at].glyph);
  for (std::size_t i = 0; i < set.u16(0) && set.holds(2 + i * 2, 2); ++i) {
    if (!spend(1)) return std::nullopt;
    const TableView table = view(sub_table(set, 2 + i * 2));
    const std::size_t parts = table.u16(2);
    if (parts == 0 || parts > kMaxPlaces || !table.holds(4, (parts - 1) * 2)) continue;
    if (parts == 1) {
      put(buffer_[at], GlyphId{table.u16(0)}, std::nullopt);
      return at + 1;
    }
    Places input{table, 4, parts - 1, 1, {}, {}, nullptr};
    Matched matched;
    if (!match_input(call, at, input, matched)) continue;
    // Marks that stand on parts of different ligatures do not join.
    const ShapeItem& first = buffer_[at];
    const bool same = std::all_of(
        matched.places.begin() + 1, matched.places.begin() + static_cast<std::ptrdiff_t>(matched.count),
        [&](std::size_t p) {
          const ShapeItem& item = buffer_[p];
          return item.part == 0 ||
                 (item.ligature == first.ligature && (first.part == item.part || first.part == 0));
        });
    if (!same && first.kind == GlyphClass::mark) continue;
    join(matched, GlyphId{table.u16(0)});
    return at + 1;
  }
  return std::nullopt;
}

void LookupRunner::join(const Matched& matched, GlyphId ligature) {
  const std::size_t at = matched.places[0];
  buffer_.join_clusters(at, matched.end);
  bool marks_only = true, base_and_marks = buffer_[at].kind == GlyphClass::base;
  std::size_t parts = 0;
  for (std::size_t i = 0; i < matched.count; ++i) {
    const ShapeItem& item = buffer_[matched.places[i]];
    const bool mark = item.kind == GlyphClass::mark;
    marks_only = marks_only && mark;
    if (i > 0) base_and_marks = base_and_marks && mark;
    parts += item.parts;
  }
  const bool real = !marks_only && !base_and_marks;
  const std::uint16_t id = ++last_ligature_ == 0 ? ++last_ligature_ : last_ligature_;
  // What stands between the parts is a mark of the part before it.
  made_.clear();
  ShapeItem whole = buffer_[at];
  std::uint16_t last_id = whole.ligature;
  std::size_t last_parts = whole.parts, so_far = whole.parts;
  std::uint8_t uncut = whole.flags & ShapeItem::kNoCutBefore;
  put(whole, ligature, real ? std::optional(GlyphClass::ligature) : std::nullopt);
  whole.flags |= ShapeItem::kLigated | uncut;
  if (real) {
    whole.ligature = id, whole.part = 0;
    whole.parts = static_cast<std::uint8_t>(std::min<std::size_t>(parts, 255));
  }
  made_.push_back(whole);
  std::size_t place = 1;
  const auto moved = [&](ShapeItem item) {
    if (!real) return item;
    const std::size_t own = item.part == 0 || item.ligature != last_id ? last_parts : item.part;
    item.ligature = id;
    item.part = static_cast<std::uint8_t>(
        std::min<std::size_t>(so_far - last_parts + std::min(own, last_parts), 255));
    return item;
  };
  for (std::size_t i = at + 1; i < matched.end; ++i) {
    if (place < matched.count && matched.places[place] == i) {
      last_id = buffer_[i].ligature, last_parts = buffer_[i].parts, so_far += last_parts;
      ++place;
    } else {
      made_.push_back(moved(buffer_[i]));
    }
  }
  if (real && last_id != 0) {  // marks that stood on the last part, if that was a ligature itself
    for (std::size_t i = matched.end; i < buffer_.size(); ++i) {
      ShapeItem& item = buffer_[i];
      if (item.part == 0 || item.ligature != last_id) break;
      item = moved(item);
    }
  }
  buffer_.replace(at, matched.end - at, made_);
}

std::optional<std::size_t> LookupRunner::apply_reverse(const LookupCall& call, const CompiledRule& rule,
                                                       std::size_t at) {
  if (call.depth > 0) return std::nullopt;  // only as a lookup of its own
  const TableView table = view(rule.bytes);
  Places before{table, 6, table.u16(4), 3, {}, table, nullptr};
  Places after = before;
  after.at = before.at + before.count * 2 + 2, after.count = table.u16(after.at - 2);
  const std::size_t list = after.at + after.count * 2 + 2, count = table.u16(list - 2);
  const std::optional<std::uint32_t> number = GlyphSet(sub_table(table, 2)).find(buffer_[at].glyph);
  if (!number || *number >= count || !table.holds(list + *number * std::size_t{2}, 2)) return std::nullopt;
  const std::size_t begin = match_before(call, at, before);
  const std::size_t end = begin == kNone ? kNone : match_after(call, at, after);
  if (end == kNone) return std::nullopt;
  buffer_.keep_together(begin, end);
  put(buffer_[at], GlyphId{table.u16(list + *number * std::size_t{2})}, std::nullopt);
  return at + 1;
}

}  // namespace grafema::detail
