// SPDX-License-Identifier: MIT
// The outline of a bitmap: its pixels merged, corners kept.
#pragma once

#include <vector>

#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// Ink of one cell, rows from the top.
struct Bitmap {
  int width = 0, height = 0;
  std::vector<bool> ink;

  bool at(int x, int y) const {
    return x >= 0 && y >= 0 && x < width && y < height && ink[static_cast<std::size_t>(y * width + x)];
  }
};

/// Appends the outline of all ink: pixel (x, y) covers x..x+1 and, y turned up, baseline-y-1..baseline-y,
/// times `unit`. Filled sides are on the right; corners alone are points.
void trace(const Bitmap& bitmap, int baseline, int unit, Contours& out);

}  // namespace grafema::detail
