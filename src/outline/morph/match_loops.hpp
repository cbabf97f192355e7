// SPDX-License-Identifier: MIT
// Which point of one closed loop becomes which of another.
#pragma once

#include <memory>
#include <vector>

#include "outline/union/grid_shape.hpp"

namespace grafema::detail {

/// A point and where it goes. Units of the shapes.
struct MorphPoint {
  float from_x = 0, from_y = 0, to_x = 0, to_y = 0;
};

struct Place {
  double x = 0, y = 0;
};

/// A loop with the lengths along it.
class MeasuredLoop {
 public:
  explicit MeasuredLoop(std::vector<Place> points);

  const std::vector<Place>& points() const { return points_; }
  /// Of the whole, where point i lies: 0 to below 1.
  double share(std::size_t i) const { return shares_[i]; }
  /// The place at a share of its length, which runs round and round.
  Place at(double share) const;
  double length() const { return length_; }
  Place middle() const { return middle_; }  ///< of its length
  double doubled_area() const { return doubled_area_; }

 private:
  std::vector<Place> points_;
  std::vector<double> shares_;
  double length_ = 0, doubled_area_ = 0;
  Place middle_;
};

/// Ways to match two loops: which points fall on each other, and how far the matching gives way for corners
/// to find corners. From the one with the least travel on.
class LoopMatcher {
 public:
  LoopMatcher(const MeasuredLoop& from, const MeasuredLoop& to);
  ~LoopMatcher();
  LoopMatcher(const LoopMatcher&) = delete;
  LoopMatcher& operator=(const LoopMatcher&) = delete;

  std::size_t ways() const;
  /// Replaces `out` with points that begin as the corners of `from` and end as those of `to`, every corner of
  /// either among them.
  void match(std::size_t way, std::vector<MorphPoint>& out) const;

 private:
  struct Memory;
  std::unique_ptr<Memory> memory_;
};

}  // namespace grafema::detail
