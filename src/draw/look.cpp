// SPDX-License-Identifier: MIT
// The formula of a layer and the room that a look takes.
#include "grafema/draw/look.hpp"

#include <algorithm>
#include <cmath>

namespace grafema {

float layer_strength(const Layer& layer, float distance, float unshifted, float pixel) {
  const float half = pixel / 2 + layer.blur;
  const float t = std::clamp(0.5F + (distance + layer.grow) / (2 * half), 0.0F, 1.0F);
  float strength = layer.blur > 0 ? t * t * (3 - 2 * t) : t;
  if (layer.hollow) strength *= 1 - std::clamp(0.5F + unshifted / pixel, 0.0F, 1.0F);
  return strength;
}

Look in_pixels(const Look& look, float size) {
  Look out = look;
  out.in_ems = false;
  if (!look.in_ems) return out;
  for (std::size_t i = 0; i < out.count; ++i) {
    Layer& layer = out.layers[i];
    layer.shift = {layer.shift.x * size, layer.shift.y * size};
    layer.grow *= size;
    layer.blur *= size;
  }
  return out;
}

float required_reach(const Look& look) {
  float reach = 0.5F;
  for (std::size_t i = 0; i < look.count; ++i) {
    reach = std::max(reach, std::abs(look.layers[i].grow) + look.layers[i].blur + 0.5F);
  }
  return reach;
}

Overhang overhang(const Look& look) {
  Overhang most;
  for (std::size_t i = 0; i < look.count; ++i) {
    const Layer& layer = look.layers[i];
    const float around = std::max(0.0F, layer.grow + layer.blur + 0.5F);
    most.left = std::max(most.left, around - layer.shift.x);
    most.right = std::max(most.right, around + layer.shift.x);
    most.top = std::max(most.top, around - layer.shift.y);
    most.bottom = std::max(most.bottom, around + layer.shift.y);
  }
  return most;
}

}  // namespace grafema
