// SPDX-License-Identifier: MIT
// Syriac's abbreviation mark over words of every length, in faces made for the test.
#include <algorithm>

#include "grafema/text/shaped_text.hpp"
#include "grafema/write/make_font.hpp"
#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/scripts.hpp"

using namespace grafema;
using test::Bytes;

namespace {

// In the order of the font: glyphs without a character come first.
enum Glyph : int { none, first, bar, middle, last, sign, alaph, beth, gamal };
constexpr float kWidths[] = {500, 60, 50, 80, 70, 0, 430, 610, 300};

/// The sign becomes first, bar, middle, bar, last; the outer two take room if `outer_letters`.
std::shared_ptr<const Face> face_with_sign(bool outer_letters) {
  FontDrawing drawing;
  drawing.names.family = "Made";
  drawing.lines = {800, 200, 0};
  const char32_t codes[] = {0, 0, 0, 0, 0, 0x70F, 0x710, 0x712, 0x713};
  for (int i = none; i <= gamal; ++i) {
    DrawnGlyph glyph;
    if (codes[i] != 0) glyph.characters = {codes[i]};
    glyph.advance = kWidths[i];
    glyph.name = "g" + std::to_string(i);
    if (i != sign) {
      glyph.outline.move_to({0, 0});
      glyph.outline.line_to({0, 500});
      glyph.outline.line_to({kWidths[i], 500});
      glyph.outline.close();
    }
    drawing.glyphs.push_back(glyph);
  }
  const auto made = make_font(drawing);
  REQUIRE(made.has_value());
  test::FontBuilder builder(*made);
  const auto parts = test::with_parts(
      {1, -1, 1, -1}, {test::coverage({sign}), Bytes().words(5, first, bar, middle, bar, last)});
  builder.table("GSUB") = test::make_layout({.scripts = {{"syrc", {{.tag = "", .features = {0}}}}},
                                             .features = {{"stch", {0}}},
                                             .lookups = {test::make_lookup(2, {parts})},
                                             .variations = {}});
  std::vector<std::pair<int, int>> kinds = {{alaph, 1}, {beth, 1}, {gamal, 1}, {bar, 3}, {middle, 3}};
  for (const int outer : {first, last}) kinds.emplace_back(outer, outer_letters ? 1 : 3);
  std::sort(kinds.begin(), kinds.end());
  builder.table("GDEF") = Bytes().words(1, 0, 12, 0, 0, 0).add(test::classes(kinds)).get();
  return builder.face();
}

struct Placed {
  int glyph = 0;
  float left = 0, right = 0;  ///< as seen
};

/// Glyphs with the room that each covers; 0 is the left end of the text.
std::vector<Placed> place(const std::shared_ptr<const Face>& face, std::u32string_view text, float& width) {
  ShapeCache cache;
  ShapedText shaped;
  REQUIRE(shaped.set({{face}}, test::utf8(text), {}, cache).has_value());
  width = 0;
  for (const ShapedGlyph& glyph : shaped.glyphs()) width += glyph.advance;
  std::vector<Placed> out;
  float pen = width;
  for (const ShapedGlyph& glyph : shaped.glyphs()) {
    pen -= glyph.advance;
    const int index = static_cast<int>(index_of(glyph.glyph));
    out.push_back({index, pen + glyph.x, pen + glyph.x + kWidths[index]});
  }
  return out;
}

/// The parts of the sign, from its start on the right.
std::vector<Placed> sign_of(std::vector<Placed> glyphs) {
  std::erase_if(glyphs, [](const Placed& each) { return each.glyph == none || each.glyph > last; });
  return glyphs;
}

}  // namespace

TEST_CASE("a sign covers its letters from end to end, however many there are", "[shaping][syriac]") {
  const auto face = face_with_sign(false);
  for (std::size_t letters = 1; letters <= 12; ++letters) {
    INFO(letters << " letters");
    std::u32string text = U"\u070F";
    for (std::size_t i = 0; i < letters; ++i) text += i % 2 == 0 ? U'\u0710' : U'\u0712';
    float width = 0, plain = 0;
    const std::vector<Placed> parts = sign_of(place(face, text, width));
    place(face, std::u32string_view(text).substr(1), plain);
    CHECK(width == plain);  // the sign takes no room of its own
    REQUIRE(parts.size() >= 5);
    CHECK(parts.front().glyph == first);
    CHECK(parts.back().glyph == last);
    CHECK(std::abs(parts.front().right - width) < 0.01F);
    CHECK(std::abs(parts.back().left) < 0.01F);
    for (std::size_t i = 1; i < parts.size(); ++i) {
      const float over = parts[i].right - parts[i - 1].left;
      CHECK(over > -0.01F);  // no gap
      CHECK(over < kWidths[bar]);
    }
    const auto copies =
        std::count_if(parts.begin(), parts.end(), [](const Placed& p) { return p.glyph == bar; });
    const auto in_middle =
        std::find_if(parts.begin(), parts.end(), [](const Placed& p) { return p.glyph == middle; });
    REQUIRE(in_middle != parts.end());
    CHECK((in_middle - parts.begin() - 1) * 2 == copies);
  }
}

TEST_CASE("a sign over less room than its fixed parts need spreads them evenly", "[shaping][syriac]") {
  const auto face = face_with_sign(false);
  float width = 0;
  const std::vector<Placed> parts = sign_of(place(face, U"\u070F\u0713", width));
  REQUIRE(width == 300);
  CHECK(parts.size() == 5);  // 210 units are fixed: one copy of each bar does, overlapping
  const std::vector<Placed> alone = sign_of(place(face, U"\u070F", width));
  CHECK(width == 0);
  CHECK(alone.size() == 3);
}

TEST_CASE("outer parts that are letters stand before and behind what they embrace", "[shaping][syriac]") {
  const auto face = face_with_sign(true);
  float width = 0;
  const std::vector<Placed> glyphs = place(face, U"\u070F\u0710\u0712", width), parts = sign_of(glyphs);
  CHECK(width == kWidths[alaph] + kWidths[beth] + kWidths[first] + kWidths[last]);
  CHECK(parts.front().right == width);
  CHECK(std::abs(parts.back().left) < 0.01F);
  for (const Placed& each : glyphs) {
    if (each.glyph == alaph) CHECK(each.right == width - kWidths[first]);
    if (each.glyph == beth) CHECK(each.left == kWidths[last]);
  }
}

TEST_CASE("a sign ends with its word, and many signs cost as many", "[shaping][syriac]") {
  const auto face = face_with_sign(false);
  float width = 0;
  const std::vector<Placed> glyphs = place(face, U"\u070F\u0710 \u0712\u0712", width);
  const std::vector<Placed> parts = sign_of(glyphs);
  CHECK(std::abs(parts.back().left - (width - kWidths[alaph])) < 0.01F);
  std::u32string many;
  for (int i = 0; i < 2000; ++i) many += U"\u070F\u0710";
  CHECK(place(face, many, width).size() > 2000 * 5);
  CHECK(width == 2000 * kWidths[alaph]);
}
