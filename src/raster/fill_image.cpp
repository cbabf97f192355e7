// SPDX-License-Identifier: MIT
// Makes the levels of images that letters are filled with, each texel the mean of four in linear light.
#include "grafema/raster/fill_image.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>

#include "base/light.hpp"
#include "grafema/base/color.hpp"

namespace grafema {
namespace {

/// Light times alpha of a pixel of any format.
detail::Light light_at(const Image& image, int x, int y) {
  const auto most = static_cast<float>(detail::largest_value(image.format()));
  const auto channel = [&](int c) { return static_cast<float>(image.value(x, y, c)) / most; };
  const int channels = channel_count(image.format());
  const float alpha = channels == 4 ? channel(3) : 1.0F;
  const auto light = [&](int c) { return to_linear(channel(channels == 1 ? 0 : c)) * alpha; };
  return {light(0), light(1), light(2), alpha};
}

void store(std::uint8_t* to, const detail::Light& light) {
  to[0] = detail::to_byte(to_srgb(light.red)), to[1] = detail::to_byte(to_srgb(light.green));
  to[2] = detail::to_byte(to_srgb(light.blue)), to[3] = detail::to_byte(light.alpha);
}

/// The mean of the texels that a texel of half the size stands for.
detail::Light mean_at(const Image& level, int x, int y) {
  detail::Light sum;
  const int right = std::min(2 * x + 1, level.width() - 1), bottom = std::min(2 * y + 1, level.height() - 1);
  for (const int py : {2 * y, bottom}) {
    for (const int px : {2 * x, right}) {
      const std::uint8_t* p = level.row(py) + static_cast<std::size_t>(px) * 4;
      sum.red += detail::light_of(p[0]) / 4, sum.green += detail::light_of(p[1]) / 4;
      sum.blue += detail::light_of(p[2]) / 4, sum.alpha += static_cast<float>(p[3]) / 255.0F / 4;
    }
  }
  return sum;
}

template <class LightAt>
Result<Image> made(int width, int height, LightAt at) {
  Result<Image> out = Image::make(width, height, PixelFormat::rgba8);
  for (int y = 0; out && y < height; ++y) {
    for (int x = 0; x < width; ++x) store(out->row(y) + static_cast<std::size_t>(x) * 4, at(x, y));
  }
  return out;
}

}  // namespace

Result<std::shared_ptr<const FillImage>> FillImage::make(const Image& image) {
  static std::atomic<std::uint64_t> last = 0;
  const int longest = std::max(image.width(), image.height());
  if (std::min(image.width(), image.height()) < 1 || longest > kMaxSide) {
    return fail(make_error(ErrorKind::bad_value, "an image with sides of 1 to 4096 pixels",
                           fmt::format("{} x {}", image.width(), image.height())));
  }
  std::shared_ptr<FillImage> out(new FillImage());
  out->id_ = ++last;
  for (bool done = false; !done;) {
    const Image* before = out->levels_.empty() ? nullptr : &out->levels_.back();
    Result<Image> level =
        before == nullptr
            ? made(image.width(), image.height(), [&](int x, int y) { return light_at(image, x, y); })
            : made(std::max(before->width() / 2, 1), std::max(before->height() / 2, 1),
                   [&](int x, int y) { return mean_at(*before, x, y); });
    if (!level) return fail(level.error());
    done = level->width() == 1 && level->height() == 1;
    out->levels_.push_back(*std::move(level));
  }
  return std::shared_ptr<const FillImage>(std::move(out));
}

}  // namespace grafema
