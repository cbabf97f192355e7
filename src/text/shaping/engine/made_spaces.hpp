// SPDX-License-Identifier: MIT
// Spaces that a face does not have, made from its own.
#pragma once

#include "grafema/font/glyph_metrics.hpp"

namespace grafema::detail {

/// Whether the character is a space that the face's U+0020 can stand in for: no-break, narrow and ideographic
/// spaces, and those of fixed widths.
inline bool is_made_space(char32_t c) {
  return c == 0xA0 || (c >= 0x2000 && c <= 0x200A) || c == 0x202F || c == 0x205F || c == 0x3000;
}

/// The advance of such a space in font units (The Unicode Standard, section 6.2, table 6-2, and the names of
/// the characters). `space` is the face's U+0020. A narrow no-break space is half of that.
float made_space_advance(const GlyphMetrics& metrics, GlyphId space, char32_t c);

}  // namespace grafema::detail
