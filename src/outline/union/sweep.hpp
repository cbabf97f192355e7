// SPDX-License-Identifier: MIT
// Sweeps over straight edges that meet at their ends alone: tells what they fill, and cuts it into triangles.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "outline/union/grid_shape.hpp"
#include "outline/union/unite.hpp"

namespace grafema::detail {

/// An edge between two points, numbered in the order in which the sweep meets them.
struct SweepEdge {
  std::uint32_t low = 0, high = 0;  ///< low < high
  std::int32_t winding = 0;         ///< how the winding number changes from its left to its right side
};

/// A horizontal line goes up over the edges. What it has passed of each filled stretch between two edges, and
/// not cut into triangles yet, is bounded by a chain of points that bends away from it (Hertel and Mehlhorn
/// 1983). All decisions are exact.
class Sweep {
 public:
  using Triangle = std::array<std::uint32_t, 3>;  ///< points by number, counterclockwise (y up)

  /// The points, each once, in the sweep's order; and edges between them.
  std::vector<GridPoint> points;
  std::vector<SweepEdge> edges;
  /// What counts as filled: winding above 0 alone, or any but 0.
  bool positive_only = false;
  bool fills(std::int32_t winding) const { return positive_only ? winding > 0 : winding != 0; }

  /// Cuts what lies between edges into triangles. False where two edges touch but at their ends, or an edge
  /// does not part filled from empty, or the steps are used up; `out` is of no use then.
  bool triangulate(std::vector<Triangle>& out, Steps& steps);
  /// Replaces `left` with the winding number on the left of each edge. False where edges touch but at their
  /// ends.
  bool find_windings(std::vector<std::int32_t>& left, Steps& steps);
  /// After `triangulate`: whether the edge has the filled side on its left, seen from its lower end.
  bool fills_left(std::size_t edge) const { return fills_left_[edge] != 0; }

 private:
  static constexpr std::uint32_t kNone = ~0U;
  struct Node {
    std::uint32_t point, left, right;
  };
  /// A chain: its ends, and the point that came last, which sees whatever comes next.
  struct Chain {
    std::uint32_t left = kNone, right = kNone, latest = kNone;
  };
  struct Active {
    std::uint32_t edge, high;  // `high`: the number of its upper end
    GridPoint from, to;        // its ends
    std::int32_t winding;      // on its right
    Chain chain;               // of the stretch on its right, where that is filled
  };

  bool run(Steps& steps);
  bool pass(std::uint32_t point, Steps& steps);
  Active active(std::uint32_t edge, std::int32_t winding) const;
  bool sort_going_up(std::uint32_t point);
  bool go_on(std::uint32_t point, std::size_t at, std::uint32_t edge);
  bool enter(std::uint32_t point, std::size_t at, std::size_t ending);
  static bool apart(const Active& left, const Active& right);
  std::uint32_t add_node(std::uint32_t point, std::uint32_t left, std::uint32_t right);
  bool left_turn(std::uint32_t a, std::uint32_t b, std::uint32_t c) const {
    return turn(points[a], points[b], points[c]) > 0;
  }
  void add_right(Chain& chain, std::uint32_t point);
  void add_left(Chain& chain, std::uint32_t point);
  bool end_chain(const Chain& chain, std::uint32_t point);
  Chain split(Chain& chain, std::uint32_t point);
  void list_going_up();
  std::size_t find_place(std::uint32_t point) const;

  std::vector<std::uint32_t> first_up_, up_;  // edges by their low point
  std::vector<std::uint32_t> ending_;         // how many edges end at each point
  std::vector<std::uint32_t> one_ending_;     // one of them
  std::vector<std::uint32_t> position_;       // of each edge in `active_`
  std::vector<Active> active_, entering_;
  std::vector<Node> nodes_;
  std::vector<std::uint8_t> fills_left_;
  std::vector<Triangle>* out_ = nullptr;
  std::vector<std::int32_t>* windings_ = nullptr;
};

}  // namespace grafema::detail
