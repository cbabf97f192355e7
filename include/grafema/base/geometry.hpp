// SPDX-License-Identifier: MIT
// Points, rectangles and affine maps; font units have y up, pixels have y down.
#pragma once

#include <algorithm>
#include <cmath>

namespace grafema {

/// A point in font units, y up (OpenType).
struct FontPoint {
  float x = 0, y = 0;
  bool operator==(const FontPoint&) const = default;
};

/// A point in pixels, y down; pixel (0,0) covers [0,1)x[0,1).
struct PixelPoint {
  float x = 0, y = 0;
  bool operator==(const PixelPoint&) const = default;
};

/// The one place where font units become pixels and y is turned over. `scale` is pixels per font unit.
constexpr PixelPoint to_pixels(FontPoint p, float scale) { return {p.x * scale, -p.y * scale}; }

/// A box in font units, y up. Empty where `x_max < x_min`.
struct FontRect {
  float x_min = 0, y_min = 0, x_max = -1, y_max = -1;

  constexpr bool empty() const { return x_max < x_min || y_max < y_min; }
  bool operator==(const FontRect&) const = default;
};

/// A box in pixels, y down. Empty where it has no area.
struct Rect {
  float left = 0, top = 0, right = 0, bottom = 0;

  constexpr float width() const { return right - left; }
  constexpr float height() const { return bottom - top; }
  constexpr bool empty() const { return !(right > left && bottom > top); }
  /// The same box grown by `by` pixels on every side.
  constexpr Rect grown(float by) const { return {left - by, top - by, right + by, bottom + by}; }
  constexpr Rect moved(PixelPoint by) const { return {left + by.x, top + by.y, right + by.x, bottom + by.y}; }
  bool operator==(const Rect&) const = default;
};

/// The smallest box that holds both; an empty one adds nothing.
constexpr Rect enclosing(const Rect& a, const Rect& b) {
  if (a.empty()) return b;
  if (b.empty()) return a;
  return {std::min(a.left, b.left), std::min(a.top, b.top), std::max(a.right, b.right),
          std::max(a.bottom, b.bottom)};
}

/// A box of a glyph in pixels, seen from its pen. `scale` is pixels per font unit.
constexpr Rect to_pixels(const FontRect& box, float scale) {
  if (box.empty()) return {};
  const PixelPoint top_left = to_pixels(FontPoint{box.x_min, box.y_max}, scale);
  const PixelPoint bottom_right = to_pixels(FontPoint{box.x_max, box.y_min}, scale);
  return {top_left.x, top_left.y, bottom_right.x, bottom_right.y};
}

/// Whole pixels: the cell of a picture. x, y is its top left corner.
struct PixelRect {
  int x = 0, y = 0, width = 0, height = 0;

  constexpr bool empty() const { return width <= 0 || height <= 0; }
  bool operator==(const PixelRect&) const = default;
};

/// The whole pixels that `box` touches.
inline PixelRect rounded_out(const Rect& box) {
  if (box.empty()) return {};
  const int x = static_cast<int>(std::floor(box.left));
  const int y = static_cast<int>(std::floor(box.top));
  return {x, y, static_cast<int>(std::ceil(box.right)) - x, static_cast<int>(std::ceil(box.bottom)) - y};
}

/// An affine map from font units to pixels or from pixels to pixels:
/// x' = xx * x + xy * y + dx, y' = yx * x + yy * y + dy.
struct Transform {
  float xx = 1, xy = 0, yx = 0, yy = 1, dx = 0, dy = 0;

  constexpr PixelPoint operator()(float x, float y) const {
    return {xx * x + xy * y + dx, yx * x + yy * y + dy};
  }
  bool operator==(const Transform&) const = default;
};

/// Font units to pixels with the pen at `pen`: scaled, y turned over, moved.
constexpr Transform glyph_transform(float scale, PixelPoint pen = {}) {
  return {scale, 0, 0, -scale, pen.x, pen.y};
}

}  // namespace grafema
