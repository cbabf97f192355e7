// SPDX-License-Identifier: MIT
// A look: an ordered stack of layers, each the glyph's shape shifted, grown, blurred, cut and filled.
#pragma once

#include <array>
#include <cstdint>

#include "grafema/base/error.hpp"
#include "grafema/draw/lighting.hpp"
#include "grafema/raster/fill.hpp"

namespace grafema {

/// One layer; lengths are pixels at the size drawn.
struct Layer {
  PixelPoint shift = {};
  float grow = 0;       ///< widens the shape on every side; below 0 it thins it
  float blur = 0;       ///< the edge fades from full to nothing over twice this width, at least 0
  bool hollow = false;  ///< leaves the letter's own shape out
  /// Paints within the letter what the shifted shape leaves free: a shadow or glow from the edge inward. The
  /// shape is then thinned by `grow`, so that more of it is more shadow. As CSS has it of boxes.
  bool inset = false;
  /// Above 0 only a band this wide is painted, from the grown edge inward: a line around the letter, along
  /// its edge or within it. Not of insets.
  float line = 0;
  /// Draws the shape out: it is painted wherever it comes to while it moves this far. Not of insets.
  PixelPoint sweep = {};
  /// Grown edges keep the letter's corners, where its pictures have three channels; else they are round.
  /// Corners that reach farther than kSharpReach times the growth are rounded there.
  bool sharp = false;
  /// A band is cut into dashes so long, `gap` from one to the next, where letters are painted from outlines;
  /// pictures know nothing of a contour's length and show it whole.
  float dash = 0, gap = 0;
  /// All letters of a label with this look become one shape before they are painted: where they overlap
  /// nothing shows twice, and no line runs through them. Its fill spans the label.
  bool join = false;
  Fill fill = Fill::solid({0, 0, 0, 1});
  Surface surface = {};  ///< where it has a width, light falls on the layer
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

/// How far a sharp corner may reach, in growths of its layer.
constexpr float kSharpReach = 1.5F;

/// How far beyond the letter's edge a layer paints, before it is shifted; below 0: how far within.
inline float outward(const Layer& layer) {
  if (layer.inset) return 0;
  return (layer.sharp && layer.grow > 0 ? layer.grow * kSharpReach : layer.grow) + layer.blur;
}

/// A letter's edge as a line of that width, outside of it, on it or within.
enum class OutlinePlace : std::uint8_t { outside, centered, inside };
GRAFEMA_API Layer outline_layer(float width, OutlinePlace place, const Fill& fill);

/// Whether a look can be used: at most `kMaxLayers` layers, finite numbers, lengths and opacity not below 0
/// but for shifts and growth, fills as `check_fill` wants them. Fails with `bad_value`.
GRAFEMA_API Result<void> check_look(const Look& look);

/// The same look with its lengths in pixels for text of `size` pixels per em.
GRAFEMA_API Look in_pixels(const Look& look, float size);

/// Whether all its fills span the label.
inline bool spans_label(const Look& look) {
  for (std::size_t i = 0; i < look.count; ++i) {
    if (look.layers[i].fill.box != FillBox::label && !look.layers[i].join) return false;
  }
  return true;
}

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

/// How strongly a layer paints a pixel whose center lies `distance` pixels inside the (shifted, drawn out)
/// shape, and `own` pixels inside the letter, 0..1. `pixel` is the width of a screen pixel in the pixels of
/// these distances. The one formula of every renderer:
///   edge(d) = t or, where the layer is blurred, t * t * (3 - 2 t),
///     half = pixel / 2 + blur;  t = clamp(1/2 + d / (2 half), 0, 1): the share of a straight edge that a
///     pixel sees
///   strength = edge(distance + grow) - (line > 0: edge(distance + grow - line))
///   hollow: strength * (1 - clamp(1/2 + own / pixel, 0, 1))
///   inset: clamp(1/2 + own / pixel, 0, 1) * (1 - edge(distance - grow))
GRAFEMA_API float layer_strength(const Layer& layer, float distance, float own, float pixel = 1);

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
