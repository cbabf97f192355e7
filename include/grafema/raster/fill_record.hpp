// SPDX-License-Identifier: MIT
// Gradients and images as renderers read them (docs/formats/scene.md).
#pragma once

#include <array>

#include "grafema/raster/fill.hpp"

namespace grafema {

/// A fill that is more than colors at corners. 256 bytes: sixteen times four floats.
struct FillRecord {
  float kind = 0, space = 0, count = 0;  ///< FillKind, MixSpace, stops
  float grain = 0;                       ///< of a layer that takes light: how steep its grain is
  /// Linear: where it goes, right and down, of length 1, or their signs where `extent` is 1. Radial: the
  /// center and the radii, fractions of the box. Image: its scale, and how far it is moved.
  std::array<float, 4> shape = {};
  float extent = 0;                  ///< linear: 1 to a corner; radial: RadialExtent; image: ImageFit
  float repeats = 0;                 ///< image: 1 where it does
  std::array<float, 2> scroll = {};  ///< image: pixels a second
  std::array<float, 2> image = {};   ///< its width and height
  std::array<float, 2> slices =
      {};  ///< image: top and bottom, left and right: the first plus 4096 times the other
  std::array<float, 8> stops = {};
  /// Of a layer that takes light: texels for width and height, then round, diffuse, specular, exponent,
  /// texels a pixel of the grain, how much is mirrored.
  std::array<float, 8> surface = {};
  std::array<std::array<float, 4>, 8> colors =
      {};  ///< of the stops, premultiplied, in the space; the first: a tint
  bool operator==(const FillRecord&) const = default;
};
static_assert(sizeof(FillRecord) == 256);

}  // namespace grafema
