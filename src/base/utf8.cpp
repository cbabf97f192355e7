// SPDX-License-Identifier: MIT
// Decodes and encodes UTF-8.
#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

/// What the first byte of a sequence says: how many bytes follow, its own bits, the range of the second byte.
struct Lead {
  std::uint8_t following, bits, second_min, second_max;
};

/// Table 3-7 of the Unicode Standard; `following` is 0 for a byte that starts nothing.
Lead read_lead(std::uint8_t byte) {
  if (byte >= 0xC2 && byte <= 0xDF) return {1, static_cast<std::uint8_t>(byte & 0x1F), 0x80, 0xBF};
  if (byte == 0xE0) return {2, 0, 0xA0, 0xBF};
  if (byte == 0xED) return {2, 0xD, 0x80, 0x9F};
  if (byte >= 0xE1 && byte <= 0xEF) return {2, static_cast<std::uint8_t>(byte & 0x0F), 0x80, 0xBF};
  if (byte == 0xF0) return {3, 0, 0x90, 0xBF};
  if (byte >= 0xF1 && byte <= 0xF3) return {3, static_cast<std::uint8_t>(byte & 0x07), 0x80, 0xBF};
  if (byte == 0xF4) return {3, 4, 0x80, 0x8F};
  return {0, 0, 0, 0};
}

}  // namespace

DecodedCharacter decode_utf8(std::string_view text, std::size_t offset) {
  const auto first = static_cast<std::uint8_t>(text[offset]);
  if (first < 0x80) return {first, 1, true};
  const Lead lead = read_lead(first);
  if (lead.following == 0) return {};
  char32_t character = lead.bits;
  std::uint8_t low = lead.second_min, high = lead.second_max;
  for (std::uint8_t i = 1; i <= lead.following; ++i) {
    if (offset + i >= text.size()) return {0xFFFD, i, false};
    const auto byte = static_cast<std::uint8_t>(text[offset + i]);
    if (byte < low || byte > high) return {0xFFFD, i, false};
    character = (character << 6) | (byte & 0x3F);
    low = 0x80;
    high = 0xBF;
  }
  return {character, static_cast<std::uint8_t>(lead.following + 1), true};
}

std::optional<std::size_t> find_invalid_utf8(std::string_view text) {
  for (std::size_t i = 0; i < text.size();) {
    const DecodedCharacter next = decode_utf8(text, i);
    if (!next.valid) return i;
    i += next.length;
  }
  return std::nullopt;
}

void append_utf8(std::string& text, char32_t c) {
  if (c > 0x10FFFF || (c >= 0xD800 && c <= 0xDFFF)) c = 0xFFFD;
  const auto tail = [&text, c](int shift) { text += static_cast<char>(0x80 | ((c >> shift) & 0x3F)); };
  if (c < 0x80) {
    text += static_cast<char>(c);
  } else if (c < 0x800) {
    text += static_cast<char>(0xC0 | (c >> 6));
    tail(0);
  } else if (c < 0x10000) {
    text += static_cast<char>(0xE0 | (c >> 12));
    tail(6);
    tail(0);
  } else {
    text += static_cast<char>(0xF0 | (c >> 18));
    tail(12);
    tail(6);
    tail(0);
  }
}

}  // namespace grafema
