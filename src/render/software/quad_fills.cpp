// SPDX-License-Identifier: MIT
// What a pixel sees of a page, and what its fill is there.
#include <algorithm>
#include <cmath>

#include "raster/fill_math.hpp"
#include "render/software/paint_quads.hpp"

namespace grafema::detail {
namespace {

float lerp(float a, float b, float t) { return a + (b - a) * t; }

/// What one may stand for before smaller pictures are taken, which are softer.
constexpr float kWidestSample = 1.6F;

/// How many samples of a width a side of a pixel takes that is so many texels long.
int samples_for(float texels, float width) {
  return static_cast<int>(std::min(texels / width, Footprint::kMaxSamples - 1.0F)) + 1;
}

}  // namespace

Footprint::Footprint(Texel to_right, Texel to_below) : dx(to_right), dy(to_below) {
  const float right = std::sqrt(dx.x * dx.x + dx.y * dx.y), below = std::sqrt(dy.x * dy.x + dy.y * dy.y);
  across = samples_for(right, kSampleWidth), down = samples_for(below, kSampleWidth);
  is_far = samples_for(right, kWidestSample) * samples_for(below, kWidestSample) > kMaxSamples;
  has_too_many = across * down > kMaxSamples;
  if (has_too_many) {  // as many to either side, unless one needs fewer
    const int fewer = std::min({across, down, 4});
    int& more = across < down ? down : across;
    (across < down ? across : down) = fewer;
    more = std::min(more, kMaxSamples / fewer);
  }
  const float wide = right / static_cast<float>(across), high = below / static_cast<float>(down);
  pixel = std::max(std::sqrt(0.5F * (wide * wide + high * high)), 1e-6F);
}

Texel Footprint::half() const {
  return {(std::abs(dx.x) + std::abs(dy.x)) / 2, (std::abs(dx.y) + std::abs(dy.y)) / 2};
}

Shade QuadShader::tinted(const std::array<float, 4>& color) const {
  const float alpha = color[3], divisor = alpha > 0 ? alpha : 1;
  const auto tint = [this](std::size_t c) { return static_cast<float>(quad_.tint[c]) / 255.0F; };
  return {color[0] / divisor * tint(0),
          color[1] / divisor * tint(1),
          color[2] / divisor * tint(2),
          alpha * tint(3),
          0,
          false};
}

/// The fill at its place.
Shade QuadShader::fill_at(const Footprint& footprint, float across, float down) const {
  if (what_.fill && what_.image != nullptr) {
    const PixelPoint wide{std::max(std::abs(footprint.dx.x), std::abs(footprint.dy.x)) * what_.per_texel.x,
                          std::max(std::abs(footprint.dx.y), std::abs(footprint.dy.y)) * what_.per_texel.y};
    if (is_sliced(*what_.fill) && what_.panel) {
      const PixelPoint size{what_.panel->box.width(), what_.panel->box.height()};  // a texel is a pixel
      const FillRecord& fill = *what_.fill;
      return tinted(image_at(fill, *what_.image, slice_place(fill, {across, down}, size),
                             {wide.x * size.x / fill.shape[0] / fill.image[0],
                              wide.y * size.y / fill.shape[1] / fill.image[1]}));
    }
    return tinted(image_at(*what_.fill, *what_.image, {across, down}, wide));
  }
  if (what_.fill && !is_corners(*what_.fill)) return tinted(gradient_at(*what_.fill, {across, down}));
  const float u = std::clamp(across, 0.0F, 1.0F), v = std::clamp(down, 0.0F, 1.0F);
  const auto channel = [&](std::size_t c) {
    return lerp(lerp(layer_.corners[0][c], layer_.corners[1][c], u),
                lerp(layer_.corners[3][c], layer_.corners[2][c], u), v);
  };
  return tinted({channel(0), channel(1), channel(2), channel(3)});
}

Shade QuadShader::lit_shade(const Shade& shade, float inside, PixelPoint rise, Texel at,
                            const Footprint& footprint, PixelPoint device, const LightVectors& lights) const {
  const FillRecord& fill = *what_.fill;
  const std::array<float, 8>& u = fill.surface;
  SurfacePoint point{.inside = inside, .rise = rise, .device = device};
  point.surface = {u[0], u[1], u[2], u[3], u[4], u[5]};
  if (what_.grain != nullptr && u[6] > 0) {
    const float corner = is_composite(kind_) ? 0.0F : layer_.reach;
    const PixelPoint tilt = grain_at(*what_.grain,
                                     {(at.x - static_cast<float>(quad_.cell[0]) - corner) / u[6],
                                      (at.y - static_cast<float>(quad_.cell[1]) - corner) / u[6]},
                                     {std::max(std::abs(footprint.dx.x), std::abs(footprint.dy.x)) / u[6],
                                      std::max(std::abs(footprint.dx.y), std::abs(footprint.dy.y)) / u[6]});
    point.tilt = turned_to_device({tilt.x * fill.grain, tilt.y * fill.grain}, footprint);
  }
  if (what_.mirror != nullptr) point.mirror = what_.mirror, point.mirrored = u[7];
  const std::array<float, 3> out =
      lit_color({to_linear(shade.red), to_linear(shade.green), to_linear(shade.blue)}, point, lights);
  Shade lit = shade;
  lit.red = to_srgb(out[0]), lit.green = to_srgb(out[1]), lit.blue = to_srgb(out[2]);
  return lit;
}

/// A direction on the page as it is seen, as long.
PixelPoint QuadShader::turned_to_device(PixelPoint on_page, const Footprint& footprint) {
  const PixelPoint seen{on_page.x * footprint.dx.x + on_page.y * footprint.dx.y,
                        on_page.x * footprint.dy.x + on_page.y * footprint.dy.y};
  const float length = std::sqrt(seen.x * seen.x + seen.y * seen.y);
  if (length <= 1e-6F) return {};
  const float by = std::sqrt(on_page.x * on_page.x + on_page.y * on_page.y) / length;
  return {seen.x * by, seen.y * by};
}

}  // namespace grafema::detail
