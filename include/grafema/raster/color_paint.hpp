// SPDX-License-Identifier: MIT
// Paints glyphs in color: layers, paint graphs and embedded pictures (OpenType, COLR, CPAL, CBDT, sbix).
#pragma once

#include <functional>
#include <optional>

#include "grafema/base/image.hpp"
#include "grafema/font/face.hpp"
#include "grafema/raster/raster.hpp"

namespace grafema {

/// Reads an embedded picture, which is a PNG file; the library's own reader is `read_png`
/// (grafema/files/files.hpp).
using PictureReader = std::function<Result<Image>(std::span<const std::byte>)>;

struct ColorPaintOptions {
  std::size_t palette = 0;          ///< which palette; one that the face does not have: the first
  Color text_color = {0, 0, 0, 1};  ///< what paints that want the text's own color get
  float size = 32;                  ///< pixels per em, which embedded picture is taken
  PictureReader read_picture = {};  ///< none: glyphs that are embedded pictures are not painted
};

/// What the glyph paints in color at `size` pixels per em, font units; nothing where it has no color. Fails
/// where its paint graph is damaged.
GRAFEMA_API Result<std::optional<FontRect>> color_box(const Face& face, GlyphId glyph, float size);

/// Paints the glyph in color over `target` (rgba8, sRGB, straight alpha), mapped from font units to its
/// pixels: the paint graph where there is one, else layers, else the embedded picture that is nearest to the
/// size. False where it has no color. Edges are exact coverage, colors are mixed in sRGB with premultiplied
/// alpha, as the specification mixes them. Fails where the graph, an outline or the picture is damaged;
/// `target` may be painted in part then.
GRAFEMA_API Result<bool> paint_color_glyph(const Face& face, GlyphId glyph, const Transform& to_pixels,
                                           const ColorPaintOptions& options, Image& target,
                                           RasterScratch& scratch);

}  // namespace grafema
