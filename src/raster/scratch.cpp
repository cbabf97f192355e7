// SPDX-License-Identifier: MIT
// Prepares the boundary that both kinds of picture are made from.
#include "raster/scratch.hpp"

#include <cmath>

namespace grafema {

RasterScratch::RasterScratch() : memory_(std::make_unique<Memory>()) {}
RasterScratch::~RasterScratch() = default;
RasterScratch::RasterScratch(RasterScratch&&) noexcept = default;
RasterScratch& RasterScratch::operator=(RasterScratch&&) noexcept = default;

namespace detail {

Result<void> find_boundary(const Contours& contours, const Transform& map, const PixelRect& cell, std::size_t out_size,
                           double tolerance, RasterScratch::Memory& memory) {
  const bool finite = std::isfinite(map.xx) && std::isfinite(map.xy) && std::isfinite(map.yx) && std::isfinite(map.yy) &&
                      std::isfinite(map.dx) && std::isfinite(map.dy);
  if (!finite) return fail(make_error(ErrorKind::bad_value, "a transform of finite numbers"));
  const bool sized = cell.width >= 0 && cell.height >= 0 &&
                     static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height) == out_size;
  if (!sized) return fail(make_error(ErrorKind::bad_value, "room for every pixel of the cell"));
  Transform in_cell = map;
  in_cell.dx -= static_cast<float>(cell.x);
  in_cell.dy -= static_cast<float>(cell.y);
  flatten(contours, in_cell, tolerance, memory.flat);
  memory.uniter.unite(memory.flat, memory.boundary);
  return {};
}

}  // namespace detail
}  // namespace grafema
