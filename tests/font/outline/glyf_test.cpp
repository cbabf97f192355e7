// SPDX-License-Identifier: MIT
// TrueType outlines, simple and composite.
#include <catch2/catch.hpp>

#include <cmath>

#include "grafema/atlas/bake.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::words;

namespace {

/// A face whose first glyphs are these; offsets count from the start of a fresh glyf table.
std::shared_ptr<const Face> face_of(const std::vector<std::vector<std::byte>>& glyphs) {
  test::FontBuilder builder;
  std::vector<std::byte> glyf, loca;
  for (const auto& glyph : glyphs) {
    const std::vector<std::byte> at = words({0, static_cast<int>(glyf.size())});
    loca.insert(loca.end(), at.begin(), at.end());
    glyf.insert(glyf.end(), glyph.begin(), glyph.end());
    while (glyf.size() % 2 != 0) glyf.push_back(std::byte{0});
  }
  const std::vector<std::byte> end = words({0, static_cast<int>(glyf.size())});
  loca.insert(loca.end(), end.begin(), end.end());
  builder.table("glyf") = glyf;
  builder.table("loca") = loca;
  builder.put16("maxp", 4, static_cast<int>(glyphs.size()));
  for (std::size_t i = 0; i < glyphs.size(); ++i) {
    builder.put16("hmtx", i * 4 + 2, 0);
  }  // bearings at 0, as the boxes say
  return builder.face();
}

/// A square of 100 units at the origin, each coordinate in two bytes.
std::vector<std::byte> square() {
  return test::joined({words({1, 0, 0, 100, 100, 3, 0}),
                       {std::byte{1}, std::byte{1}, std::byte{1}, std::byte{1}},
                       words({0, 0, 100, 0, 0, 100, 0, -100})});
}

Contours outline_of(const Face& face, std::uint32_t glyph) {
  Contours outline;
  REQUIRE(face.read_outline(GlyphId{glyph}, outline).has_value());
  return outline;
}

}  // namespace

TEST_CASE("a simple glyph becomes its contour", "[glyf]") {
  const Contours c = outline_of(*face_of({square()}), 0);
  CHECK(c.points == std::vector<FontPoint>{{0, 0}, {0, 100}, {100, 100}, {100, 0}});
  CHECK(c.commands == std::vector<PathCommand>{PathCommand::moveto, PathCommand::lineto, PathCommand::lineto,
                                               PathCommand::lineto, PathCommand::closepath});
}

TEST_CASE("control points alone make a round contour with points between them", "[glyf]") {
  // Four points off the curve; the flag repeats three times.
  const auto ring = test::joined({words({1, 0, 0, 100, 100, 3, 0}),
                                  {std::byte{8}, std::byte{3}},
                                  words({0, 0, 100, 0, 0, 100, 0, -100})});
  const Contours c = outline_of(*face_of({ring}), 0);
  CHECK(c.commands == std::vector<PathCommand>{PathCommand::moveto, PathCommand::quadratic_curveto,
                                               PathCommand::quadratic_curveto, PathCommand::quadratic_curveto,
                                               PathCommand::quadratic_curveto, PathCommand::closepath});
  CHECK(c.points.front() == FontPoint{50, 0});
  CHECK(c.points.back() == FontPoint{50, 0});
}

TEST_CASE("a glyph may end with the flag of its last point", "[glyf]") {
  // One point at the origin, behind one byte of instructions: its flag says that both coordinates stay, so
  // that no byte follows it.
  const auto dot = test::joined({words({1, 0, 0, 0, 0, 0, 1}), {std::byte{0}, std::byte{0x31}}});
  const auto composite =
      test::joined({words({-1, 0, 0, 100, 100}), words({0x23, 0, 0, 0}), words({0x03, 1, 0, 0})});
  const auto face = face_of({square(), dot, composite});
  CHECK(outline_of(*face, 1).points.size() <= 1);
  CHECK(outline_of(*face, 2).points.size() >= 4);
  Contours outline;
  const auto cut = face_of(
      {test::joined({words({1, 0, 0, 0, 0, 0, 1}), {std::byte{0}, std::byte{0x39}}})});  // repeats, and ends
  const auto read = cut->read_outline(GlyphId{0}, outline);
  REQUIRE_FALSE(read.has_value());
  CHECK(std::string(read.error().expected) == "how often a flag repeats");
}

TEST_CASE("components are moved, scaled and matched by points", "[glyf]") {
  const auto composite = [](std::initializer_list<int> component) {
    return test::joined({words({-1, 0, 0, 100, 100}), words(component)});
  };
  const int w = 1, xy = 2;  // arguments are words, and offsets
  SECTION("by offset") {
    CHECK(outline_of(*face_of({square(), composite({w | xy, 0, 10, -20})}), 1).points[2] ==
          FontPoint{110, 80});
  }
  SECTION("by half") {
    CHECK(outline_of(*face_of({square(), composite({w | xy | 8, 0, 10, 0, 0x2000})}), 1).points[2] ==
          FontPoint{60, 50});
  }
  SECTION("by scaled offset") {
    CHECK(outline_of(*face_of({square(), composite({w | xy | 8 | 0x800, 0, 10, 0, 0x2000})}), 1).points[2] ==
          FontPoint{55, 50});
  }
  SECTION("by two scales") {
    CHECK(
        outline_of(*face_of({square(), composite({w | xy | 0x40, 0, 0, 0, 0x2000, 0x4000})}), 1).points[2] ==
        FontPoint{50, 100});
  }
  SECTION("by a quarter turn") {
    CHECK(outline_of(*face_of({square(), composite({w | xy | 0x80, 0, 0, 0, 0, 0x4000, -0x4000, 0})}), 1)
              .points[3] == FontPoint{0, 100});
  }
  SECTION("by points: the second square's first point meets the first one's third") {
    const auto both = composite({w | xy | 0x20, 0, 0, 0, w, 0, 2, 0});
    const Contours c = outline_of(*face_of({square(), both}), 1);
    CHECK(c.points[4] == FontPoint{100, 100});
    CHECK(c.points[6] == FontPoint{200, 200});
    CHECK(c.may_overlap);
  }
  SECTION("by points that are not there") {
    Contours c;
    CHECK_FALSE(face_of({square(), composite({w, 0, 9, 9})})->read_outline(GlyphId{1}, c).has_value());
  }
}

TEST_CASE("an outline stands where its left side bearing puts it", "[glyf]") {
  test::FontBuilder builder;
  const auto before = builder.face();
  const GlyphId glyph = before->find_glyph(U'H');
  builder.put16("hmtx", index_of(glyph) * 4 + 2, 300);
  CHECK(builder.face()->glyph_box(glyph).x_min == 300);
  CHECK(before->glyph_box(glyph).x_min == 0);
}

TEST_CASE("a table of offsets that is one entry short costs no glyph", "[glyf]") {
  test::FontBuilder builder;
  auto& loca = builder.table("loca");
  loca.resize(loca.size() - 4);
  Contours c;
  CHECK(builder.face()->read_outline(GlyphId{130}, c).has_value());
  CHECK_FALSE(c.commands.empty());
}

TEST_CASE("all glyphs of real faces are read and lie in the boxes of their headers", "[glyf][property]") {
  for (const char* file : {"DejaVuSans.ttf", "DejaVuSerif-BoldItalic.ttf"}) {
    const auto face = test::dejavu(file);
    Contours c;
    std::size_t contours = 0;
    for (std::uint32_t g = 0; g < face->glyph_count(); ++g) {
      REQUIRE(face->read_outline(GlyphId{g}, c).has_value());
      contours +=
          static_cast<std::size_t>(std::count(c.commands.begin(), c.commands.end(), PathCommand::moveto));
    }
    CHECK(contours > 5000);
  }
}

TEST_CASE("faces without outlines draw nothing, damaged CFF outlines are errors", "[glyf]") {
  test::FontBuilder builder;
  builder.remove("glyf"), builder.remove("loca");
  Contours c;
  CHECK(builder.face()->read_outline(GlyphId{5}, c).has_value());
  CHECK(c.commands.empty());
  builder.table("CFF ") = words({1, 2, 3});
  CHECK(builder.face()->read_outline(GlyphId{5}, c).error().kind == ErrorKind::damaged);
  CHECK(builder.face()->read_outline(GlyphId{999}, c).error().kind == ErrorKind::bad_value);
}

TEST_CASE("a glyph whose parts overlap without end is left out of a bake, and noted", "[glyf][bake]") {
  // 1,000 components of a star of 190 points, each a little beside the other: all cross all.
  std::vector<std::byte> star = words({1, 0, 0, 1000, 1000, 189, 0});
  std::vector<int> xs, ys;
  for (int i = 0; i < 190; ++i) {
    const double angle = i * 2.4;
    xs.push_back(static_cast<int>(500 + 500 * std::cos(angle))),
        ys.push_back(static_cast<int>(500 + 500 * std::sin(angle)));
  }
  std::vector<std::byte> flags(190, std::byte{1}), x_steps, y_steps;
  const auto steps = [](const std::vector<int>& at) {
    std::vector<std::byte> out;
    int before = 0;
    for (const int v : at) {
      const std::vector<std::byte> step = words({v - before});
      out.insert(out.end(), step.begin(), step.end());
      before = v;
    }
    return out;
  };
  star = test::joined({star, flags, steps(xs), steps(ys)});
  std::vector<std::byte> many = words({-1, 0, 0, 2000, 2000});
  for (int i = 0; i < 1000; ++i) {
    const std::vector<std::byte> part = words({i < 999 ? 0x23 : 0x03, 1, i % 37, i / 37});
    many.insert(many.end(), part.begin(), part.end());
  }
  const auto face = face_of({square(), star, many});
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters = {U'!'};  // glyph 2
  for (const PictureKind kind : {PictureKind::coverage, PictureKind::distance, PictureKind::distance_rgba}) {
    recipe.kind = kind;
    Notes notes;
    const auto atlas = bake(recipe, &notes);
    REQUIRE(atlas.has_value());
    REQUIRE(notes.all().size() == 1);
    CHECK(notes.all()[0].kind == NoteKind::damaged_glyph);
    CHECK(notes.all()[0].position == 2);
  }
}
