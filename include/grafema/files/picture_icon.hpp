// SPDX-License-Identifier: MIT
// A game's own pictures as icons between words.
#pragma once

#include <cstddef>
#include <span>
#include <string>

#include "grafema/files/files.hpp"
#include "grafema/text/rich_text.hpp"

namespace grafema {

/// An icon that shows a PNG in its own colors, as high as `height` ems of the text around it and as wide as
/// the picture's proportions ask for: for `IconBook::set` and RichText::icons. It is the one glyph of a face
/// made for it, drawn as glyphs with embedded pictures are: `paint` and caches need `read_picture`, such as
/// `read_png`. Fails with `not_an_image` or `damaged` as `read_png` does, and with `bad_value` where a
/// picture is larger than 4096 pixels or more than 32 times as wide as high.
GRAFEMA_API Result<Icon> make_picture_icon(std::span<const std::byte> png, float height = 1);
/// The same from a file.
GRAFEMA_API FileResult<Icon> load_picture_icon(const std::string& path, float height = 1);

}  // namespace grafema
