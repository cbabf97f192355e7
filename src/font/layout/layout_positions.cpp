// SPDX-License-Identifier: MIT
// What GPOS lookups move (OpenType, GPOS).
#include <algorithm>
#include <memory>
#include <numeric>

#include "font/layout/layout_bytes.hpp"

namespace grafema {

using detail::find_first;
using detail::sub_table;
using detail::TableView;
using detail::ValueContext;
using detail::view;

std::optional<Adjustment> SingleAdjustment::find(GlyphId glyph) const {
  const std::optional<std::uint32_t> number = glyphs.find(glyph);
  const TableView table = view(bytes);
  const std::uint16_t format = table.u16(4);
  if (!number) return std::nullopt;
  if (table.u16(0) == 1) return detail::read_value({table, variations}, 6, format);
  if (table.u16(0) != 2 || *number >= table.u16(6)) return std::nullopt;
  return detail::read_value({table, variations}, 8 + *number * detail::value_bytes(format), format);
}

namespace {

std::size_t pair_count(const TableView& set, std::size_t record_bytes) {
  return set.bytes.size() < 2 ? 0 : std::min<std::size_t>(set.u16(0), (set.bytes.size() - 2) / record_bytes);
}

/// The records of a list by their second glyph, of equal ones the first before; empty where they ascend.
std::vector<std::uint16_t> pair_order(const TableView& set, std::size_t record_bytes) {
  const std::size_t count = pair_count(set, record_bytes);
  const auto glyph = [&](std::size_t r) { return set.u16(2 + r * record_bytes); };
  bool ascends = true;
  for (std::size_t r = 1; r < count && ascends; ++r) ascends = glyph(r - 1) < glyph(r);
  std::vector<std::uint16_t> order(ascends ? 0 : count);
  std::iota(order.begin(), order.end(), std::uint16_t{0});
  std::stable_sort(order.begin(), order.end(),
                   [&](std::uint16_t a, std::uint16_t b) { return glyph(a) < glyph(b); });
  return order;
}

/// Format 1: a list of second glyphs for each first glyph.
std::optional<PairAdjustment> find_in_list(ValueContext context, const TableView& table, std::uint32_t number,
                                           std::uint32_t right, std::span<const std::uint16_t> order) {
  const std::uint16_t first_format = table.u16(4), second_format = table.u16(6);
  if (number >= table.u16(8)) return std::nullopt;
  const TableView set = view(sub_table(table, 10 + std::size_t{number} * 2));
  const std::size_t first_bytes = detail::value_bytes(first_format),
                    record_bytes = 2 + first_bytes + detail::value_bytes(second_format);
  const std::size_t count = pair_count(set, record_bytes);
  const auto place = [&](std::size_t r) { return 2 + (order.empty() ? r : order[r]) * record_bytes; };
  const std::size_t i = find_first(count, [&](std::size_t r) { return set.u16(place(r)) < right; });
  if (i == count || set.u16(place(i)) != right) return std::nullopt;
  const std::size_t record = place(i);
  context.parent = set;  // devices of a list stand in it
  return PairAdjustment{detail::read_value(context, record + 2, first_format),
                        detail::read_value(context, record + 2 + first_bytes, second_format)};
}

/// Format 2: a matrix of classes. It knows every pair whose first glyph it covers.
PairAdjustment find_in_matrix(const ValueContext& context, const TableView& table, GlyphId left,
                              GlyphId right) {
  const std::uint16_t first_format = table.u16(4), second_format = table.u16(6);
  const std::size_t row = GlyphClasses(sub_table(table, 8)).class_of(left),
                    column = GlyphClasses(sub_table(table, 10)).class_of(right);
  const std::size_t rows = table.u16(12), columns = table.u16(14);
  if (row >= rows || column >= columns) return {};
  const std::size_t first_bytes = detail::value_bytes(first_format),
                    record_bytes = first_bytes + detail::value_bytes(second_format);
  const std::size_t at = 16 + (row * columns + column) * record_bytes;
  return {detail::read_value(context, at, first_format),
          detail::read_value(context, at + first_bytes, second_format)};
}

}  // namespace

std::shared_ptr<const std::vector<std::vector<std::uint16_t>>> detail::find_pair_order(
    const TableView& table) {
  if (table.u16(0) != 1) return nullptr;
  const std::size_t record_bytes = 2 + value_bytes(table.u16(4)) + value_bytes(table.u16(6));
  std::vector<std::vector<std::uint16_t>> order(table.u16(8));
  // Lists begin within 64 KB. Those that share bytes could be far more together.
  std::size_t left = std::size_t{128} << 10U;
  bool any = false;
  for (std::size_t i = 0; i < order.size(); ++i) {
    const TableView set = view(sub_table(table, 10 + i * 2));
    const std::size_t bytes = pair_count(set, record_bytes) * record_bytes;
    if (bytes > left) break;
    left -= bytes;
    order[i] = pair_order(set, record_bytes);
    any = any || !order[i].empty();
  }
  if (!any) return nullptr;
  return std::make_shared<const std::vector<std::vector<std::uint16_t>>>(std::move(order));
}

std::optional<PairAdjustment> PairAdjustments::find(GlyphId left, GlyphId right,
                                                    std::uint16_t pixels_per_em) const {
  const std::optional<std::uint32_t> number = first.find(left);
  const TableView table = view(bytes);
  if (!number) return std::nullopt;
  const ValueContext context{table, variations, pixels_per_em,
                             pixels_per_em == 0 ? 0 : units_per_em / static_cast<float>(pixels_per_em)};
  if (table.u16(0) == 1) {
    const bool in_order = order == nullptr || *number >= order->size();
    return find_in_list(context, table, *number, index_of(right),
                        in_order ? std::span<const std::uint16_t>{} : (*order)[*number]);
  }
  if (table.u16(0) == 2) return find_in_matrix(context, table, left, right);
  return std::nullopt;
}

namespace {

/// Format 3 has variations beside the coordinates; format 2 names a point of the outline, which only hinting
/// moves.
std::optional<Anchor> read_anchor(TableBytes bytes, const detail::ItemVariations* variations) {
  const TableView table = view(bytes);
  const std::uint16_t format = table.u16(0);
  if (format < 1 || format > 3) return std::nullopt;
  Anchor anchor{static_cast<float>(table.s16(2)), static_cast<float>(table.s16(4))};
  if (format == 3) {
    anchor.x += detail::read_device(sub_table(table, 6), variations, 0).units;
    anchor.y += detail::read_device(sub_table(table, 8), variations, 0).units;
  }
  return anchor;
}

std::optional<Anchor> cursive_anchor(const CursiveAttachment& rule, GlyphId glyph, std::size_t which) {
  const std::optional<std::uint32_t> number = rule.glyphs.find(glyph);
  const TableView table = view(rule.bytes);
  if (!number || *number >= table.u16(4)) return std::nullopt;
  return read_anchor(sub_table(table, 6 + std::size_t{*number} * 4 + which * 2), rule.variations);
}

}  // namespace

std::optional<Anchor> CursiveAttachment::entry(GlyphId glyph) const {
  return cursive_anchor(*this, glyph, 0);
}
std::optional<Anchor> CursiveAttachment::exit(GlyphId glyph) const { return cursive_anchor(*this, glyph, 1); }

std::optional<MarkAttachment::Place> MarkAttachment::find(GlyphId mark, GlyphId base,
                                                          std::uint16_t part) const {
  const std::optional<std::uint32_t> mark_number = marks.find(mark), base_number = bases.find(base);
  const TableView table = view(bytes);
  if (!mark_number || !base_number) return std::nullopt;
  const TableView mark_array = view(sub_table(table, 8));
  TableView base_array = view(sub_table(table, 10));
  const std::size_t classes = table.u16(6), mark_record = 2 + std::size_t{*mark_number} * 4;
  const std::size_t mark_class = mark_array.u16(mark_record);
  if (*mark_number >= mark_array.u16(0) || *base_number >= base_array.u16(0) || mark_class >= classes) {
    return std::nullopt;
  }
  std::size_t row = *base_number;
  if (ligatures) {  // one row for each component
    base_array = view(sub_table(base_array, 2 + row * 2));
    if (part >= base_array.u16(0)) return std::nullopt;
    row = part;
  }
  const std::optional<Anchor> mark_anchor = read_anchor(sub_table(mark_array, mark_record + 2), variations);
  const std::optional<Anchor> base_anchor =
      read_anchor(sub_table(base_array, 2 + (row * classes + mark_class) * 2), variations);
  if (!mark_anchor || !base_anchor) return std::nullopt;
  return Place{*mark_anchor, *base_anchor};
}

}  // namespace grafema
