// SPDX-License-Identifier: MIT
// The formula of a layer and the room that a look takes.
#include "grafema/draw/look.hpp"
#include "base/numbers.hpp"

#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <string>

namespace grafema {

float layer_strength(const Layer& layer, float distance, float own, float pixel) {
  const float half = pixel / 2 + layer.blur;
  const auto edge = [&](float d) {
    const float t = std::clamp(0.5F + d / (2 * half), 0.0F, 1.0F);
    return layer.blur > 0 ? t * t * (3 - 2 * t) : t;
  };
  const auto of_letter = [&] { return std::clamp(0.5F + own / pixel, 0.0F, 1.0F); };
  if (layer.inset) return of_letter() * (1 - edge(distance - layer.grow));
  float strength = edge(distance + layer.grow);
  if (layer.line > 0) strength -= edge(distance + layer.grow - layer.line);
  return layer.hollow ? strength * (1 - of_letter()) : strength;
}

Layer outline_layer(float width, OutlinePlace place, const Fill& fill) {
  Layer layer;
  layer.grow = place == OutlinePlace::outside ? width : place == OutlinePlace::centered ? width / 2 : 0.0F;
  layer.line = width;
  layer.fill = fill;
  return layer;
}

namespace {

bool is_good_layer(const Layer& layer) {
  const bool finite =
      detail::all_finite({layer.surface.width, layer.surface.height, layer.surface.round,
                          layer.surface.diffuse, layer.surface.specular, layer.surface.exponent,
                          layer.surface.grain_strength, layer.surface.mirror_strength}) &&
      layer.surface.grain_scale > 0 && std::isfinite(layer.surface.grain_scale) &&
      detail::all_finite({layer.shift.x, layer.shift.y, layer.grow, layer.blur, layer.line, layer.sweep.x,
                          layer.sweep.y, layer.dash, layer.gap});
  const bool lengths =
      layer.blur >= 0 && layer.line >= 0 && layer.dash >= 0 && layer.gap >= 0 && layer.surface.width >= 0;
  return finite && lengths;
}

/// How far from the letter's edge a layer looks.
float look_out(const Layer& layer) {
  const float outer = std::abs(layer.grow) * (layer.sharp ? kSharpReach : 1.0F),
              inner = std::abs(layer.grow - layer.line);
  const float lit = layer.surface.width > 0 ? layer.surface.width - std::min(layer.grow, 0.0F) : 0.0F;
  return std::max({outer, layer.inset ? 0.0F : inner, lit}) + layer.blur + 0.5F;
}

}  // namespace

Result<void> check_look(const Look& look) {
  if (look.count > Look::kMaxLayers) {
    return bad_value("a look of at most 8 layers", std::to_string(look.count));
  }
  const bool good = std::isfinite(look.opacity) && look.opacity >= 0 &&
                    std::all_of(look.layers.begin(), look.layers.begin() + look.count, is_good_layer);
  if (!good) {
    return fail(
        make_error(ErrorKind::bad_value, "a look of finite numbers, lengths and opacity not below 0"));
  }
  for (std::size_t i = 0; i < look.count; ++i) {
    if (Result<void> checked = check_fill(look.layers[i].fill); !checked) return checked;
  }
  return {};
}

Look in_pixels(const Look& look, float size) {
  Look out = look;
  out.count = static_cast<std::uint8_t>(std::min<std::size_t>(look.count, Look::kMaxLayers));
  out.in_ems = false;
  if (!look.in_ems) return out;
  for (std::size_t i = 0; i < out.count; ++i) {
    Layer& layer = out.layers[i];
    const auto scaled = [size](PixelPoint p) { return PixelPoint{p.x * size, p.y * size}; };
    layer.shift = scaled(layer.shift), layer.sweep = scaled(layer.sweep);
    layer.grow *= size, layer.blur *= size, layer.line *= size, layer.dash *= size, layer.gap *= size;
    layer.surface.width *= size, layer.surface.height *= size;
    if (layer.surface.grain) {  // one em high
      layer.surface.grain_scale *= size / static_cast<float>(layer.surface.grain->height());
    }
    Fill& fill = layer.fill;
    fill.offset = scaled(fill.offset), fill.scroll = scaled(fill.scroll);
    if (fill.image && (fill.fit == ImageFit::none || fill.is_sliced())) {  // one em high
      const float by = size / static_cast<float>(fill.image->height());
      fill.scale = {fill.scale.x * by, fill.scale.y * by};
    }
  }
  return out;
}

float required_reach(const Look& look, float size) {
  const Look pixels = in_pixels(look, size);
  float reach = 0.5F;
  for (std::size_t i = 0; i < pixels.count; ++i) {
    reach = std::max(reach, look_out(pixels.layers[i]));
  }
  return reach;
}

Overhang overhang(const Look& look, float size) {
  const Look pixels = in_pixels(look, size);
  Overhang most;
  for (std::size_t i = 0; i < pixels.count; ++i) {
    const Layer& layer = pixels.layers[i];
    const float around = std::max(0.0F, outward(layer) + 0.5F);
    const PixelPoint from = layer.inset ? PixelPoint{} : layer.shift;
    const PixelPoint to{from.x + (layer.inset ? 0 : layer.sweep.x),
                        from.y + (layer.inset ? 0 : layer.sweep.y)};
    most.left = std::max(most.left, around - std::min(from.x, to.x));
    most.right = std::max(most.right, around + std::max(from.x, to.x));
    most.top = std::max(most.top, around - std::min(from.y, to.y));
    most.bottom = std::max(most.bottom, around + std::max(from.y, to.y));
  }
  return most;
}

}  // namespace grafema
