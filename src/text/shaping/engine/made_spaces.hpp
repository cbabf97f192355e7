// SPDX-License-Identifier: MIT
// Spaces that a face does not have, made from its own.
#pragma once

#include "grafema/font/glyph_metrics.hpp"
#include "unicode/spaces.hpp"

namespace grafema::detail {

/// The advance of a made space (`is_made_space`) in font units (The Unicode Standard, section 6.2, table 6-2,
/// and the names of the characters). `space` is the face's U+0020. A narrow no-break space is half of that.
float made_space_advance(const GlyphMetrics& metrics, GlyphId space, char32_t c);

}  // namespace grafema::detail
