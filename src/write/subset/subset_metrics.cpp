// SPDX-License-Identifier: MIT
// Metrics of the kept glyphs, and how they vary on the axes that are left.
#include "write/subset/subset_metrics.hpp"

#include <algorithm>
#include <cmath>

#include "font/metrics/metrics_tables.hpp"
#include "write/subset/subset_glyphs.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kLongCount = 34;

int to_unsigned(float v) { return static_cast<int>(std::lround(std::clamp(v, 0.0F, 65535.0F))); }

/// Long metrics, then bearings alone of the glyphs that repeat the last advance.
WrittenTable write_long_metrics(Tag name, const std::vector<NewMetrics::Glyph>& glyphs,
                                std::size_t& long_count) {
  long_count = glyphs.size();
  while (long_count > 1 && glyphs[long_count - 1].advance == glyphs[long_count - 2].advance) --long_count;
  TableWriter out;
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    if (i < long_count) out.s16(glyphs[i].advance);
    out.s16(glyphs[i].bearing);
  }
  return {name, std::move(out.bytes())};
}

/// The header of metrics: how many advances there are, the widest, and how far outlines reach.
WrittenTable write_header(const TableView& old, const NewMetrics& metrics, bool vertical,
                          std::size_t long_count) {
  const std::vector<NewMetrics::Glyph>& glyphs = vertical ? metrics.vertical : metrics.horizontal;
  std::vector<std::byte> bytes = copy_of(old);
  int widest = 0, least = 0, least_behind = 0, farthest = 0;
  bool any = false;
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    widest = std::max(widest, glyphs[i].advance);
    if (i >= metrics.boxes.size() || metrics.boxes[i].empty()) continue;
    const FontRect& box = metrics.boxes[i];
    const int reach = glyphs[i].bearing +
                      static_cast<int>(vertical ? box.y_max - box.y_min : box.x_max - box.x_min),
              behind = glyphs[i].advance - reach;
    least = any ? std::min(least, glyphs[i].bearing) : glyphs[i].bearing;
    least_behind = any ? std::min(least_behind, behind) : behind;
    farthest = any ? std::max(farthest, reach) : reach;
    any = true;
  }
  put_u16(bytes, 10, widest), put_u16(bytes, 12, least), put_u16(bytes, 14, least_behind);
  put_u16(bytes, 16, farthest);
  put_u16(bytes, kLongCount, static_cast<int>(long_count));
  return {old.tag, std::move(bytes)};
}

std::optional<WrittenTable> subset_advances(const SubsetPlan& plan, const char* name) {
  const TableView old = plan.table(name);
  if (old.u16(0) != 1 || old.u32(4) == 0 || plan.pins.axes_left() == 0) return std::nullopt;
  VariationRows rows(old.from(old.u32(4)), plan.pins);
  const bool vertical = old.tag == tag("VVAR");
  const auto map_of = [&](std::size_t field, bool needed) {
    std::vector<std::uint32_t> entries;
    if (!needed && old.u32(field) == 0) return entries;
    const IndexMap map = old.u32(field) == 0 ? IndexMap{} : IndexMap(old.from(old.u32(field)));
    for (const std::uint16_t glyph : plan.kept) entries.push_back(rows.take(map.find(glyph)).index);
    return entries;
  };
  std::vector<std::vector<std::uint32_t>> maps = {map_of(8, true), map_of(12, false), map_of(16, false)};
  if (vertical) maps.push_back(map_of(20, false));
  if (rows.empty()) return std::nullopt;
  const std::uint32_t zero = rows.zero();
  const std::vector<std::byte> store = rows.write();
  TableWriter out, data;
  const std::size_t head = 8 + maps.size() * 4;
  out.u32(0x00010000), out.u32(static_cast<std::uint32_t>(head));
  data.append(store);
  for (std::vector<std::uint32_t>& entries : maps) {
    std::replace(entries.begin(), entries.end(), VariationRows::kNone, zero);
    out.u32(entries.empty() ? 0U : static_cast<std::uint32_t>(head + data.size()));
    if (!entries.empty()) data.append(write_index_map(std::move(entries)));
  }
  out.append(data.bytes());
  return WrittenTable{old.tag, std::move(out.bytes())};
}

/// Where glyphs hang in vertical lines; pinned axes move it.
std::optional<WrittenTable> subset_origins(const SubsetPlan& plan) {
  const TableView vorg = plan.table("VORG");
  if (!vorg.holds(0, 8) || vorg.u16(0) != 1) return std::nullopt;
  const int usual = vorg.s16(4);
  TableWriter records;
  std::uint32_t count = 0;
  for (std::size_t i = 0; i < plan.kept.size(); ++i) {
    const GlyphId old{plan.kept[i]};
    const float stated = plan.pinned ? plan.pinned->vertical_origin(old).y
                                     : find_vertical_origin(vorg, plan.kept[i]).value_or(0);
    const int y = static_cast<int>(std::lround(stated));
    if (y == usual) continue;
    records.u16(static_cast<std::uint32_t>(i)), records.s16(y);
    ++count;
  }
  TableWriter out;
  out.u32(0x00010000), out.s16(usual), out.u16(count), out.append(records.bytes());
  return WrittenTable{vorg.tag, std::move(out.bytes())};
}

}  // namespace

NewMetrics read_metrics(const SubsetPlan& plan) {
  const GlyphTables tables = read_glyph_tables(*plan.face);
  NewMetrics metrics;
  for (const std::uint16_t old : plan.kept) {
    const GlyphId glyph{old};
    metrics.horizontal.push_back(
        {plan.pinned ? to_unsigned(plan.pinned->advance(glyph)) : tables.horizontal.advance(old),
         tables.horizontal.bearing(old)});
    if (tables.vertical.long_count == 0) continue;
    metrics.vertical.push_back(
        {plan.pinned ? to_unsigned(plan.pinned->vertical_advance(glyph)) : tables.vertical.advance(old),
         tables.vertical.bearing(old)});
  }
  return metrics;
}

std::vector<WrittenTable> write_metrics(const SubsetPlan& plan, const NewMetrics& metrics) {
  std::vector<WrittenTable> out;
  std::size_t count = 0;
  out.push_back(write_long_metrics(tag("hmtx"), metrics.horizontal, count));
  out.push_back(write_header(plan.table("hhea"), metrics, false, count));
  if (metrics.vertical.empty()) return out;
  out.push_back(write_long_metrics(tag("vmtx"), metrics.vertical, count));
  out.push_back(write_header(plan.table("vhea"), metrics, true, count));
  return out;
}

std::vector<WrittenTable> subset_metric_tables(const SubsetPlan& plan) {
  std::vector<WrittenTable> out;
  if (auto table = subset_origins(plan)) out.push_back(*std::move(table));
  for (const char* name : {"HVAR", "VVAR"}) {
    if (plan.table(name).empty()) continue;
    if (auto table = subset_advances(plan, name)) out.push_back(*std::move(table));
  }
  return out;
}

}  // namespace grafema::detail
