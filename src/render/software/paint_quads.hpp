// SPDX-License-Identifier: MIT
// Finding a quad's pixels and shading them; the shader of the OpenGL renderer does the same, line by line.
#pragma once

#include "grafema/render/software_renderer.hpp"

namespace grafema::detail {

/// sRGB color and how much of it: what a pixel is painted with.
struct Shade {
  float red = 0, green = 0,
        blue = 0;      ///< sRGB, straight; linear light and premultiplied by `strength` where `is_light`
  float alpha = 0;     ///< of the fill and tint
  float strength = 0;  ///< of the letter, 0..1
  bool is_light = false;
};

/// A point of a page in texels.
struct Texel {
  float x = 0, y = 0;
};

/// Shades one pixel: `at` is its middle in the page, `dx` and `dy` how that changes to the next pixel;
/// `across` and `down` are fractions of the label's box.
Shade shade(const GlyphQuad& quad, const LayerRecord& layer, QuadKind kind, const ImageView& page, Texel at,
            Texel dx, Texel dy, float across, float down);

}  // namespace grafema::detail
