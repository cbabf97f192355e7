// SPDX-License-Identifier: MIT
// Paints single glyphs layer by layer, from exact coverage or exact distance.
#include "grafema/draw/look_painter.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "draw/layer_strengths.hpp"
#include "grafema/atlas/bake.hpp"

namespace grafema {
namespace {

constexpr float kAbove = 0.8F, kBelow = 0.2F;  // of an em, what a fill spans

Rect fill_box(const Contours& outline, const Transform& map, float size) {
  const FontRect b = bounds(outline);
  const PixelPoint left = map(b.x_min, 0), right = map(b.x_max, 0);
  return {std::min(left.x, right.x), map.dy - kAbove * size, std::max(left.x, right.x),
          map.dy + kBelow * size};
}

std::string name_of(const Color& c) { return fmt::format(" {} {} {} {}", c.red, c.green, c.blue, c.alpha); }

std::string name_of(const Fill& f) {
  std::string name =
      fmt::format(" {} {} {}", static_cast<int>(f.kind), static_cast<int>(f.mixed_in), f.angle);
  for (const Color& c : f.corners) name += name_of(c);
  for (std::size_t i = 0; i < f.stop_count; ++i)
    name += fmt::format(" {}", f.stops[i].at) + name_of(f.stops[i].color);
  name += fmt::format(" {} {} {} {} {} {}", f.to_corner, static_cast<int>(f.extent), f.center.x, f.center.y,
                      f.radius.x, f.radius.y);
  if (f.image) {
    name += fmt::format(" {:x} {} {} {} {} {} {}", pixel_hash(f.image->levels().front()),
                        static_cast<int>(f.fit), f.repeats, f.scale.x, f.scale.y, f.offset.x, f.offset.y);
    for (const float slice : f.slices) name += fmt::format(" {}", slice);
  }
  return name;
}

std::string name_of(const Look& look) {
  std::string name = fmt::format("look {} {}", look.opacity, look.in_ems);
  for (std::size_t i = 0; i < look.count; ++i) {
    const Layer& l = look.layers[i];
    name += fmt::format(" [{} {} {} {} {} {} {} {} {} {} {} {} {}", l.shift.x, l.shift.y, l.grow, l.blur,
                        l.hollow, l.inset, l.line, l.sweep.x, l.sweep.y, l.sharp, l.dash, l.gap, l.join);
    name += name_of(l.fill) + "]";
  }
  return name;
}

}  // namespace

GlyphPainter make_painter(const Look& look, float largest) {
  const Overhang room = overhang(look, largest);
  GlyphPainter painter;
  const auto rounded_up = [](float side) { return std::max(0.0F, std::ceil(side)); };
  painter.left = rounded_up(room.left), painter.top = rounded_up(room.top);
  painter.right = rounded_up(room.right), painter.bottom = rounded_up(room.bottom);
  painter.name = name_of(look);
  painter.paint = [look](const Contours& outline, const Transform& map, float size,
                         Image& target) -> Result<void> {
    const Look pixels = in_pixels(look, size);
    const Rect box = fill_box(outline, map, size);
    const PixelRect whole{0, 0, target.width(), target.height()};
    detail::LayerStrengths strengths;
    for (std::size_t i = 0; i < pixels.count; ++i) {
      const auto made = strengths.make(pixels.layers[i], outline, map, whole);
      if (!made) return fail(made.error());
      blend(target, whole, *made, pixels.layers[i].fill, box, pixels.opacity);
    }
    return {};
  };
  return painter;
}

}  // namespace grafema
