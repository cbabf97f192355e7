// SPDX-License-Identifier: MIT
// What lookups of GPOS move: single glyphs, pairs, cursive joins, marks (OpenType, GPOS).
#include <algorithm>

#include "text/shaping/engine/lookup_runner.hpp"

namespace grafema::detail {
namespace {

bool move(ShapeItem& item, const Adjustment& by, bool upright) {
  item.x += by.x_placement, item.y += by.y_placement;
  item.advance += upright ? by.y_advance : by.x_advance;
  return by != Adjustment{};
}

/// Turns the hanging of a chain of cursive joins round: what an item hung on now hangs on it.
void turn_chain(ShapeBuffer& buffer, std::size_t from, std::size_t until) {
  std::size_t at = from;
  std::int32_t to = buffer[at].attached;
  float y = buffer[at].y;
  Attachment kind = buffer[at].attachment;
  buffer[at].attached = 0, buffer[at].attachment = Attachment::none;
  while (kind == Attachment::cursive && to != 0) {
    const auto next = static_cast<std::size_t>(static_cast<std::ptrdiff_t>(at) + to);
    if (next == until || next >= buffer.size()) break;
    ShapeItem& parent = buffer[next];
    const std::int32_t onward = parent.attached;
    const float onward_y = parent.y;
    const Attachment onward_kind = parent.attachment;
    parent.attached = -to, parent.attachment = Attachment::cursive, parent.y = -y;
    at = next, to = onward, y = onward_y, kind = onward_kind;
  }
}

}  // namespace

std::optional<std::size_t> LookupRunner::apply_adjust(const CompiledRule& rule, std::size_t at) {
  const auto* single = std::get_if<SingleAdjustment>(&rule.position);
  const std::optional<Adjustment> found = single == nullptr ? std::nullopt : single->find(buffer_[at].glyph);
  if (!found) return std::nullopt;
  move(buffer_[at], *found, upright_);
  return at + 1;
}

std::optional<std::size_t> LookupRunner::apply_pair(const LookupCall& call, const CompiledRule& rule,
                                                    std::size_t at) {
  const auto* pairs = std::get_if<PairAdjustments>(&rule.position);
  const std::size_t second = next(at, call, false, [](const ShapeItem& item) {
    return !item.is(ShapeItem::kIgnorable) || item.is(ShapeItem::kSubstituted);
  });
  if (pairs == nullptr || second == kNone) return std::nullopt;
  const std::uint32_t left = index_of(buffer_[at].glyph), right = index_of(buffer_[second].glyph);
  std::optional<PairAdjustment> found;
  if (left < rule.rows.size() && right < rule.columns.size()) {
    const TableView table = view(rule.bytes);
    if (rule.rows[left] == CompiledRule::kNoRow) return std::nullopt;
    const std::size_t at_value =
        16 + (std::size_t{rule.rows[left]} * table.u16(14) + rule.columns[right]) * 2;
    constexpr std::uint16_t kAdvanceAlone = 4;
    if (table.u16(4) == kAdvanceAlone && table.u16(6) == 0 && !upright_) {  // as nearly all kerning is
      if (rule.columns[right] >= table.u16(14) || rule.rows[left] >= table.u16(12)) return second;
      found.emplace().first.x_advance = table.s16(at_value);
    }
  }
  if (!found) found = pairs->find(buffer_[at].glyph, buffer_[second].glyph);
  if (!found) return std::nullopt;
  const bool first_moved = move(buffer_[at], found->first, upright_),
             second_moved = move(buffer_[second], found->second, upright_);
  if (first_moved || second_moved) buffer_.keep_together(at, second + 1);
  const bool second_has_value = view(rule.bytes).u16(6) != 0;
  return second_has_value ? second + 1 : second;
}

std::optional<std::size_t> LookupRunner::apply_cursive(const LookupCall& call, const CompiledRule& rule,
                                                       std::size_t at) {
  const auto* cursive = std::get_if<CursiveAttachment>(&rule.position);
  if (cursive == nullptr || upright_) return std::nullopt;
  const std::optional<Anchor> entry = cursive->entry(buffer_[at].glyph);
  if (!entry) return std::nullopt;
  const std::size_t before =
      previous(at, call, [](const ShapeItem& item) { return !item.is(ShapeItem::kIgnorable); });
  if (before == kNone) return std::nullopt;
  const std::optional<Anchor> exit = cursive->exit(buffer_[before].glyph);
  if (!exit) return std::nullopt;
  buffer_.keep_together(before, at + 1);
  ShapeItem &first = buffer_[before], &second = buffer_[at];
  if (left_to_right_) {
    first.advance = exit->x + first.x;
    const float by = entry->x + second.x;
    second.advance -= by, second.x -= by;
  } else {
    const float by = exit->x + first.x;
    first.advance -= by, first.x -= by;
    second.advance = entry->x + second.x;
  }
  // The lookup's flag says which of the two keeps its height.
  const bool last_keeps = call.lookup.flags.right_to_left;
  const std::size_t child = last_keeps ? before : at, parent = last_keeps ? at : before;
  turn_chain(buffer_, child, parent);
  buffer_[child].attachment = Attachment::cursive;
  buffer_[child].attached =
      static_cast<std::int32_t>(static_cast<std::ptrdiff_t>(parent) - static_cast<std::ptrdiff_t>(child));
  buffer_[child].y = last_keeps ? entry->y - exit->y : exit->y - entry->y;
  if (buffer_[parent].attachment == Attachment::cursive &&
      buffer_[parent].attached == -buffer_[child].attached) {
    buffer_[parent].attached = 0, buffer_[parent].attachment = Attachment::none, buffer_[parent].y = 0;
  }
  return at + 1;
}

/// The nearest item before a mark that is no mark. What lay between was looked at for the marks before it.
std::size_t LookupRunner::base_before(std::size_t at) {
  if (looked_until_ > at) looked_until_ = 0, last_base_ = kNone;
  for (std::size_t i = at; i-- > looked_until_;) {
    const ShapeItem& item = buffer_[i];
    if (item.kind == GlyphClass::mark ||
        (item.is(ShapeItem::kIgnorable) && !item.is(ShapeItem::kSubstituted))) {
      continue;
    }
    // Of several glyphs made from one, marks stand on the first, unless a mark stands between them.
    std::size_t base = i;
    while (base > 0 && buffer_[base].is(ShapeItem::kMultiplied) && buffer_[base].part == 0 &&
           buffer_[base - 1].is(ShapeItem::kMultiplied) &&
           buffer_[base - 1].cluster == buffer_[base].cluster &&
           buffer_[base - 1].character == buffer_[base].character) {
      --base;
    }
    last_base_ = base;
    break;
  }
  looked_until_ = at;
  return last_base_;
}

bool LookupRunner::attach(const CompiledRule& rule, std::size_t mark, std::size_t base, std::uint16_t part) {
  const auto* marks = std::get_if<MarkAttachment>(&rule.position);
  if (marks == nullptr) return false;
  const auto place = marks->find(buffer_[mark].glyph, buffer_[base].glyph, part);
  if (!place) return false;
  buffer_.keep_together(base, mark + 1);
  ShapeItem& item = buffer_[mark];
  item.x = place->base.x - place->mark.x;
  item.y = place->base.y - place->mark.y;
  item.attachment = Attachment::mark;
  item.attached =
      static_cast<std::int32_t>(static_cast<std::ptrdiff_t>(base) - static_cast<std::ptrdiff_t>(mark));
  return true;
}

std::optional<std::size_t> LookupRunner::apply_mark_to_base(const CompiledRule& rule, std::size_t at) {
  const std::size_t base = base_before(at);
  if (base == kNone) return std::nullopt;
  return attach(rule, at, base, 0) ? std::optional(at + 1) : std::nullopt;
}

std::optional<std::size_t> LookupRunner::apply_mark_to_ligature(const CompiledRule& rule, std::size_t at) {
  const std::size_t base = base_before(at);
  const auto* marks = std::get_if<MarkAttachment>(&rule.position);
  if (base == kNone || marks == nullptr) return std::nullopt;
  const std::optional<std::uint32_t> number = marks->bases.find(buffer_[base].glyph);
  if (!number) return std::nullopt;
  const TableView array = view(sub_table(view(rule.bytes), 10));
  const std::uint16_t parts = view(sub_table(array, 2 + std::size_t{*number} * 2)).u16(0);
  if (parts == 0) return std::nullopt;
  const ShapeItem &mark = buffer_[at], &ligature = buffer_[base];
  const bool on_part = ligature.ligature != 0 && ligature.ligature == mark.ligature && mark.part > 0;
  const std::uint16_t part = on_part ? std::min<std::uint16_t>(mark.part, parts) : parts;
  return attach(rule, at, base, static_cast<std::uint16_t>(part - 1)) ? std::optional(at + 1) : std::nullopt;
}

std::optional<std::size_t> LookupRunner::apply_mark_to_mark(const LookupCall& call, const CompiledRule& rule,
                                                            std::size_t at) {
  // Marks that the lookup does not see lie between; a letter ends the search.
  LookupFlags flags = call.lookup.flags;
  flags.ignore_bases = flags.ignore_ligatures = flags.ignore_marks = false;
  const std::size_t before = previous(at, &flags, call.chosen, [](const ShapeItem& item) {
    return !item.is(ShapeItem::kIgnorable) || item.kind == GlyphClass::mark;
  });
  if (before == kNone || buffer_[before].kind != GlyphClass::mark) return std::nullopt;
  const ShapeItem &mark = buffer_[at], &other = buffer_[before];
  // Both on the same part of the same ligature, or one of them a ligature of marks.
  const bool together = mark.ligature == other.ligature ? (mark.ligature == 0 || mark.part == other.part)
                                                        : (mark.ligature != 0 && mark.part == 0) ||
                                                              (other.ligature != 0 && other.part == 0);
  if (!together) return std::nullopt;
  return attach(rule, at, before, 0) ? std::optional(at + 1) : std::nullopt;
}

}  // namespace grafema::detail
