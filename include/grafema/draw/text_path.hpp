// SPDX-License-Identifier: MIT
// A line, an arc or any contours that a label's letters stand on.
#pragma once

#include <memory>
#include <span>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// Pixels of the label, from the corner of its box. Made once, shared by labels. Contours follow each other;
/// a single closed one goes round, others go straight on beyond their ends, so that no letter is lost.
class GRAFEMA_API TextPath {
 public:
  using Made = Result<std::shared_ptr<const TextPath>>;

  /// All fail with `bad_value` where a number is not finite, there is no length to it, or it has more than
  /// 65,536 points.
  static Made line(PixelPoint from, PixelPoint to);
  /// Part of a circle. Degrees, clockwise on the screen, 0 to the right of the center: from 180 to 360 goes
  /// over the top, left to right; from 180 to 0 under it.
  static Made arc(PixelPoint center, float radius, float from, float to);
  static Made polyline(std::span<const PixelPoint> points, bool closed = false);
  /// Curves are followed to 0.05 pixels.
  static Made contours(const Contours& contours, const Transform& to_pixels);

  float length() const { return length_; }
  bool closed() const { return closed_; }
  /// The point so many pixels along it.
  PixelPoint at(float along) const;

 private:
  TextPath() = default;
  struct Piece {
    PixelPoint from = {}, to = {};
    float begin = {}, length = {};
  };
  static Made made(std::vector<Piece> pieces, bool closed);

  std::vector<Piece> pieces_;
  float length_ = 0;
  bool closed_ = false;
};

/// How a label lies on a path: its first baseline on it, further lines beside it as far as they are below.
struct OnPath {
  std::shared_ptr<const TextPath> path = nullptr;  ///< null: it lies straight
  float align = 0;       ///< this fraction of its width stands at the same fraction of the path
  float offset = 0;      ///< pixels further along
  bool upright = false;  ///< letters are moved, not turned
  bool operator==(const OnPath&) const = default;
};

}  // namespace grafema
