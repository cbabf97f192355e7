// SPDX-License-Identifier: MIT
// What a shape is filled with, and blending it onto a picture.
#pragma once

#include <array>
#include <span>

#include "grafema/base/color.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/base/image.hpp"

namespace grafema {

/// One color, or one for each corner of the label's box with even transitions between them.
struct Fill {
  /// Top left, top right, bottom right, bottom left, as CSS orders corners.
  std::array<Color, 4> corners = {};

  static constexpr Fill solid(const Color& color) { return {{color, color, color, color}}; }
  bool is_solid() const {
    return corners[0] == corners[1] && corners[1] == corners[2] && corners[2] == corners[3];
  }
  bool operator==(const Fill&) const = default;
};

/// The fill's color at a fraction of its box (0,0 top left, 1,1 bottom right; clamped), mixed in sRGB with
/// premultiplied alpha, as CSS mixes colors.
GRAFEMA_API Color color_at(const Fill& fill, float across, float down);

/// Blends `fill`, as strong as `alpha` says for each pixel of `cell` (0..1), over `target` in linear light.
/// `target` is rgba8; pixels of the cell outside of it are passed over. `box` is what the fill's corners
/// belong to, in pixels of the target. The result is rounded to 8 bits, as a render target would be.
GRAFEMA_API void blend(Image& target, const PixelRect& cell, std::span<const float> alpha, const Fill& fill,
                       const Rect& box, float opacity = 1);

}  // namespace grafema
