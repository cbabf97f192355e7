// SPDX-License-Identifier: MIT
// Mixes texels as a device does and compares with the distance of the shape itself.
#include "support/magnified.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::test {
namespace {

float median(const float* t) { return std::max(std::min(t[0], t[1]), std::min(std::max(t[0], t[1]), t[2])); }

/// The points where the outline turns by more than 15 degrees.
std::vector<FontPoint> find_corners(const Contours& contours) {
  constexpr float kCosine = 0.966F;
  std::vector<FontPoint> corners;
  std::vector<FontPoint> polygon;  // end and control points of one contour; a corner is an end among them
  std::vector<bool> ends;
  const auto close = [&] {
    while (polygon.size() > 1 && polygon.back() == polygon.front()) polygon.pop_back(), ends.pop_back();
    const std::size_t count = polygon.size();
    for (std::size_t i = 0; i < count; ++i) {
      const FontPoint before = polygon[(i + count - 1) % count], at = polygon[i],
                      after = polygon[(i + 1) % count];
      const float ax = at.x - before.x, ay = at.y - before.y, bx = after.x - at.x, by = after.y - at.y;
      const float lengths = std::sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
      if (ends[i] && ax * bx + ay * by < kCosine * lengths) corners.push_back(at);
    }
    polygon.clear(), ends.clear();
  };
  std::size_t next = 0;
  for (const PathCommand command : contours.commands) {
    if (command == PathCommand::moveto || command == PathCommand::closepath) close();
    if (command == PathCommand::closepath) continue;
    const std::size_t takes =
        command == PathCommand::curveto ? 3 : (command == PathCommand::quadratic_curveto ? 2 : 1);
    for (std::size_t k = 0; k < takes; ++k) {
      const FontPoint p = contours.points[next++];
      if (!polygon.empty() && polygon.back() == p) {
        ends.back() = ends.back() || k + 1 == takes;
        continue;
      }
      polygon.push_back(p), ends.push_back(k + 1 == takes);
    }
  }
  close();
  return corners;
}

/// Which samples of the `large` picture lie within a pixel, `times` samples, of a corner.
std::vector<bool> near_corners(const Contours& contours, float scale, const PixelRect& large, int times) {
  std::vector<bool> near(static_cast<std::size_t>(large.width) * static_cast<std::size_t>(large.height));
  for (const FontPoint corner : find_corners(contours)) {
    const int cx = static_cast<int>(corner.x * scale) - large.x,
              cy = static_cast<int>(-corner.y * scale) - large.y;
    for (int y = std::max(cy - times, 0); y < std::min(cy + times, large.height); ++y) {
      for (int x = std::max(cx - times, 0); x < std::min(cx + times, large.width); ++x) {
        if ((x - cx) * (x - cx) + (y - cy) * (y - cy) > times * times) continue;
        near[static_cast<std::size_t>(y) * static_cast<std::size_t>(large.width) +
             static_cast<std::size_t>(x)] = true;
      }
    }
  }
  return near;
}

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
  const std::vector<bool> corner = near_corners(united, scale * times, large, how.times);
  WrongSamples wrong;
  for (int y = how.times; y < large.height - how.times; ++y) {
    for (int x = how.times; x < large.width - how.times; ++x) {
      const std::size_t sample =
          static_cast<std::size_t>(y) * static_cast<std::size_t>(large.width) + static_cast<std::size_t>(x);
      const float real = truth[sample];
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
      const long one = (mixed[3] > 0) != (real > 0) ? 1 : 0,
                 three = (median(mixed) > 0) != (real > 0) ? 1 : 0;
      wrong.single += one, wrong.median += three;
      if (corner[sample]) wrong.single_at_corners += one, wrong.median_at_corners += three;
    }
  }
  return wrong;
}

}  // namespace grafema::test
