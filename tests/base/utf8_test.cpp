// SPDX-License-Identifier: MIT
// UTF-8, right and broken.
#include "grafema/base/utf8.hpp"

#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("every code point is written and read back", "[utf8][property]") {
  for (char32_t c = 0; c <= 0x10FFFF; c += c < 0x3000 ? 1 : 97) {
    if (c >= 0xD800 && c <= 0xDFFF) continue;
    std::string text;
    append_utf8(text, c);
    const DecodedCharacter read = decode_utf8(text, 0);
    REQUIRE(read.valid);
    REQUIRE(read.character == c);
    REQUIRE(read.length == text.size());
  }
}

TEST_CASE("broken sequences take their maximal part and name their first byte", "[utf8]") {
  const auto [bytes, lengths] =
      GENERATE(table<std::string, std::vector<int>>({{"\x80", {1}},
                                                     {"\xC0\xAF", {1, 1}},
                                                     {"\xE0\x80\x80", {1, 1, 1}},
                                                     {"\xED\xA0\x80", {1, 1, 1}},
                                                     {"\xF4\x90\x80\x80", {1, 1, 1, 1}},
                                                     {"\xE2\x98", {2}},
                                                     {"\xF0\x9F\x98", {3}},
                                                     {"\xF0\x80", {1, 1}},
                                                     {"\xFF", {1}},
                                                     {"\xC3", {1}}}));
  std::size_t at = 0;
  for (const int length : lengths) {
    const DecodedCharacter read = decode_utf8(bytes, at);
    CHECK_FALSE(read.valid);
    CHECK(read.character == 0xFFFD);
    CHECK(int{read.length} == length);
    at += read.length;
  }
  CHECK(at == bytes.size());
  CHECK(find_invalid_utf8("ab" + bytes) == 2U);
}

TEST_CASE("text without faults has none", "[utf8]") {
  CHECK_FALSE(find_invalid_utf8("Caf\xC3\xA9 \xF0\x9F\x9A\x8B").has_value());
}

TEST_CASE("what is no character is written as U+FFFD", "[utf8]") {
  for (const char32_t c : {char32_t{0xD800}, char32_t{0x110000}}) {
    std::string text;
    append_utf8(text, c);
    CHECK(text == "\xEF\xBF\xBD");
  }
}
