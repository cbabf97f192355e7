// SPDX-License-Identifier: MIT
// Facts of single characters: script, whether they show anything (Unicode Character Database).
#pragma once

#include "grafema/base/tag.hpp"

namespace grafema {

/// The OpenType script tag of a character (Unicode Script property). `Tag{}` for characters that several
/// scripts share: digits, punctuation, combining accents.
GRAFEMA_API Tag script_of(char32_t character);

/// Whether the character shows nothing where no face has a glyph for it: controls (category Cc) and
/// characters with the property Default_Ignorable_Code_Point, such as joiners and variation selectors. They
/// are never reported as missing.
GRAFEMA_API bool is_invisible(char32_t character);

/// Whether the character selects a variant of the one before it (property Variation_Selector).
constexpr bool is_variation_selector(char32_t c) {
  return (c >= 0xFE00 && c <= 0xFE0F) || (c >= 0xE0100 && c <= 0xE01EF) ||
         (c >= 0x180B && c <= 0x180F && c != 0x180E);
}

}  // namespace grafema
