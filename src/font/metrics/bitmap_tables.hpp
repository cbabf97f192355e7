// SPDX-License-Identifier: MIT
// Where the pictures of glyphs stand in CBDT and EBDT (OpenType, EBLC and CBLC: the same structure).
#pragma once

#include <optional>
#include <vector>

#include "font/container/sfnt.hpp"
#include "font/container/table.hpp"

namespace grafema::detail {

/// Where a glyph's picture stands in the data table, and the metrics that the index has for all glyphs of a
/// subtable.
struct BitmapLocation {
  std::size_t offset = 0, size = 0;
  std::uint16_t format = 0;
  std::size_t metrics_at = 0;  ///< in the index; 0: with the picture
  std::uint8_t bits = 1;       ///< of a pixel: 1, 2, 4, 8 or 32
};

/// The picture's place in `index` (EBLC or CBLC) at exactly this size; nothing where there is none.
std::optional<BitmapLocation> find_bitmap(const TableView& index, std::uint32_t glyph,
                                          std::uint16_t pixels_per_em);

/// Whether the face has pictures in EBDT.
bool has_strikes(const Directory& directory);

/// The sizes of an index, pixels per em, in the order of the table.
std::vector<std::uint16_t> bitmap_sizes_of(const TableView& index);

/// SmallGlyphMetrics, or the first half of BigGlyphMetrics. Pixels, y up.
struct BitmapMetrics {
  int height = 0, width = 0, left = 0, top = 0, advance = 0;
};
BitmapMetrics read_bitmap_metrics(const TableView& table, std::size_t at);

}  // namespace grafema::detail
