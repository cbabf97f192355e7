// SPDX-License-Identifier: MIT
// The boundary of what a set of closed contours fills, overlaps and touching parts united.
#pragma once

#include <cstdint>
#include <vector>

#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// What may be spent on finding where parts of an outline cross: each looks at one part or a pair. Outlines
/// of real fonts stay far below; a hostile one is left as it is.
class Steps {
 public:
  static constexpr std::uint64_t kOfAGlyph = 60'000'000, kAlways = 1'000'000;

  explicit Steps(std::uint64_t limit = kOfAGlyph) : left_(limit) {}
  /// False once more was spent than there was.
  bool spend(std::uint64_t steps) {
    left_ = steps < left_ ? left_ - steps : 0;
    return left_ > 0;
  }
  bool any() const { return left_ > 0; }
  std::uint64_t left() const { return left_; }

 private:
  std::uint64_t left_;
};

/// Finds the boundary of the shape that flattened contours fill under the non-zero winding rule.
///
/// The plane is cut into slabs at every height where a piece begins, ends or crosses another. Within a slab
/// pieces have one order from left to right, so the winding number is a running sum and a piece bounds the
/// shape where that sum turns to or from zero. What lies between two slabs is bounded where only one of them
/// is filled. Because each slab stands alone, rounding can misplace a boundary by a rounding error, never
/// lose one.
class Uniter {
 public:
  /// Replaces `out` with the boundary. Pieces run so that the filled side is on their right on the screen (y
  /// down), and a piece of a contour that nothing overlaps comes out whole. `in` must be closed; pixels.
  /// False, and `out` is of no use, where that takes more steps than there are.
  bool unite(const std::vector<Segment>& in, std::vector<Segment>& out, Steps& steps);
  bool unite(const std::vector<Segment>& in, std::vector<Segment>& out) {
    Steps steps;
    return unite(in, out, steps);
  }

  static constexpr std::uint32_t kNoSource = ~0U;
  /// For each piece that came out, of which one of `in` it is a part; kNoSource for pieces that lie between
  /// others.
  const std::vector<std::uint32_t>& sources() const { return sources_; }

 private:
  struct Edge {
    double x0, y0, x1, y1;  // y0 < y1
    int winding;            // +1 where the contour runs down
    std::uint32_t source;
    // The stretch of this edge that was found to bound the shape and goes on in the slab above the present
    // one.
    bool open = false, fills_right = false;
    double open_x = 0, open_y = 0;
    double x_at(double y) const;
  };
  struct Active {
    Edge* edge;
    double top, bottom;  // x at the slab's upper and lower end
  };
  struct Interval {
    double left, right;
  };
  /// A filled stretch of a slab: where it is bounded at its upper and lower end.
  struct Span {
    Interval top, bottom;
  };

  void prepare(const std::vector<Segment>& in);
  bool sweep_slab(double top, double bottom, Steps& steps);
  void update_actives(double top, double bottom);
  bool actives_cross() const;
  void find_crossings(double top, double bottom);
  void emit_slab(double top);
  void bound(Edge& edge, bool fills_right, double x, double y);
  void flush(Edge& edge, double y);
  void emit_between(double y, const std::vector<Interval>& above, const std::vector<Interval>& below);
  void emit_horizontal(double y, double left, double right, bool fills_below);

  std::vector<Edge> edges_;
  std::vector<double> heights_, crossings_;
  std::vector<Active> active_;
  std::vector<Edge*> bounding_, bounding_before_;
  std::vector<Interval> above_, below_, tops_, bottoms_;
  std::size_t next_edge_ = 0;
  std::vector<std::uint32_t> sources_;
  std::vector<Segment>* out_ = nullptr;
};

/// As grafema::unite; an outline that takes more steps than there are is left as it is.
void unite(Contours& contours, Steps& steps);

}  // namespace grafema::detail
