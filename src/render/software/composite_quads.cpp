// SPDX-License-Identifier: MIT
// Paints what lies on shape and sheet; the shader of the OpenGL renderer does the same, line by line.
#include "render/software/composite_quads.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {

/// Letters that are small paint up to two pixels beyond their quads.
PixelRect CompositeDrawer::area(const PixelRect& rows) const {
  constexpr int kBy = 2;
  const PixelRect all = seen_.bounds(rows, {0, 0, 1, 1});
  const int left = std::max(all.x - kBy, 0), top = std::max(all.y - kBy, rows.y),
            right = std::min(all.x + all.width + kBy, rows.width),
            bottom = std::min(all.y + all.height + kBy, rows.y + rows.height);
  return {left, top, std::max(right - left, 0), std::max(bottom - top, 0)};
}

void CompositeDrawer::empty(const PixelRect& rows) {
  if (!seen_.valid()) return;
  const PixelRect cell = area(rows);
  for (int y = cell.y; y < cell.y + cell.height; ++y) {
    if (kind_ == TexelKind::mask) {
      std::fill_n(&planes_.at(cell.x, y), cell.width, Parts{});
    } else {
      std::fill_n(planes_.sheet->row(y) + static_cast<std::ptrdiff_t>(cell.x) * 4, cell.width * 4,
                  std::uint8_t{0});
    }
  }
}

void CompositeDrawer::draw(Image& target, const PixelRect& rows, Blender& blender,
                           const LightVectors& lights) {
  if (!seen_.valid()) return;
  const PixelRect cell = area(rows);
  const float alpha = static_cast<float>(quad_.tint[3]) / 255.0F;
  for (int y = cell.y; y < cell.y + cell.height; ++y) {
    std::uint8_t* row = target.row(y);
    for (int x = cell.x; x < cell.x + cell.width; ++x) {
      std::uint8_t* pixel = row + static_cast<std::ptrdiff_t>(x) * 4;
      if (kind_ == TexelKind::mask) {
        paint_shape(pixel, x, y, blender, lights);
      } else {
        blender.blend_over(pixel, planes_.sheet->row(y) + static_cast<std::ptrdiff_t>(x) * 4, alpha);
      }
    }
  }
}

float CompositeDrawer::strength_at(int x, int y) const {
  const Parts p = planes_.at(x, y);
  const float cut = what_.layer.cut;
  if (cut == kInsetCut) return p[2] * (1 - p[0]);
  const float strength = std::max(p[0] - p[1], 0.0F);
  return cut == kHollowCut ? strength * (1 - p[2]) : strength;
}

void CompositeDrawer::paint_shape(std::uint8_t* pixel, int x, int y, Blender& blender,
                                  const LightVectors& lights) {
  float strength = strength_at(x, y);
  if (strength <= 0) return;
  if (cutter_) strength *= cutter_->at(x, y);
  double a = 0, b = 0;
  seen_.fractions(x + 0.5, y + 0.5, a, b);
  const Footprint footprint = footprint_at(seen_, x, y);
  Shade shade = shader_.with_strength(strength, footprint, mixed(place_[0], place_[2], a),
                                      mixed(place_[1], place_[3], b));
  if (shader_.takes_light()) shade = with_light(shade, x, y, footprint, lights);
  if (shade.alpha > 0 && shade.strength > 0) blender.blend(pixel, shade);
}

/// As QuadShader::with_light, of what pixels beside this one hold.
Shade CompositeDrawer::with_light(const Shade& shade, int x, int y, const Footprint& footprint,
                                  const LightVectors& lights) const {
  const auto inside = [this](int px, int py) {
    const int last = static_cast<int>(planes_.shape.size()) / planes_.width - 1;
    return planes_.at(std::clamp(px, 0, planes_.width - 1), std::clamp(py, 0, last))[3];
  };
  PixelPoint rise{(inside(x + 1, y) - inside(x - 1, y)) / 2, (inside(x, y + 1) - inside(x, y - 1)) / 2};
  const float length = std::max(std::hypot(rise.x, rise.y), 1.0F);
  rise = {rise.x / length, rise.y / length};
  // A texel of a composite is a pixel of the label.
  const Texel right = footprint.dx, below = footprint.dy;
  const float pixel =
      std::sqrt(0.5F * (right.x * right.x + right.y * right.y + below.x * below.x + below.y * below.y));
  const float cx = static_cast<float>(x) + 0.5F, cy = static_cast<float>(y) + 0.5F;
  return shader_.lit_shade(shade, (inside(x, y) - 2) * pixel, rise, seen_.texel(cx, cy), footprint, {cx, cy},
                           lights);
}

}  // namespace grafema::detail
