// SPDX-License-Identifier: MIT
// Slow and simple second methods that pictures are checked against.
#pragma once

#include <vector>

#include "grafema/outline/contours.hpp"

namespace grafema::test {

/// A point of a curve, in pixels.
struct Dot {
  double x, y;
};

/// The outline's contours as closed lists of points, each curve cut into `pieces`.
std::vector<std::vector<Dot>> dots(const Contours& contours, const Transform& map, int pieces);

/// The winding number of the contours around a point: crossings of a ray to the right.
int winding(const std::vector<std::vector<Dot>>& contours, double x, double y);

/// The covered area of every pixel: 128 lines through each row, exact along the line. Within about 1/128
/// where an edge is level, far nearer elsewhere.
std::vector<double> reference_coverage(const Contours& contours, const Transform& map, const PixelRect& cell);

/// The distance from each pixel's center to the nearest dense sample of an edge with different filling on its
/// two sides, positive inside; not clamped.
std::vector<double> reference_distance(const Contours& contours, const Transform& map, const PixelRect& cell);

}  // namespace grafema::test
