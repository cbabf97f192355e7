// SPDX-License-Identifier: MIT
// Shapes with straight edges on a grid of whole numbers, where what lies left of what is told exactly.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// A point of the grid. Coordinates stay within 2^24, so that a float holds them and products are exact.
struct GridPoint {
  std::int32_t x = 0, y = 0;
  bool operator==(const GridPoint&) const = default;
};

/// Twice the area of the triangle: above 0 where `c` lies left of the way from `a` to `b` (y up). Exact.
inline std::int64_t turn(GridPoint a, GridPoint b, GridPoint c) {
  return (std::int64_t{b.x} - a.x) * (std::int64_t{c.y} - a.y) -
         (std::int64_t{b.y} - a.y) * (std::int64_t{c.x} - a.x);
}

/// The order in which a sweep meets points: from below, then from the left.
inline std::uint64_t sweep_key(GridPoint p) {
  return std::uint64_t{static_cast<std::uint32_t>(p.y) ^ 0x80000000U} << 32U |
         (static_cast<std::uint32_t>(p.x) ^ 0x80000000U);
}

/// How fine the grid is: a power of two, so that numbers with few bits stand on it exactly.
struct Grid {
  double step = 1;
  double steps_per_unit = 1;  ///< 1 / step, as exact

  /// The finest grid for coordinates up to `largest` on either side of 0.
  static Grid reaching(double largest);
  std::int32_t at(double v) const {
    constexpr double kLargest = 1 << 24;
    return static_cast<std::int32_t>(std::nearbyint(std::clamp(v * steps_per_unit, -kLargest, kLargest)));
  }
  double from(std::int32_t v) const { return v * step; }
};

/// Closed loops of straight edges. Loop i runs from `ends[i - 1]` (0 for the first) to before `ends[i]`.
struct Loops {
  std::vector<GridPoint> points;
  std::vector<std::uint32_t> ends;

  void clear() { points.clear(), ends.clear(); }
  std::size_t first(std::size_t loop) const { return loop == 0 ? 0 : ends[loop - 1]; }
  std::span<const GridPoint> of(std::size_t loop) const {
    return std::span(points).subspan(first(loop), ends[loop] - first(loop));
  }
  /// Ends the loop whose points were pushed; one of fewer than three points is taken back.
  void close();
};

/// Takes points away that stand where the one before them does.
void remove_repeated(std::vector<GridPoint>& points);

/// Twice the area that the loop goes around, above 0 where it runs counterclockwise (y up). Exact.
std::int64_t doubled_area(std::span<const GridPoint> loop);

/// The largest coordinate of the outline's points on either side of 0; those that are not finite are passed
/// over.
double largest_coordinate(const Contours& contours);

/// Replaces `out` with straight edges within `tolerance` font units of the curves, on the grid. Loops that
/// bound nothing may come out.
void flatten_to_grid(const Contours& contours, double tolerance, Grid grid, Loops& out);

/// Appends boundary loops, the filled side on their left, as contours with the filled side on their right.
void add_loops(const Loops& loops, Grid grid, Contours& out);

}  // namespace grafema::detail
