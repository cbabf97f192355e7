// SPDX-License-Identifier: MIT
// The formula of a layer and the room that a look takes.
#include "grafema/draw/look.hpp"

#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <string>

namespace grafema {

float layer_strength(const Layer& layer, float distance, float unshifted, float pixel) {
  const float half = pixel / 2 + layer.blur;
  const float t = std::clamp(0.5F + (distance + layer.grow) / (2 * half), 0.0F, 1.0F);
  float strength = layer.blur > 0 ? t * t * (3 - 2 * t) : t;
  if (layer.hollow) strength *= 1 - std::clamp(0.5F + unshifted / pixel, 0.0F, 1.0F);
  return strength;
}

namespace {

bool all_finite(std::initializer_list<float> numbers) {
  return std::all_of(numbers.begin(), numbers.end(), [](float v) { return std::isfinite(v); });
}

bool is_good(const Layer& layer) {
  bool good = all_finite({layer.shift.x, layer.shift.y, layer.grow, layer.blur}) && layer.blur >= 0;
  for (const Color& c : layer.fill.corners) good = good && all_finite({c.red, c.green, c.blue, c.alpha});
  return good;
}

}  // namespace

Result<void> check_look(const Look& look) {
  if (look.count > Look::kMaxLayers) {
    return fail(make_error(ErrorKind::bad_value, "a look of at most 8 layers", std::to_string(look.count)));
  }
  const bool good = std::isfinite(look.opacity) && look.opacity >= 0 &&
                    std::all_of(look.layers.begin(), look.layers.begin() + look.count, is_good);
  if (good) return {};
  return fail(make_error(ErrorKind::bad_value, "a look of finite numbers, blurs and opacity not below 0"));
}

Look in_pixels(const Look& look, float size) {
  Look out = look;
  out.count = static_cast<std::uint8_t>(std::min<std::size_t>(look.count, Look::kMaxLayers));
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

float required_reach(const Look& look, float size) {
  const Look pixels = in_pixels(look, size);
  float reach = 0.5F;
  for (std::size_t i = 0; i < pixels.count; ++i) {
    reach = std::max(reach, std::abs(pixels.layers[i].grow) + pixels.layers[i].blur + 0.5F);
  }
  return reach;
}

Overhang overhang(const Look& look, float size) {
  const Look pixels = in_pixels(look, size);
  Overhang most;
  for (std::size_t i = 0; i < pixels.count; ++i) {
    const Layer& layer = pixels.layers[i];
    const float around = std::max(0.0F, layer.grow + layer.blur + 0.5F);
    most.left = std::max(most.left, around - layer.shift.x);
    most.right = std::max(most.right, around + layer.shift.x);
    most.top = std::max(most.top, around - layer.shift.y);
    most.bottom = std::max(most.bottom, around + layer.shift.y);
  }
  return most;
}

}  // namespace grafema
