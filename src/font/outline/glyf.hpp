// SPDX-License-Identifier: MIT
// TrueType outlines (OpenType, glyf and loca), simple and composite.
#pragma once

#include <cstdint>
#include <vector>

#include "font/metrics/long_metrics.hpp"
#include "font/outline/gvar.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// The tables that TrueType outlines stand in.
struct GlyphTables {
  TableView glyf, loca;
  bool long_offsets = false;
  std::uint32_t glyph_count = 0;
  LongMetrics horizontal, vertical;
  GlyphVariations variations;
};

/// A glyph's bytes and what its header says. Empty for a glyph without outline.
struct GlyphHeader {
  TableView data;
  std::int16_t contour_count = 0, x_min = 0, y_max = 0;
};

/// The four phantom points (OpenType, "Instructing TrueType glyphs"): where the glyph's cell begins and ends.
struct GlyphCell {
  float left = 0, right = 0;  ///< the advance is what lies between
  float top = 0, bottom = 0;  ///< of vertical text; the same where the face has no vmtx
};

/// A glyph's points as the file has them, composites put together.
struct GlyfPoints {
  std::vector<FontPoint> points;
  std::vector<std::uint8_t> on;   ///< whether each point is on the curve
  std::vector<std::size_t> ends;  ///< one past each contour's last point
  bool may_overlap = false;
};

/// Fails where `loca` points outside `glyf` or the header is cut short.
Result<GlyphHeader> read_glyph_header(const GlyphTables& tables, std::uint32_t glyph);

/// Appends the glyph's points, moved along the axes, and gives its cell.
Result<GlyphCell> read_glyf_points(const GlyphTables& tables, std::uint32_t glyph, GlyfPoints& out);

/// Replaces the contents of `out` with the outline as drawn; its pen starts at the cell's left. Gives the
/// cell, which is that of a component where one says so.
Result<GlyphCell> read_glyf_outline(const GlyphTables& tables, std::uint32_t glyph, Contours& out);

}  // namespace grafema::detail
