// SPDX-License-Identifier: MIT
// Reads head, maxp, hhea, hmtx, vhea, vmtx, VORG, OS/2, post and MVAR.
#include "font/metrics/metrics_tables.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "font/metrics/bitmap_tables.hpp"
#include "font/variation/axes.hpp"

namespace grafema::detail {
namespace {

/// How many advances `hhea` or `vhea` says there are, as far as they are there.
std::uint32_t long_count(const TableView& header, const TableView& metrics) {
  return static_cast<std::uint32_t>(std::min<std::size_t>(header.u16(34), metrics.bytes.size() / 4));
}

}  // namespace

Result<FaceTables> read_required(const Directory& directory) {
  const TableView head = directory.find(tag("head")), maxp = directory.find(tag("maxp"));
  const TableView hhea = directory.find(tag("hhea"));
  if (!head.holds(0, 54)) {
    return damaged(head, head.bytes.size(), "a table of 54 bytes", fmt::format("{}", head.bytes.size()));
  }
  if (!maxp.holds(0, 6)) {
    return damaged(maxp, maxp.bytes.size(), "a table of at least 6 bytes",
                   fmt::format("{}", maxp.bytes.size()));
  }
  if (!hhea.holds(0, 36)) {
    return damaged(hhea, hhea.bytes.size(), "a table of 36 bytes", fmt::format("{}", hhea.bytes.size()));
  }
  FaceTables tables;
  tables.units_per_em = be16(head.bytes, 18);
  tables.long_offsets = be16(head.bytes, 50) != 0;
  tables.glyph_count = be16(maxp.bytes, 4);
  if (tables.glyph_count == 0) return damaged(maxp, 4, "at least one glyph", "0");
  tables.horizontal.table = directory.find(tag("hmtx"));
  tables.horizontal.long_count = long_count(hhea, tables.horizontal.table);
  if (tables.horizontal.table.bytes.size() < 4) {
    return damaged(tables.horizontal.table, 0, "an advance for the first glyph");
  }
  if (tables.horizontal.long_count == 0) return damaged(hhea, 34, "at least one advance", "0");
  tables.vertical.table = directory.find(tag("vmtx"));
  tables.vertical.long_count = long_count(directory.find(tag("vhea")), tables.vertical.table);
  return tables;
}

MetricVariations::MetricVariations(const TableView& mvar, const std::vector<float>& coordinates)
    : table_(mvar) {
  if (mvar.u16(0) == 1 && mvar.u16(10) != 0) {
    store_ = ItemVariations::read(mvar.from(mvar.u16(10)), coordinates);
  }
}

float MetricVariations::delta(const char* value) const {
  const std::size_t bytes = table_.u16(6), count = table_.u16(8);
  for (std::size_t i = 0; i < count && bytes >= 8 && table_.holds(12 + i * bytes, 8); ++i) {
    const std::size_t at = 12 + i * bytes;
    if (Tag{table_.u32(at)} == tag(value)) return store_.delta({table_.u16(at + 4), table_.u16(at + 6)});
  }
  return 0;
}

/// OS/2's typographic metrics where the face asks for them (fsSelection bit 7), else hhea's, else OS/2's
/// Windows ones.
LineMetrics read_line_metrics(const Directory& directory, const MetricVariations& variations) {
  const TableView hhea = directory.find(tag("hhea")), os2 = directory.find(tag("OS/2"));
  constexpr std::uint16_t kUseTypographic = 0x80;
  const float ascent = variations.delta("hasc"), descent = variations.delta("hdsc"),
              gap = variations.delta("hlgp");
  const auto metrics = [](float up, float down, float between) { return LineMetrics{up, -down, between}; };
  if (os2.holds(0, 78) && (os2.u16(62) & kUseTypographic) != 0) {
    return metrics(os2.s16(68) + ascent, os2.s16(70) + descent, os2.s16(72) + gap);
  }
  if (hhea.s16(4) != 0 || hhea.s16(6) != 0) {
    return metrics(hhea.s16(4) + ascent, hhea.s16(6) + descent, hhea.s16(8) + gap);
  }
  if (os2.holds(0, 78)) {
    return {os2.u16(74) + variations.delta("hcla"), os2.u16(76) + variations.delta("hcld"), 0};
  }
  return {};
}

std::optional<LineMetrics> read_vertical_line_metrics(const Directory& directory,
                                                      const MetricVariations& variations) {
  const TableView vhea = directory.find(tag("vhea"));
  if (!vhea.holds(0, 36)) return std::nullopt;
  return LineMetrics{vhea.s16(4) + variations.delta("vasc"), -(vhea.s16(6) + variations.delta("vdsc")),
                     vhea.s16(8) + variations.delta("vlgp")};
}

std::optional<float> find_vertical_origin(const TableView& vorg, std::uint32_t glyph) {
  if (!vorg.holds(0, 8) || vorg.u16(0) != 1) return std::nullopt;
  std::size_t low = 0, high = std::min<std::size_t>(vorg.u16(6), (vorg.bytes.size() - 8) / 4);
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    const std::uint16_t own = vorg.u16(8 + middle * 4);
    if (own == glyph) return vorg.s16(10 + middle * 4);
    if (own < glyph) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  return vorg.s16(4);
}

namespace {

Embedding embedding_of(std::uint16_t fs_type) {
  // Where several bits are set the least restrictive holds.
  if ((fs_type & 8) != 0) {
    return Embedding::editable;
  }
  if ((fs_type & 4) != 0) return Embedding::preview;
  return (fs_type & 2) != 0 ? Embedding::restricted : Embedding::installable;
}

void read_os2(const TableView& os2, FaceFacts& facts) {
  facts.weight_class = os2.u16(4);
  facts.width_class = os2.u16(6);
  const std::uint16_t fs_type = os2.u16(8), selection = os2.u16(62);
  facts.embedding = embedding_of(fs_type);
  facts.subsetting = (fs_type & 0x100) == 0;
  facts.bitmap_only = (fs_type & 0x200) != 0;
  facts.italic = (selection & 0x201) != 0;  // italic or oblique
  if (facts.weight_class > 0 && facts.weight_class < 10) {
    facts.weight_class = static_cast<std::uint16_t>(facts.weight_class * 100);
  }  // 1 to 9, as old fonts count
}

}  // namespace

OutlineKind find_outline_kind(const Directory& directory) {
  if (!directory.find(tag("glyf")).empty()) return OutlineKind::glyf;
  if (!directory.find(tag("CFF ")).empty()) return OutlineKind::cff;
  if (!directory.find(tag("CFF2")).empty()) return OutlineKind::cff2;
  return has_strikes(directory) ? OutlineKind::strikes : OutlineKind::none;
}

FaceFacts read_facts(const Directory& directory, const MetricVariations& variations) {
  FaceFacts facts;
  const TableView os2 = directory.find(tag("OS/2")), head = directory.find(tag("head")),
                  post = directory.find(tag("post"));
  if (os2.holds(0, 64)) {
    read_os2(os2, facts);
  } else {
    const std::uint16_t mac_style = head.u16(44);
    facts.weight_class = (mac_style & 1) != 0 ? 700 : 400;
    facts.italic = (mac_style & 2) != 0;
  }
  if (os2.u16(0) >= 2 && os2.holds(0, 96)) {
    facts.x_height = os2.s16(86) == 0 ? 0.0F : os2.s16(86) + variations.delta("xhgt");
    facts.cap_height = os2.s16(88) == 0 ? 0.0F : os2.s16(88) + variations.delta("cpht");
  }
  facts.strikeout_thickness = os2.s16(26) + variations.delta("strs");
  facts.strikeout_position = os2.s16(28) + variations.delta("stro");
  facts.slant = -fixed(post, 4);
  facts.underline_position = post.s16(8) + variations.delta("undo");
  facts.underline_thickness = post.s16(10) + variations.delta("unds");
  facts.monospaced = post.u32(12) != 0;
  return facts;
}

}  // namespace grafema::detail
