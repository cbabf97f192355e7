// SPDX-License-Identifier: MIT
// Scripts in faces made for a test: private forms of Thai, tone marks of Korean, left vowels of rare scripts.
#include <algorithm>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/text/character_check.hpp"
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

namespace {

/// The advances of what the text shows, in font units.
std::vector<float> advances(const FontStack& fonts, std::u32string_view text, Notes* notes = nullptr) {
  ShapeCache cache;
  ShapedText shaped;
  REQUIRE(shaped.set(fonts, test::utf8(text), {}, cache, notes).has_value());
  std::vector<float> out;
  for (const ShapedGlyph& glyph : shaped.glyphs()) out.push_back(glyph.advance);
  return out;
}

}  // namespace

TEST_CASE("spaces that a face lacks are made from its own, as wide as Unicode says", "[plain_faces]") {
  const auto face = face_with(U" 0.ab");  // every glyph is half an em wide, the em is 1000 units
  const float em = face->units_per_em();
  const std::pair<char32_t, float> spaces[] = {
      {0xA0, 500},      {0x2000, em / 2},  {0x2001, em},     {0x2002, em / 2},    {0x2003, em},
      {0x2004, em / 3}, {0x2005, em / 4},  {0x2006, em / 6}, {0x2007, 500},       {0x2008, 500},
      {0x2009, em / 5}, {0x200A, em / 16}, {0x202F, 250},    {0x205F, em / 4.5F}, {0x3000, em}};
  for (const auto& [space, width] : spaces) {
    INFO(std::hex << static_cast<unsigned>(space));
    Notes notes;
    const std::vector<float> found = advances({face}, std::u32string(U"a") + space + U"b", &notes);
    REQUIRE(found.size() == 3);
    CHECK(found[0] == 500);
    CHECK(found[1] == Approx(width));
    CHECK(notes.empty());
  }
  // The face's own space wins, and a face without any space has none to give.
  const auto own = face_with(U" ab\x2003");
  CHECK(advances({own},
                 U"a\x2003"
                 U"b")[1] == 500);
  Notes notes;
  advances({face_with(U"ab")},
           U"a\x2003"
           U"b",
           &notes);
  CHECK(notes.all().size() == 1);
}

TEST_CASE("where the first face has no space the text beside it gives its own", "[plain_faces]") {
  const auto icons = face_with(U"\xE000"), latin = face_with(U" ab"), greek = face_with(U" \x3B1\x3B2");
  const FontStack fonts{icons, latin, greek};
  ShapeCache cache;
  ShapedText shaped;
  const auto faces = [&](std::u32string_view text) {
    REQUIRE(shaped.set(fonts, test::utf8(text), {}, cache).has_value());
    std::vector<std::size_t> out;
    for (const ShapedRun& run : shaped.runs()) out.push_back(run.face);
    return out;
  };
  CHECK(faces(U"a b") == std::vector<std::size_t>{1});
  CHECK(faces(U"\x3B1 \x3B2") == std::vector<std::size_t>{2});
  CHECK(faces(U"  \x3B2") == std::vector<std::size_t>{2});  // the text behind the spaces
  CHECK(faces(U"\xE000 \x3B2") == std::vector<std::size_t>{0, 2});
}

TEST_CASE("Arabic joins through its presentation forms where a face has no features for that",
          "[plain_faces]") {
  // beh, lam, alef, dal; forms of beh and lam; lam with alef alone and joined.
  const auto face =
      face_with(U"\x628\x644\x627\x62F\xFE90\xFE91\xFE92\xFEDE\xFEDF\xFEE0\xFE8E\xFEAA\xFEFB\xFEFC");
  CHECK(shown(face, U"\x628") == U"\x628");
  CHECK(shown(face, U"\x628\x628\x628") == U"\xFE91\xFE92\xFE90");
  CHECK(shown(face, U"\x62F\x628") == U"\x62F\x628");  // dal joins nothing behind it
  CHECK(shown(face, U"\x628\x62F") == U"\xFE91\xFEAA");
  CHECK(shown(face, U"\x644\x627") == U"\xFEFB");
  CHECK(shown(face, U"\x628\x644\x627") == U"\xFE91\xFEFC");
  CHECK(shown(face, U"\x628\x627") == U"\xFE91\xFE8E");
  const auto partly = face_with(U"\x628\xFE91");
  CHECK(shown(partly, U"\x628\x628") == U"\xFE91\x628");  // what is not there stays as it is
}

TEST_CASE("tracking stands between letters, but not within joined words", "[plain_faces]") {
  const auto face = face_with(U" ab\x628\x62F\x661\x662\x64E");
  ShapeCache cache;
  const auto width = [&](std::u32string_view text, float tracking) {
    Paragraph paragraph;
    REQUIRE(
        lay_out({face}, test::utf8(text), {.size = 20, .tracking = tracking}, cache, paragraph).has_value());
    float placed = 0;
    for (const PlacedGlyph& glyph : paragraph.glyphs) placed += glyph.advance;
    CHECK(placed == Approx(paragraph.advance_box.width()));
    return paragraph.advance_box.width();
  };
  const std::pair<std::u32string_view, int> texts[] = {
      {U"ab", 1},
      {U"\x628\x628\x62F\x628", 0},  // letters that do not join count too
      {U"\x628\x64E\x628", 0},       // a vowel mark between
      {U"\x628\x628 \x628", 2},      // around a space
      {U"\x661\x662", 1},            // digits are not joined
      {U"a\x628\x628 b", 3},         // between scripts
      {U"\x628\x628 \x628\x628 \x628", 4},
  };
  for (const auto& [text, gaps] : texts) {
    INFO(test::utf8(text));
    CHECK(width(text, 5) - width(text, 0) == Approx(5 * gaps));
  }
  // A span with tracking of its own.
  RichText rich;
  rich.text = test::utf8(U"\x628\x628 \x628");
  Span span{0, static_cast<std::uint32_t>(rich.text.size()), {}};
  span.style.tracking = 5;
  rich.spans.push_back(span);
  Paragraph paragraph;
  REQUIRE(lay_out({face}, rich, {.size = 20}, cache, paragraph).has_value());
  CHECK(paragraph.advance_box.width() - width(U"\x628\x628 \x628", 0) == Approx(10));
}

TEST_CASE("a vowel sign that makes another letter of its letter stands on a circle of its own",
          "[plain_faces]") {
  const auto deva = face_with(U"\x905\x93E\x915\x930\x94D\x907\x25CC", tag("dev2"));
  CHECK(shown(deva, U"\x905\x93E") == U"\x905\x25CC\x93E");
  CHECK(shown(deva, U"\x915\x93E") == U"\x915\x93E");
  CHECK(shown(deva, U"\x930\x94D\x907").find(U'\x25CC') != std::u32string::npos);
  const auto sinhala = face_with(U"\xD85\xDCF\x25CC", tag("sinh"));
  CHECK(shown(sinhala, U"\xD85\xDCF") == U"\xD85\x25CC\xDCF");
  const auto without = face_with(U"\x905\x93E", tag("dev2"));  // no circle to stand on
  CHECK(shown(without, U"\x905\x93E") == U"\x905\x93E");
}

TEST_CASE("a letter and a mark of class 0 compose where the face has the whole", "[plain_faces]") {
  CHECK(shown(face_with(U"\xB92\xBD7\xB94", tag("tml2")), U"\xB92\xBD7") == U"\xB94");
  CHECK(shown(face_with(U"\xB92\xBD7", tag("tml2")), U"\xB92\xBD7") == U"\xB92\xBD7");
  CHECK(shown(face_with(U"\x1025\x102E\x1026", tag("mym2")), U"\x1025\x102E") == U"\x1026");
}

TEST_CASE("the sign that lengthens kana is kana wherever it stands", "[plain_faces]") {
  ShapeCache cache;
  ShapedText shaped;
  const auto script = [&](std::u32string_view text, std::size_t at) {
    REQUIRE(shaped.set({{face_with(U"A\x4E00\x30A2\x30FC")}}, test::utf8(text), {}, cache).has_value());
    return shaped.analysis().scripts[at];
  };
  CHECK(script(U"\x30A2\x30FC", 1) == tag("kana"));
  CHECK(script(U"\x4E00\x30FC", 1) == tag("kana"));
  CHECK(script(U"A\x30FC", 1) == tag("kana"));
  CHECK(script(U"A\x3002", 1) == tag("latn"));  // punctuation goes with what it follows
  CHECK(script(U"\x628\x640", 1) == tag("arab"));
}

TEST_CASE("an atlas of a text with made spaces measures it as its face does", "[plain_faces]") {
  const auto face = face_with(U" 0.ab");
  const std::u32string text =
      U"a\x202F"
      U"b\x2003"
      U"a\x2007"
      U"b\x2008"
      U"a";
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters.assign(text.begin(), text.end());
  recipe.size = 40;
  Notes notes;
  Result<Atlas> atlas = bake(recipe, &notes);
  REQUIRE(atlas.has_value());
  CHECK(notes.empty());
  const FontStack baked = atlas_stack(std::make_shared<const Atlas>(*std::move(atlas)));
  ShapeCache cache;
  Paragraph from_face, from_atlas;
  REQUIRE(lay_out({face}, test::utf8(text), {.size = 40}, cache, from_face).has_value());
  REQUIRE(lay_out(baked, test::utf8(text), {.size = 40}, cache, from_atlas, &notes).has_value());
  CHECK(from_atlas.advance_box.width() == Approx(from_face.advance_box.width()));
  CHECK(notes.empty());
  for (const CheckedCharacter& c : check_characters({face}, {text.data(), text.size()}))
    CHECK(c.fate == CharacterFate::supplied);
}

TEST_CASE("the height of capitals is told by those that a face has", "[plain_faces]") {
  CHECK(face_with(U"abT")->facts().cap_height == 500);
  CHECK(face_with(U"O")->facts().cap_height == 500);
  CHECK(face_with(U"ab")->facts().cap_height == 0);
}
