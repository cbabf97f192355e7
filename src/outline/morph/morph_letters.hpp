// SPDX-License-Identifier: MIT
// Letters as a morph knows them: loops, what lies inside, how alike two are.
#pragma once

#include <vector>

#include "grafema/outline/contours.hpp"
#include "outline/morph/match_loops.hpp"
#include "outline/solid/fill_triangles.hpp"

namespace grafema::detail {

struct Letter {
  std::vector<MeasuredLoop> loops;
  std::vector<Place> inside;  // a point within each loop
  FontRect box;
  Place middle;
  std::size_t holes = 0;
  double area = 0;

  bool empty() const { return loops.empty(); }
  double width() const { return double{box.x_max} - box.x_min; }
  double height() const { return double{box.y_max} - box.y_min; }
};

/// Unites outlines and measures them.
class LetterReader {
 public:
  LetterReader(Grid grid, float tolerance) : grid_(grid), tolerance_(tolerance) {}

  /// Fills `out`, which must be new. False where the outline crosses itself too often.
  bool read(const Contours& contours, Letter& out);

 private:
  Place point_inside(std::span<const GridPoint> loop);

  Grid grid_;
  float tolerance_;
  Loops loops_;
  FillTriangles fill_;
  std::vector<FillTriangles::Triangle> triangles_;
};

inline double squared(double x, double y) { return x * x + y * y; }

/// From 0 for the same outline on; the way counts little. `size` is what a way of 1 is.
double unlikeness(const Letter& a, const Letter& b, double size);

}  // namespace grafema::detail
