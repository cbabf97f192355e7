// SPDX-License-Identifier: MIT
// A look: an ordered stack of layers, each the glyph's shape shifted, grown, blurred and filled.
#pragma once

#include <array>
#include <cstdint>

#include "grafema/base/error.hpp"
#include "grafema/raster/fill.hpp"

namespace grafema {

/// One layer; lengths are pixels at the size drawn.
struct Layer {
  PixelPoint shift = {};
  float grow = 0;       ///< widens the shape on every side; below 0 it thins it
  float blur = 0;       ///< the edge fades from full to nothing over twice this width, at least 0
  bool hollow = false;  ///< leaves the letter's own shape out
  Fill fill = Fill::solid({0, 0, 0, 1});
  bool operator==(const Layer&) const = default;
};

/// Layers back to front. The first layer of all glyphs is painted, then the second, and so on.
struct Look {
  static constexpr std::size_t kMaxLayers = 8;

  std::array<Layer, kMaxLayers> layers = {};
  std::uint8_t count = 0;
  float opacity = 1;    ///< of the whole, 0..1; each layer is weakened by it
  bool in_ems = false;  ///< lengths are ems instead of pixels: the look grows with the text

  /// Puts a layer in front; false where there are `kMaxLayers` already.
  bool add(const Layer& layer) {
    if (count == kMaxLayers) return false;
    layers[count++] = layer;
    return true;
  }
  bool operator==(const Look&) const = default;
};

/// Whether a look can be used: at most `kMaxLayers` layers, finite numbers, blurs and opacity not below 0.
/// Fails with `bad_value`.
GRAFEMA_API Result<void> check_look(const Look& look);

/// The same look with its lengths in pixels for text of `size` pixels per em.
GRAFEMA_API Look in_pixels(const Look& look, float size);

/// One plain layer.
inline Look plain_look(const Color& color) {
  Look look;
  look.count = 1;
  look.layers[0].fill = Fill::solid(color);
  return look;
}

/// A letter of one color with a line of another around it, `width` pixels wide outside the letter.
inline Look outlined_look(const Color& fill, const Color& line, float width) {
  Look look = plain_look(line);
  look.layers[0].grow = width;
  look.layers[1].fill = Fill::solid(fill);
  look.count = 2;
  return look;
}

/// How strongly a layer paints a pixel whose center lies `distance` pixels inside the (shifted) shape, and
/// `unshifted` pixels inside the letter's own, 0..1. `pixel` is the width of a screen pixel in the pixels of
/// these distances. The one formula of every renderer:
///   half = pixel / 2 + blur;  t = clamp(1/2 + (distance + grow) / (2 half), 0, 1)
/// is the share of a straight edge that the pixel sees; a blurred edge is eased, t * t * (3 - 2 t).
GRAFEMA_API float layer_strength(const Layer& layer, float distance, float unshifted, float pixel = 1);

/// How far from the shape's boundary a look must see on text of `size` pixels per em, in pixels: the `reach`
/// to bake for it.
GRAFEMA_API float required_reach(const Look& look, float size);

/// How far paint can stand outside the shape on each side, in pixels.
struct Overhang {
  float left = 0, top = 0, right = 0, bottom = 0;
};
/// On text of `size` pixels per em.
GRAFEMA_API Overhang overhang(const Look& look, float size);

}  // namespace grafema
