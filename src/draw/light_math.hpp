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
  std::array<Vector, Lighting::kMaxLights> places = {};
  std::array<float, Lighting::kMaxLights> is_point = {};
  std::array<std::array<float, 3>, Lighting::kMaxLights> colors = {};
  std::array<float, 3> ambient = {};
  PixelPoint middle = {};  ///< of the view
  float away = 0;          ///< how far before it the eye is
};
/// `width` and `height` are those of the view, device pixels: the eye is as far before its middle as it is
/// high.
GRAFEMA_API LightVectors light_vectors(const Lighting& lighting, float content_scale, float width = 0,
                                       float height = 0);

/// What light falls on.
struct SurfacePoint {
  Surface surface = {};    ///< lengths in the unit of `inside`; its images are not looked at
  float inside = 0;        ///< how far from the edge
  PixelPoint rise = {};    ///< where it rises to, right and down on the screen, at most 1 long
  PixelPoint tilt = {};    ///< the normal leans so far by its grain, to one that is 1 long outward
  PixelPoint device = {};  ///< its pixel
  const FillImage* mirror = nullptr;
  float mirrored = 0;
};

/// How far normals of grain lean at a place, right and down; places and what a pixel is wide are pixels of
/// it.
GRAFEMA_API PixelPoint grain_at(const FillImage& grain, PixelPoint place, PixelPoint wide);

/// As `lit`, in linear light.
GRAFEMA_API std::array<float, 3> lit_color(std::array<float, 3> linear, const SurfacePoint& point,
                                           const LightVectors& lights);

}  // namespace grafema::detail
