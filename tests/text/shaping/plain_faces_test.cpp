// SPDX-License-Identifier: MIT
// Scripts in faces made for a test: private forms of Thai, tone marks of Korean, left vowels of rare scripts.
#include <algorithm>

#include "grafema/text/shaped_text.hpp"
#include "grafema/write/make_font.hpp"
#include "support/scripts.hpp"

using namespace grafema;

namespace {

/// A face with a box for each character; one of category Mn in `without_room` takes none. `script` gets a
/// rule of its own, which changes nothing that is asked here.
std::shared_ptr<const Face> face_with(std::u32string_view characters, Tag script = {},
                                      std::u32string_view without_room = {}) {
  FontDrawing drawing;
  drawing.names.family = "Made";
  drawing.lines = {800, 200, 0};
  drawing.glyphs.emplace_back();
  const auto add = [&](std::vector<char32_t> codes, float advance, const std::string& name) {
    DrawnGlyph glyph;
    glyph.characters = std::move(codes);
    glyph.advance = advance;
    glyph.name = name;
    glyph.outline.move_to({10, 0});
    glyph.outline.line_to({10, 500});
    glyph.outline.line_to({300, 500});
    glyph.outline.close();
    drawing.glyphs.push_back(glyph);
  };
  for (const char32_t c : characters) {
    add({c}, without_room.find(c) == std::u32string_view::npos ? 500.0F : 0.0F, {});
  }
  if (script != Tag{}) {
    add({U'~'}, 500, "tilde"), add({}, 500, "tilde.other");
    drawing.alternates.push_back({tag("pres"), "tilde", "tilde.other", script, {}});
  }
  const auto bytes = make_font(drawing);
  REQUIRE(bytes.has_value());
  const auto face = Face::open(FontData::own(*bytes));
  REQUIRE(face.has_value());
  return *face;
}

/// The characters whose glyphs the text shows, in their order.
std::u32string shown(const std::shared_ptr<const Face>& face, std::u32string_view text) {
  ShapeCache cache;
  ShapedText shaped;
  REQUIRE(shaped.set({{face}}, test::utf8(text), {}, cache).has_value());
  std::u32string out;
  for (const ShapedGlyph& glyph : shaped.glyphs()) {
    for (const auto& [character, own] : face->characters()) {
      if (own == glyph.glyph) out += character;
    }
  }
  return out;
}

}  // namespace

TEST_CASE("a Thai face without tables shows marks where its private forms put them", "[scripts]") {
  const auto face =
      face_with(U"\u0E01\u0E1B\u0E0D\u0E0E\u0E34\u0E38\u0E48\uF70A\uF705\uF713\uF701\uF70F\uF718\u25CC",
                Tag{}, U"\u0E34\u0E38\u0E48\uF70A\uF705\uF713\uF701\uF718");
  CHECK(shown(face, U"\u0E01\u0E48") == U"\u0E01\uF70A");              // a tone alone comes down
  CHECK(shown(face, U"\u0E01\u0E34\u0E48") == U"\u0E01\u0E34\u0E48");  // over a vowel it stays
  CHECK(shown(face, U"\u0E1B\u0E48") == U"\u0E1B\uF705");              // beside a stem it goes left too
  CHECK(shown(face, U"\u0E1B\u0E34\u0E48") == U"\u0E1B\uF701\uF713");
  CHECK(shown(face, U"\u0E0D\u0E38") == U"\uF70F\u0E38");  // a letter without its foot
  CHECK(shown(face, U"\u0E0E\u0E38") == U"\u0E0E\uF718");  // below a foot that stays
  // A face with rules for Thai places them itself.
  const auto ruled = face_with(U"\u0E01\u0E48\uF70A", tag("thai"), U"\u0E48\uF70A");
  CHECK(shown(ruled, U"\u0E01\u0E48") == U"\u0E01\u0E48");
}

TEST_CASE("tone marks of old Korean stand on the left of their syllable", "[scripts]") {
  const auto wide = face_with(U"\uAC00\u1100\u1161\u302E"),
             narrow = face_with(U"\uAC00\u302E", Tag{}, U"\u302E");
  CHECK(shown(wide, U"\uAC00\u302E") == U"\u302E\uAC00");
  CHECK(shown(wide, U"\u1100\u1161\u302E") == U"\u302E\uAC00");
  CHECK(shown(narrow, U"\uAC00\u302E") == U"\uAC00\u302E");  // drawn to be put over what it follows
}

TEST_CASE("left vowels of every script stand before their letter where the face has rules for it",
          "[scripts]") {
  struct Case {
    const char* script;
    char32_t letter, vowel;
  };
  for (const Case& c : {Case{"bali", 0x1B13, 0x1B3E},
                        {"java", 0xA98F, 0xA9BA},
                        {"sund", 0x1B8A, 0x1BA6},
                        {"cham", 0xAA06, 0xAA2F},
                        {"lana", 0x1A20, 0x1A6E},
                        {"bugi", 0x1A00, 0x1A19},
                        {"cakm", 0x11107, 0x1112C},
                        {"sinh", 0x0D9A, 0x0DD9}}) {
    INFO(c.script);
    const std::u32string text = {c.letter, c.vowel}, other = {c.vowel, c.letter};
    CHECK(shown(face_with(text, tag(c.script)), text) == other);
    // Without rules the text stands as it was typed.
    CHECK(shown(face_with(text), text) == text);
  }
}

TEST_CASE("forms for vertical text are taken in vertical lines alone", "[vertical]") {
  FontDrawing drawing;
  drawing.names.family = "Made";
  drawing.lines = {800, 200, 0};
  drawing.glyphs.emplace_back();
  for (const char* name : {"A", "A.vert", "B"}) {
    DrawnGlyph glyph;
    if (name[1] == '\0') glyph.characters = {static_cast<char32_t>(name[0])};
    glyph.name = name, glyph.advance = 600;
    glyph.outline.move_to({10, 0});
    glyph.outline.line_to({10, 500});
    glyph.outline.line_to({300, 500});
    glyph.outline.close();
    drawing.glyphs.push_back(glyph);
  }
  drawing.alternates.push_back({tag("vert"), "A", "A.vert", {}, {}});
  drawing.alternates.push_back({tag("vrt2"), "B", "A.vert", {}, {}});  // turned: not for letters that stand
  drawing.kerning = {{U'A', U'B', -100}};
  const auto face = *Face::open(FontData::own(*make_font(drawing)));
  ShapeCache cache;
  const auto glyphs = [&](const TextStyle& style) {
    ShapedText shaped;
    REQUIRE(shaped.set({{face}}, "AB", style, cache).has_value());
    return std::vector<ShapedGlyph>(shaped.glyphs().begin(), shaped.glyphs().end());
  };
  TextStyle style{.size = 40};
  const GlyphId plain = face->find_glyph(U'A');
  const auto lying = glyphs(style);
  CHECK(lying[0].glyph == plain);
  CHECK(lying[0].advance == 500);
  style.writing = WritingMode::vertical_rl;
  CHECK(glyphs(style)[0].glyph == plain);  // on its side it is what it was, kerned as it was
  CHECK(glyphs(style)[0].advance == 500);
  style.stance = LetterStance::upright;
  const auto upright = glyphs(style);
  CHECK(upright[0].glyph != plain);
  CHECK(upright[1].glyph == face->find_glyph(U'B'));
  CHECK(upright[0].advance == 1000);  // ascent and descent: the face has no vertical metrics
  CHECK(upright[0].x == -300);
  CHECK(upright[0].y == -800);
}
