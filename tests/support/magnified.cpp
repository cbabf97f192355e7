// SPDX-License-Identifier: MIT
// Mixes texels as a device does and compares with the distance of the shape itself.
#include "support/magnified.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::test {
namespace {

float median(const float* t) { return std::max(std::min(t[0], t[1]), std::min(std::max(t[0], t[1]), t[2])); }

}  // namespace

Result<WrongSamples> count_wrong(const Contours& united, float scale, const Magnifying& how,
                                 RasterScratch& scratch) {
  const PixelRect cell = rounded_out(to_pixels(bounds(united), scale).grown(how.reach));
  const auto width = static_cast<std::size_t>(cell.width), height = static_cast<std::size_t>(cell.height);
  std::vector<float> texels(width * height * 4);
  if (const Result<void> made = rasterize_distance_channels(united, glyph_transform(scale), cell, how.reach,
                                                            texels, scratch, how.levels);
      !made) {
    return fail(made.error());
  }
  for (float& v : texels) {
    v = (static_cast<float>(distance_value(v, how.reach, how.levels)) / static_cast<float>(how.levels) -
         0.5F) *
        2 * how.reach;
  }
  const auto times = static_cast<float>(how.times);
  const PixelRect large{cell.x * how.times, cell.y * how.times, cell.width * how.times,
                        cell.height * how.times};
  std::vector<float> truth(static_cast<std::size_t>(large.width) * static_cast<std::size_t>(large.height));
  if (const Result<void> made =
          rasterize_distance(united, glyph_transform(scale * times), large, times, truth, scratch);
      !made) {
    return fail(made.error());
  }
  WrongSamples wrong;
  for (int y = how.times; y < large.height - how.times; ++y) {
    for (int x = how.times; x < large.width - how.times; ++x) {
      const float real = truth[static_cast<std::size_t>(y) * static_cast<std::size_t>(large.width) +
                               static_cast<std::size_t>(x)];
      if (std::abs(real) < how.either * times) continue;
      const float u = (static_cast<float>(x) + 0.5F) / times - 0.5F,
                  v = (static_cast<float>(y) + 0.5F) / times - 0.5F;
      const int i = static_cast<int>(u), j = static_cast<int>(v);
      const float* at =
          texels.data() + (static_cast<std::size_t>(j) * width + static_cast<std::size_t>(i)) * 4;
      const float* below = at + width * 4;
      float mixed[4];
      for (int k = 0; k < 4; ++k) {
        const float top = at[k] + (at[k + 4] - at[k]) * (u - static_cast<float>(i)),
                    bottom = below[k] + (below[k + 4] - below[k]) * (u - static_cast<float>(i));
        mixed[k] = top + (bottom - top) * (v - static_cast<float>(j));
      }
      const bool spoiled = (median(mixed) > 0) != (real > 0) && (mixed[3] > 0) == (real > 0);
      if (spoiled && std::abs(real) > wrong.farthest * times) {
        wrong.farthest = std::abs(real) / times;
        wrong.where = {u, v};
      }
      wrong.single += (mixed[3] > 0) != (real > 0) ? 1 : 0;
      wrong.median += (median(mixed) > 0) != (real > 0) ? 1 : 0;
    }
  }
  return wrong;
}

}  // namespace grafema::test
