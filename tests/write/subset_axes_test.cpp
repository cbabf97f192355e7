// SPDX-License-Identifier: MIT
// Subsets of variable faces with axes pinned: all of them, or one of two.
#include <catch2/catch.hpp>

#include "grafema/files/files.hpp"
#include "support/bytes.hpp"
#include "support/cff_builder.hpp"
#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/same_face.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::Charstring;

namespace {

using Table = std::vector<std::byte>;
constexpr std::u32string_view kSubsetAxesLetters = U"ABCé";

std::shared_ptr<const Face> quillmere() {
  auto face = open_face(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans_variable.ttf");
  REQUIRE(face.has_value());
  return *face;
}

SubsetRecipe pinned(std::u32string_view characters, std::vector<AxisValue> pins) {
  SubsetRecipe recipe;
  recipe.characters.assign(characters.begin(), characters.end());
  recipe.pins = std::move(pins);
  return recipe;
}

Bytes axis(const char* name, double low, double middle, double high, int id) {
  return Bytes().text(name).fixed(low).fixed(middle).fixed(high).u16(0).u16(id);
}

/// Weight 100 to 900 and width 50 to 200, both of which move glyphs, advances, heights, kerning and shapes.
std::shared_ptr<const Face> two_axes() {
  test::FontBuilder builder;
  builder.table("fvar") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(16)
                              .u16(2)
                              .u16(2)
                              .u16(20)
                              .u16(0)
                              .u16(12)
                              .add(axis("wght", 100, 400, 900, 256))
                              .add(axis("wdth", 50, 100, 200, 257));
  builder.table("avar") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(0)
                              .u16(2)
                              .u16(4)
                              .f2dot14(-1)
                              .f2dot14(-1)
                              .f2dot14(0)
                              .f2dot14(0)
                              .f2dot14(0.5)
                              .f2dot14(0.7)
                              .f2dot14(1)
                              .f2dot14(1)
                              .u16(3)
                              .f2dot14(-1)
                              .f2dot14(-1)
                              .f2dot14(0)
                              .f2dot14(0)
                              .f2dot14(1)
                              .f2dot14(1);
  // Every glyph: two points and the advance move; points between follow. Weight, width, both, a middle.
  const auto tuple = [](double weight, double width, int step) {
    return Bytes()
        .u8(3)
        .u8(2)
        .u8(0)
        .u8(1)
        .u8(2)  // points 0, 1 and 3, in one run of bytes
        .u8(0x42)
        .words(step, -step, step / 2)
        .u8(0x42)
        .words(-step, step, 7)
        .f2dot14(weight)
        .f2dot14(width);
  };
  const auto data = [&] {
    Bytes headers, bodies;
    const std::vector<std::array<double, 3>> list = {{1, 0, 60}, {-1, 0, -20}, {0, 1, 90}, {1, 1, 30}};
    for (const auto& [weight, width, step] : list) {
      const std::vector<std::byte> whole = tuple(weight, width, static_cast<int>(step)).get();
      const std::vector<std::byte> body(whole.begin(), whole.end() - 4);
      headers.u16(static_cast<long>(body.size())).u16(0x8000 | 0x2000).f2dot14(weight).f2dot14(width);
      bodies.add(body);
    }
    return Bytes()
        .u16(static_cast<long>(list.size()))
        .u16(static_cast<long>(4 + headers.size()))
        .add(headers)
        .add(bodies);
  }();
  Bytes offsets, all;
  for (int glyph = 0; glyph < 131; ++glyph) {
    offsets.u32(static_cast<long>(all.size()));
    if (glyph >= 34 && glyph < 60) all.add(data);
    if (all.size() % 2 != 0) all.u8(0);
  }
  offsets.u32(static_cast<long>(all.size()));
  builder.table("gvar") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(2)
                              .u16(0)
                              .u32(0)
                              .u16(131)
                              .u16(1)
                              .u32(static_cast<long>(20 + offsets.size()))
                              .add(offsets)
                              .add(all);
  const std::vector<std::vector<std::array<double, 3>>> regions = {
      {{{0, 1, 1}}, {{0, 0, 0}}}, {{{0, 0, 0}}, {{0, 1, 1}}}, {{{0, 1, 1}}, {{0, 1, 1}}}};
  const std::vector<std::array<double, 3>> weight = {{0, 1, 1}, {0, 0, 0}}, width = {{0, 0, 0}, {0, 1, 1}},
                                           both = {{0, 1, 1}, {0, 1, 1}};
  const auto store = [&](const std::vector<std::vector<int>>& rows) {
    return test::make_variation_store({weight, width, both}, rows);
  };
  std::vector<std::vector<int>> advances;
  for (int glyph = 0; glyph < 131; ++glyph) advances.push_back({glyph, glyph * 2, -glyph});
  builder.table("HVAR") = Bytes().u16(1).u16(0).u32(20).u32(0).u32(0).u32(0).add(store(advances));
  const Bytes records = Bytes().text("hasc").u16(0).u16(0).text("xhgt").u16(0).u16(1);
  builder.table("MVAR") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(0)
                              .u16(8)
                              .u16(2)
                              .u16(static_cast<long>(12 + records.size()))
                              .add(records)
                              .add(store({{40, 10, 5}, {0, 30, 0}}));
  // A pair whose advance varies, and a letter that changes its shape when it is wide.
  const Table device = Bytes().words(0, 1, 0x8000);
  const Table set = test::with_parts({1, 35, -50, -1}, {device});
  builder.table("GPOS") = test::simple_layout(
      "kern", {0},
      {test::make_lookup(2, {test::with_parts({1, -1, 0x44, 0, 1, -1}, {test::coverage({34}), set})})});
  builder.table("GDEF") =
      Bytes().u16(1).u16(3).words(0, 0, 0, 0, 0).u32(18).add(store({{0, 0, 0}, {-20, 35, 8}}));
  test::LayoutDrawing shapes;
  shapes.scripts = {{"latn", {{"", {0}, 0xFFFF}}}};
  shapes.features = {{"rvrn", {}}};
  shapes.lookups = {test::make_lookup(1, {test::with_parts({2, -1, 1, 50}, {test::coverage({36})})})};
  const Bytes feature = Bytes().words(0, 1, 0), condition = Bytes().u16(1).u16(1).f2dot14(0.5).f2dot14(1);
  const Bytes conditions = Bytes().u16(1).u32(6).add(condition);
  const Bytes substitution = Bytes().u16(1).u16(0).u16(1).u16(0).u32(12).add(feature);
  shapes.variations = Bytes()
                          .u16(1)
                          .u16(0)
                          .u32(1)
                          .u32(16)
                          .u32(static_cast<long>(16 + conditions.size()))
                          .add(conditions)
                          .add(substitution);
  builder.table("GSUB") = test::make_layout(shapes);
  return builder.face();
}

}  // namespace

TEST_CASE("all axes pinned make a plain face of that place", "[subset][variations]") {
  const auto face = quillmere();
  for (const float weight : {430.0F, 560.0F, 700.0F}) {
    const SubsetRecipe recipe = pinned(U"Larkspur & é fi 12", {{tag("wght"), weight}});
    const auto there = face->instance(recipe.pins);
    const test::Reduced reduced = test::reduce(*face, recipe);
    CHECK(reduced.face->axes().empty());
    for (const char* gone : {"fvar", "avar", "gvar", "HVAR"}) CHECK(reduced.face->table(tag(gone)).empty());
    test::check_glyphs(*there, reduced, recipe.characters, 1.01F);
    test::check_kerning(*there, reduced, recipe.characters, 1);
    CHECK(reduced.face->facts().weight_class == static_cast<int>(weight));
    // Asking the instance is the same.
    SubsetRecipe plain = recipe;
    plain.pins.clear();
    CHECK(test::reduce(*there, plain).subset.font == reduced.subset.font);
  }
  const auto bold = test::reduce(*face, pinned(kSubsetAxesLetters, {{tag("wght"), 700}})).face->names();
  CHECK(bold.family == "Quillmere Sans");
  CHECK(bold.style == "Bold");
  CHECK(bold.full_name == "Quillmere Sans Bold");
}

TEST_CASE("one axis pinned leaves the other", "[subset][variations][property]") {
  const auto face = two_axes();
  REQUIRE(face->axes().size() == 2);
  std::mt19937 random(Catch::rngSeed());
  for (int i = 0; i < 40; ++i) {
    const AxisValue weight{tag("wght"), 100.0F + static_cast<float>(random() % 801)},
        width{tag("wdth"), 50.0F + static_cast<float>(random() % 151)};
    const bool pins_weight = i % 2 == 0;
    const SubsetRecipe recipe = pinned(U"ABC", {pins_weight ? weight : width});
    const test::Reduced reduced = test::reduce(*face, recipe);
    REQUIRE(reduced.face->axes().size() == 1);
    CHECK(reduced.face->axes()[0].tag == (pins_weight ? width.axis : weight.axis));
    const AxisValue both[] = {weight, width}, rest[] = {pins_weight ? width : weight};
    INFO("weight " << weight.value << ", width " << width.value << ", pinned "
                   << (pins_weight ? "weight" : "width"));
    const auto there = face->instance(both);
    const test::Reduced moved{reduced.subset, reduced.face->instance(rest)};
    test::check_glyphs(*there, moved, recipe.characters, 2.01F);  // both parts round
    test::check_kerning(*there, moved, recipe.characters, 1.01F);
    test::check_shaping(there, moved, recipe.characters, random, 20);  // up to eight letters
    CHECK(std::abs(there->line_metrics().ascent - moved.face->line_metrics().ascent) <= 1.01F);
    CHECK(std::abs(there->facts().x_height - moved.face->facts().x_height) <= 1.01F);
  }
  const test::Reduced still = test::reduce(*face, pinned(U"ABC", {{tag("wght"), 650}, {tag("wdth"), 180}}));
  CHECK(still.face->axes().empty());
  const AxisValue place[] = {{tag("wght"), 650}, {tag("wdth"), 180}};
  test::check_glyphs(*face->instance(place), still, std::u32string_view(U"ABC"), 1.01F);
  test::check_shaping(face->instance(place), still, std::u32string_view(U"ABC"), random, 10);
}

TEST_CASE("CFF2 keeps its blends, or has them worked out", "[subset][cff][variations]") {
  test::FontBuilder builder;
  builder.remove("glyf"), builder.remove("loca");
  std::vector<Table> glyphs(131, Charstring().get());
  // 10 moved by up to 40, then a line of 100 and one by a subroutine, whose number blends too.
  glyphs[34] =
      Charstring().op({10, 20, 40, 0, 2}, 16).op({}, 21).op({100, 30, 1}, 16).op({}, 6).op({-107}, 29).get();
  builder.table("CFF2") = test::make_cff2(
      glyphs, {Charstring().op({50, 12.5, 1}, 16).op({}, 7).get(), Charstring().op({1}, 7).get()});
  builder.table("fvar") =
      Bytes().u16(1).u16(0).u16(16).u16(2).u16(1).u16(20).u16(0).u16(8).add(axis("wght", 100, 400, 900, 256));
  const auto face = builder.face();
  const test::Reduced reduced = test::reduce(*face, U"A");
  CHECK(reduced.subset.glyphs.size() == 2);
  for (const float weight : {400.0F, 777.0F, 900.0F}) {
    const AxisValue place[] = {{tag("wght"), weight}};
    const auto there = face->instance(place);
    Contours outline;
    REQUIRE(there->read_outline(GlyphId{34}, outline).has_value());
    REQUIRE(outline.points.size() == 3);
    const test::Reduced moved{reduced.subset, reduced.face->instance(place)};
    test::check_glyphs(*there, moved, std::u32string_view(U"A"));
    const test::Reduced fixed = test::reduce(*face, pinned(U"A", {place[0]}));
    CHECK(fixed.face->axes().empty());
    test::check_glyphs(*there, fixed, std::u32string_view(U"A"), 0.01F);
  }
}

TEST_CASE("pins that the face can't stand at are refused", "[subset][variations]") {
  const auto refused = [](const Face& face, AxisValue pin) {
    const auto made = make_subset(face, pinned(U"A", {pin}));
    return !made.has_value() && made.error().kind == ErrorKind::bad_value;
  };
  CHECK(refused(*quillmere(), {tag("wdth"), 100}));
  CHECK(refused(*quillmere(), {tag("wght"), 5000}));
  CHECK(refused(*quillmere(), {tag("wght"), std::numeric_limits<float>::quiet_NaN()}));
  CHECK(refused(*built_in_face(), {tag("wght"), 400}));
}
