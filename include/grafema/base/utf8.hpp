// SPDX-License-Identifier: MIT
// UTF-8 in and out (Unicode 15, section 3.9).
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema {

/// One step of reading UTF-8.
struct DecodedCharacter {
  char32_t character = 0xFFFD;  ///< U+FFFD where `valid` is false
  std::uint8_t length = 1;      ///< bytes taken, at least 1
  bool valid = false;
};

/// Reads the character at `offset`, which must be below `text.size()`. A broken sequence takes the bytes that
/// a "maximal subpart" has (Unicode 15, section 3.9, table 3-8), so that reading goes on at the next possible
/// start.
GRAFEMA_API DecodedCharacter decode_utf8(std::string_view text, std::size_t offset);

/// The offset of the first byte that is not UTF-8.
GRAFEMA_API std::optional<std::size_t> find_invalid_utf8(std::string_view text);

/// Appends `character`; surrogates and values above U+10FFFF are appended as U+FFFD.
GRAFEMA_API void append_utf8(std::string& text, char32_t character);

}  // namespace grafema
