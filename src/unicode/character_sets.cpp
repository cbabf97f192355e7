// SPDX-License-Identifier: MIT
// Named sets and ranges of characters.
#include "grafema/unicode/character_sets.hpp"

#include <optional>

#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

struct NamedSet {
  std::string_view name, ranges;
};

// Assigned characters of Unicode 15 in the blocks that the names stand for.
constexpr NamedSet kSets[] = {
    {"ascii", "20-7E"},
    {"upper", "41-5A"},
    {"lower", "61-7A"},
    {"digits", "30-39"},
    {"punctuation", "21-2F,3A-40,5B-60,7B-7E"},
    {"latin1", "20-7E,A0-AC,AE-FF"},
    {"latin-extended", "20-7E,A0-AC,AE-24F,1E00-1EFF,2010-2027,2030-205E,20AC"},
    {"greek", "20-7E,370-377,37A-37F,384-38A,38C,38E-3A1,3A3-3FF"},
    {"cyrillic", "20-7E,400-45F,490-491"},
};

constexpr const char* kNames =
    "one of ascii, upper, lower, digits, punctuation, latin1, latin-extended, greek, cyrillic";

std::optional<char32_t> find_code_point(std::string_view text) {
  if (text.starts_with("U+") || text.starts_with("u+")) text.remove_prefix(2);
  if (text.empty() || text.size() > 6) return std::nullopt;
  char32_t value = 0;
  for (const char c : text) {
    const char lower = c >= 'A' && c <= 'F' ? static_cast<char>(c + 32) : c;
    const bool digit = lower >= '0' && lower <= '9';
    if (!digit && !(lower >= 'a' && lower <= 'f')) return std::nullopt;
    value = value * 16 + static_cast<char32_t>(digit ? lower - '0' : lower - 'a' + 10);
  }
  return value <= 0x10FFFF ? std::optional(value) : std::nullopt;
}

}  // namespace

Result<std::vector<char32_t>> read_character_set(std::string_view name) {
  for (const NamedSet& set : kSets) {
    if (set.name == name) return read_character_ranges(set.ranges);
  }
  return fail(make_error(ErrorKind::bad_value, kNames, name));
}

Result<std::vector<char32_t>> read_character_ranges(std::string_view text) {
  std::vector<char32_t> out;
  for (std::size_t at = 0; at <= text.size();) {
    const std::size_t end = std::min(text.find(',', at), text.size());
    const std::string_view item = text.substr(at, end - at);
    const std::size_t dash = item.find('-');
    const std::optional<char32_t> first = find_code_point(item.substr(0, dash));
    const std::optional<char32_t> last =
        dash == std::string_view::npos ? first : find_code_point(item.substr(dash + 1));
    if (!first || !last || *last < *first) {
      return bad_value("hexadecimal ranges such as 20-7E,A0-FF", item);
    }
    for (char32_t c = *first; c <= *last; ++c) {
      if (c < 0xD800 || c > 0xDFFF) out.push_back(c);
    }
    at = end + 1;
  }
  return out;
}

void add_characters(std::string_view text, std::vector<char32_t>& out) {
  for (std::size_t at = 0; at < text.size();) {
    const DecodedCharacter next = decode_utf8(text, at);
    out.push_back(next.character);
    at += next.length;
  }
}

}  // namespace grafema
