// SPDX-License-Identifier: MIT
// Pictures that a font holds for its glyphs, scaled into place (OpenType, CBDT, sbix).
#pragma once

#include "grafema/raster/color_paint.hpp"

namespace grafema::detail {

/// Where the glyph's picture for `size` pixels per em stands, font units; nothing where there is none that
/// can be read.
std::optional<FontRect> embedded_box(const Face& face, GlyphId glyph, float size);

/// Paints it over `target`; false where there is none. Fails where the picture is damaged.
Result<bool> paint_embedded(const Face& face, GlyphId glyph, const Transform& to_pixels,
                            const ColorPaintOptions& options, Image& target);

}  // namespace grafema::detail
