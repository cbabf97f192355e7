// SPDX-License-Identifier: MIT
// From outlines to pictures: exact area, exact distance, and distances that keep corners.
#pragma once

#include <memory>
#include <span>

#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// Working memory of the rasterizer. Keep one for each thread and hand it in again: it grows to what glyphs
/// need and then allocates nothing more.
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

/// For each pixel of `cell`, the exact area of it that the mapped outline fills under the non-zero winding
/// rule, 0..1, overlapping contours counted once. Fastest where the outline is `united`. Curves are followed
/// to 0.002 pixels. `out` has `cell.width * cell.height` numbers, rows from the top. Fails with `bad_value`
/// where the map is not finite or `out` has another size.
GRAFEMA_API Result<void> rasterize_coverage(const Contours& contours, const Transform& to_pixels,
                                            const PixelRect& cell, std::span<float> out,
                                            RasterScratch& scratch);

/// For each pixel of `cell`, the distance in pixels from its center to the boundary of the filled shape,
/// positive inside, clamped to `reach` (above 0) on either side. Edges between overlapping parts are no
/// boundary. Curves are followed to 0.01 pixels. `out` and errors as above.
GRAFEMA_API Result<void> rasterize_distance(const Contours& contours, const Transform& to_pixels,
                                            const PixelRect& cell, float reach, std::span<float> out,
                                            RasterScratch& scratch);

/// For each pixel four distances as above: three whose median has the same zero line as the true distance but
/// keeps corners sharp and curves round when it is magnified, and the true one. `out` has four numbers a
/// pixel. The outline should be `united` (a copy is made and united otherwise); where it can't be, all four
/// are the true distance. `levels` is the largest of the values that the texels will be stored as, 255 or
/// 65535: what would err once they are rounded is mended; 0: they are not rounded. Errors as above.
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
