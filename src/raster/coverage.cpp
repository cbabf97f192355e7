// SPDX-License-Identifier: MIT
// Exact area coverage: each piece of the boundary deposits what it covers below itself, a sum down the columns follows.
#include <algorithm>
#include <cmath>

#include "raster/scratch.hpp"

namespace grafema {
namespace {

constexpr double kTolerance = 0.002;  // pixels; half of what one step of an 8-bit pixel shows

/// Collects, for each pixel, the change of covered area against the pixel above it.
class Deposit {
 public:
  /// `cells` has one row more than the picture, for what is deposited below its last one.
  Deposit(int width, int height, std::vector<float>& cells) : width_(width), height_(height), cells_(cells) {
    cells_.assign(static_cast<std::size_t>(width) * static_cast<std::size_t>(height + 1), 0.0F);
  }

  /// Cuts the piece at the pixel columns. Running right it covers what is below, running left it takes that away.
  void add(Segment s) {
    if (s.x0 == s.x1) return;
    const double sign = s.x0 < s.x1 ? 1 : -1;
    if (sign < 0) s = {s.x1, s.y1, s.x0, s.y0};
    const double slope = (s.y1 - s.y0) / (s.x1 - s.x0);
    const double from = std::max(s.x0, 0.0), to = std::min(s.x1, static_cast<double>(width_));
    if (from >= to) return;
    double x = from, y = from == s.x0 ? s.y0 : s.y0 + (from - s.x0) * slope;
    for (int column = static_cast<int>(from); x < to; ++column) {
      const double next_x = std::min(column + 1.0, to);
      const double next_y = next_x == s.x1 ? s.y1 : s.y0 + (next_x - s.x0) * slope;
      add_to_column(column, sign * (next_x - x), std::min(y, next_y), std::max(y, next_y));
      x = next_x;
      y = next_y;
    }
  }

 private:
  /// A piece of width `dx` in one column that runs from height `top` to `bottom`: each row takes its share.
  void add_to_column(int column, double dx, double top, double bottom) {
    const double limit = height_;
    if (top >= limit) return;
    if (bottom <= 0) {
      at(column, 0) += static_cast<float>(dx);
      return;
    }
    const double per_row = bottom > top ? dx / (bottom - top) : 0;
    if (top < 0) {
      at(column, 0) += static_cast<float>(-top * per_row);
      dx += top * per_row;
      top = 0;
    }
    int row = static_cast<int>(top);
    while (bottom > row + 1.0 && row < height_) {
      const double share = (row + 1.0 - top) * per_row;
      deposit(column, row, share, (top + row + 1.0) / 2 - row);
      dx -= share;
      top = ++row;
    }
    if (row < height_) deposit(column, row, dx, (top + bottom) / 2 - row);
  }

  /// In `row` the piece has its middle at `depth` of the pixel; the rows below are covered over its whole width.
  void deposit(int column, int row, double dx, double depth) {
    at(column, row) += static_cast<float>(dx * (1 - depth));
    at(column, row + 1) += static_cast<float>(dx * depth);
  }

  float& at(int column, int row) {
    return cells_[static_cast<std::size_t>(row) * static_cast<std::size_t>(width_) + static_cast<std::size_t>(column)];
  }

  int width_, height_;
  std::vector<float>& cells_;
};

}  // namespace

Result<void> rasterize_coverage(const Contours& contours, const Transform& to_pixels, const PixelRect& cell,
                                std::span<float> out, RasterScratch& scratch) {
  RasterScratch::Memory& memory = scratch.memory();
  if (const Result<void> found = detail::find_boundary(contours, to_pixels, cell, out.size(), kTolerance, memory); !found) {
    return found;
  }
  Deposit deposit(cell.width, cell.height, memory.cells);
  for (const Segment& s : memory.boundary) deposit.add(s);
  const auto width = static_cast<std::size_t>(cell.width);
  memory.sums.assign(width, 0.0F);
  float* sums = memory.sums.data();
  for (std::size_t y = 0; y < static_cast<std::size_t>(cell.height); ++y) {
    const float* row = memory.cells.data() + y * width;
    float* to = out.data() + y * width;
    for (std::size_t x = 0; x < width; ++x) {
      sums[x] += row[x];
      to[x] = std::min(std::max(sums[x], 0.0F), 1.0F);
    }
  }
  return {};
}

}  // namespace grafema
