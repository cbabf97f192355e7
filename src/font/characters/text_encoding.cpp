// SPDX-License-Identifier: MIT
// Decodes one-byte sets by table, UTF-16 by hand, East Asian sets by the C library.
#include "font/characters/text_encoding.hpp"

#include <iconv.h>

#include <vector>

#include "font/container/table.hpp"
#include "grafema/base/utf8.hpp"

namespace grafema::detail {
namespace {

#include "font/characters/text_encodings.inc"

const char16_t* table_of(TextEncoding encoding) {
  switch (encoding) {
    case TextEncoding::roman:
      return kRoman;
    case TextEncoding::central_european:
      return kCentralEuropean;
    case TextEncoding::cyrillic:
      return kCyrillic;
    case TextEncoding::greek:
      return kGreek;
    case TextEncoding::turkish:
      return kTurkish;
    case TextEncoding::croatian:
      return kCroatian;
    case TextEncoding::icelandic:
      return kIcelandic;
    case TextEncoding::romanian:
      return kRomanian;
    case TextEncoding::arabic:
      return kArabic;
    case TextEncoding::thai:
      return kThai;
    default:
      return nullptr;
  }
}

const char* library_name(TextEncoding encoding) {
  switch (encoding) {
    case TextEncoding::shift_jis:
      return "CP932";
    case TextEncoding::big5:
      return "BIG5";
    case TextEncoding::gbk:
      return "GBK";
    case TextEncoding::wansung:
      return "CP949";
    case TextEncoding::johab:
      return "JOHAB";
    default:
      return nullptr;
  }
}

std::string from_utf16(std::span<const std::byte> bytes) {
  std::string text;
  for (std::size_t i = 0; i + 1 < bytes.size(); i += 2) {
    char32_t c = be16(bytes, i);
    if (c >= 0xD800 && c < 0xDC00 && i + 3 < bytes.size()) {
      const char32_t low = be16(bytes, i + 2);
      if (low >= 0xDC00 && low < 0xE000) {
        c = 0x10000 + ((c - 0xD800) << 10) + (low - 0xDC00);
        i += 2;
      }
    }
    append_utf8(text, c);
  }
  return text;
}

std::string from_table(const char16_t* upper_half, std::span<const std::byte> bytes) {
  std::string text;
  for (const std::byte byte : bytes) {
    const auto value = static_cast<unsigned>(byte);
    append_utf8(text, value < 0x80 ? char32_t{value} : char32_t{upper_half[value - 0x80]});
  }
  return text;
}

/// Fonts write these sets with two bytes a character, the first of which is 0 for the one-byte ones.
std::vector<char> without_zeros(std::span<const std::byte> bytes) {
  std::vector<char> plain;
  for (const std::byte byte : bytes) {
    if (byte != std::byte{0}) plain.push_back(static_cast<char>(byte));
  }
  return plain;
}

std::string from_library(const char* name, std::span<const std::byte> bytes) {
  const iconv_t converter = ::iconv_open("UTF-8", name);
  if (converter == reinterpret_cast<iconv_t>(-1)) return {};  // NOLINT: how iconv says no
  std::vector<char> in = without_zeros(bytes);
  std::string text;
  char* from = in.data();
  std::size_t left = in.size();
  char buffer[256];
  while (left > 0) {
    char* to = buffer;
    std::size_t room = sizeof(buffer);
    const std::size_t before = left;
    const bool failed = ::iconv(converter, &from, &left, &to, &room) == static_cast<std::size_t>(-1);
    text.append(buffer, static_cast<std::size_t>(to - buffer));
    if (failed && left > 0 && (left == before || room > 8)) {  // a byte that stands for nothing
      append_utf8(text, 0xFFFD);
      ++from;
      --left;
    }
  }
  ::iconv_close(converter);
  return text;
}

TextEncoding macintosh_encoding(std::uint16_t script, std::uint16_t language) {
  enum Language : std::uint16_t { icelandic = 15, turkish = 17, croatian = 18, romanian = 37 };
  switch (script) {
    case 0:
      if (language == icelandic) return TextEncoding::icelandic;
      if (language == turkish) return TextEncoding::turkish;
      if (language == croatian) return TextEncoding::croatian;
      return language == romanian ? TextEncoding::romanian : TextEncoding::roman;
    case 1:
      return TextEncoding::shift_jis;
    case 2:
      return TextEncoding::big5;
    case 3:
      return TextEncoding::wansung;
    case 4:
      return TextEncoding::arabic;
    case 6:
      return TextEncoding::greek;
    case 7:
      return TextEncoding::cyrillic;
    case 21:
      return TextEncoding::thai;
    case 25:
      return TextEncoding::gbk;
    case 29:
      return TextEncoding::central_european;
    default:
      return TextEncoding::none;
  }
}

}  // namespace

TextEncoding find_encoding(std::uint16_t platform, std::uint16_t encoding, std::uint16_t language) {
  if (platform == 0) return TextEncoding::utf16;
  if (platform == 1) return macintosh_encoding(encoding, language);
  if (platform == 2) {
    return encoding == 1 ? TextEncoding::utf16 : encoding == 0 ? TextEncoding::roman : TextEncoding::none;
  }
  if (platform != 3) return TextEncoding::none;
  constexpr TextEncoding kWindows[] = {TextEncoding::utf16, TextEncoding::utf16, TextEncoding::shift_jis,
                                       TextEncoding::gbk,   TextEncoding::big5,  TextEncoding::wansung,
                                       TextEncoding::johab};
  if (encoding == 10) return TextEncoding::utf16;
  return encoding < 7 ? kWindows[encoding] : TextEncoding::none;
}

std::string decode_text(TextEncoding encoding, std::span<const std::byte> bytes) {
  if (encoding == TextEncoding::utf16) return from_utf16(bytes);
  if (const char16_t* table = table_of(encoding)) return from_table(table, bytes);
  const char* name = library_name(encoding);
  return name == nullptr ? std::string() : from_library(name, bytes);
}

bool is_double_byte(TextEncoding encoding) { return library_name(encoding) != nullptr; }

}  // namespace grafema::detail
