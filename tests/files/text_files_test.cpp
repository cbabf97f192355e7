// SPDX-License-Identifier: MIT
// The characters of a game's files.
#include <catch2/catch.hpp>

#include "grafema/files/files.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::u32string characters(const std::string& name, const std::string& text) {
  const test::Folder folder;
  REQUIRE(save_text(folder.path(name), text).has_value());
  const auto loaded = load_characters(folder.path(name));
  REQUIRE(loaded.has_value());
  return {loaded->begin(), loaded->end()};
}

}  // namespace

TEST_CASE("plain text gives each of its characters once, without line breaks", "[text_files]") {
  CHECK(characters("a.txt",
                   "\xEF\xBB\xBF"
                   "baab\n\tz") == U"abz");
}

TEST_CASE("JSON gives its values, not its keys", "[text_files]") {
  CHECK(characters("a.json", R"({"key": "ab", "list": ["c", {"deep": "\u00e9"}], "n": 12})") == U"abc\u00E9");
  CHECK(characters("deep.json", std::string(5000, '[') + "\"q\"" + std::string(5000, ']')) == U"q");
}

TEST_CASE("comma-separated values give their fields", "[text_files]") {
  CHECK(characters("a.csv", "ab,cd\r\n\"e,\"\"f\",g\n") == U"\",abcdefg");
}

TEST_CASE("a byte that is not UTF-8 is refused with its offset", "[text_files]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("a.txt"), "abc\xFF").has_value());
  const auto loaded = load_characters(folder.path("a.txt"));
  REQUIRE_FALSE(loaded.has_value());
  CHECK(loaded.error().error.kind == ErrorKind::bad_text);
  CHECK(loaded.error().error.offset == 3);
}
