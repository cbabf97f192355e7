// SPDX-License-Identifier: MIT
// Finds, places and scales embedded pictures.
#include "raster/embedded_picture.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/light.hpp"

namespace grafema::detail {
namespace {

std::optional<GlyphBitmap> find_picture(const Face& face, GlyphId glyph, float size) {
  const float wanted = std::clamp(std::ceil(size), 1.0F, 65535.0F);
  const std::optional<GlyphBitmap> found = face.find_bitmap(glyph, static_cast<std::uint16_t>(wanted));
  if (!found || found->format != BitmapFormat::png || found->pixels_per_em == 0) return std::nullopt;
  return found;
}

/// Width and height as the picture itself says (PNG, IHDR).
std::optional<std::array<std::uint32_t, 2>> picture_size(std::span<const std::byte> bytes) {
  if (bytes.size() < 24) return std::nullopt;
  std::array<std::uint32_t, 2> out = {};
  for (std::size_t i = 0; i < 8; ++i) {
    out[i / 4] = out[i / 4] << 8U | std::to_integer<std::uint32_t>(bytes[16 + i]);
  }
  constexpr std::uint32_t kMax = 4096;
  return out[0] > 0 && out[1] > 0 && out[0] <= kMax && out[1] <= kMax ? std::optional(out) : std::nullopt;
}

using detail::Light;
using detail::to_byte;

/// One pixel, nothing outside the picture.
Light light_at(const Image& picture, int x, int y) {
  if (x < 0 || y < 0 || x >= picture.width() || y >= picture.height()) return {};
  const int channels = channel_count(picture.format());
  const auto max = static_cast<float>(detail::largest_value(picture.format()));
  const auto value = [&](int c) { return static_cast<float>(picture.value(x, y, c)) / max; };
  const float alpha = channels == 4 ? value(3) : 1;
  if (channels == 1) return {to_linear(value(0)), to_linear(value(0)), to_linear(value(0)), 1};
  return {to_linear(value(0)) * alpha, to_linear(value(1)) * alpha, to_linear(value(2)) * alpha, alpha};
}

void add(Light& sum, const Light& l, float by) {
  sum.red += l.red * by, sum.green += l.green * by, sum.blue += l.blue * by, sum.alpha += l.alpha * by;
}

/// Between four texels.
void add_sample(const Image& picture, float x, float y, float share, Light& sum) {
  const float px = x - 0.5F, py = y - 0.5F;
  const int i = static_cast<int>(std::floor(px)), j = static_cast<int>(std::floor(py));
  const float fx = px - static_cast<float>(i), fy = py - static_cast<float>(j);
  add(sum, light_at(picture, i, j), (1 - fx) * (1 - fy) * share);
  add(sum, light_at(picture, i + 1, j), fx * (1 - fy) * share);
  add(sum, light_at(picture, i, j + 1), (1 - fx) * fy * share);
  add(sum, light_at(picture, i + 1, j + 1), fx * fy * share);
}

void put(const Light& l, std::uint8_t* pixel) {
  const float under = static_cast<float>(pixel[3]) / 255 * (1 - l.alpha), alpha = l.alpha + under;
  if (alpha <= 0) return;
  const std::array<float, 3> light = {l.red, l.green, l.blue};
  for (std::size_t c = 0; c < 3; ++c) {
    pixel[c] = to_byte(to_srgb((light[c] + detail::light_of(pixel[c]) * under) / alpha));
  }
  pixel[3] = to_byte(alpha);
}

}  // namespace

std::optional<FontRect> embedded_box(const Face& face, GlyphId glyph, float size) {
  const std::optional<GlyphBitmap> found = find_picture(face, glyph, size);
  const auto sides = found ? picture_size(found->bytes) : std::nullopt;
  if (!sides) return std::nullopt;
  const float unit = face.units_per_em() / static_cast<float>(found->pixels_per_em);
  const float left = found->offset.x,
              top = found->from_bottom ? found->offset.y - static_cast<float>((*sides)[1]) : found->offset.y;
  return FontRect{left * unit, -(top + static_cast<float>((*sides)[1])) * unit,
                  (left + static_cast<float>((*sides)[0])) * unit, -top * unit};
}

Result<bool> paint_embedded(const Face& face, GlyphId glyph, const Transform& map,
                            const ColorPaintOptions& options, Image& target) {
  const std::optional<FontRect> box =
      options.read_picture ? embedded_box(face, glyph, options.size) : std::nullopt;
  if (!box) return false;
  const std::optional<GlyphBitmap> found = find_picture(face, glyph, options.size);
  const Result<Image> picture = options.read_picture(found->bytes);
  if (!picture) return fail(picture.error());
  const double determinant = double{map.xx} * map.yy - double{map.xy} * map.yx;
  if (!(std::abs(determinant) > 1e-20)) return true;
  const float texel = static_cast<float>(found->pixels_per_em) / face.units_per_em();
  // How many texels a target pixel sees along a side tells how many samples it takes.
  const double texels = std::sqrt(texel * texel / std::abs(determinant));
  const int n = std::clamp(static_cast<int>(std::ceil(texels)), 1, 16);
  const float share = 1.0F / static_cast<float>(n * n);
  for (int y = 0; y < target.height(); ++y) {
    for (int x = 0; x < target.width(); ++x) {
      Light sum;
      for (int k = 0; k < n * n; ++k) {
        const int column = k % n, row = k / n;
        const double px = x + (column + 0.5) / n - map.dx, py = y + (row + 0.5) / n - map.dy;
        const double u = (map.yy * px - map.xy * py) / determinant,
                     v = (map.xx * py - map.yx * px) / determinant;
        add_sample(*picture, (static_cast<float>(u) - box->x_min) * texel,
                   (box->y_max - static_cast<float>(v)) * texel, share, sum);
      }
      if (sum.alpha > 0) put(sum, target.row(y) + static_cast<std::size_t>(x) * 4);
    }
  }
  return true;
}

}  // namespace grafema::detail
