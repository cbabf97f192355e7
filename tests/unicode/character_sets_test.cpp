// SPDX-License-Identifier: MIT
// Named sets and ranges.
#include "grafema/unicode/character_sets.hpp"

#include <unicode/uchar.h>
#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("named sets hold what they say", "[character_sets]") {
  CHECK(read_character_set("ascii")->size() == 95);
  CHECK(read_character_set("digits")->size() == 10);
  CHECK(read_character_set("punctuation")->size() == 32);
  CHECK_FALSE(read_character_set("klingon").has_value());
  const std::string name = GENERATE("latin1", "latin-extended", "greek", "cyrillic");
  const std::vector<char32_t> set = *read_character_set(name);
  for (const char32_t c : set) {
    INFO(static_cast<unsigned>(c));
    CHECK(u_isdefined(static_cast<UChar32>(c)));
    CHECK_FALSE(u_iscntrl(static_cast<UChar32>(c)));
  }
}

TEST_CASE("ranges are hexadecimal and ascend", "[character_sets]") {
  CHECK(*read_character_ranges("41-43,U+20AC") == std::vector<char32_t>{0x41, 0x42, 0x43, 0x20AC});
  CHECK(read_character_ranges("D7FF-E000")->size() == 2);  // surrogates are no characters
  for (const char* bad : {"", "43-41", "41-", "-41", "110000", "4G", "41,,42", "41-42-43", "1234567"}) {
    CHECK_FALSE(read_character_ranges(bad).has_value());
  }
}
