// SPDX-License-Identifier: MIT
// From outlines to pictures: exact area, exact distance, and distances that keep corners.
#pragma once

#include <memory>
#include <span>

#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// Working memory of the rasterizer. Keep one for each thread and hand it to every call: it grows to what the
/// glyphs need, after which nothing is allocated.
class GRAFEMA_API RasterScratch {
 public:
  RasterScratch();
  ~RasterScratch();
  RasterScratch(RasterScratch&&) noexcept;
  RasterScratch& operator=(RasterScratch&&) noexcept;

  struct Memory;
  Memory& memory() { return *memory_; }

 private:
  std::unique_ptr<Memory> memory_;
};

/// Writes for each pixel of `cell` the share of its area, 0..1, that the mapped outline fills under the
/// non-zero winding rule; overlapping contours count once. The area is exact for curves that are followed to
/// 0.002 pixels. `out` has `cell.width * cell.height` numbers, rows from the top. Fastest where the outline
/// is `united`. Fails with `bad_value` where the map is not finite or `out` has another size.
GRAFEMA_API Result<void> rasterize_coverage(const Contours& contours, const Transform& to_pixels,
                                            const PixelRect& cell, std::span<float> out,
                                            RasterScratch& scratch);

/// Writes for each pixel of `cell` the distance in pixels from its center to the boundary of the filled
/// shape, positive inside, clamped to `reach` (above 0) on either side. Edges inside the shape, where
/// contours overlap, are no boundary. Curves are followed to 0.01 pixels. `out` and errors as above.
GRAFEMA_API Result<void> rasterize_distance(const Contours& contours, const Transform& to_pixels,
                                            const PixelRect& cell, float reach, std::span<float> out,
                                            RasterScratch& scratch);

/// Four distances for each pixel, as above: three channels whose median is zero on the same boundary but
/// keeps corners sharp and curves round when the picture is magnified, and in the fourth the true distance.
/// `out` has four numbers a pixel. `levels` is the largest value that a texel will be stored as, 255 or
/// 65535, so that errors which come of rounding are mended too; 0: texels are not rounded. An outline that is
/// not `united` is copied and united first; where that is not possible all four channels are the true
/// distance. Errors as above.
GRAFEMA_API Result<void> rasterize_distance_channels(const Contours& contours, const Transform& to_pixels,
                                                     const PixelRect& cell, float reach, std::span<float> out,
                                                     RasterScratch& scratch, unsigned levels = 0);

/// The value of an 8-bit or 16-bit coverage channel: `round(max * area)`, `max` being 255 or 65535.
constexpr unsigned coverage_value(float area, unsigned max) {
  const float v = area < 0 ? 0 : area > 1 ? 1 : area;
  return static_cast<unsigned>(v * static_cast<float>(max) + 0.5F);
}

/// The value of a distance channel: `round(max * clamp(0.5 + distance / (2 * reach), 0, 1))`.
constexpr unsigned distance_value(float distance, float reach, unsigned max) {
  return coverage_value(0.5F + distance / (2 * reach), max);
}

}  // namespace grafema
