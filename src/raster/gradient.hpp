// SPDX-License-Identifier: MIT
// Gradients of COLR version 1 at a point (OpenType, COLR, "Gradients").
#pragma once

#include <optional>
#include <vector>

#include "raster/composite.hpp"

namespace grafema::detail {

/// A gradient with its colors found.
class Gradient {
 public:
  struct Stop {
    float offset;
    Tone color;
  };
  /// `stops` ascend.
  Gradient(const Paint& paint, std::vector<Stop> stops);

  /// The color at a point in the gradient's own space; nothing is painted where a radial gradient has no
  /// circle.
  Tone at(FontPoint p) const;

 private:
  std::optional<float> position(FontPoint p) const;
  std::optional<float> radial_position(FontPoint p) const;
  Tone color_at(float t) const;

  const Paint& paint_;
  std::vector<Stop> stops_;
  FontPoint axis_;  ///< linear: how the position grows along x and y
  bool empty_ = false;
};

}  // namespace grafema::detail
