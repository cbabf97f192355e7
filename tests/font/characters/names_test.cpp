// SPDX-License-Identifier: MIT
// Texts of the name table.
#include "font/characters/names.hpp"

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
  std::vector<std::byte> table = words({0, static_cast<int>(records.size()),
                                        6 + static_cast<int>(records.size()) * 12}),
                         texts;
  for (const Record& r : records) {
    table = test::joined({table, words({r.platform, r.encoding, r.language, r.id,
                                        static_cast<int>(r.text.size()), static_cast<int>(texts.size())})});
    texts = test::joined({texts, r.text});
  }
  table = test::joined({table, texts});
  return detail::read_names({tag("name"), table}, {});
}

}  // namespace

TEST_CASE("the best language wins, whatever the order", "[names]") {
  const Record german{3, 1, 0x407, 1, words({'D'})}, english{3, 1, 0x409, 1, words({'E'})},
      roman{1, 0, 0, 1, words({('R' << 8) | 'o'})};
  CHECK(names_of({german, english, roman}).family == "E");
  CHECK(names_of({roman, german}).family == "Ro");
  CHECK(names_of({german}).family == "D");
}

TEST_CASE("typographic names win over the old ones", "[names]") {
  const FaceNames names = names_of({{3, 1, 0x409, 1, words({'a'})},
                                    {3, 1, 0x409, 16, words({'b'})},
                                    {3, 1, 0x409, 2, words({'c'})},
                                    {3, 1, 0x409, 17, words({'d'})}});
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

TEST_CASE("names in the character sets of old fonts", "[names]") {
  const auto bytes = [](std::initializer_list<int> values) {
    std::vector<std::byte> out;
    for (const int v : values) out.push_back(static_cast<std::byte>(v));
    return out;
  };
  CHECK(names_of({{1, 0, 0, 1, bytes({0x85, 'r', 'n'})}}).family ==
        "\xC3\x96rn");  // Mac OS Roman: O with dieresis
  CHECK(names_of({{1, 7, 0, 1, bytes({0x80, 0xE0})}}).family == "\xD0\x90\xD0\xB0");  // Cyrillic: A a
  CHECK(names_of({{1, 29, 0, 1, bytes({0x8B})}}).family == "\xC4\x8D");  // Central European: c with caron
  CHECK(names_of({{1, 0, 17, 1, bytes({0xDA})}}).family == "\xC4\x9E");  // Turkish: G with breve
  CHECK(names_of({{1, 1, 11, 1, bytes({0x83, 0x67, 0x83, 0x89})}}).family ==
        "\xE3\x83\x88\xE3\x83\xA9");  // Japanese: Katakana to, ra
  CHECK(names_of({{3, 2, 0x411, 1, bytes({0x83, 0x67, 0, 'A'})}}).family ==
        "\xE3\x83\x88"
        "A");                                                                         // the same on Windows
  CHECK(names_of({{3, 3, 0x804, 1, bytes({0xB5, 0xE7})}}).family == "\xE7\x94\xB5");  // GBK
  CHECK(names_of({{3, 4, 0x404, 1, bytes({0xB9, 0x71})}}).family == "\xE9\x9B\xBB");  // Big5
  CHECK(names_of({{3, 5, 0x412, 1, bytes({0xC0, 0xFC})}}).family == "\xEC\xA0\x84");  // Wansung
  CHECK(names_of({{3, 2, 0x411, 1, bytes({0x83})}}).family == "\xEF\xBF\xBD");        // half a character
  CHECK(names_of({{2, 1, 0, 1, words({'I'})}}).family == "I");
}

TEST_CASE("languages of meta", "[names]") {
  const std::string text = "de, el-Latn";
  std::vector<std::byte> meta =
      words({0, 1, 0, 0, 0, 28, 0, 1, ('d' << 8) | 'l', ('n' << 8) | 'g', 0, 28, 0, 11});
  for (const char c : text) meta.push_back(static_cast<std::byte>(c));
  CHECK(detail::read_names({tag("name"), {}}, {tag("meta"), meta}).design_languages == text);
}
