// SPDX-License-Identifier: MIT
// Which stretches of a letter's edge are dashes.
#pragma once

#include <vector>

#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// Works on one letter after the other in its own memory.
class Dashes {
 public:
  /// Takes the edge of the mapped outline: a whole number of dashes goes on each contour, as long as they can
  /// best be.
  void set(const Contours& outline, const Transform& map, float dash, float gap);
  /// How much of a pixel in the middle of a dash, or beside it, is dash: by the nearest point of the edge,
  /// 0..1.
  float share_at(float x, float y) const;

 private:
  struct Piece {
    double x, y, dx, dy;  ///< where it begins; to its end
    double length_squared;
    float begin, length;  ///< along its contour
    float period, dash;
  };
  /// The box of a run of pieces, which both halves of the run are below.
  struct Node {
    double left, top, right, bottom;
    std::size_t first, end;        ///< pieces
    std::size_t second_child = 0;  ///< the first one is the next node; 0: a leaf
  };
  struct Nearest {
    double squared, along;
    std::size_t piece;
  };
  void add_contour(std::size_t first, std::size_t end, float dash, float gap);
  void add_node(std::size_t first, std::size_t end);
  void find_nearest(std::size_t node, double x, double y, Nearest& nearest) const;

  std::vector<Piece> pieces_;
  std::vector<Node> nodes_;  ///< the root first
  std::vector<Segment> segments_;
  Contours united_;
};

}  // namespace grafema::detail
