// SPDX-License-Identifier: MIT
// Advances and bearings of every glyph (OpenType, hmtx and vmtx).
#pragma once

#include "font/container/table.hpp"

namespace grafema::detail {

struct LongMetrics {
  TableView table;
  std::uint32_t long_count = 0;  ///< glyphs with an advance of their own; later ones repeat the last

  /// 0 where there is no table.
  std::uint16_t advance(std::uint32_t glyph) const {
    return long_count == 0 ? std::uint16_t{0}
                           : table.u16(std::size_t{glyph < long_count ? glyph : long_count - 1} * 4);
  }
  /// The left side bearing, or the top one in vmtx.
  std::int16_t bearing(std::uint32_t glyph) const {
    if (glyph < long_count) return table.s16(std::size_t{glyph} * 4 + 2);
    return table.s16(std::size_t{long_count} * 4 + std::size_t{glyph - long_count} * 2);
  }
};

}  // namespace grafema::detail
