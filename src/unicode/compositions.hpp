// SPDX-License-Identifier: MIT
// Characters that are the same as others: canonical decompositions, marks, mirror images.
#pragma once

#include <span>

#include "grafema/base/export.hpp"

namespace grafema::detail {

/// A character and what it is made of; `second` is 0 for one that stands for another one.
struct Composition {
  char32_t whole, first, second;
};

/// All raw canonical decompositions but those of Hangul syllables, ascending (Unicode Standard, 3.7).
std::span<const Composition> compositions();

/// The mirror image in text from right to left (Bidi_Mirroring_Glyph); the character itself where it has
/// none.
char32_t mirror_image(char32_t character);

/// Whether the character is a combining mark (category M).
GRAFEMA_API bool is_mark(char32_t character);

}  // namespace grafema::detail
