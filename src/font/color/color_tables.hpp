// SPDX-License-Identifier: MIT
// Reads color tables into typed values (OpenType, COLR, CPAL, CBDT, CBLC, sbix).
#pragma once

#include "font/container/sfnt.hpp"
#include "font/variation/item_variations.hpp"
#include "grafema/font/color_glyphs.hpp"

namespace grafema::detail {

ColorKinds read_color_kinds(const Directory& directory);
std::vector<Palette> read_palettes(const TableView& cpal);
std::vector<ColorLayer> read_color_layers(const TableView& colr, std::uint32_t glyph);
Result<std::optional<PaintGraph>> read_paint_graph(const TableView& colr, std::uint32_t glyph,
                                                   const std::vector<float>& coordinates);

std::vector<std::uint16_t> read_bitmap_sizes(const Directory& directory);
/// The picture of exactly this size.
std::optional<GlyphBitmap> read_bitmap(const Directory& directory, std::uint32_t glyph,
                                       std::uint16_t pixels_per_em);

}  // namespace grafema::detail
