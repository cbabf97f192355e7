// SPDX-License-Identifier: MIT
// The outline of a line drawn with a pen, in lines and quadratic curves, for several widths at once.
#pragma once

#include <vector>

#include "grafema/outline/stroke.hpp"

namespace grafema::detail {

/// A skeleton as one weight of a face has it. Contours that closepath does not end are open.
struct PenLine {
  Contours skeleton;
  double width = 10;  ///< above 0
};

struct PenStyle {
  StrokeCap cap = StrokeCap::butt;
  StrokeJoin join = StrokeJoin::miter;
  double miter_limit = 4;
  double tolerance = 0.5;  ///< how far the outline may leave the true one, above 0
};

/// Appends to `out[i]` the outline of `lines[i]`, filled side on the right (y up: clockwise). All skeletons
/// have the same commands, and so have all outlines: point by point they answer each other. Parts of a line
/// may overlap others, always with the same direction, so that the non-zero rule fills it without gaps. A
/// contour without length becomes a dot where caps are round, a square where they are square, nothing where
/// they are butt.
void outline_pen(const std::vector<PenLine>& lines, const PenStyle& style, std::vector<Contours>& out);

}  // namespace grafema::detail
