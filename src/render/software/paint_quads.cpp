// SPDX-License-Identifier: MIT
// Shades pixels of quads.
#include "render/software/paint_quads.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/light.hpp"

namespace grafema::detail {
namespace {

/// One channel of one texel as 0..1; nothing outside the cell.
float tap(const GlyphQuad& quad, const ImageView& page, int x, int y, std::size_t channel = 0) {
  const int left = quad.cell[0], top = quad.cell[1];
  if (x < left || y < top || x >= left + quad.cell[2] || y >= top + quad.cell[3]) return 0;
  const std::uint8_t* texel = page.row(y) + static_cast<std::size_t>(x) * bytes_per_pixel(page.format);
  if (bits_per_channel(page.format) == 8) return static_cast<float>(texel[channel]) / 255.0F;
  std::uint16_t wide = 0;
  std::memcpy(&wide, texel + channel * 2, 2);
  return static_cast<float>(wide) / 65535.0F;
}

Light color_tap(const GlyphQuad& quad, const ImageView& page, int x, int y) {
  const int left = quad.cell[0], top = quad.cell[1];
  if (x < left || y < top || x >= left + quad.cell[2] || y >= top + quad.cell[3]) return {};
  const std::uint8_t* p = page.row(y) + static_cast<std::size_t>(x) * 4;
  const float alpha = static_cast<float>(p[3]) / 255.0F;
  return {light_of(p[0]) * alpha, light_of(p[1]) * alpha, light_of(p[2]) * alpha, alpha};
}

/// The four texels around a point and how far between them it lies.
struct Between {
  int x, y;
  float fx, fy;
  explicit Between(Texel at) {
    const float px = at.x - 0.5F, py = at.y - 0.5F;
    x = static_cast<int>(std::floor(px)), y = static_cast<int>(std::floor(py));
    fx = px - static_cast<float>(x), fy = py - static_cast<float>(y);
  }
};

float lerp(float a, float b, float t) { return a + (b - a) * t; }

float sample(const GlyphQuad& quad, const ImageView& page, Texel at, std::size_t channel = 0) {
  const Between b(at);
  return lerp(lerp(tap(quad, page, b.x, b.y, channel), tap(quad, page, b.x + 1, b.y, channel), b.fx),
              lerp(tap(quad, page, b.x, b.y + 1, channel), tap(quad, page, b.x + 1, b.y + 1, channel), b.fx),
              b.fy);
}

/// The distance to the edge of the letter itself: the median where there are three channels.
float edge_sample(const GlyphQuad& quad, const ImageView& page, QuadKind kind, Texel at) {
  const float r = sample(quad, page, at);
  if (kind == QuadKind::distance) return r;
  const float g = sample(quad, page, at, 1), b = sample(quad, page, at, 2);
  return std::max(std::min(r, g), std::min(std::max(r, g), b));
}

/// The distance that a layer takes: its edge where it is the plain letter, the true distance for effects
/// where there is one.
float layer_sample(const GlyphQuad& quad, const ImageView& page, QuadKind kind, const LayerRecord& layer,
                   Texel at) {
  const bool plain = layer.grow == 0 && layer.blur == 0;
  return kind == QuadKind::channels_with_distance && !plain ? sample(quad, page, at, 3)
                                                            : edge_sample(quad, page, kind, at);
}

Light mix(const Light& a, const Light& b, float t) {
  return {lerp(a.red, b.red, t), lerp(a.green, b.green, t), lerp(a.blue, b.blue, t),
          lerp(a.alpha, b.alpha, t)};
}

Light color_sample(const GlyphQuad& quad, const ImageView& page, Texel at) {
  const Between b(at);
  return mix(mix(color_tap(quad, page, b.x, b.y), color_tap(quad, page, b.x + 1, b.y), b.fx),
             mix(color_tap(quad, page, b.x, b.y + 1), color_tap(quad, page, b.x + 1, b.y + 1), b.fx), b.fy);
}

/// The formula of `layer_strength` in texels; `pixel` is never so wide that paint would reach beyond the
/// picture.
float strength_at(const LayerRecord& layer, float distance, float own, float pixel) {
  const float room = std::max(layer.reach - std::abs(layer.grow) - layer.blur, 1.0F / 64);
  const float half = std::min(pixel / 2, room) + layer.blur;
  const float t = std::clamp(0.5F + (distance + layer.grow) / (2 * half), 0.0F, 1.0F);
  float strength = layer.blur > 0 ? t * t * (3 - 2 * t) : t;
  if (layer.hollow > 0) strength *= 1 - std::clamp(0.5F + own / pixel, 0.0F, 1.0F);
  return strength;
}

/// How many samples a side a pixel takes that covers `footprint` texels; the steps lie off the sizes that
/// games use.
int samples_for(float footprint) {
  return footprint < 1.3F ? 1 : footprint < 2.6F ? 2 : footprint < 3.9F ? 3 : 4;
}

/// The fill at a point of the label's box.
Shade fill_at(const LayerRecord& layer, const GlyphQuad& quad, float across, float down) {
  const float u = std::clamp(across, 0.0F, 1.0F), v = std::clamp(down, 0.0F, 1.0F);
  const auto channel = [&](std::size_t c) {
    return lerp(lerp(layer.corners[0][c], layer.corners[1][c], u),
                lerp(layer.corners[3][c], layer.corners[2][c], u), v);
  };
  const float alpha = channel(3), divisor = alpha > 0 ? alpha : 1;
  const auto tint = [&quad](std::size_t c) { return static_cast<float>(quad.tint[c]) / 255.0F; };
  return {channel(0) / divisor * tint(0),
          channel(1) / divisor * tint(1),
          channel(2) / divisor * tint(2),
          alpha * tint(3),
          0,
          false};
}

}  // namespace

Shade shade(const GlyphQuad& quad, const LayerRecord& layer, QuadKind kind, const ImageView& page, Texel at,
            Texel dx, Texel dy, float across, float down) {
  const float footprint =
      std::max(std::sqrt(0.5F * (dx.x * dx.x + dx.y * dx.y + dy.x * dy.x + dy.y * dy.y)), 1e-6F);
  const int n = samples_for(footprint);
  const float pixel = footprint / static_cast<float>(n), share = 1.0F / static_cast<float>(n * n);
  Light color;
  float strength = 0;
  for (int j = 0; j < n; ++j) {
    for (int i = 0; i < n; ++i) {
      const float a = (static_cast<float>(i) + 0.5F) / static_cast<float>(n) - 0.5F,
                  b = (static_cast<float>(j) + 0.5F) / static_cast<float>(n) - 0.5F;
      const Texel p{at.x + a * dx.x + b * dy.x, at.y + a * dx.y + b * dy.y};
      if (kind != QuadKind::coverage && kind != QuadKind::color) {
        const float distance = (layer_sample(quad, page, kind, layer, p) - 0.5F) * 2 * layer.reach;
        const float own =
            layer.hollow > 0
                ? (edge_sample(quad, page, kind, {p.x + layer.shift_x, p.y + layer.shift_y}) - 0.5F) * 2 *
                      layer.reach
                : 0;
        strength += strength_at(layer, distance, own, pixel) * share;
      } else if (kind == QuadKind::coverage) {
        strength += sample(quad, page, p) * share;
      } else {
        color = mix(color, color_sample(quad, page, p), 1.0F / static_cast<float>(j * n + i + 1));
        strength = color.alpha;
      }
    }
  }
  Shade out = fill_at(layer, quad, across, down);
  out.strength = strength;
  if (kind != QuadKind::color || layer.front <= 0) return out;
  const auto tint = [&quad](std::size_t c) { return light_of(quad.tint[c]); };
  return {color.red * tint(0), color.green * tint(1), color.blue * tint(2), out.alpha, color.alpha, true};
}

}  // namespace grafema::detail
