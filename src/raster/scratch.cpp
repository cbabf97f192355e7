// SPDX-License-Identifier: MIT
// Prepares the boundary that all kinds of picture are made from.
#include "raster/scratch.hpp"

#include <algorithm>
#include <cmath>

namespace grafema {

RasterScratch::RasterScratch() : memory_(std::make_unique<Memory>()) {}
RasterScratch::~RasterScratch() = default;
RasterScratch::RasterScratch(RasterScratch&&) noexcept = default;
RasterScratch& RasterScratch::operator=(RasterScratch&&) noexcept = default;

namespace detail {

Result<void> check_cell(const Transform& map, const PixelRect& cell, std::size_t room) {
  const bool finite = std::isfinite(map.xx) && std::isfinite(map.xy) && std::isfinite(map.yx) &&
                      std::isfinite(map.yy) && std::isfinite(map.dx) && std::isfinite(map.dy);
  if (!finite) return bad_value("a transform of finite numbers");
  const bool sized = cell.width >= 0 && cell.height >= 0 &&
                     static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height) == room;
  if (!sized) return bad_value("room for every pixel of the cell");
  return {};
}

Transform in_cell(const Transform& map, const PixelRect& cell) {
  Transform out = map;
  out.dx -= static_cast<float>(cell.x);
  out.dy -= static_cast<float>(cell.y);
  return out;
}

Result<void> make_boundary(const Contours& contours, const Transform& map, const PixelRect& cell,
                           std::size_t out_size, double tolerance, RasterScratch::Memory& memory) {
  if (const Result<void> checked = check_cell(map, cell, out_size); !checked) return checked;
  if (contours.united) {
    flatten(contours, in_cell(map, cell), tolerance, memory.boundary);
    // A map that does not turn y over shows the outline in a mirror: its filled side is on the left.
    if (map.xx * map.yy - map.xy * map.yx > 0) {
      for (Segment& s : memory.boundary) s = {s.x1, s.y1, s.x0, s.y0};
    }
    return {};
  }
  flatten(contours, in_cell(map, cell), tolerance, memory.flat);
  if (!memory.steps_given) memory.steps = Steps();
  if (memory.uniter.unite(memory.flat, memory.boundary, memory.steps)) return {};
  return fail(make_error(ErrorKind::does_not_fit, "an outline whose parts cross in bounded work"));
}

std::pair<int, int> centers_between(double low, double high, int count) {
  const double first = std::clamp(std::ceil(low - 0.5), 0.0, static_cast<double>(count));
  const double last = std::clamp(std::floor(high - 0.5) + 1, 0.0, static_cast<double>(count));
  return {static_cast<int>(first), static_cast<int>(last)};
}

void find_inside(const PixelRect& cell, RasterScratch::Memory& memory) {
  const auto row_size = static_cast<std::size_t>(cell.width) + 1;
  memory.turns.assign(row_size * static_cast<std::size_t>(cell.height), 0);
  for (const Segment& s : memory.boundary) {
    const bool up = s.y1 < s.y0;  // the filled side is on the right
    const double low = up ? s.y1 : s.y0, high = up ? s.y0 : s.y1;
    const auto [first, last] = centers_between(low, high, cell.height);
    if (first >= last) continue;
    const double slope = (s.x1 - s.x0) / (s.y1 - s.y0);
    for (int row = first; row < last; ++row) {
      const double y = row + 0.5;
      if (y >= high) break;  // the end belongs to the next piece
      const double x = s.x0 + (y - s.y0) * slope;
      const auto column =
          static_cast<std::size_t>(std::clamp(std::ceil(x - 0.5), 0.0, static_cast<double>(cell.width)));
      std::int8_t& turn = memory.turns[static_cast<std::size_t>(row) * row_size + column];
      turn = static_cast<std::int8_t>(turn + (up ? 1 : -1));
    }
  }
}

}  // namespace detail
}  // namespace grafema
