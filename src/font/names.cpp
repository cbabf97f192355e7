// SPDX-License-Identifier: MIT
// Reads names and turns them into UTF-8.
#include "font/names.hpp"

#include "grafema/utf8.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kHeaderBytes = 6, kRecordBytes = 12;

enum class Encoding : std::uint8_t { none, utf16, roman };

Encoding encoding_of(std::uint16_t platform, std::uint16_t encoding) {
  if (platform == 0 || (platform == 3 && (encoding == 0 || encoding == 1 || encoding == 10))) return Encoding::utf16;
  return platform == 1 && encoding == 0 ? Encoding::roman : Encoding::none;
}

int rank(std::uint16_t platform, std::uint16_t encoding, std::uint16_t language) {
  if (encoding_of(platform, encoding) == Encoding::none) return 0;
  if (platform == 3) return language == 0x0409 ? 6 : (language & 0x3FF) == 9 ? 5 : 2;
  if (platform == 0) return 4;
  return language == 0 ? 3 : 1;
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

/// The upper half of the Mac OS Roman character set, from 0x80.
constexpr char16_t kRoman[129] =
    u"\u00C4\u00C5\u00C7\u00C9\u00D1\u00D6\u00DC\u00E1\u00E0\u00E2\u00E4\u00E3\u00E5\u00E7\u00E9\u00E8"
    u"\u00EA\u00EB\u00ED\u00EC\u00EE\u00EF\u00F1\u00F3\u00F2\u00F4\u00F6\u00F5\u00FA\u00F9\u00FB\u00FC"
    u"\u2020\u00B0\u00A2\u00A3\u00A7\u2022\u00B6\u00DF\u00AE\u00A9\u2122\u00B4\u00A8\u2260\u00C6\u00D8"
    u"\u221E\u00B1\u2264\u2265\u00A5\u00B5\u2202\u2211\u220F\u03C0\u222B\u00AA\u00BA\u03A9\u00E6\u00F8"
    u"\u00BF\u00A1\u00AC\u221A\u0192\u2248\u2206\u00AB\u00BB\u2026\u00A0\u00C0\u00C3\u00D5\u0152\u0153"
    u"\u2013\u2014\u201C\u201D\u2018\u2019\u00F7\u25CA\u00FF\u0178\u2044\u20AC\u2039\u203A\uFB01\uFB02"
    u"\u2021\u00B7\u201A\u201E\u2030\u00C2\u00CA\u00C1\u00CB\u00C8\u00CD\u00CE\u00CF\u00CC\u00D3\u00D4"
    u"\uF8FF\u00D2\u00DA\u00DB\u00D9\u0131\u02C6\u02DC\u00AF\u02D8\u02D9\u02DA\u00B8\u02DD\u02DB\u02C7";

std::string from_roman(std::span<const std::byte> bytes) {
  std::string text;
  for (const std::byte byte : bytes) {
    const auto value = static_cast<unsigned>(byte);
    append_utf8(text, value < 0x80 ? char32_t{value} : char32_t{kRoman[value - 0x80]});
  }
  return text;
}

/// The best record of a name id, as UTF-8 without control characters at its ends.
std::string find_name(const TableView& name, std::uint16_t id) {
  const std::size_t count = name.u16(2), storage = name.u16(4);
  int best = 0;
  std::string text;
  for (std::size_t i = 0; i < count && name.holds(kHeaderBytes + i * kRecordBytes, kRecordBytes); ++i) {
    const std::size_t record = kHeaderBytes + i * kRecordBytes;
    if (name.u16(record + 6) != id) continue;
    const std::uint16_t platform = name.u16(record), encoding = name.u16(record + 2);
    const int value = rank(platform, encoding, name.u16(record + 4));
    const std::size_t length = name.u16(record + 8), offset = storage + name.u16(record + 10);
    if (value <= best || !name.holds(offset, length)) continue;
    const std::span<const std::byte> bytes = name.bytes.subspan(offset, length);
    std::string candidate = encoding_of(platform, encoding) == Encoding::utf16 ? from_utf16(bytes) : from_roman(bytes);
    if (candidate.empty()) continue;
    best = value;
    text = std::move(candidate);
  }
  while (!text.empty() && static_cast<unsigned char>(text.back()) <= ' ') text.pop_back();
  return text;
}

}  // namespace

FaceNames read_names(const TableView& name) {
  enum Id : std::uint16_t { copyright, family, style, full = 4, version, license = 13, url, typographic_family = 16, typographic_style };
  FaceNames names;
  names.family = find_name(name, typographic_family);
  if (names.family.empty()) names.family = find_name(name, family);
  names.style = find_name(name, typographic_style);
  if (names.style.empty()) names.style = find_name(name, style);
  names.full_name = find_name(name, full);
  names.version = find_name(name, version);
  names.copyright = find_name(name, copyright);
  names.license = find_name(name, license);
  names.license_url = find_name(name, url);
  return names;
}

}  // namespace grafema::detail
