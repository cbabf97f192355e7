// SPDX-License-Identifier: MIT
// Paints laid-out text straight from outlines onto a picture: the exact way, for tools and tests.
#pragma once

#include <functional>

#include "grafema/base/image.hpp"
#include "grafema/draw/look.hpp"
#include "grafema/raster/color_paint.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

/// Looks of a rich text's styles, by index into Paragraph::styles; null: the look of the whole text.
using LookOf = std::function<const Look*(std::size_t style)>;

/// Paints `paragraph`, its origin at `origin`, with `look` onto `target` (rgba8, sRGB, straight alpha), in
/// linear light. Plain layers take their edge from exact coverage, grown or blurred ones from exact distance;
/// glyphs stand at their fractional pens. The fill's corners are those of the paragraph's advance box. Glyphs
/// that their face has in color show their own colors in the look's last layer, and their shape, neither
/// grown nor blurred, in the others: as renderers show them; embedded pictures need `color.read_picture`.
/// Glyphs that can't be read are noted. Fails with `bad_value` where the target is not rgba8, a number is not
/// finite, or a face has no outlines.
GRAFEMA_API Result<void> paint(Image& target, const FontStack& stack, const Paragraph& paragraph,
                               const Look& look, PixelPoint origin, Notes* notes = nullptr,
                               const ColorPaintOptions& color = {}, const LookOf& look_of = {});

/// The bounds of what a look paints of the text, in the paragraph's pixels: every layer's shape where it is
/// shifted to, as far as its edge fades. Empty where nothing is painted. Pictures that see less far
/// (`required_reach`) may show less.
GRAFEMA_API Rect ink_box(const FontStack& stack, const Paragraph& paragraph, const Look& look,
                         const LookOf& look_of = {});

/// Composites the whole picture with one color.
GRAFEMA_API void fill_image(Image& target, const Color& color);

/// Blends a rectangle of one color over the picture; its edges may stand between pixels.
GRAFEMA_API void paint_rect(Image& target, const Rect& rect, const Color& color);

/// Blends `source` (rgba8 or r8 as gray) over the picture with its top left corner at x, y, magnified `scale`
/// times without smoothing.
GRAFEMA_API void paint_image(Image& target, const Image& source, int x, int y, int scale = 1);

}  // namespace grafema
