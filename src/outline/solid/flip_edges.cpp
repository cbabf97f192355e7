// SPDX-License-Identifier: MIT
// Keeps a stack of edges that may have to be turned.
#include "outline/solid/flip_edges.hpp"

#include "outline/solid/adjacency.hpp"

namespace grafema::detail {
namespace {

/// Above 0 where `d` lies within the circle through a, b, c (counterclockwise). Rounding may mistake a point
/// as good as on the circle, which costs nothing but roundness.
double in_circle(GridPoint a, GridPoint b, GridPoint c, GridPoint d) {
  const double ax = double{1} * a.x - d.x, ay = double{1} * a.y - d.y;
  const double bx = double{1} * b.x - d.x, by = double{1} * b.y - d.y;
  const double cx = double{1} * c.x - d.x, cy = double{1} * c.y - d.y;
  const double aa = ax * ax + ay * ay, bb = bx * bx + by * by, cc = cx * cx + cy * cy;
  const double sum = aa * (bx * cy - by * cx) - bb * (ax * cy - ay * cx) + cc * (ax * by - ay * bx);
  return sum - 1e-12 * (aa + bb + cc) * (aa + bb + cc);
}

class Flipper {
 public:
  Flipper(const std::vector<GridPoint>& points, std::vector<Sweep::Triangle>& triangles)
      : points_(points), triangles_(triangles), neighbors_(list_neighbors(triangles)) {}

  void run() {
    for (std::uint32_t c = 0; c < neighbors_.size(); ++c) {
      if (neighbors_[c] != kNoNeighbor && c < neighbors_[c]) stack_.push_back(c);
    }
    std::size_t left = 64 * neighbors_.size();  // what rounding could make go round and round ends
    while (!stack_.empty() && left-- > 0) {
      const std::uint32_t c = stack_.back();
      stack_.pop_back();
      if (neighbors_[c] != kNoNeighbor) consider(c, neighbors_[c]);
    }
  }

 private:
  std::uint32_t& point(std::uint32_t corner) { return triangles_[corner / 3][corner % 3]; }
  GridPoint at(std::uint32_t corner) { return points_[point(corner)]; }

  /// The edge goes from corner `c` to the next, its other half from `d`.
  void consider(std::uint32_t c, std::uint32_t d) {
    const std::uint32_t c1 = next_corner(c), c2 = next_corner(c1), d1 = next_corner(d), d2 = next_corner(d1);
    const GridPoint a = at(c), b = at(c1), left = at(c2), right = at(d2);
    if (in_circle(a, b, left, right) <= 0) return;
    if (turn(right, b, left) <= 0 || turn(left, a, right) <= 0) return;
    // Triangles (a, b, left) and (b, a, right) become (right, b, left) and (left, a, right).
    point(c) = point(d2);
    point(d) = point(c2);
    const std::uint32_t beside_c = neighbors_[d2], beside_d = neighbors_[c2];
    link(c, beside_c);
    link(d, beside_d);
    link(c2, d2);
    for (const std::uint32_t corner : {c, c1, d, d1}) stack_.push_back(corner);
  }

  void link(std::uint32_t corner, std::uint32_t other) {
    neighbors_[corner] = other;
    if (other != kNoNeighbor) neighbors_[other] = corner;
  }

  const std::vector<GridPoint>& points_;
  std::vector<Sweep::Triangle>& triangles_;
  std::vector<std::uint32_t> neighbors_, stack_;
};

}  // namespace

void flip_edges(const std::vector<GridPoint>& points, std::vector<Sweep::Triangle>& triangles) {
  Flipper(points, triangles).run();
}

}  // namespace grafema::detail
