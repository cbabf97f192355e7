// SPDX-License-Identifier: MIT
// Reads head, maxp, hhea, hmtx, OS/2 and post.
#include "font/metrics_tables.hpp"

#include <fmt/format.h>

namespace grafema::detail {

std::uint16_t HorizontalMetrics::advance(std::uint32_t glyph) const {
  const std::uint32_t at = glyph < long_count ? glyph : long_count - 1;
  return table.u16(std::size_t{at} * 4);
}

std::int16_t HorizontalMetrics::left_side_bearing(std::uint32_t glyph) const {
  if (glyph < long_count) return table.s16(std::size_t{glyph} * 4 + 2);
  return table.s16(std::size_t{long_count} * 4 + std::size_t{glyph - long_count} * 2);
}

Result<FaceTables> read_required(const Directory& directory) {
  const TableView head = directory.find(tag("head")), maxp = directory.find(tag("maxp"));
  const TableView hhea = directory.find(tag("hhea"));
  if (!head.holds(0, 54)) return damaged(head, head.bytes.size(), "a table of 54 bytes");
  if (!maxp.holds(0, 6)) return damaged(maxp, maxp.bytes.size(), "a table of at least 6 bytes");
  if (!hhea.holds(0, 36)) return damaged(hhea, hhea.bytes.size(), "a table of 36 bytes");
  FaceTables tables;
  tables.units_per_em = be16(head.bytes, 18);
  if (tables.units_per_em == 0) return damaged(head, 18, "units per em of 16 to 16384", "0");
  tables.long_offsets = be16(head.bytes, 50) != 0;
  tables.glyph_count = be16(maxp.bytes, 4);
  if (tables.glyph_count == 0) return damaged(maxp, 4, "at least one glyph", "0");
  tables.horizontal.table = directory.find(tag("hmtx"));
  tables.horizontal.long_count = be16(hhea.bytes, 34);
  const std::size_t there = tables.horizontal.table.bytes.size() / 4;
  if (there == 0) return damaged(tables.horizontal.table, 0, "an advance for the first glyph");
  if (tables.horizontal.long_count == 0) return damaged(hhea, 34, "at least one advance", "0");
  if (tables.horizontal.long_count > there) tables.horizontal.long_count = static_cast<std::uint32_t>(there);
  return tables;
}

/// OS/2's typographic metrics where the face asks for them (fsSelection bit 7), else hhea's, else OS/2's Windows ones.
LineMetrics read_line_metrics(const Directory& directory) {
  const TableView hhea = directory.find(tag("hhea")), os2 = directory.find(tag("OS/2"));
  constexpr std::uint16_t kUseTypographic = 0x80;
  LineMetrics m;
  if (os2.holds(0, 78) && (os2.u16(62) & kUseTypographic) != 0) {
    m = {static_cast<float>(os2.s16(68)), static_cast<float>(-os2.s16(70)), static_cast<float>(os2.s16(72))};
  } else if (hhea.s16(4) != 0 || hhea.s16(6) != 0) {
    m = {static_cast<float>(hhea.s16(4)), static_cast<float>(-hhea.s16(6)), static_cast<float>(hhea.s16(8))};
  } else if (os2.holds(0, 78)) {
    m = {static_cast<float>(os2.u16(74)), static_cast<float>(os2.u16(76)), 0};
  }
  return m;
}

namespace {

Embedding embedding_of(std::uint16_t fs_type) {
  if ((fs_type & 8) != 0) return Embedding::editable;  // where several bits are set the least restrictive holds
  if ((fs_type & 4) != 0) return Embedding::preview;
  return (fs_type & 2) != 0 ? Embedding::restricted : Embedding::installable;
}

OutlineKind outlines_of(const Directory& directory) {
  if (!directory.find(tag("glyf")).empty() || !directory.find(tag("loca")).empty()) return OutlineKind::glyf;
  if (!directory.find(tag("CFF ")).empty()) return OutlineKind::cff;
  return directory.find(tag("CFF2")).empty() ? OutlineKind::none : OutlineKind::cff2;
}

}  // namespace

FaceFacts read_facts(const Directory& directory) {
  FaceFacts facts;
  const TableView os2 = directory.find(tag("OS/2")), head = directory.find(tag("head")), post = directory.find(tag("post"));
  facts.outlines = outlines_of(directory);
  if (os2.holds(0, 64)) {
    facts.weight_class = os2.u16(4);
    facts.width_class = os2.u16(6);
    const std::uint16_t fs_type = os2.u16(8), selection = os2.u16(62);
    facts.embedding = embedding_of(fs_type);
    facts.subsetting = (fs_type & 0x100) == 0;
    facts.bitmap_only = (fs_type & 0x200) != 0;
    facts.italic = (selection & 0x201) != 0;  // italic or oblique
  } else {
    const std::uint16_t mac_style = head.u16(44);
    facts.weight_class = (mac_style & 1) != 0 ? 700 : 400;
    facts.italic = (mac_style & 2) != 0;
  }
  if (os2.u16(0) >= 2 && os2.holds(0, 96)) {
    facts.x_height = os2.s16(86);
    facts.cap_height = os2.s16(88);
  }
  facts.underline_position = post.s16(8);
  facts.underline_thickness = post.s16(10);
  facts.monospaced = post.u32(12) != 0;
  return facts;
}

}  // namespace grafema::detail
