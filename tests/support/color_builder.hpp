// SPDX-License-Identifier: MIT
// Color tables for tests: a paint graph, a strike of sbix, pictures of CBDT.
#pragma once

#include <vector>

#include "support/font_builder.hpp"

namespace grafema::test {

/// COLR version 1 with one paint for glyph 5; what it refers to follows it in `paint`. Layers are offsets
/// into `layers`.
std::vector<std::byte> colr(const std::vector<std::byte>& paint,
                            const std::vector<std::vector<std::byte>>& layers = {},
                            const std::vector<std::byte>& clips = {},
                            const std::vector<std::byte>& store = {});

/// One strike of 64 pixels per em for a face of 131 glyphs: a picture of glyph 2, as which glyph 3 looks.
std::vector<std::byte> sbix();

/// CBLC and CBDT with one picture, of glyph 8, at 109 pixels per em.
void add_bitmaps(FontBuilder& builder, int index_format, int image_format);

}  // namespace grafema::test
