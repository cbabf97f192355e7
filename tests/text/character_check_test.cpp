// SPDX-License-Identifier: MIT
// Characters that faces lack, or only seem to have.
#include "grafema/text/character_check.hpp"

#include <catch2/catch.hpp>

#include "grafema/write/make_font.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// A face in which b is empty, c is the missing-glyph shape, d looks as D does.
std::shared_ptr<const Face> odd_face() {
  FontDrawing drawing;
  drawing.names.family = "Odd";
  drawing.lines = {800, 200, 0};
  const auto add = [&](char32_t c, const Contours& outline) {
    DrawnGlyph glyph;
    if (c != 0) glyph.characters = {c};
    glyph.outline = outline;
    glyph.advance = 500;
    drawing.glyphs.push_back(glyph);
  };
  const Contours box = test::polygon({{0, 0}, {0, 700}, {400, 700}, {400, 0}}),
                 wedge = test::polygon({{0, 0}, {200, 700}, {400, 0}});
  add(0, box);
  add(U'a', wedge);
  add(U' ', {});
  add(U'b', {});
  add(U'c', box);
  add(U'd', test::polygon({{0, 0}, {0, 300}, {400, 0}}));
  add(U'D', test::polygon({{0, 0}, {0, 300}, {400, 0}}));
  return *Face::open(FontData::own(*make_font(drawing)));
}

}  // namespace

TEST_CASE("each character's fate is told", "[character_check]") {
  const FontStack stack{odd_face(), test::dejavu()};
  const std::vector<CheckedCharacter> checked =
      check_characters(stack, std::u32string_view(U"a bcdDx\u200D\U0001F68A"));
  const std::vector<CheckedCharacter> wanted = {
      {U'a', CharacterFate::supplied, 0},      {U' ', CharacterFate::supplied, 0},
      {U'b', CharacterFate::empty, 0},         {U'c', CharacterFate::missing_shape, 0},
      {U'd', CharacterFate::capital_shape, 0}, {U'D', CharacterFate::supplied, 0},
      {U'x', CharacterFate::supplied, 1},      {0x200D, CharacterFate::supplied, 1},
      {0x1F68A, CharacterFate::missing, 0}};
  CHECK(checked == wanted);
}

TEST_CASE("characters that show nothing are not missed", "[character_check]") {
  CHECK(check_characters({odd_face()}, std::u32string_view(U"\u200D\uFE0F")).empty());
}

TEST_CASE("a real face has what it maps", "[character_check][property]") {
  const auto face = test::dejavu();
  std::vector<char32_t> latin;
  for (char32_t c = 0x20; c < 0x17F; ++c) {
    if (face->find_glyph(c) != kMissingGlyph) latin.push_back(c);
  }
  for (const CheckedCharacter& c : check_characters({face}, latin)) {
    INFO(static_cast<unsigned>(c.character));
    CHECK(c.fate == CharacterFate::supplied);
  }
}

TEST_CASE("characters have names", "[character_check]") {
  CHECK(character_name(0x3B1) == "GREEK SMALL LETTER ALPHA");
  CHECK(character_name(0xFFFFF).empty());
}

TEST_CASE("clusters are shown by one face as a whole, and what it lacks is told", "[character_check]") {
  const std::string text = "q\xCC\x81 e\xCC\x81 ab q\xCC\x81";
  const std::vector<CheckedCluster> alone = check_clusters({built_in_face()}, text);
  REQUIRE(alone.size() == 2);
  CHECK(alone[0].characters == std::vector<char32_t>{U'q', 0x301});
  CHECK(alone[0].missing == std::vector<char32_t>{0x301});
  CHECK(alone[1].missing.empty());  // the face has the whole letter
  const std::vector<CheckedCluster> both = check_clusters({built_in_face(), test::dejavu()}, text);
  REQUIRE(both.size() == 2);
  CHECK(both[0] == CheckedCluster{{U'q', 0x301}, 1, {}});
  CHECK(both[1].face == 0);
}
