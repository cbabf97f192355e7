// SPDX-License-Identifier: MIT
// Lines along outlines: of any width, with caps, joins and dashes, drawn on over time; and marks at points.
#pragma once

#include <cstdint>
#include <span>
#include <string_view>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/export.hpp"
#include "grafema/outline/contours.hpp"
#include "grafema/outline/outline_points.hpp"

namespace grafema {

/// How a line ends, in the words of SVG 2, section 13.5.4.
enum class StrokeCap : std::uint8_t { butt, round, square };
/// How it goes around corners, section 13.5.5.
enum class StrokeJoin : std::uint8_t { miter, round, bevel };

/// A line along an outline. Lengths are in the outline's units.
struct StrokeStyle {
  float width = 10;  ///< above 0; half of it stands on either side
  StrokeCap cap = StrokeCap::butt;
  StrokeJoin join = StrokeJoin::miter;
  float miter_limit = 4;  ///< a corner whose tip is more than this many widths long is beveled; 1 and more
  std::vector<float> dashes = {};  ///< lengths of lines and gaps in turn, 0 and more, not all 0; empty: one
                                   ///< line. Of an odd number all are taken twice
  float dash_offset = 0;           ///< where in that pattern a contour begins
  float from = 0, to = 1;  ///< the shares of each contour's length between which it is drawn: to draw it on
  float tolerance = 0.5F;  ///< how far straight pieces may leave the curves, above 0
};

/// Replaces `out` with the outline of the line along every contour: closed, filled by the non-zero winding
/// rule, `united`; overlapping parts of the line are one. Fails with `bad_value` where the style is out of
/// its ranges, and with `unsupported` where there are too many dashes or crossings.
GRAFEMA_API Result<void> stroke(const Contours& outline, const StrokeStyle& style, Contours& out);

/// How marks stand at points.
struct MarkStyle {
  float scale = 1;     ///< of the mark's own size, above 0
  bool along = false;  ///< turned so that its x axis lies along the contour; else upright
  float aside = 0;     ///< how far it stands off the outline, away from the filled side; outline's units
  float turn = 0;      ///< degrees by which it is turned further, clockwise as seen (y up)
};

/// Appends to `out` one copy of `mark` for each point; the mark's origin comes to stand on the point.
GRAFEMA_API Result<void> place_marks(std::span<const OutlinePoint> points, const Contours& mark,
                                     const MarkStyle& style, Contours& out);

/// Appends a circle around the origin: a mark. Within a 3,000th of its radius.
GRAFEMA_API void add_circle(float radius, Contours& out);
/// Appends an arrow head that points along x, as long and as wide as `size`, its middle at the origin: a
/// mark.
GRAFEMA_API void add_arrow(float size, Contours& out);

}  // namespace grafema
