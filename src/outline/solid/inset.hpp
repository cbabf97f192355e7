// SPDX-License-Identifier: MIT
// A shape made smaller by the same distance everywhere.
#pragma once

#include <vector>

#include "outline/solid/fill_triangles.hpp"

namespace grafema::detail {

class Inset {
 public:
  /// Replaces `out` with the boundary of what lies at least `distance` grid steps inside the shape, and
  /// `triangles` with the triangles of that. `shape` is a boundary as FillTriangles leaves it. Around corners
  /// that point inward the distance grows up to twice, so that they stay sharp. Nothing comes out where the
  /// shape is nowhere that wide. False where that takes more steps than there are.
  bool run(const Loops& shape, double distance, Loops& out, std::vector<FillTriangles::Triangle>& triangles,
           Steps& steps);

 private:
  bool move_corners(const Loops& shape, double distance, Loops& out);
  void take_strips_away(const Loops& shape, double distance, Loops& out);

  FillTriangles fill_;
};

}  // namespace grafema::detail
