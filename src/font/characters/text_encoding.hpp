// SPDX-License-Identifier: MIT
// The character sets of names and old character maps, turned into Unicode (OpenType, name).
#pragma once

#include <cstdint>
#include <span>
#include <string>

namespace grafema::detail {

enum class TextEncoding : std::uint8_t {
  none,
  utf16,
  roman,
  central_european,
  cyrillic,
  greek,
  turkish,
  croatian,
  icelandic,
  romanian,
  arabic,
  thai,
  shift_jis,
  big5,
  gbk,
  wansung,
  johab,
};

/// `language` tells apart what the Macintosh platform writes with one script; 0 where none is known.
TextEncoding find_encoding(std::uint16_t platform, std::uint16_t encoding, std::uint16_t language);

/// As UTF-8; bytes that stand for nothing become U+FFFD. Empty for `none`.
std::string decode_text(TextEncoding encoding, std::span<const std::byte> bytes);

/// Whether the bytes of a character are one or two (the East Asian sets).
bool is_double_byte(TextEncoding encoding);

}  // namespace grafema::detail
