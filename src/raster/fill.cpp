// SPDX-License-Identifier: MIT
// Mixes fills and blends them in linear light.
#include "grafema/raster/fill.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>

#include "base/light.hpp"
#include "raster/blend_color.hpp"
#include "raster/fill_math.hpp"

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

/// Colors at points of a box.
class FillSampler {
 public:
  FillSampler(const Fill& fill, const Rect& box, float seconds) : fill_(fill) {
    if (fill.kind == FillKind::corners) {
      place_ = detail::corner_place(box);
      return;
    }
    record_ = detail::fill_record(fill, 1);
    place_ = detail::fill_place(record_, box, seconds);
  }

  Color at(PixelPoint pixel) const {
    const PixelPoint place = place_(pixel);
    std::array<float, 4> mixed = {};
    if (fill_.kind == FillKind::corners) {
      mixed = mixed_corners(place);
    } else if (fill_.kind != FillKind::image) {
      mixed = detail::gradient_at(record_, place);
    } else if (fill_.image) {
      mixed = detail::image_at(record_, *fill_.image, place,
                               {std::abs(place_.scale.x), std::abs(place_.scale.y)});
    }
    const float alpha = mixed[3];
    if (alpha <= 0) return {0, 0, 0, 0};
    return {mixed[0] / alpha, mixed[1] / alpha, mixed[2] / alpha, alpha};
  }

 private:
  std::array<float, 4> mixed_corners(PixelPoint place) const {
    const float u = std::clamp(place.x, 0.0F, 1.0F), v = std::clamp(place.y, 0.0F, 1.0F);
    const std::array<float, 4> weights = {(1 - u) * (1 - v), u * (1 - v), u * v, (1 - u) * v};
    std::array<float, 4> sum = {};
    for (std::size_t i = 0; i < 4; ++i) {
      const Color& c = fill_.corners[i];
      const float weight = c.alpha * weights[i];
      sum[0] += c.red * weight, sum[1] += c.green * weight, sum[2] += c.blue * weight, sum[3] += weight;
    }
    return sum;
  }

  const Fill& fill_;
  FillRecord record_;
  detail::FillPlace place_;
};

}  // namespace

void detail::blend_color(Image& target, int x, int y, const Color& color, float strength) {
  if (strength > 0) blend_pixel(target.row(y) + static_cast<std::size_t>(x) * 4, to_light(color), strength);
}

Color color_at(const Fill& fill, PixelPoint at, const Rect& box, float seconds) {
  return FillSampler(fill, box, seconds).at(at);
}

Color mean_color(const Fill& fill) {
  constexpr Rect kUnit{0, 0, 1, 1};
  if (fill.kind == FillKind::image) {
    Fill whole = fill;  // as small as a texel
    whole.fit = ImageFit::fill, whole.scale = {1e-3F, 1e-3F};
    return color_at(whole, {0.5F, 0.5F}, kUnit);
  }
  const std::size_t count = fill.has_stops() ? fill.stop_count : fill.corners.size();
  Color sum{0, 0, 0, 0};
  for (std::size_t i = 0; i < count; ++i) {
    const Color& c = fill.has_stops() ? fill.stops[i].color : fill.corners[i];
    sum.red += c.red * c.alpha, sum.green += c.green * c.alpha, sum.blue += c.blue * c.alpha,
        sum.alpha += c.alpha;
  }
  if (sum.alpha <= 0) return sum;
  return {sum.red / sum.alpha, sum.green / sum.alpha, sum.blue / sum.alpha,
          sum.alpha / static_cast<float>(count)};
}

namespace {

/// `count` stops from the first place to the last.
void spread(Fill& fill, std::span<const Color> colors) {
  const std::size_t count = std::min(colors.size(), Fill::kMaxStops);
  fill.stop_count = static_cast<std::uint8_t>(count);
  for (std::size_t i = 0; i < count; ++i) {
    fill.stops[i] = {static_cast<float>(i) / static_cast<float>(std::max<std::size_t>(count, 2) - 1),
                     colors[i]};
  }
}

bool is_finite(PixelPoint p) { return std::isfinite(p.x) && std::isfinite(p.y); }

bool is_finite(const Color& c) {
  return std::isfinite(c.red) && std::isfinite(c.green) && std::isfinite(c.blue) && std::isfinite(c.alpha);
}

const char* fault_of(const Fill& fill) {
  const bool colors =
      std::all_of(fill.corners.begin(), fill.corners.end(), [](const Color& c) { return is_finite(c); });
  const bool numbers = std::isfinite(fill.angle) && is_finite(fill.center) && is_finite(fill.radius) &&
                       is_finite(fill.scale) && is_finite(fill.offset) && is_finite(fill.scroll);
  if (!colors || !numbers) return "a fill of finite numbers";
  if (fill.stop_count > Fill::kMaxStops) return "a gradient of at most 8 stops";
  if (fill.has_stops() && fill.stop_count < 2) return "a gradient of two stops or more";
  for (std::size_t i = 0; i < fill.stop_count; ++i) {
    if (!std::isfinite(fill.stops[i].at) || !is_finite(fill.stops[i].color))
      return "a fill of finite numbers";
    if (i > 0 && fill.stops[i].at < fill.stops[i - 1].at) return "stops that ascend";
  }
  if (fill.kind == FillKind::image && !fill.image) return "an image to fill with";
  const bool can_slice =
      std::all_of(fill.slices.begin(), fill.slices.end(), [](float v) { return v >= 0 && v <= 4095; });
  if (!can_slice) return "slices of 0 to 4095 pixels";
  if (fill.kind == FillKind::image && !(fill.scale.x > 0 && fill.scale.y > 0))
    return "an image scaled by more than 0";
  return nullptr;
}

}  // namespace

Fill Fill::linear(std::span<const Color> colors, float angle) {
  Fill fill;
  fill.kind = FillKind::linear, fill.angle = angle;
  spread(fill, colors);
  return fill;
}

Fill Fill::radial(std::span<const Color> colors) {
  Fill fill;
  fill.kind = FillKind::radial;
  spread(fill, colors);
  return fill;
}

Fill Fill::of_image(std::shared_ptr<const FillImage> image) {
  Fill fill = solid({1, 1, 1, 1});
  fill.kind = FillKind::image, fill.image = std::move(image);
  return fill;
}

Result<void> check_fill(const Fill& fill) {
  if (const char* wanted = fault_of(fill)) return fail(make_error(ErrorKind::bad_value, wanted));
  return {};
}

void blend(Image& target, const PixelRect& cell, std::span<const float> alpha, const Fill& fill,
           const Rect& box, float opacity) {
  assert(target.format() == PixelFormat::rgba8);
  assert(alpha.size() == static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  const bool solid = fill.is_solid();
  const FillSampler sampler(fill, box, 0);
  Light light = to_light(fill.corners[0]);
  const int left = std::max(0, -cell.x), right = std::min(cell.width, target.width() - cell.x);
  const int top = std::max(0, -cell.y), bottom = std::min(cell.height, target.height() - cell.y);
  for (int y = top; y < bottom; ++y) {
    const float* strengths =
        alpha.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width);
    std::uint8_t* row = target.row(cell.y + y);
    for (int x = left; x < right; ++x) {
      if (strengths[x] <= 0) continue;
      if (!solid) {
        light = to_light(
            sampler.at({static_cast<float>(cell.x + x) + 0.5F, static_cast<float>(cell.y + y) + 0.5F}));
      }
      blend_pixel(row + static_cast<std::size_t>(cell.x + x) * 4, light, strengths[x] * opacity);
    }
  }
}

}  // namespace grafema
