// SPDX-License-Identifier: MIT
// Exact area coverage: pieces of the boundary deposit what they cover, columns are summed.
#include <algorithm>
#include <cmath>

#include "base/four.hpp"
#include "raster/scratch.hpp"

namespace grafema {
namespace {

constexpr double kTolerance = 0.002;  // pixels; half of what one step of an 8-bit pixel shows

/// Collects, for each pixel, the change of covered area against the pixel above it.
class Deposit {
 public:
  /// `cells` has two rows more than the picture: what is deposited below the last one, where rounding may
  /// also lead.
  Deposit(int width, int height, std::vector<float>& cells)
      : stride_(detail::padded(width)), width_(width), limit_x_(width), limit_y_(height), cells_(cells) {
    cells_.assign(stride_ * static_cast<std::size_t>(height + 2), 0.0F);
  }

  /// Running right it covers what is below, running left it takes that away.
  void add(const Segment& s) {
    if (s.x0 == s.x1) return;
    const bool right = s.x0 < s.x1;
    double x0 = right ? s.x0 : s.x1, y0 = right ? s.y0 : s.y1, x1 = right ? s.x1 : s.x0,
           y1 = right ? s.y1 : s.y0;
    if (x1 <= 0 || x0 >= limit_x_) return;
    const double slope = (y1 - y0) / (x1 - x0);
    if (x0 < 0) y0 -= x0 * slope, x0 = 0;
    if (x1 > limit_x_) y1 += (limit_x_ - x1) * slope, x1 = limit_x_;
    const double sign = right ? 1 : -1;
    if (y0 >= 0 && y0 < limit_y_ && y1 >= 0 && y1 < limit_y_) {
      add_inside(x0, y0, x1, y1, slope, sign);
    } else {
      add_cut(x0, y0, x1, y1, slope, sign);
    }
  }

 private:
  /// A piece that stays inside the picture: cut at columns, then at rows.
  void add_inside(double x0, double y0, double x1, double y1, double slope, double sign) {
    int column = static_cast<int>(x0);
    const int last = std::min(static_cast<int>(x1), width_ - 1);
    double x = x0, y = y0;
    for (; column < last; ++column) {
      const double next_x = column + 1.0, next_y = y0 + (next_x - x0) * slope;
      add_column(column, (next_x - x) * sign, y, next_y);
      x = next_x, y = next_y;
    }
    add_column(column, (x1 - x) * sign, y, y1);
  }

  /// A piece within one column: its share in each row that it passes.
  void add_column(int column, double dx, double from, double to) {
    const double top = std::min(from, to), bottom = std::max(from, to);
    const int first = static_cast<int>(top), last = static_cast<int>(bottom);
    float* at = cells_.data() + static_cast<std::size_t>(first) * stride_ + static_cast<std::size_t>(column);
    if (first == last) {
      const double lower = dx * ((top + bottom) / 2 - first);
      at[0] += static_cast<float>(dx - lower);
      at[stride_] += static_cast<float>(lower);
      return;
    }
    const double per_row = dx / (bottom - top);
    double y = top;
    for (int row = first; row < last; ++row, at += stride_) {
      const double share = (row + 1.0 - y) * per_row, lower = share * ((y + row + 1.0) / 2 - row);
      at[0] += static_cast<float>(share - lower);
      at[stride_] += static_cast<float>(lower);
      y = row + 1.0;
    }
    const double share = (bottom - y) * per_row, lower = share * ((y + bottom) / 2 - last);
    at[0] += static_cast<float>(share - lower);
    at[stride_] += static_cast<float>(lower);
  }

  /// A piece that leaves the picture above or below: what is above covers as an edge along the top would,
  /// what is below covers nothing.
  void add_cut(double x0, double y0, double x1, double y1, double slope, double sign) {
    const double top = std::min(y0, y1), bottom = std::max(y0, y1);
    if (top >= limit_y_) return;
    if (bottom <= 0) return add_inside(x0, 0, x1, 0, 0, sign);
    const auto x_at = [&](double y) { return std::clamp(x0 + (y - y0) / slope, x0, x1); };
    if (top < 0) {
      const double x = x_at(0);
      const bool falls = y0 < 0;
      add_inside(falls ? x0 : x, 0, falls ? x : x1, 0, 0, sign);
      (falls ? x0 : x1) = x;
      (falls ? y0 : y1) = 0;
    }
    if (bottom >= limit_y_) {
      const double edge = std::nextafter(limit_y_, 0.0), x = x_at(edge);
      const bool rises = y0 >= limit_y_;
      (rises ? x0 : x1) = x;
      (rises ? y0 : y1) = edge;
    }
    if (x0 < x1) add_inside(x0, y0, x1, y1, (y1 - y0) / (x1 - x0), sign);
  }

  std::size_t stride_;
  int width_;
  double limit_x_, limit_y_;
  std::vector<float>& cells_;
};

}  // namespace

Result<void> rasterize_coverage(const Contours& contours, const Transform& to_pixels, const PixelRect& cell,
                                std::span<float> out, RasterScratch& scratch) {
  RasterScratch::Memory& memory = scratch.memory();
  if (const Result<void> found =
          detail::make_boundary(contours, to_pixels, cell, out.size(), kTolerance, memory);
      !found) {
    return found;
  }
  if (out.empty()) return {};
  Deposit deposit(cell.width, cell.height, memory.cells);
  for (const Segment& s : memory.boundary) deposit.add(s);
  const std::size_t width = static_cast<std::size_t>(cell.width), stride = detail::padded(cell.width);
  memory.sums.assign(stride, 0.0F);
  float* sums = memory.sums.data();
  const detail::Four zero = {}, one = detail::all(1);
  for (std::size_t y = 0; y < static_cast<std::size_t>(cell.height); ++y) {
    float* row = memory.cells.data() + y * stride;
    for (std::size_t x = 0; x < stride; x += 4) {
      const detail::Four sum = detail::load(sums + x) + detail::load(row + x);
      detail::store(sums + x, sum);
      detail::store(row + x, detail::smaller(detail::larger(sum, zero), one));
    }
    std::copy_n(row, width, out.data() + y * width);
  }
  return {};
}

}  // namespace grafema
