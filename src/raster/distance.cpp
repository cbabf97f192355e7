// SPDX-License-Identifier: MIT
// Exact distance: each piece of the boundary looks at the pixels within reach of it and no others.
#include <algorithm>
#include <cmath>

#include "base/four.hpp"
#include "raster/scratch.hpp"

namespace grafema {
namespace {

using detail::Four;

constexpr double kTolerance = 0.01;  // pixels; half of what a distance picture promises

constexpr Four kSteps = {0.5F, 1.5F, 2.5F, 3.5F};

/// Lowers the squared distances of the pixels of a row, from `first` to `last` and up to three more, to that
/// of the piece.
void lower_row(float* squared, int first, int last, float row_center, const Segment& s) {
  const auto ax = static_cast<float>(s.x0), ay = static_cast<float>(s.y0);
  const auto ex = static_cast<float>(s.x1 - s.x0), ey = static_cast<float>(s.y1 - s.y0);
  const float inverse = 1.0F / (ex * ex + ey * ey), py = row_center - ay;
  const Four along_y = detail::all(py * ey * inverse), along_x = detail::all(ex * inverse), zero = {},
             one = detail::all(1);
  Four px = detail::all(static_cast<float>(first) - ax) + kSteps;
  for (int x = first; x < last; x += 4) {
    const Four t = detail::smaller(detail::larger(px * along_x + along_y, zero), one);
    const Four dx = px - t * ex, dy = py - t * ey;
    detail::store(squared + x, detail::smaller(detail::load(squared + x), dx * dx + dy * dy));
    px += 4.0F;
  }
}

void lower(float* squared, const PixelRect& cell, float reach, const Segment& s) {
  auto [left, right] =
      detail::centers_between(std::min(s.x0, s.x1) - reach, std::max(s.x0, s.x1) + reach, cell.width);
  const auto [top, bottom] =
      detail::centers_between(std::min(s.y0, s.y1) - reach, std::max(s.y0, s.y1) + reach, cell.height);
  if (left >= right) return;
  left -= left % 4;
  const std::size_t stride = detail::padded(cell.width);
  for (int y = top; y < bottom; ++y) {
    lower_row(squared + static_cast<std::size_t>(y) * stride, left, right, static_cast<float>(y) + 0.5F, s);
  }
}

}  // namespace

Result<void> rasterize_distance(const Contours& contours, const Transform& to_pixels, const PixelRect& cell,
                                float reach, std::span<float> out, RasterScratch& scratch) {
  if (!(reach > 0) || !std::isfinite(reach)) {
    return bad_value("a reach above 0 pixels");
  }
  RasterScratch::Memory& memory = scratch.memory();
  if (const Result<void> found =
          detail::make_boundary(contours, to_pixels, cell, out.size(), kTolerance, memory);
      !found) {
    return found;
  }
  const std::size_t stride = detail::padded(cell.width), width = static_cast<std::size_t>(cell.width);
  memory.squares.assign(stride * static_cast<std::size_t>(cell.height), reach * reach);
  for (const Segment& s : memory.boundary) lower(memory.squares.data(), cell, reach, s);
  detail::find_inside(cell, memory);
  for (std::size_t y = 0; y < static_cast<std::size_t>(cell.height); ++y) {
    const float* squares = memory.squares.data() + y * stride;
    const std::int8_t* turns = memory.turns.data() + y * (width + 1);
    float* to = out.data() + y * width;
    int inside = 0;
    for (std::size_t x = 0; x < width; ++x) {
      inside += turns[x];
      const float distance = std::sqrt(squares[x]);
      to[x] = inside > 0 ? distance : -distance;
    }
  }
  return {};
}

}  // namespace grafema
