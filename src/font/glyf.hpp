// SPDX-License-Identifier: MIT
// TrueType outlines (OpenType, glyf and loca), simple and composite.
#pragma once

#include <cstdint>

#include "font/table.hpp"
#include "grafema/contours.hpp"

namespace grafema::detail {

/// The tables that TrueType outlines stand in.
struct GlyphTables {
  TableView glyf, loca;
  bool long_offsets = false;
  std::uint32_t glyph_count = 0;
};

/// The glyph's own box as its header says it. Empty for a glyph without outline.
struct GlyphHeader {
  TableView data;  ///< all of the glyph's bytes
  std::int16_t contour_count = 0, x_min = 0;
};

/// Fails where `loca` points outside `glyf` or the header is cut short.
Result<GlyphHeader> read_glyph_header(const GlyphTables& tables, std::uint32_t glyph);

/// Replaces the contents of `out` with the outline as drawn, not moved to its left side bearing.
Result<void> read_glyf_outline(const GlyphTables& tables, std::uint32_t glyph, Contours& out);

}  // namespace grafema::detail
