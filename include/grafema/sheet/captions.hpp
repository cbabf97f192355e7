// SPDX-License-Identifier: MIT
// Captions of pictures, set in Quillmere Dot.
#pragma once

#include <string_view>

#include "grafema/base/color.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/base/image.hpp"

namespace grafema {

/// One line of caption text, `scale` pixels a pixel of Quillmere Dot (1..16), its box's top left corner at
/// `at`. Gives the caption's width.
GRAFEMA_API float draw_caption(Image& target, std::string_view text, PixelPoint at, const Color& color,
                               int scale = 1);

/// How wide `draw_caption` makes a text, in pixels.
GRAFEMA_API float caption_width(std::string_view text, int scale = 1);

}  // namespace grafema
