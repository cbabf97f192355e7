// SPDX-License-Identifier: MIT
// Spaces that a face's own space can stand in for.
#pragma once

namespace grafema::detail {

/// Whether the character is a space that the face's U+0020 can stand in for: no-break, narrow and ideographic
/// spaces, and those of fixed widths.
inline bool is_made_space(char32_t c) {
  return c == 0xA0 || (c >= 0x2000 && c <= 0x200A) || c == 0x202F || c == 0x205F || c == 0x3000;
}

}  // namespace grafema::detail
