// SPDX-License-Identifier: MIT
// Exact distance: each piece of the boundary looks at the pixels within reach of it and no others.
#include <algorithm>
#include <cmath>

#include "raster/scratch.hpp"

namespace grafema {
namespace {

constexpr double kTolerance = 0.004;  // pixels; a fifth of what a distance picture promises

/// Lowers the squared distances of the pixels of `row` from `first` to `last` to that of the piece.
void lower_row(float* squared, int first, int last, float row_center, const Segment& s) {
  const auto ax = static_cast<float>(s.x0), ay = static_cast<float>(s.y0);
  const auto ex = static_cast<float>(s.x1 - s.x0), ey = static_cast<float>(s.y1 - s.y0);
  const float inverse = 1.0F / (ex * ex + ey * ey);
  const float py = row_center - ay, along_y = py * ey;
  for (int x = first; x < last; ++x) {
    const float px = static_cast<float>(x) + 0.5F - ax;
    const float t = std::min(std::max((px * ex + along_y) * inverse, 0.0F), 1.0F);
    const float dx = px - t * ex, dy = py - t * ey;
    squared[x] = std::min(squared[x], dx * dx + dy * dy);
  }
}

/// The whole pixels whose centers lie in [low, high], cut to 0..count.
std::pair<int, int> centers_between(double low, double high, int count) {
  const double first = std::clamp(std::ceil(low - 0.5), 0.0, static_cast<double>(count));
  const double last = std::clamp(std::floor(high - 0.5) + 1, 0.0, static_cast<double>(count));
  return {static_cast<int>(first), static_cast<int>(last)};
}

void lower(std::span<float> squared, const PixelRect& cell, float reach, const Segment& s) {
  const auto [left, right] = centers_between(std::min(s.x0, s.x1) - reach, std::max(s.x0, s.x1) + reach, cell.width);
  const auto [top, bottom] = centers_between(std::min(s.y0, s.y1) - reach, std::max(s.y0, s.y1) + reach, cell.height);
  if (left >= right) return;
  for (int y = top; y < bottom; ++y) {
    float* row = squared.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width);
    lower_row(row, left, right, static_cast<float>(y) + 0.5F, s);
  }
}

/// Where rows of pixel centers meet the boundary, by row and then from left to right.
void find_meetings(const PixelRect& cell, RasterScratch::Memory& memory) {
  memory.meetings.clear();
  for (const Segment& s : memory.boundary) {
    const bool up = s.y1 < s.y0;  // the filled side is on the right
    const double low = up ? s.y1 : s.y0, high = up ? s.y0 : s.y1;
    auto [first, last] = centers_between(low, high, cell.height);
    for (int row = first; row < last; ++row) {
      const double y = row + 0.5;
      if (y >= high) break;  // the end belongs to the next piece
      const double x = s.x0 + (s.x1 - s.x0) * ((y - s.y0) / (s.y1 - s.y0));
      memory.meetings.push_back({row, static_cast<float>(x), up ? 1 : -1});
    }
  }
  std::sort(memory.meetings.begin(), memory.meetings.end(), [](const auto& a, const auto& b) {
    if (a.row != b.row) return a.row < b.row;
    return a.x != b.x ? a.x < b.x : a.turn < b.turn;
  });
}

/// Turns squared distances into signed ones.
void sign(std::span<float> out, const PixelRect& cell, const RasterScratch::Memory& memory) {
  std::size_t next = 0;
  for (int y = 0; y < cell.height; ++y) {
    float* row = out.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width);
    int inside = 0;
    for (int x = 0; x < cell.width; ++x) {
      while (next < memory.meetings.size() && memory.meetings[next].row == y &&
             memory.meetings[next].x <= static_cast<float>(x) + 0.5F) {
        inside += memory.meetings[next++].turn;
      }
      const float distance = std::sqrt(row[x]);
      row[x] = inside > 0 ? distance : -distance;
    }
    while (next < memory.meetings.size() && memory.meetings[next].row == y) ++next;
  }
}

}  // namespace

Result<void> rasterize_distance(const Contours& contours, const Transform& to_pixels, const PixelRect& cell, float reach,
                                std::span<float> out, RasterScratch& scratch) {
  if (!(reach > 0) || !std::isfinite(reach)) return fail(make_error(ErrorKind::bad_value, "a reach above 0 pixels"));
  RasterScratch::Memory& memory = scratch.memory();
  if (const Result<void> found = detail::find_boundary(contours, to_pixels, cell, out.size(), kTolerance, memory); !found) {
    return found;
  }
  std::fill(out.begin(), out.end(), reach * reach);
  for (const Segment& s : memory.boundary) lower(out, cell, reach, s);
  find_meetings(cell, memory);
  sign(out, cell, memory);
  return {};
}

}  // namespace grafema
