// SPDX-License-Identifier: MIT
// A look painted into the pictures of a color atlas, for games that want fixed, cheap text.
#pragma once

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/look.hpp"

namespace grafema {

/// Paints glyphs with `look` at up to `largest` pixels per em; looks in ems follow the size of each strike.
/// Four-color fills span the glyph's box from side to side, and from 0.8 em above the baseline to 0.2 em
/// below, so that letters in a row match.
GRAFEMA_API GlyphPainter make_painter(const Look& look, float largest);

}  // namespace grafema
