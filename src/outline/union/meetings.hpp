// SPDX-License-Identifier: MIT
// Where straight edges on the grid meet but at their ends.
#pragma once

#include <cstdint>
#include <vector>

#include "outline/union/grid_shape.hpp"
#include "outline/union/unite.hpp"

namespace grafema::detail {

class Meetings {
 public:
  struct Found {
    std::uint32_t edge;
    GridPoint point;  ///< where the edge has to be cut; a crossing is rounded to the grid
  };

  void clear() { edges_.clear(); }
  /// In the order of their low ends, as `sweep_key` has it.
  void add(GridPoint low, GridPoint high);
  /// False where that takes more steps than there are.
  bool find(Steps& steps);
  /// By edge, along each from its low end.
  const std::vector<Found>& found() const { return found_; }

 private:
  struct Edge {
    GridPoint low, high;
    double near = 0;  ///< what `turn` gives for a point as far away as cutting reaches, a little more
  };
  /// No outline that means something crosses itself half a million times.
  bool crowded() const { return found_.size() > 1'000'000; }
  bool compare_by_height(Steps& steps);
  bool compare_by_cells(Steps& steps);
  bool sort_into_cells(std::vector<std::uint32_t>& first, std::vector<std::uint32_t>& held, Steps& steps);
  void meet(std::uint32_t i, std::uint32_t j);
  void cut(std::uint32_t edge, GridPoint point);
  bool cut_beside(std::uint32_t edge, GridPoint p);

  std::vector<Edge> edges_;
  std::vector<Found> found_;
  std::int32_t left_ = 0, bottom_ = 0;
  std::int64_t cell_ = 1;
  std::uint32_t columns_ = 1, rows_ = 1;
};

/// Whether two edges of the loops go through each other; those that touch don't. Compares all pairs.
bool any_cross(const Loops& loops);

/// Whether going from `a` over `b` to `c` bends further to the left than going on to `d`. Going back to `a`
/// bends least.
bool turns_more_left(GridPoint a, GridPoint b, GridPoint c, GridPoint d);

}  // namespace grafema::detail
