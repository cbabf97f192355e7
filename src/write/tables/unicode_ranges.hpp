// SPDX-License-Identifier: MIT
// What OS/2 says of the characters that a font has.
#pragma once

#include <array>
#include <cstdint>

#include "write/tables/glyph_tables.hpp"

namespace grafema::detail {

/// ulUnicodeRange1 to 4: a bit where the font has any character of the range.
std::array<std::uint32_t, 4> unicode_ranges(const CharacterList& characters);
/// ulCodePageRange1 and 2: a bit where it has letters that tell the code page from others.
std::array<std::uint32_t, 2> code_pages(const CharacterList& characters);

}  // namespace grafema::detail
