// SPDX-License-Identifier: MIT
// The blocks of Unicode: named ranges of characters.
#pragma once

#include <cstdint>
#include <span>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema {

/// One block (Unicode Character Database, Blocks.txt).
struct UnicodeBlock {
  std::string_view name = {};  ///< "Basic Latin"; static storage
  char32_t first = 0, last = 0;
  std::uint32_t assigned =
      0;  ///< characters that Unicode has assigned in it; controls and surrogates are not counted
};

/// All blocks with assigned characters, ascending.
GRAFEMA_API std::span<const UnicodeBlock> unicode_blocks();

/// Whether the block counts the character: it is assigned, no control and no surrogate.
GRAFEMA_API bool is_assigned_character(char32_t character);

}  // namespace grafema
