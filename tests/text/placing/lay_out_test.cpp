// SPDX-License-Identifier: MIT
// Laid-out text: sums, lines, clusters, alignment, notes.
#include <unicode/ubrk.h>
#include <unicode/utext.h>
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/text/paragraph.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

struct LaidText {
  Paragraph p;
  Notes notes;
};

LaidText lay(const FontStack& stack, std::string_view text, const TextStyle& style = {}) {
  LaidText out;
  ShapeCache cache;
  REQUIRE(lay_out(stack, text, style, cache, out.p, &out.notes).has_value());
  return out;
}

const FontStack& lay_out_sans() {
  static const FontStack stack{test::dejavu()};
  return stack;
}

}  // namespace

TEST_CASE("a line's width is the sum of its advances", "[lay_out][property]") {
  const float size = GENERATE(7.0F, 32.0F, 100.5F);
  const std::string text = GENERATE("TRAMWAY Ty. LT", "Foxglove Cross", "a", "", "AVAVAV  To. ");
  const LaidText laid = lay(lay_out_sans(), text, {.size = size});
  float sum = 0;
  for (const PlacedGlyph& g : laid.p.glyphs) {
    CHECK(g.pen.x == Approx(sum).margin(1e-4));
    CHECK(g.pen.y == laid.p.lines[0].baseline);
    sum += g.advance;
  }
  CHECK(laid.p.advance_box.width() == Approx(sum).margin(1e-4));
  CHECK(laid.p.lines[0].baseline == Approx(1901 * size / 2048));
  CHECK(laid.p.advance_box.height() == Approx((1901 + 483) * size / 2048));
}

TEST_CASE("kerning changes the width by just what the face says for its pairs", "[lay_out][property]") {
  const std::string text = "TRAMWAY Ty. LT";
  const auto face = test::dejavu();
  float units = 0;
  for (std::size_t i = 1; i < text.size(); ++i) {
    units += face->kerning(face->find_glyph(static_cast<char32_t>(text[i - 1])),
                           face->find_glyph(static_cast<char32_t>(text[i])), tag("latn"));
  }
  CHECK(units < 0);
  const float kerned = lay(lay_out_sans(), text).p.advance_box.width(),
              plain = lay(lay_out_sans(), text, {.kerning = false}).p.advance_box.width();
  CHECK(kerned - plain == Approx(units * 32 / 2048).margin(1e-4));
}

TEST_CASE("tracking stands between letters, not after the last one of a line", "[lay_out]") {
  const float plain = lay(lay_out_sans(), "tram\nstop").p.advance_box.width();
  const LaidText laid = lay(lay_out_sans(), "tram\nstop", {.tracking = 10});
  CHECK(laid.p.advance_box.width() == Approx(plain + 30));
  CHECK(laid.p.glyphs[3].advance == lay(lay_out_sans(), "tram").p.glyphs[3].advance);
}

TEST_CASE("lines end at every kind of line break and say which bytes they hold", "[lay_out]") {
  const LaidText laid = lay(lay_out_sans(),
                            "a\nb\r\nc\rd\xC2\x85"
                            "e\xE2\x80\xA8"
                            "f\xE2\x80\xA9"
                            "\n");
  const auto& lines = laid.p.lines;
  REQUIRE(lines.size() == 8);
  const std::pair<std::uint32_t, std::uint32_t> bytes[] = {{0, 2},   {2, 5},   {5, 7},   {7, 10},
                                                           {10, 14}, {14, 18}, {18, 19}, {19, 19}};
  for (std::size_t i = 0; i < 8; ++i) {
    CHECK(lines[i].start == bytes[i].first);
    CHECK(lines[i].end == bytes[i].second);
    CHECK(lines[i].baseline == Approx(lines[0].baseline + static_cast<float>(i) * laid.p.line_height));
    CHECK(lines[i].end_glyph - lines[i].first_glyph == (i < 6 ? 1U : 0U));
  }
  CHECK(laid.notes.empty());
}

TEST_CASE("an empty text has one line of no width", "[lay_out]") {
  const LaidText laid = lay(lay_out_sans(), "");
  REQUIRE(laid.p.lines.size() == 1);
  CHECK(laid.p.advance_box == Rect{0, 0, 0, laid.p.ascent + laid.p.descent});
}

TEST_CASE("lines are aligned against the widest", "[lay_out]") {
  const auto left_of = [](TextAlign align) {
    return lay(lay_out_sans(), "wide line\nw", {.align = align}).p;
  };
  const Paragraph right = left_of(TextAlign::right), center = left_of(TextAlign::center);
  const float room = right.lines[0].width - right.lines[1].width;
  CHECK(left_of(TextAlign::left).lines[1].left == 0);
  CHECK(left_of(TextAlign::start).lines[1].left == 0);
  CHECK(right.lines[1].left == Approx(room));
  CHECK(center.lines[1].left == Approx(room / 2));
  CHECK(right.glyphs.back().pen.x == Approx(room));
  CHECK(left_of(TextAlign::end).lines[1].left == Approx(room));
}

TEST_CASE("line spacing multiplies the distance of baselines", "[lay_out]") {
  const LaidText laid = lay(lay_out_sans(), "a\nb", {.line_spacing = 2.5F});
  CHECK(laid.p.lines[1].baseline - laid.p.lines[0].baseline == Approx(2.5F * laid.p.line_height));
}

TEST_CASE("missing characters show the first face's shape and are noted once", "[lay_out]") {
  const LaidText laid = lay({{built_in_face(), test::dejavu()}}, "\xE2\x98\x83\xE4\xB8\x80\xE4\xB8\x80 A");
  REQUIRE(laid.p.glyphs.size() == 5);
  CHECK(laid.p.glyphs[0].face == 1);  // the snowman is in the fallback
  CHECK(laid.p.glyphs[1].face == 0);
  CHECK(laid.p.glyphs[1].glyph == kMissingGlyph);
  CHECK(laid.p.glyphs[1].advance > 0);
  REQUIRE(laid.notes.all().size() == 1);
  CHECK(laid.notes.all()[0].character == 0x4E00);
  CHECK(laid.notes.all()[0].position == 3);
}

TEST_CASE("bytes that are not UTF-8 stand as U+FFFD and are noted", "[lay_out]") {
  const LaidText laid = lay(lay_out_sans(),
                            "a\xFF"
                            "b");
  CHECK(laid.p.glyphs.size() == 3);
  CHECK(laid.p.glyphs[1].glyph == lay_out_sans()[0]->find_glyph(0xFFFD));
  CHECK(laid.notes.all()[0].position == 1);
}

TEST_CASE("controls and joiners take no room, a tab that of four spaces", "[lay_out]") {
  CHECK(lay(lay_out_sans(),
            "a\x01\x7F\xE2\x80\x8B\xEF\xBB\xBF"
            "b")
            .p.advance_box.width() ==
        Approx(lay(lay_out_sans(), "ab", {.kerning = false}).p.advance_box.width()));
  CHECK(lay(lay_out_sans(), "\t").p.advance_box.width() ==
        Approx(4 * lay(lay_out_sans(), " ").p.advance_box.width()));
}

TEST_CASE("characters that show nothing take no room, from a face as from its atlas", "[lay_out]") {
  AtlasRecipe recipe;
  recipe.faces = {test::dejavu()};
  recipe.characters = {U'a', U'b', 0xAD, 0xFEFF, 0x2060, 0x200E};
  const FontStack alone = atlas_stack(std::make_shared<const Atlas>(*bake(recipe)));
  for (const char* text : {"a\xC2\xAD"
                           "b",
                           "a\xEF\xBB\xBF"
                           "b",
                           "a\xE2\x81\xA0"
                           "b",
                           "a\xE2\x80\x8E"
                           "b"}) {
    const TextStyle style{.size = 48, .kerning = false};
    CHECK(lay(lay_out_sans(), text, style).p.advance_box.width() ==
          lay(lay_out_sans(), "ab", style).p.advance_box.width());
    CHECK(lay(alone, text, style).p.advance_box.width() ==
          Approx(lay(lay_out_sans(), "ab", style).p.advance_box.width()));
  }
}

TEST_CASE("glyphs say where their grapheme cluster begins", "[lay_out][property]") {
  const std::string text = GENERATE("e\xCC\x81x", "plain",
                                    "a\xCC\x88\xCC\x81"
                                    "b\r\nc\xCC\x81",
                                    "\xF0\x9F\x87\xAF\xF0\x9F\x87\xB5z");
  UErrorCode status = U_ZERO_ERROR;
  UBreakIterator* it = ubrk_open(UBRK_CHARACTER, "", nullptr, 0, &status);
  UText* source = utext_openUTF8(nullptr, text.data(), static_cast<std::int64_t>(text.size()), &status);
  ubrk_setUText(it, source, &status);
  const LaidText laid = lay(lay_out_sans(), text);
  for (const PlacedGlyph& g : laid.p.glyphs) {
    CHECK(ubrk_isBoundary(it, static_cast<std::int32_t>(g.text_start)) != 0);
  }
  utext_close(source);
  ubrk_close(it);
  CHECK(lay(lay_out_sans(), "q\xCC\x81x").p.glyphs[1].text_start == 0);
  CHECK(lay(lay_out_sans(), "q\xCC\x81x", {.tracking = 100}).p.glyphs[0].advance < 100);
  CHECK(lay(lay_out_sans(), "e\xCC\x81x").p.glyphs[1].text_start == 3);  // the face has the whole letter
}

TEST_CASE("the ink box holds what is painted and no more", "[lay_out]") {
  const LaidText laid = lay({{built_in_face()}}, "Hg", {.size = 24});
  CHECK(ink_box({{built_in_face()}}, laid.p) == Rect{0, 4, 22, 22});
  CHECK(ink_box(lay_out_sans(), lay(lay_out_sans(), "  ").p).empty());
}

TEST_CASE("styles out of range are refused", "[lay_out]") {
  ShapeCache cache;
  Paragraph p;
  for (const float size : {0.0F, -3.0F, NAN, INFINITY, 1e7F}) {
    CHECK_FALSE(lay_out(lay_out_sans(), "a", {.size = size}, cache, p).has_value());
  }
  CHECK_FALSE(lay_out(lay_out_sans(), "a", {.line_spacing = NAN}, cache, p).has_value());
  CHECK_FALSE(lay_out(lay_out_sans(), "a", {.tracking = INFINITY}, cache, p).has_value());
  CHECK_FALSE(lay_out({}, "a", {}, cache, p).has_value());
}
