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

/// The color of the fill at a point of its box, in fractions of the box (0,0 top left, 1,1 bottom right;
/// clamped). Colors are mixed in sRGB with premultiplied alpha, as CSS mixes them.
GRAFEMA_API Color color_at(const Fill& fill, float across, float down);

/// Blends `fill` over the pixels of `cell` in linear light; `alpha` says how strongly for each of them, 0..1.
/// `target` is rgba8 with straight alpha; pixels of the cell outside of it are passed over. `box` is the
/// rectangle that the corners of the fill belong to, in pixels of the target. The result is rounded to 8
/// bits.
GRAFEMA_API void blend(Image& target, const PixelRect& cell, std::span<const float> alpha, const Fill& fill,
                       const Rect& box, float opacity = 1);

}  // namespace grafema
