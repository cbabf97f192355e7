// SPDX-License-Identifier: MIT
// Color glyphs as layers (COLR version 0) and their palette (CPAL).
#include <cmath>

#include "write/tables/glyph_tables.hpp"

namespace grafema::detail {

std::pair<WrittenTable, WrittenTable> write_colors(const FontPlan& plan) {
  TableWriter bases, layers;
  std::uint32_t base_count = 0, at = 0;
  for (std::size_t i = 0; i < plan.layers.size(); ++base_count) {
    std::size_t end = i;
    while (end < plan.layers.size() && plan.layers[end].base == plan.layers[i].base) ++end;
    bases.u16(plan.layers[i].base), bases.u16(at), bases.u16(static_cast<std::uint32_t>(end - i));
    for (; i < end; ++i, ++at) layers.u16(plan.layers[i].glyph), layers.u16(plan.layers[i].color);
  }
  TableWriter colr;
  colr.u16(0), colr.u16(base_count), colr.u32(14);
  colr.u32(static_cast<std::uint32_t>(14 + bases.size())), colr.u16(at);
  colr.append(bases.bytes()), colr.append(layers.bytes());
  TableWriter cpal;
  const auto colors = static_cast<std::uint32_t>(plan.palette.size());
  cpal.u16(0), cpal.u16(colors), cpal.u16(1), cpal.u16(colors), cpal.u32(14), cpal.u16(0);
  const auto byte = [](float v) { return static_cast<std::uint32_t>(std::floor(v * 255 + 0.5F)); };
  for (const Color& c : plan.palette) {
    cpal.u8(byte(c.blue)), cpal.u8(byte(c.green)), cpal.u8(byte(c.red)), cpal.u8(byte(c.alpha));
  }
  return {WrittenTable{tag("COLR"), std::move(colr.bytes())},
          WrittenTable{tag("CPAL"), std::move(cpal.bytes())}};
}

}  // namespace grafema::detail
