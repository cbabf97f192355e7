// SPDX-License-Identifier: MIT
// Composites, and whether a label needs one to fade.
#include "draw/content/composites.hpp"

#include <algorithm>
#include <cmath>

namespace grafema {
namespace detail {

bool has_joined_layers(const Look& look) {
  return std::any_of(look.layers.begin(), look.layers.begin() + look.count,
                     [](const Layer& layer) { return layer.join; });
}

Variant composite_variant(TexelKind kind, float size) {
  constexpr float kReach = 32000;  // no layer is cut to what pictures hold
  Variant variant;
  variant.size = size, variant.kind = kind, variant.reach = kReach;
  return variant;
}

Rect composite_extent(const LabelContent& label, const LookBook& looks, const Rect& painted) {
  float farthest = 0;
  for (const Variant& variant : label.variants) {
    const Look& look = looks.get(label.look_of(variant));
    const float unit = look.in_ems ? variant.size : 1.0F;
    for (std::size_t i = 0; i < look.count; ++i) {
      const PixelPoint shift = look.layers[i].shift;
      farthest = std::max({farthest, std::abs(shift.x) * unit, std::abs(shift.y) * unit});
    }
  }
  return painted.grown(farthest);
}

LocalQuad composite_quad(const Rect& extent) {
  constexpr float kMax = 16000;
  const auto side = [](float& low, float high) {
    if (!(high - low < kMax)) {
      const float middle = std::isfinite(low + high) ? (low + high) / 2 : 0.0F;
      low = middle - kMax / 2, high = middle + kMax / 2;
    }
    return std::max(std::ceil(high - low), 2.0F);
  };
  LocalQuad quad{};
  quad.x = extent.left, quad.y = extent.top;
  quad.width = side(quad.x, extent.right), quad.height = side(quad.y, extent.bottom);
  quad.cell = {0, 0, static_cast<std::uint16_t>(quad.width - 1), static_cast<std::uint16_t>(quad.height - 1)};
  return quad;
}

}  // namespace detail

/// Of one layer letters may overlap: where they move, or where the boxes of what they paint do.
bool LabelContent::overlaps_itself() const {
  if (quads.empty()) return false;
  const Look* only = nullptr;
  for (const Variant& variant : variants) {
    const Look& shown = context->looks().get(look_of(variant));
    if (variant.panel || shown.count > 1 || (only != nullptr && only != &shown)) return true;
    only = &shown;
  }
  if (has_bars) return true;
  if (only == nullptr || only->count == 0 || only->layers[0].join) return false;
  if (moving) return true;
  const Layer& layer = only->layers[0];
  float right = -INFINITY, bottom = -INFINITY, bottom_before = -INFINITY, pen = INFINITY;
  for (const QuadRun& run : runs) {
    const Variant& variant = variants[run.variant];
    const float around = (outward(layer) * (only->in_ems ? variant.size : 1.0F)) -
                         (variant.reach + 0.5F) / variant.texels_per_pixel;
    for (std::uint32_t i = run.first; i < run.first + run.count; ++i) {
      const LocalQuad& q = quads[i];
      const Rect ink = Rect{q.x, q.y, q.x + q.width, q.y + q.height}.grown(around);
      const float now = paragraph.glyphs[infos[i].glyph].pen.y;
      if (std::abs(now - pen) > variant.size / 2) {  // another line
        bottom_before = std::max(bottom_before, bottom);
        right = bottom = -INFINITY, pen = now;
      }
      if (ink.left < right || ink.top < bottom_before) return true;
      right = std::max(right, ink.right), bottom = std::max(bottom, ink.bottom);
    }
  }
  return false;
}

}  // namespace grafema
