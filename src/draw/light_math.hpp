// SPDX-License-Identifier: MIT
// Lights as vectors: what is the same for all pixels of a frame.
#pragma once

#include "grafema/draw/lighting.hpp"

namespace grafema::detail {

struct Vector {
  float x = 0, y = 0, z = 0;
};

/// Colors are linear light; places are device pixels, or for distant lights directions to them.
struct LightVectors {
  std::size_t count = 0;
  std::array<Vector, Lighting::kMostLights> places = {};
  std::array<float, Lighting::kMostLights> is_point = {};
  std::array<std::array<float, 3>, Lighting::kMostLights> colors = {};
  std::array<float, 3> ambient = {};
};
GRAFEMA_API LightVectors light_vectors(const Lighting& lighting, float content_scale);

/// As `lit`, in linear light; lengths of the surface are in the unit of `inside`.
GRAFEMA_API std::array<float, 3> lit_color(std::array<float, 3> linear, const Surface& surface, float inside,
                                           PixelPoint rise, PixelPoint device, const LightVectors& lights);

}  // namespace grafema::detail
