// SPDX-License-Identifier: MIT
// Texts of the name table.
#include "font/names.hpp"

#include <catch2/catch.hpp>

#include "support/font_builder.hpp"

using namespace grafema;
using test::words;

namespace {

struct Record {
  int platform, encoding, language, id;
  std::vector<std::byte> text;
};

FaceNames names_of(const std::vector<Record>& records) {
  std::vector<std::byte> table = words({0, static_cast<int>(records.size()), 6 + static_cast<int>(records.size()) * 12}), texts;
  for (const Record& r : records) {
    table = test::joined({table, words({r.platform, r.encoding, r.language, r.id, static_cast<int>(r.text.size()), static_cast<int>(texts.size())})});
    texts = test::joined({texts, r.text});
  }
  table = test::joined({table, texts});
  return detail::read_names({tag("name"), table}, {});
}

}  // namespace

TEST_CASE("the best language wins, whatever the order", "[names]") {
  const Record german{3, 1, 0x407, 1, words({'D'})}, english{3, 1, 0x409, 1, words({'E'})}, roman{1, 0, 0, 1, words({('R' << 8) | 'o'})};
  CHECK(names_of({german, english, roman}).family == "E");
  CHECK(names_of({roman, german}).family == "Ro");
  CHECK(names_of({german}).family == "D");
}

TEST_CASE("typographic names win over the old ones", "[names]") {
  const FaceNames names = names_of({{3, 1, 0x409, 1, words({'a'})}, {3, 1, 0x409, 16, words({'b'})}, {3, 1, 0x409, 2, words({'c'})}, {3, 1, 0x409, 17, words({'d'})}});
  CHECK(names.family == "b");
  CHECK(names.style == "d");
}

TEST_CASE("surrogates and the Macintosh's own letters become UTF-8", "[names]") {
  CHECK(names_of({{3, 10, 0x409, 1, words({0xD83D, 0xDE8B})}}).family == "\xF0\x9F\x9A\x8B");
  CHECK(names_of({{3, 1, 0x409, 1, words({0xD83D})}}).family == "\xEF\xBF\xBD");
  CHECK(names_of({{1, 0, 0, 1, words({0x8Ea9})}}).family == "\xC3\xA9\xC2\xA9");
}

TEST_CASE("texts outside the table are passed over", "[names]") {
  CHECK(detail::read_names({tag("name"), words({0, 1, 18, 3, 1, 0x409, 1, 500, 0})}, {}).family.empty());
  CHECK(detail::read_names({tag("name"), {}}, {}).family.empty());
}
