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
  std::size_t palette = 0;  ///< index of the palette; the first one where the face has no such palette
  Color text_color = {0, 0, 0, 1};  ///< the color of the text, for layers that ask for it
  float size = 32;                  ///< pixels per em; chooses among embedded pictures
  PictureReader read_picture =
      {};  ///< reads embedded pictures; none: glyphs that have only those are not painted
};

/// The box of what the glyph paints in color at `size` pixels per em, in font units; nothing where the glyph
/// has no color. Fails with `damaged` where its paint graph can't be read.
GRAFEMA_API Result<std::optional<FontRect>> color_box(const Face& face, GlyphId glyph, float size);

/// Paints the glyph in color over `target` (rgba8, sRGB, straight alpha); false where the glyph has no color.
/// `to_pixels` maps font units to pixels of the target. The paint graph is painted where there is one, else
/// the layers, else the embedded picture whose size is nearest. Edges are exact coverage; colors are mixed in
/// sRGB with premultiplied alpha, as the specification has it. Fails with `damaged` where the graph, an
/// outline or the picture can't be read; `target` may then be painted in part.
GRAFEMA_API Result<bool> paint_color_glyph(const Face& face, GlyphId glyph, const Transform& to_pixels,
                                           const ColorPaintOptions& options, Image& target,
                                           RasterScratch& scratch);

}  // namespace grafema
