// SPDX-License-Identifier: MIT
// The points of a glyph as `glyf` and `gvar` hold them, for one weight or several at once.
#pragma once

#include <utility>
#include <vector>

#include "write/font_plan.hpp"

namespace grafema::detail {

struct FilePoints {
  std::vector<bool> on_curve;
  std::vector<std::vector<std::pair<int, int>>> places;  ///< of each weight, point by point
  std::vector<std::size_t> ends;                         ///< of contours: the number of points up to there
};

/// Fails for cubic curves. Outlines have the same commands. Points that all weights can do without are left
/// out: those that close a contour where it began, and those in the middle between two control points, which
/// readers put there by themselves (OpenType, glyf, "Simple glyph description").
Result<FilePoints> read_file_points(const std::vector<const Contours*>& outlines);

/// The outlines of a glyph, the drawing's own weight first.
std::vector<const Contours*> outlines_of(const FontPlan::Glyph& glyph);

}  // namespace grafema::detail
