// SPDX-License-Identifier: MIT
// Mixes fills and blends them in linear light.
#include "grafema/raster/fill.hpp"

#include <algorithm>
#include <array>
#include <cassert>

#include "base/light.hpp"

namespace grafema {
namespace {

/// Linear light back to 8-bit sRGB by a table, so that a pixel costs no powers.
struct SrgbTable {
  static constexpr std::size_t kSteps = 1U << 16U;
  std::array<std::uint8_t, kSteps> srgb;

  SrgbTable() : srgb() {
    std::size_t step = 0;
    for (std::size_t i = 0; i < 256; ++i) {  // value i holds up to half way to i + 1, measured in sRGB
      const float end = i == 255 ? 2.0F : to_linear((static_cast<float>(i) + 0.5F) / 255.0F);
      while (step < kSteps && static_cast<float>(step) < end * (kSteps - 1)) {
        srgb[step++] = static_cast<std::uint8_t>(i);
      }
    }
  }
  std::uint8_t encode(float v) const {
    return srgb[static_cast<std::size_t>(std::clamp(v, 0.0F, 1.0F) * (kSteps - 1) + 0.5F)];
  }
};

const SrgbTable& srgb_table() {
  static const SrgbTable made;
  return made;
}

using detail::Light;

/// Between two entries of the table a straight line is right to 1e-5.
float quick_linear(float srgb) {
  const float at = std::clamp(srgb, 0.0F, 1.0F) * 255.0F;
  const auto i = std::min(static_cast<std::size_t>(at), std::size_t{254});
  const float low = detail::light_of(static_cast<std::uint8_t>(i)),
              high = detail::light_of(static_cast<std::uint8_t>(i + 1));
  return low + (high - low) * (at - static_cast<float>(i));
}

Light to_light(const Color& c) {
  return {quick_linear(c.red) * c.alpha, quick_linear(c.green) * c.alpha, quick_linear(c.blue) * c.alpha,
          c.alpha};
}

void blend_pixel(std::uint8_t* pixel, const Light& source, float strength) {
  const SrgbTable& t = srgb_table();
  const float under = static_cast<float>(pixel[3]) / 255.0F;
  const float keep = (1 - source.alpha * strength) * under, alpha = source.alpha * strength + keep;
  if (alpha <= 0) return;
  const auto mixed = [&](std::uint8_t old, float added) {
    return t.encode((added * strength + detail::light_of(old) * keep) / alpha);
  };
  pixel[0] = mixed(pixel[0], source.red);
  pixel[1] = mixed(pixel[1], source.green);
  pixel[2] = mixed(pixel[2], source.blue);
  pixel[3] = detail::to_byte(alpha);
}

float fraction(float v, float low, float high) {
  return high > low ? std::clamp((v - low) / (high - low), 0.0F, 1.0F) : 0.0F;
}

}  // namespace

Color color_at(const Fill& fill, float across, float down) {
  const float u = std::clamp(across, 0.0F, 1.0F), v = std::clamp(down, 0.0F, 1.0F);
  const std::array<float, 4> weights = {(1 - u) * (1 - v), u * (1 - v), u * v, (1 - u) * v};
  Color sum{0, 0, 0, 0};
  for (std::size_t i = 0; i < 4; ++i) {
    const Color& c = fill.corners[i];
    sum.red += c.red * c.alpha * weights[i];
    sum.green += c.green * c.alpha * weights[i];
    sum.blue += c.blue * c.alpha * weights[i];
    sum.alpha += c.alpha * weights[i];
  }
  if (sum.alpha <= 0) return sum;
  return {sum.red / sum.alpha, sum.green / sum.alpha, sum.blue / sum.alpha, sum.alpha};
}

void blend(Image& target, const PixelRect& cell, std::span<const float> alpha, const Fill& fill,
           const Rect& box, float opacity) {
  assert(target.format() == PixelFormat::rgba8);
  assert(alpha.size() == static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  const bool solid = fill.is_solid();
  Light light = to_light(fill.corners[0]);
  const int left = std::max(0, -cell.x), right = std::min(cell.width, target.width() - cell.x);
  const int top = std::max(0, -cell.y), bottom = std::min(cell.height, target.height() - cell.y);
  for (int y = top; y < bottom; ++y) {
    const float* strengths =
        alpha.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width);
    std::uint8_t* row = target.row(cell.y + y);
    const float down = fraction(static_cast<float>(cell.y + y) + 0.5F, box.top, box.bottom);
    for (int x = left; x < right; ++x) {
      if (strengths[x] <= 0) continue;
      if (!solid) {
        light = to_light(
            color_at(fill, fraction(static_cast<float>(cell.x + x) + 0.5F, box.left, box.right), down));
      }
      blend_pixel(row + static_cast<std::size_t>(cell.x + x) * 4, light, strengths[x] * opacity);
    }
  }
}

}  // namespace grafema
