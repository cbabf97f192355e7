// SPDX-License-Identifier: MIT
// Walks around the ink of a bitmap.
#include "outline/trace.hpp"

#include <array>

namespace grafema::detail {
namespace {

enum Direction : int { right, down, left, up };
constexpr std::array<int, 4> kStepX = {1, 0, -1, 0};
constexpr std::array<int, 4> kStepY = {0, 1, 0, -1};

/// The sides of ink pixels that border on paper, each running so that the ink is on its right.
class Sides {
 public:
  explicit Sides(const Bitmap& bitmap) : width_(bitmap.width + 1) {
    const auto count = static_cast<std::size_t>(width_) * static_cast<std::size_t>(bitmap.height + 1);
    for (std::vector<bool>& list : starts_) list.assign(count, false);
    for (int y = 0; y < bitmap.height; ++y) {
      for (int x = 0; x < bitmap.width; ++x) {
        if (!bitmap.at(x, y)) continue;
        if (!bitmap.at(x, y - 1)) set(right, x, y, true);
        if (!bitmap.at(x + 1, y)) set(down, x + 1, y, true);
        if (!bitmap.at(x, y + 1)) set(left, x + 1, y + 1, true);
        if (!bitmap.at(x - 1, y)) set(up, x, y + 1, true);
      }
    }
  }

  bool has(int direction, int x, int y) const { return starts_[index(direction)][place(x, y)]; }
  void set(int direction, int x, int y, bool value) { starts_[index(direction)][place(x, y)] = value; }

 private:
  static std::size_t index(int direction) { return static_cast<std::size_t>(direction); }
  std::size_t place(int x, int y) const { return static_cast<std::size_t>(y * width_ + x); }

  int width_;
  std::array<std::vector<bool>, 4> starts_;
};

/// Follows one contour and takes its sides away. Where two go on, the turn to the right stays with the pixel,
/// so that pixels that touch at a corner keep outlines of their own.
void walk(Sides& sides, int x, int y, int baseline, int unit, Contours& out) {
  const auto point = [&](int px, int py) {
    return FontPoint{static_cast<float>(px * unit), static_cast<float>((baseline - py) * unit)};
  };
  int direction = right;
  out.move_to(point(x, y));
  while (true) {
    while (sides.has(direction, x, y)) {
      sides.set(direction, x, y, false);
      x += kStepX[static_cast<std::size_t>(direction)];
      y += kStepY[static_cast<std::size_t>(direction)];
      if (sides.has((direction + 1) % 4, x, y)) break;
    }
    const int turn_right = (direction + 1) % 4, turn_left = (direction + 3) % 4;
    if (!sides.has(turn_right, x, y) && !sides.has(turn_left, x, y)) break;  // back at the start
    direction = sides.has(turn_right, x, y) ? turn_right : turn_left;
    out.line_to(point(x, y));
  }
  out.close();
}

}  // namespace

void trace(const Bitmap& bitmap, int baseline, int unit, Contours& out) {
  Sides sides(bitmap);
  for (int y = 0; y <= bitmap.height; ++y) {
    for (int x = 0; x <= bitmap.width; ++x) {
      // In reading order a contour is met first at a top left corner, where a side runs right.
      while (sides.has(right, x, y)) walk(sides, x, y, baseline, unit, out);
    }
  }
}

}  // namespace grafema::detail
