// SPDX-License-Identifier: MIT
// What loops fill by their winding numbers: its boundary, and triangles.
#pragma once

#include <array>
#include <cstdint>
#include <utility>
#include <vector>

#include "outline/union/grid_shape.hpp"
#include "outline/union/meetings.hpp"
#include "outline/union/sort_runs.hpp"
#include "outline/union/sweep.hpp"
#include "outline/union/unite.hpp"

namespace grafema::detail {

/// Which winding numbers are filled.
enum class Filled : std::uint8_t { nonzero, positive };

/// Keeps its memory from call to call.
class FillTriangles {
 public:
  using Triangle = Sweep::Triangle;

  /// Replaces the loops with the boundary of what they fill, the filled side on their left, and `out` with
  /// triangles between its points (indices of `loops.points`), counterclockwise (y up). Where loops cross,
  /// new points are rounded to the grid. Loops that touch nothing keep their points; those that bound nothing
  /// are left out. False, and both are of no use, where that takes more steps than there are.
  bool run(Loops& loops, std::vector<Triangle>& out, Steps& steps, Filled filled = Filled::nonzero);
  /// The same for loops that are such a boundary already; false, and they are as they were, where they are
  /// not.
  bool run_on_boundary(const Loops& loops, std::vector<Triangle>& out, Steps& steps);

 private:
  struct Link {
    GridPoint low, high;
    std::int32_t winding;
  };
  struct Way {
    std::uint32_t from, to;
  };
  bool cut_whole(const Loops& loops, std::vector<Triangle>& out, Steps& steps);
  bool turn_round(Loops& loops);
  void place(std::vector<Triangle>& out) const;
  void sort_points(const Loops& loops);
  bool trace_boundary(Loops& loops, Steps& steps);
  void list_links(const Loops& loops);
  void merge_links();
  bool cut_links_where_they_meet(Steps& steps, bool& any);
  void number_points();
  void trace(Loops& loops);

  Sweep sweep_;
  using Keyed = std::pair<std::uint64_t, std::uint32_t>;
  std::vector<Keyed> order_;
  RunSorter<Keyed> order_sorter_;
  std::vector<std::uint64_t> keys_;
  RunSorter<std::uint64_t> key_sorter_;
  std::vector<std::uint32_t> number_;  // of each point of the loops
  std::vector<std::uint32_t> place_;   // in the loops, of each number
  std::vector<Link> links_, cut_;
  Meetings meetings_;
  std::vector<std::int32_t> left_;
  std::vector<Way> ways_;
  std::vector<std::uint32_t> first_way_;
  std::vector<std::uint8_t> used_;
};

}  // namespace grafema::detail
