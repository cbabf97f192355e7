// SPDX-License-Identifier: MIT
// Colors, rectangles and pictures painted on a picture.
#include <algorithm>
#include <vector>

#include "base/light.hpp"
#include "grafema/draw/paint.hpp"

namespace grafema {

void fill_image(Image& target, const Color& color) {
  using detail::to_byte;
  for (int y = 0; y < target.height(); ++y) {
    std::uint8_t* row = target.row(y);
    for (int x = 0; x < target.width(); ++x, row += 4) {
      row[0] = to_byte(color.red), row[1] = to_byte(color.green), row[2] = to_byte(color.blue),
      row[3] = to_byte(color.alpha);
    }
  }
}

void paint_rect(Image& target, const Rect& rect, const Color& color) {
  const auto bound = [](float v, int limit) { return std::clamp(v, 0.0F, static_cast<float>(limit)); };
  const Rect seen{bound(rect.left, target.width()), bound(rect.top, target.height()),
                  bound(rect.right, target.width()), bound(rect.bottom, target.height())};
  const PixelRect cell = rounded_out(seen);
  if (cell.empty()) return;
  std::vector<float> area;
  area.reserve(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  const auto overlap = [](int pixel, float low, float high) {
    const auto p = static_cast<float>(pixel);
    return std::max(0.0F, std::min(p + 1, high) - std::max(p, low));
  };
  for (int y = cell.y; y < cell.y + cell.height; ++y) {
    for (int x = cell.x; x < cell.x + cell.width; ++x) {
      area.push_back(overlap(x, seen.left, seen.right) * overlap(y, seen.top, seen.bottom));
    }
  }
  blend(target, cell, area, Fill::solid(color), rect);
}

void paint_image(Image& target, const Image& source, int x, int y, int scale) {
  const bool gray = channel_count(source.format()) == 1;
  const auto max = static_cast<float>(detail::largest_value(source.format()));
  const auto s = static_cast<float>(scale);
  for (int sy = 0; sy < source.height(); ++sy) {
    for (int sx = 0; sx < source.width(); ++sx) {
      const auto channel = [&](int c) { return static_cast<float>(source.value(sx, sy, c)) / max; };
      const bool has_alpha = channel_count(source.format()) == 4;
      const Color color = gray ? Color{channel(0), channel(0), channel(0), 1}
                               : Color{channel(0), channel(1), channel(2), has_alpha ? channel(3) : 1};
      const float left = static_cast<float>(x) + static_cast<float>(sx) * s,
                  top = static_cast<float>(y) + static_cast<float>(sy) * s;
      paint_rect(target, {left, top, left + s, top + s}, color);
    }
  }
}

}  // namespace grafema
