// SPDX-License-Identifier: MIT
// Points along an outline at exact counts and even steps, with what an effect wants to know of each.
#pragma once

#include <cstdint>
#include <limits>
#include <memory>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/export.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// A point on an outline. Font units, y up, as the outline's own.
struct OutlinePoint {
  FontPoint place = {};
  FontPoint tangent = {};     ///< the way that the contour goes on, length 1
  FontPoint normal = {};      ///< away from the filled side, length 1
  float curvature = 0;        ///< 1 / radius; above 0 where the contour bends to its left; 0 at a corner
  std::uint32_t contour = 0;  ///< of those that have a length, in the outline's order
  float fraction = 0;         ///< of the contour's length, 0 to below 1, from where it begins
  bool hole = false;          ///< the contour bounds empty room within a filled shape
  bool corner = false;        ///< the contour turns there by more than 20 degrees
  bool operator==(const OutlinePoint&) const = default;
};

/// An outline measured: true lengths along its curves, to a millionth.
/// Overlapping contours keep the parts that lie within each other; `unite` the outline first where the
/// boundary of what it fills is wanted.
class GRAFEMA_API OutlinePoints {
 public:
  OutlinePoints();
  ~OutlinePoints();
  OutlinePoints(OutlinePoints&&) noexcept;
  OutlinePoints& operator=(OutlinePoints&&) noexcept;

  /// Takes another outline; keeps its memory. Contours without a length, and points that are not finite, are
  /// passed over: an outline of nothing has no contours.
  void measure(const Contours& outline);

  std::size_t contour_count() const;
  /// Font units.
  double length(std::size_t contour) const;
  /// Of all contours.
  double length() const;

  /// The point `distance` font units along a contour; distances run round and round. `contour` must be below
  /// `contour_count()`. At a corner it has the tangent of what goes on from there.
  OutlinePoint at(std::size_t contour, double distance) const;

  /// Replaces `out` with exactly `count` points, shared out among the contours by their lengths and evenly
  /// spaced along each. Where there are at least as many points as contours each contour has one. With
  /// `keep_corners` each corner is a point and those between two corners are evenly spaced; where there are
  /// more corners than a contour has points, corners are not kept there. Fails with `bad_value` for more than
  /// ten million points.
  Result<void> spread(std::size_t count, bool keep_corners, std::vector<OutlinePoint>& out) const;
  /// Replaces `out` with points `step` font units apart (above 0, finite): as much more or less as lets them
  /// come out evenly, between corners where these are kept. Fails with `bad_value`.
  Result<void> spread_by(double step, bool keep_corners, std::vector<OutlinePoint>& out) const;

 private:
  struct Memory;
  std::unique_ptr<Memory> memory_;
};

}  // namespace grafema
