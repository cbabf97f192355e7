// SPDX-License-Identifier: MIT
// Errors as sentences.
#include "grafema/base/error.hpp"

#include <catch2/catch.hpp>
#include <type_traits>

using namespace grafema;

TEST_CASE("an error needs no heap and names table, offset, expectation and finding", "[error]") {
  STATIC_REQUIRE(std::is_trivially_copyable_v<Error>);
  Error error = make_error(ErrorKind::damaged, "a pair count that fits", "900");
  error.table = tag("kern");
  error.offset = 10;
  CHECK(describe(error, "/fonts/a.ttf") ==
        "/fonts/a.ttf is damaged in table 'kern' at byte 10: expected a pair count that fits, found 900");
  CHECK(describe(make_error(ErrorKind::file_unreadable, "", "No such file")) ==
        "can't be read: No such file");
}

TEST_CASE("what was found is cut where it is too long", "[error]") {
  const Error error = make_error(ErrorKind::bad_value, "less", std::string(1000, 'x'));
  CHECK(std::string(error.found.data()) == std::string(error.found.size() - 1, 'x'));
}

TEST_CASE("a sentence shows control characters of files and names, and is never cut by them", "[error]") {
  using namespace std::string_view_literals;
  CHECK(describe(make_error(ErrorKind::damaged, "a word", "a\x1B[31m\0b"sv), "x\0\ny.json"sv) ==
        "x\\x00\\x0Ay.json is damaged: expected a word, found a\\x1B[31m?b");
}

TEST_CASE("tags are padded and read back", "[error]") {
  CHECK(to_string(tag("CFF")) == "CFF ");
  CHECK(tag("kern") == Tag{0x6B65726E});
  CHECK(to_string(Tag{0x01020304}) == "????");
}
