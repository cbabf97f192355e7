// SPDX-License-Identifier: MIT
// Gradients in sRGB, linear light and Oklab; images mixed between texels and levels.
#include "raster/fill_math.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "base/numbers.hpp"

namespace grafema::detail {
namespace {

using Channels = std::array<float, 4>;

float lerp(float a, float b, float t) { return a + (b - a) * t; }

Channels lerp(const Channels& a, const Channels& b, float t) {
  return {lerp(a[0], b[0], t), lerp(a[1], b[1], t), lerp(a[2], b[2], t), lerp(a[3], b[3], t)};
}

float cube_root(float v) { return static_cast<float>(root(double{std::clamp(v, 0.0F, 1.0F)}, 3)); }

/// Of linear light (CSS Color 4, section 18).
std::array<float, 3> to_oklab(float red, float green, float blue) {
  const float l = cube_root(0.4122214708F * red + 0.5363325363F * green + 0.0514459929F * blue),
              m = cube_root(0.2119034982F * red + 0.6806995451F * green + 0.1073969566F * blue),
              s = cube_root(0.0883024619F * red + 0.2817188376F * green + 0.6299787005F * blue);
  return {0.2104542553F * l + 0.7936177850F * m - 0.0040720468F * s,
          1.9779984951F * l - 2.4285922050F * m + 0.4505937099F * s,
          0.0259040371F * l + 0.7827717662F * m - 0.8086757660F * s};
}

std::array<float, 3> from_oklab(float lightness, float a, float b) {
  const float l = lightness + 0.3963377774F * a + 0.2158037573F * b,
              m = lightness - 0.1055613458F * a - 0.0638541728F * b,
              s = lightness - 0.0894841775F * a - 1.2914855480F * b;
  const float l3 = l * l * l, m3 = m * m * m, s3 = s * s * s;
  return {4.0767416621F * l3 - 3.3077115913F * m3 + 0.2309699292F * s3,
          -1.2684380046F * l3 + 2.6097574011F * m3 - 0.3413193965F * s3,
          -0.0041960863F * l3 - 0.7034186147F * m3 + 1.7076147010F * s3};
}

Channels in_space(const Color& c, MixSpace space, float opacity) {
  std::array<float, 3> v = {c.red, c.green, c.blue};
  if (space != MixSpace::srgb) v = {to_linear(v[0]), to_linear(v[1]), to_linear(v[2])};
  if (space == MixSpace::oklab) v = to_oklab(v[0], v[1], v[2]);
  const float alpha = c.alpha * opacity;
  return {v[0] * alpha, v[1] * alpha, v[2] * alpha, alpha};
}

/// Back to premultiplied sRGB.
Channels from_space(const Channels& mixed, MixSpace space) {
  const float alpha = mixed[3];
  if (space == MixSpace::srgb || alpha <= 0) return mixed;
  std::array<float, 3> v = {mixed[0] / alpha, mixed[1] / alpha, mixed[2] / alpha};
  if (space == MixSpace::oklab) v = from_oklab(v[0], v[1], v[2]);
  return {to_srgb(v[0]) * alpha, to_srgb(v[1]) * alpha, to_srgb(v[2]) * alpha, alpha};
}

/// Where a linear gradient goes on a box, of length 1.
PixelPoint direction(const FillRecord& fill, float width, float height) {
  PixelPoint d{fill.shape[0], fill.shape[1]};
  if (fill.extent <= 0) return d;
  d = {d.x * height, d.y * width};
  const float length = std::sqrt(d.x * d.x + d.y * d.y);
  return length > 0 ? PixelPoint{d.x / length, d.y / length} : PixelPoint{0, 1};
}

/// The radii of a radial gradient on a box, pixels.
PixelPoint radii(const FillRecord& fill, float width, float height) {
  const auto extent = static_cast<RadialExtent>(static_cast<int>(fill.extent));
  if (extent == RadialExtent::ellipse) return {fill.shape[2] * width, fill.shape[3] * height};
  const float left = std::abs(fill.shape[0]) * width, right = std::abs(1 - fill.shape[0]) * width,
              top = std::abs(fill.shape[1]) * height, bottom = std::abs(1 - fill.shape[1]) * height;
  const float near_x = std::min(left, right), near_y = std::min(top, bottom), far_x = std::max(left, right),
              far_y = std::max(top, bottom);
  const float radius = extent == RadialExtent::closest_side     ? std::min(near_x, near_y)
                       : extent == RadialExtent::farthest_side  ? std::max(far_x, far_y)
                       : extent == RadialExtent::closest_corner ? std::sqrt(near_x * near_x + near_y * near_y)
                                                                : std::sqrt(far_x * far_x + far_y * far_y);
  return {radius, radius};
}

/// The size of one copy of an image on a box, pixels.
PixelPoint copy_size(const FillRecord& fill, float width, float height) {
  PixelPoint size{fill.image[0], fill.image[1]};
  const auto fit = static_cast<ImageFit>(static_cast<int>(fill.extent));
  const float x = width / size.x, y = height / size.y;
  if (fit == ImageFit::fill) size = {width, height};
  if (fit == ImageFit::cover) size = {size.x * std::max(x, y), size.y * std::max(x, y)};
  if (fit == ImageFit::contain) size = {size.x * std::min(x, y), size.y * std::min(x, y)};
  return {std::max(size.x * fill.shape[0], 1e-3F), std::max(size.y * fill.shape[1], 1e-3F)};
}

int wrapped(int i, int count, bool repeats) {
  if (!repeats) return std::clamp(i, 0, count - 1);
  i %= count;
  return i < 0 ? i + count : i;
}

/// Light times alpha, mixed between four texels of a level.
Channels texels_at(const Image& level, PixelPoint place, bool repeats) {
  // Whole copies make no difference, and what lies far beside the one copy is its edge.
  const auto near = [repeats](float v) {
    if (!(std::abs(v) < 1e9F)) return 0.0F;
    return repeats ? v - std::floor(v) : std::clamp(v, -1.0F, 2.0F);
  };
  const float x = near(place.x) * static_cast<float>(level.width()) - 0.5F,
              y = near(place.y) * static_cast<float>(level.height()) - 0.5F;
  const float left = std::floor(x), top = std::floor(y);
  const auto texel = [&](int dx, int dy) {
    const std::uint8_t* p =
        level.row(wrapped(static_cast<int>(top) + dy, level.height(), repeats)) +
        static_cast<std::size_t>(wrapped(static_cast<int>(left) + dx, level.width(), repeats)) * 4;
    return Channels{light_of(p[0]), light_of(p[1]), light_of(p[2]), static_cast<float>(p[3]) / 255.0F};
  };
  return lerp(lerp(texel(0, 0), texel(1, 0), x - left), lerp(texel(0, 1), texel(1, 1), x - left), y - top);
}

/// How much of a pixel lies on the one copy.
float share_inside(float at, float wide) {
  return std::clamp((0.5F - std::abs(at - 0.5F)) / std::max(wide, 1e-6F) + 0.5F, 0.0F, 1.0F);
}

}  // namespace

FillRecord fill_record(const Fill& fill, float opacity) {
  FillRecord r;
  r.kind = static_cast<float>(fill.kind);
  r.space = static_cast<float>(fill.mixed_in), r.count = static_cast<float>(fill.stop_count);
  for (std::size_t i = 0; i < std::min<std::size_t>(fill.stop_count, Fill::kMaxStops); ++i) {
    r.stops[i] = fill.stops[i].at;
    r.colors[i] = in_space(fill.stops[i].color, fill.mixed_in, opacity);
  }
  if (fill.kind == FillKind::linear) {
    const SineCosine way = sine_cosine(double{fill.angle});
    r.shape = {static_cast<float>(way.sine), static_cast<float>(-way.cosine), 0, 0};
    if (fill.to_corner) {
      r.extent = 1;
      r.shape = {way.sine < 0 ? -1.0F : 1.0F, way.cosine > 0 ? -1.0F : 1.0F, 0, 0};
    }
  } else if (fill.kind == FillKind::radial) {
    r.shape = {fill.center.x, fill.center.y, fill.radius.x, fill.radius.y};
    r.extent = static_cast<float>(fill.extent);
  } else if (fill.image) {
    r.shape = {fill.scale.x, fill.scale.y, fill.offset.x, fill.offset.y};
    r.scroll = {fill.scroll.x, fill.scroll.y};
    r.extent = static_cast<float>(fill.fit), r.repeats = fill.repeats && !fill.is_sliced() ? 1.0F : 0.0F;
    if (fill.is_sliced()) {
      const auto whole = [](float v) { return std::clamp(std::round(v), 0.0F, 4095.0F); };
      const auto both = [&](std::size_t a, std::size_t b) {
        return whole(fill.slices[a]) + 4096 * whole(fill.slices[b]);
      };
      r.slices = {both(0, 2), both(3, 1)};
    }
    r.image = {static_cast<float>(fill.image->width()), static_cast<float>(fill.image->height())};
    const Color& tint = fill.corners[0];
    r.colors[0] = {tint.red, tint.green, tint.blue, tint.alpha * opacity};
  }
  return r;
}

FillPlace corner_place(const Rect& box) {
  const auto one = [](float low, float high) {
    const float scale = high > low ? 1 / (high - low) : 0.0F;
    return std::pair(scale, -low * scale);
  };
  const auto [sx, ox] = one(box.left, box.right);
  const auto [sy, oy] = one(box.top, box.bottom);
  return {{sx, sy}, {ox, oy}};
}

FillPlace fill_place(const FillRecord& fill, const Rect& box, float seconds) {
  const float width = std::max(box.right - box.left, 1e-6F), height = std::max(box.bottom - box.top, 1e-6F);
  const auto kind = static_cast<FillKind>(static_cast<int>(fill.kind));
  if (kind == FillKind::corners) return corner_place(box);
  if (kind == FillKind::linear) {
    const PixelPoint d = direction(fill, width, height);
    const float length = std::max(std::abs(d.x) * width + std::abs(d.y) * height, 1e-6F);
    const PixelPoint scale{d.x / length, d.y / length};
    return {scale, {0.5F - (box.left + width / 2) * scale.x, -(box.top + height / 2) * scale.y}};
  }
  if (kind == FillKind::radial) {
    const PixelPoint r = radii(fill, width, height);
    const PixelPoint scale{1 / std::max(r.x, 1e-6F), 1 / std::max(r.y, 1e-6F)};
    return {scale,
            {-(box.left + fill.shape[0] * width) * scale.x, -(box.top + fill.shape[1] * height) * scale.y}};
  }
  if (is_sliced(fill)) return corner_place(box);
  const PixelPoint size = copy_size(fill, width, height);
  const PixelPoint scale{1 / size.x, 1 / size.y};
  // Whole copies make no difference where it repeats: small numbers are exact ones.
  const auto moved = [&](float by, float per_second, float whole) {
    const float copies = (by + per_second * seconds) / whole;
    return fill.repeats > 0 ? copies - std::floor(copies) : copies;
  };
  return {scale,
          {-box.left * scale.x - moved(fill.shape[2], fill.scroll[0], size.x),
           -box.top * scale.y - moved(fill.shape[3], fill.scroll[1], size.y)}};
}

namespace {

/// A fraction of a side as one of the image's: its borders `low` and `high`, of `image` pixels, are `scale`
/// times as long on the side.
float on_slices(float at, float side, float scale, float low, float high, float image) {
  const float middle = std::max(image - low - high, 0.0F), both = std::max((low + high) * scale, 1e-6F);
  const float by = std::min(side / both, 1.0F) * scale, first = low * by, last = high * by;
  const float x = std::clamp(at, 0.0F, 1.0F) * side;
  if (x < first) return x / by / image;
  if (side - x < last) return 1 - (side - x) / by / image;
  return (low + (x - first) / std::max(side - first - last, 1e-6F) * middle) / image;
}

}  // namespace

PixelPoint slice_place(const FillRecord& fill, PixelPoint at, PixelPoint size) {
  const auto low = [](float both) { return both - std::floor(both / 4096) * 4096; };
  const auto high = [](float both) { return std::floor(both / 4096); };
  return {on_slices(at.x, size.x, fill.shape[0], low(fill.slices[1]), high(fill.slices[1]), fill.image[0]),
          on_slices(at.y, size.y, fill.shape[1], low(fill.slices[0]), high(fill.slices[0]), fill.image[1])};
}

std::array<float, 4> gradient_at(const FillRecord& fill, PixelPoint place) {
  const bool is_linear = static_cast<int>(fill.kind) == static_cast<int>(FillKind::linear);
  const float t = is_linear ? place.x + place.y : std::sqrt(place.x * place.x + place.y * place.y);
  const auto count = static_cast<std::size_t>(fill.count);
  std::size_t above = 0;
  while (above < count && t >= fill.stops[above]) ++above;
  const auto space = static_cast<MixSpace>(static_cast<int>(fill.space));
  if (above == 0 || above == count) return from_space(fill.colors[above == 0 ? 0 : count - 1], space);
  const float low = fill.stops[above - 1], high = fill.stops[above];
  return from_space(lerp(fill.colors[above - 1], fill.colors[above], (t - low) / (high - low)), space);
}

std::array<float, 4> light_at(const FillImage& image, PixelPoint place, PixelPoint wide, bool repeats) {
  const std::span<const Image> levels = image.levels();
  const float texels =
      std::max(wide.x * static_cast<float>(image.width()), wide.y * static_cast<float>(image.height()));
  const float level = texels > 1 ? std::min(std::log2(texels), static_cast<float>(levels.size() - 1)) : 0.0F;
  const auto first = static_cast<std::size_t>(level);
  Channels light = texels_at(levels[first], place, repeats);
  if (const float between = level - static_cast<float>(first); between > 0) {
    light = lerp(light, texels_at(levels[first + 1], place, repeats), between);
  }
  return light;
}

std::array<float, 4> image_at(const FillRecord& fill, const FillImage& image, PixelPoint place,
                              PixelPoint wide) {
  const bool repeats = fill.repeats > 0, is_whole = repeats || is_sliced(fill);
  const Channels light = light_at(image, place, wide, repeats);
  const float share = is_whole ? 1.0F : share_inside(place.x, wide.x) * share_inside(place.y, wide.y);
  const float alpha = light[3];
  if (alpha <= 0 || share <= 0) return {};
  const Channels& tint = fill.colors[0];
  const float whole = alpha * share * tint[3];
  return {to_srgb(light[0] / alpha) * tint[0] * whole, to_srgb(light[1] / alpha) * tint[1] * whole,
          to_srgb(light[2] / alpha) * tint[2] * whole, whole};
}

}  // namespace grafema::detail
