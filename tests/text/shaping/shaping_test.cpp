// SPDX-License-Identifier: MIT
// Shaping by every kind of lookup, in faces made by hand.
#include <catch2/catch.hpp>

#include <set>

#include "grafema/text/shaped_text.hpp"
#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::coverage;
using test::make_lookup;
using test::with_parts;

namespace {

using Table = std::vector<std::byte>;
constexpr int kA = 34, kB = 35, kC = 36, kD = 37, kX = 57, kY = 58;

struct Font {
  Table substitutions, positions, definitions;
};

struct ShapedOnce {
  std::vector<int> glyphs;
  std::vector<std::uint32_t> clusters;
  std::vector<float> advances, x, y;
  std::vector<bool> uncut;
};

ShapedOnce shape(const Font& font, std::string_view text, const TextStyle& style = {}) {
  test::FontBuilder builder;
  if (!font.substitutions.empty()) builder.table("GSUB") = font.substitutions;
  if (!font.positions.empty()) builder.table("GPOS") = font.positions;
  if (!font.definitions.empty()) builder.table("GDEF") = font.definitions;
  builder.remove("kern");
  ShapeCache cache;
  ShapedText shaped;
  REQUIRE(shaped.set({{builder.face()}}, text, style, cache).has_value());
  ShapedOnce out;
  for (const ShapedGlyph& g : shaped.glyphs()) {
    out.glyphs.push_back(static_cast<int>(index_of(g.glyph)));
    out.clusters.push_back(g.cluster);
    out.advances.push_back(g.advance), out.x.push_back(g.x), out.y.push_back(g.y);
    out.uncut.push_back((g.flags & ShapedGlyph::kNoCutBefore) != 0);
  }
  return out;
}

Font with_substitution(const std::string& feature, int type, const Table& subtable, int flags = 0) {
  return {test::simple_layout(feature, {0}, {make_lookup(type, {subtable}, flags)}), {}, {}};
}
Font with_position(const std::string& feature, int type, const Table& subtable, int flags = 0) {
  return {{}, test::simple_layout(feature, {0}, {make_lookup(type, {subtable}, flags)}), {}};
}
Table single(const std::vector<int>& from, const std::vector<int>& to) {
  std::vector<int> values = {2, -1, static_cast<int>(to.size())};
  values.insert(values.end(), to.begin(), to.end());
  return with_parts(values, {coverage(from)});
}
Table ligature(int first, const std::vector<int>& rest, int whole) {
  Bytes one = Bytes().words(whole, static_cast<int>(rest.size()) + 1);
  for (const int g : rest) one.u16(g);
  return with_parts({1, -1, 1, -1}, {coverage({first}), with_parts({1, -1}, {one.get()})});
}
/// GDEF with classes of glyphs: 1 base, 2 ligature, 3 mark.
Table definitions(const std::vector<std::pair<int, int>>& list) {
  return Bytes().words(1, 0, 12, 0, 0, 0).add(test::classes(list)).get();
}
Table anchor(int x, int y) { return Bytes().words(1, x, y); }
/// Alternates of one glyph.
Table alternates(int of, const std::vector<int>& others) {
  Bytes set = Bytes().words(static_cast<int>(others.size()));
  for (const int g : others) set.u16(g);
  return with_parts({1, -1, 1, -1}, {coverage({of}), set.get()});
}
float advance_of(char32_t c) {
  const auto face = test::FontBuilder().face();
  return face->advance(face->find_glyph(c));
}

}  // namespace

TEST_CASE("single and multiple substitution, and deletion", "[shaping]") {
  CHECK(shape(with_substitution("liga", 1, single({kA, kC}, {kX, kY})), "ABC").glyphs ==
        std::vector<int>{kX, kB, kY});
  const ShapedOnce several = shape(
      with_substitution("ccmp", 2, with_parts({1, -1, 1, -1}, {coverage({kB}), Bytes().words(2, kX, kY)})),
      "ABC");
  CHECK(several.glyphs == std::vector<int>{kA, kX, kY, kC});
  CHECK(several.clusters == std::vector<std::uint32_t>{0, 1, 1, 2});
  const ShapedOnce fewer = shape(
      with_substitution("ccmp", 2, with_parts({1, -1, 1, -1}, {coverage({kB}), Bytes().words(0)})), "ABC");
  CHECK(fewer.glyphs == std::vector<int>{kA, kC});
  CHECK(fewer.clusters == std::vector<std::uint32_t>{0, 1});  // C shows both letters
}

TEST_CASE("an alternate is chosen by the feature's value", "[shaping]") {
  const Font font =
      with_substitution("salt", 3, with_parts({1, -1, 1, -1}, {coverage({kA}), Bytes().words(2, kX, kY)}));
  const auto value = [&](std::uint32_t v) {
    TextStyle style;
    style.features = {{tag("salt"), v}};
    return shape(font, "A", style).glyphs[0];
  };
  CHECK(shape(font, "A").glyphs[0] == kA);
  CHECK(value(1) == kX);
  CHECK(value(2) == kY);
  CHECK(value(3) == kA);
  CHECK(value(0) == kA);
}

TEST_CASE("a ligature is one cluster, and marks between its parts stay", "[shaping]") {
  Font font = with_substitution("liga", 4, ligature(kA, {kB}, kX), 8);  // marks are passed over
  font.definitions = definitions({{kA, 1}, {kB, 1}, {kD, 3}, {kX, 2}});
  CHECK(shape(font, "AB").clusters == std::vector<std::uint32_t>{0});
  const ShapedOnce marked = shape(font, "ADB");
  CHECK(marked.glyphs == std::vector<int>{kX, kD});
  CHECK(marked.clusters == std::vector<std::uint32_t>{0, 0});
  TextStyle off;
  off.features = {{tag("liga"), 0}};
  CHECK(shape(font, "AB", off).glyphs == std::vector<int>{kA, kB});
  CHECK(shape(font, "AB", {.tracking = 2}).glyphs == std::vector<int>{kA, kB});
  // A joiner that shows nothing lets them meet, a non-joiner does not.
  CHECK(shape(font,
              "A\xE2\x80\x8D"
              "B")
            .glyphs == std::vector<int>{kX});
  CHECK(shape(font,
              "A\xE2\x80\x8C"
              "B")
            .glyphs == std::vector<int>{kA, kB});
}

TEST_CASE("a feature may hold for a range of bytes alone", "[shaping]") {
  const Font font = with_substitution("liga", 1, single({kA}, {kX}));
  TextStyle style;
  style.features = {{tag("liga"), 0, 2, 4}};
  CHECK(shape(font, "AAAAAA", style).glyphs == std::vector<int>{kX, kX, kA, kA, kX, kX});
  const Font other = with_substitution("ss01", 1, single({kA}, {kX}));
  style.features = {{tag("ss01"), 1, 1, 3}};
  CHECK(shape(other, "AAAA", style).glyphs == std::vector<int>{kA, kX, kX, kA});
}

TEST_CASE("contexts of all formats apply their lookups at their places", "[shaping]") {
  const Table inner = make_lookup(1, {single({kB}, {kX})});
  const auto with_context = [&](int type, const Table& context) {
    return Font{test::simple_layout("calt", {0}, {make_lookup(type, {context}), inner}), {}, {}};
  };
  const auto agrees = [&](const Font& font) {
    CHECK(shape(font, "ABC").glyphs == std::vector<int>{kA, kX, kC});
    CHECK(shape(font, "BBC").glyphs == std::vector<int>{kB, kB, kC});
    CHECK(shape(font, "AC").glyphs == std::vector<int>{kA, kC});
    const ShapedOnce whole = shape(font, "ABC");
    CHECK(whole.uncut[1]);
  };
  // "A B: lookup 1 at place 1"
  agrees(with_context(
      5, with_parts({1, -1, 1, -1}, {coverage({kA}), with_parts({1, -1}, {Bytes().words(2, 1, kB, 1, 1)})})));
  agrees(with_context(
      5, with_parts({2, -1, -1, 2, 0, -1}, {coverage({kA}), test::classes({{kA, 1}, {kB, 2}}),
                                            with_parts({1, -1}, {Bytes().words(2, 1, 2, 1, 1)})})));
  agrees(with_context(5, with_parts({3, 2, 1, -1, -1, 1, 1}, {coverage({kA}), coverage({kB})})));
  // "B behind A and before C: lookup 1 at place 0"
  agrees(with_context(
      6, with_parts({1, -1, 1, -1},
                    {coverage({kB}), with_parts({1, -1}, {Bytes().words(1, kA, 1, 1, kC, 1, 0, 1)})})));
  agrees(with_context(6, with_parts({2, -1, -1, -1, -1, 2, 0, -1},
                                    {coverage({kB}), test::classes({{kA, 1}}), test::classes({{kB, 1}}),
                                     test::classes({{kC, 1}}),
                                     with_parts({1, -1}, {Bytes().words(1, 1, 1, 1, 1, 1, 0, 1)})})));
  agrees(with_context(
      6, with_parts({3, 1, -1, 1, -1, 1, -1, 1, 0, 1}, {coverage({kA}), coverage({kB}), coverage({kC})})));
}

TEST_CASE("a context goes on behind what its lookups made of it", "[shaping]") {
  const Table grows =
      make_lookup(2, {with_parts({1, -1, 1, -1}, {coverage({kA}), Bytes().words(3, kX, kX, kX)})});
  const Table joins = make_lookup(4, {ligature(kX, {kX, kX, kB}, kY)});
  // "A B": A becomes three glyphs, then they join with B.
  const Font font{
      test::simple_layout(
          "calt", {0},
          {make_lookup(
               5, {with_parts({1, -1, 1, -1},
                              {coverage({kA}), with_parts({1, -1}, {Bytes().words(2, 2, kB, 0, 1, 0, 2)})})}),
           grows, joins}),
      {},
      {}};
  CHECK(shape(font, "ABABC").glyphs == std::vector<int>{kY, kY, kC});
  CHECK(shape(font, "ABABC").clusters == std::vector<std::uint32_t>{0, 2, 4});
}

TEST_CASE("a reverse lookup sees what it made behind each glyph", "[shaping]") {
  // A before X becomes X: from the end, all of a row of them do.
  const Table reverse = with_parts({1, -1, 0, 1, -1, 1, kX}, {coverage({kA}), coverage({kX})});
  CHECK(shape(with_substitution("calt", 8, reverse), "AAAX").glyphs == std::vector<int>{kX, kX, kX, kX});
  CHECK(shape(with_substitution("calt", 8, reverse), "AAAB").glyphs == std::vector<int>{kA, kA, kA, kB});
}

TEST_CASE("a language has lookups of its own, and required features always apply", "[shaping]") {
  const Font font{test::make_layout({{{"latn", {{"", {0}}, {"TRK ", {1}}}}},
                                     {{"locl", {}}, {"locl", {0}}},
                                     {make_lookup(1, {single({kA}, {kX})})},
                                     {}}),
                  {},
                  {}};
  TextStyle turkish;
  turkish.language = "tr-TR";
  CHECK(shape(font, "A").glyphs == std::vector<int>{kA});
  CHECK(shape(font, "A", turkish).glyphs == std::vector<int>{kX});
  const Font required{
      test::make_layout(
          {{{"latn", {{"", {}, 0}}}}, {{"zzzz", {0}}}, {make_lookup(1, {single({kA}, {kX})})}, {}}),
      {},
      {}};
  CHECK(shape(required, "A").glyphs == std::vector<int>{kX});
}

TEST_CASE("single and pair adjustment move glyphs", "[shaping]") {
  const ShapedOnce moved =
      shape(with_position("dist", 1, with_parts({1, -1, 7, 10, 20, 30}, {coverage({kB})})), "AB");
  CHECK(moved.x == std::vector<float>{0, 10});
  CHECK(moved.y == std::vector<float>{0, 20});
  CHECK(moved.advances[1] == advance_of('B') + 30);
  const Table list = with_parts({1, -1, 4, 0, 1, -1}, {coverage({kA}), Bytes().words(1, kB, -40)});
  const Table matrix = with_parts({2, -1, 4, 0, -1, -1, 1, 2, 0, -40},
                                  {coverage({kA}), test::classes({}), test::classes({{kB, 1}})});
  for (const Table& pairs : {list, matrix}) {
    const ShapedOnce kerned = shape(with_position("kern", 2, pairs), "ABA");
    CHECK(kerned.advances[0] == advance_of('A') - 40);
    CHECK(kerned.advances[2] == advance_of('A'));
    CHECK(kerned.uncut == std::vector<bool>{false, true, false});
    CHECK(shape(with_position("kern", 2, pairs), "ABA", {.kerning = false}).advances[0] == advance_of('A'));
  }
}

TEST_CASE("marks stand on letters, on parts of ligatures and on marks", "[shaping]") {
  const Table marks = Bytes().words(1, 0, 6, 1, 5, 7).get();  // one mark of class 0, its anchor at 5, 7
  const auto attached = [&](int type, const Table& bases, int base) {
    Font font = with_position(
        "mark", type, with_parts({1, -1, -1, 1, -1, -1}, {coverage({kD}), coverage({base}), marks, bases}));
    font.definitions = definitions({{kA, 1}, {kB, 1}, {kC, 3}, {kD, 3}, {kX, 2}});
    return font;
  };
  const ShapedOnce on_base = shape(attached(4, with_parts({1, -1}, {anchor(100, 200)}), kA), "AD");
  CHECK(on_base.advances[1] == 0);
  CHECK(on_base.x[1] == 100 - 5 - advance_of('A'));
  CHECK(on_base.y[1] == 200 - 7);
  const ShapedOnce on_mark = shape(attached(6, with_parts({1, -1}, {anchor(10, 20)}), kC), "ACD");
  CHECK(on_mark.y[2] == on_mark.y[1] + 20 - 7);
  // Two parts; the mark was typed behind the first of them.
  const Table parts = with_parts({1, -1}, {with_parts({2, -1, -1}, {anchor(10, 20), anchor(30, 40)})});
  Font font = attached(5, parts, kX);
  font.substitutions = test::simple_layout("liga", {0}, {make_lookup(4, {ligature(kA, {kB}, kX)}, 8)});
  const ShapedOnce first = shape(font, "ADB"), second = shape(font, "ABD");
  REQUIRE(first.glyphs == std::vector<int>{kX, kD});
  CHECK(first.y[1] == 20 - 7);
  CHECK(second.y[1] == 40 - 7);
}

TEST_CASE("where a face places no marks they stand over and under the middle of their letter", "[shaping]") {
  const auto file = FontData::read(test::dejavu_path());
  REQUIRE(file.has_value());
  const std::span<const std::byte> bytes = file->bytes();
  test::FontBuilder builder(std::vector<std::byte>(bytes.begin(), bytes.end()));
  for (const char* table : {"GPOS", "GSUB", "GDEF"}) builder.remove(table);
  const auto face = builder.face();
  const FontStack stack{face};
  ShapeCache cache;
  Paragraph p;
  for (const std::string text :
       {"q\xCC\x81", "q\xCC\x8C\xCC\x81", "x\xCC\xA3"}) {  // acute, caron and acute, dot below
    REQUIRE(lay_out(stack, text, {.size = 64}, cache, p).has_value());
    const Rect letter = ink_box(stack, p, 0, 1);
    Rect before = letter;
    for (std::uint32_t g = 1; g < p.glyphs.size(); ++g) {
      const Rect mark = ink_box(stack, p, g, g + 1);
      CHECK((mark.left + mark.right) / 2 == Approx((letter.left + letter.right) / 2).margin(0.1));
      CHECK(p.glyphs[g].advance == 0);
      if (text.ends_with("\xA3")) {
        CHECK(mark.top >= before.bottom);
      } else {
        CHECK(mark.bottom <= before.top);
      }
      before = mark;
    }
  }
}

TEST_CASE("cursive joins bring exits and entries together", "[shaping]") {
  // A leaves at 300, 50; B is entered at 20, 10.
  const Table cursive =
      with_parts({1, -1, 2, 0, -1, -1, 0}, {coverage({kA, kB}), anchor(300, 50), anchor(20, 10)});
  const ShapedOnce joined = shape(with_position("curs", 3, cursive), "AB");
  CHECK(joined.advances[0] == 300);
  CHECK(joined.x[1] == -20);
  CHECK(joined.y[1] == 40);
  CHECK(joined.uncut[1]);
}

TEST_CASE("lookups see only marks of their class or set", "[shaping]") {
  Font font = with_substitution("liga", 4, ligature(kA, {kB}, kX), 0x0100);  // marks of class 1 alone
  font.definitions = Bytes()
                         .words(1, 0, 12, 0, 0, 42)
                         .add(test::classes({{kA, 1}, {kB, 1}, {kC, 3}, {kD, 3}}))
                         .words(0, 0)
                         .get();
  font.definitions.resize(42);
  const Table mark_classes = test::classes({{kC, 1}, {kD, 2}});
  font.definitions.insert(font.definitions.end(), mark_classes.begin(), mark_classes.end());
  CHECK(shape(font, "ADB").glyphs == std::vector<int>{kX, kD});
  CHECK(shape(font, "ACB").glyphs == std::vector<int>{kA, kC, kB});
}

TEST_CASE("fractions take numerators and denominators around their slash", "[shaping]") {
  constexpr int kOne = 18, kTwo = 19;
  const Font font{
      test::make_layout({{{"latn", {{"", {0, 1}}}}, {"DFLT", {{"", {0, 1}}}}},
                         {{"dnom", {1}}, {"numr", {0}}},
                         {make_lookup(1, {single({kOne}, {kX})}), make_lookup(1, {single({kTwo}, {kY})})},
                         {}}),
      {},
      {}};
  const ShapedOnce fraction = shape(font,
                                    "1 1\xE2\x81\x84"
                                    "2 2");
  REQUIRE(fraction.glyphs.size() == 7);
  CHECK(fraction.glyphs[0] == kOne);
  CHECK(fraction.glyphs[2] == kX);
  CHECK(fraction.glyphs[4] == kY);
  CHECK(fraction.glyphs[6] == kTwo);
}

TEST_CASE("hostile lookups end", "[shaping][hostile]") {
  // A becomes A A, and a context that calls itself at both its places.
  const Table doubles =
      make_lookup(2, {with_parts({1, -1, 1, -1}, {coverage({kA}), Bytes().words(2, kA, kA)})});
  const Table calls_itself = make_lookup(
      5, {with_parts({1, -1, 1, -1},
                     {coverage({kA}), with_parts({1, -1}, {Bytes().words(2, 3, kA, 0, 0, 1, 0, 0, 1)})})});
  const Font font{test::simple_layout("calt", {0}, {calls_itself, doubles}), {}, {}};
  const ShapedOnce grown = shape(font, std::string(2000, 'A'));
  CHECK(grown.glyphs.size() >= 2000);
  CHECK(grown.glyphs.size() <= 2000 * 16 + 1024);
  test::FontBuilder builder;
  builder.table("GSUB") = font.substitutions;
  ShapeCache cache;
  ShapedText text;
  for (int round = 0; round < 2; ++round) {  // what is remembered says so, too
    Notes notes;
    REQUIRE(text.set({{builder.face()}}, std::string(2000, 'A'), {}, cache, &notes).has_value());
    REQUIRE_FALSE(notes.empty());
    CHECK(notes.all()[0].kind == NoteKind::damaged_table);
  }
}

TEST_CASE("alternates by chance are those of the word and its place in the text", "[shaping]") {
  const Font font = with_substitution("rand", 3, alternates(kA, {kB, kC, kX}));
  const std::vector<int> once = shape(font, "AAAAAAAA AAAAAAAA").glyphs;
  CHECK(shape(font, "AAAAAAAA AAAAAAAA").glyphs == once);
  std::set<int> seen(once.begin(), once.begin() + 8);
  CHECK(seen.size() > 1);
  CHECK_FALSE(seen.contains(kA));
  CHECK_FALSE(std::equal(once.begin(), once.begin() + 8, once.begin() + 9));  // the same word elsewhere
  CHECK(shape(font, "AA", {.features = {{tag("rand"), 0}}}).glyphs == std::vector<int>{kA, kA});
  CHECK(shape(font, "AA", {.features = {{tag("rand"), 2}}}).glyphs == std::vector<int>{kC, kC});
}
