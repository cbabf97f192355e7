// SPDX-License-Identifier: MIT
// Paints single glyphs layer by layer, from exact coverage or exact distance.
#include "grafema/look_painter.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace grafema {
namespace {

constexpr float kAbove = 0.8F, kBelow = 0.2F;  // of an em, what a fill spans

Rect fill_box(const Contours& outline, const Transform& map, float size) {
  const FontRect b = bounds(outline);
  const PixelPoint left = map(b.x_min, 0), right = map(b.x_max, 0);
  return {std::min(left.x, right.x), map.dy - kAbove * size, std::max(left.x, right.x), map.dy + kBelow * size};
}

Result<void> paint_layer(const Layer& layer, const Contours& outline, const Transform& map, const Rect& box, float opacity, Image& target, RasterScratch& scratch) {
  const PixelRect whole{0, 0, target.width(), target.height()};
  std::vector<float> strengths(static_cast<std::size_t>(whole.width) * static_cast<std::size_t>(whole.height));
  Transform shifted = map;
  shifted.dx += layer.shift.x, shifted.dy += layer.shift.y;
  if (layer.grow == 0 && layer.blur == 0 && !layer.hollow) {
    if (const Result<void> made = rasterize_coverage(outline, shifted, whole, strengths, scratch); !made) return made;
  } else {
    const float reach = std::abs(layer.grow) + layer.blur + 1;
    if (const Result<void> made = rasterize_distance(outline, shifted, whole, reach, strengths, scratch); !made) return made;
    std::vector<float> own(layer.hollow ? strengths.size() : 0);
    if (layer.hollow) {
      if (const Result<void> made = rasterize_distance(outline, map, whole, 1, own, scratch); !made) return made;
    }
    for (std::size_t i = 0; i < strengths.size(); ++i) strengths[i] = layer_strength(layer, strengths[i], layer.hollow ? own[i] : 0);
  }
  blend(target, whole, strengths, layer.fill, box, opacity);
  return {};
}

std::string name_of(const Look& look) {
  std::string name = fmt::format("look {} {}", look.opacity, look.in_ems);
  for (std::size_t i = 0; i < look.count; ++i) {
    const Layer& l = look.layers[i];
    name += fmt::format(" [{} {} {} {} {}", l.shift.x, l.shift.y, l.grow, l.blur, l.hollow);
    for (const Color& c : l.fill.corners) name += fmt::format(" {} {} {} {}", c.red, c.green, c.blue, c.alpha);
    name += "]";
  }
  return name;
}

}  // namespace

GlyphPainter make_painter(const Look& look, float largest) {
  const Overhang room = overhang(in_pixels(look, largest));
  GlyphPainter painter;
  const auto whole = [](float side) { return std::max(0.0F, std::ceil(side)); };
  painter.left = whole(room.left), painter.top = whole(room.top), painter.right = whole(room.right), painter.bottom = whole(room.bottom);
  painter.name = name_of(look);
  painter.paint = [look](const Contours& outline, const Transform& map, float size, Image& target) -> Result<void> {
    const Look pixels = in_pixels(look, size);
    const Rect box = fill_box(outline, map, size);
    RasterScratch scratch;
    for (std::size_t i = 0; i < pixels.count; ++i) {
      if (const Result<void> made = paint_layer(pixels.layers[i], outline, map, box, pixels.opacity, target, scratch); !made) return made;
    }
    return {};
  };
  return painter;
}

}  // namespace grafema
