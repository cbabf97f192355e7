// SPDX-License-Identifier: MIT
// An outline as curves in doubles, and cut where it turns, so that the box of a piece is that of its ends.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "grafema/outline/contours.hpp"
#include "outline/union/unite.hpp"

namespace grafema::detail {

struct Dot {
  double x = 0, y = 0;
  bool operator==(const Dot&) const = default;
};

/// A line, quadratic or cubic curve; `degree + 1` points count.
struct Curve {
  std::array<Dot, 4> p;
  int degree = 1;
  std::uint32_t contour = 0;

  const Dot& start() const { return p[0]; }
  const Dot& end() const { return p[static_cast<std::size_t>(degree)]; }
  Dot at(double t) const;
  /// The derivative by t.
  Dot slope(double t) const;
  /// The part from t0 to t1; where t0 > t1 it runs backwards.
  Curve part(double t0, double t1) const;
};

/// Replaces `out` with the closed contours' curves. Those of no length and those with a point that is not
/// finite are passed over.
void list_curves(const Contours& contours, std::vector<Curve>& out);

/// A part of a curve that turns neither in x nor in y.
struct Piece {
  Curve curve;
  std::uint32_t next = 0;  ///< the piece that goes on where this one ends
  double left() const { return std::min(curve.start().x, curve.end().x); }
  double right() const { return std::max(curve.start().x, curve.end().x); }
  double top() const { return std::min(curve.start().y, curve.end().y); }
  double bottom() const { return std::max(curve.start().y, curve.end().y); }
};

/// Replaces `out` with the pieces of `curves`, in their order.
void cut_at_turns(const std::vector<Curve>& curves, std::vector<Piece>& out);

/// Whether any two pieces meet but where one goes on from the other. May say yes where they come within a
/// millionth of the outline's size or there are no steps left, never no where they cross.
bool any_meet(std::vector<Piece>& pieces, Steps& steps);

}  // namespace grafema::detail
