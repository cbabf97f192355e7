// SPDX-License-Identifier: MIT
// Signs that stretch over the letters behind them, as Syriac's abbreviation mark does (OpenType, `stch`).
#pragma once

#include "grafema/font/glyph_metrics.hpp"
#include "text/shaping/engine/shape_buffer.hpp"

namespace grafema::detail {

/// Marks the parts that `stch` has just made of each sign: the odd ones stand once, the even ones repeat.
void mark_stretched(ShapeBuffer& buffer);

/// Repeats and spreads marked parts over the letters, marks and digits that follow their sign. For items
/// whose places are final; `parts` is working memory.
void stretch_signs(ShapeBuffer& buffer, const GlyphMetrics& metrics, bool left_to_right,
                   std::vector<ShapeItem>& parts);

}  // namespace grafema::detail
