// SPDX-License-Identifier: MIT
// Charstrings of CFF and CFF2: every operator, subroutines, accents, font dictionaries, variation, damage.
#include "font/outline/cff.hpp"

#include <catch2/catch.hpp>

#include "support/cff_builder.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Charstring;

namespace {

using CffBytes = std::vector<std::byte>;

const CffBytes kNothing = Charstring().op({}, 14).get();

Result<Contours> draw(const test::CffDrawing& drawing, std::uint32_t glyph = 1, double units = 1000) {
  const CffBytes table = test::make_cff(drawing);
  const auto outlines = detail::CffOutlines::read({tag("CFF "), table}, false, {});
  REQUIRE(outlines.has_value());
  Contours out;
  if (const Result<void> read = outlines->read_outline(glyph, units, out); !read) return fail(read.error());
  return out;
}

/// What glyph 1 draws.
Contours draw(const Charstring& charstring) {
  const Result<Contours> out = draw({{kNothing, charstring.get()}, {}, {}, {"a"}});
  REQUIRE(out.has_value());
  return *out;
}

Contours path(std::initializer_list<FontPoint> points, std::initializer_list<PathCommand> commands) {
  Contours out;
  out.points = points;
  out.commands = commands;
  return out;
}

constexpr PathCommand M = PathCommand::moveto, L = PathCommand::lineto, C = PathCommand::curveto,
                      Z = PathCommand::closepath;

}  // namespace

TEST_CASE("moves and lines", "[cff]") {
  CHECK(draw(Charstring().op({10, 20}, 21).op({5, 0, 0, 7}, 5).op({}, 14)) ==
        path({{10, 20}, {15, 20}, {15, 27}}, {M, L, L, Z}));
  CHECK(draw(Charstring().op({10}, 22).op({5, 6, 7}, 6).op({}, 14)) ==
        path({{10, 0}, {15, 0}, {15, 6}, {22, 6}}, {M, L, L, L, Z}));
  CHECK(draw(Charstring().op({10}, 4).op({5, 6}, 7).op({}, 14)) ==
        path({{0, 10}, {0, 15}, {6, 15}}, {M, L, L, Z}));
  CHECK(draw(Charstring().op({500, 10, 20}, 21).op({1, 1}, 5).op({}, 14)) ==
        path({{10, 20}, {11, 21}}, {M, L, Z}));  // a width before
  CHECK(draw(Charstring().op({1, 1}, 21).op({2, 2}, 21).op({1, 0}, 5).op({}, 14)) ==
        path({{3, 3}, {4, 3}}, {M, L, Z}));  // a contour without pieces
}

TEST_CASE("curves in all their short forms", "[cff]") {
  const Charstring start = Charstring().op({0, 0}, 21);
  const auto after = [&](std::initializer_list<double> v, int op) {
    return draw(Charstring(start).op(v, op).op({}, 14));
  };
  CHECK(after({1, 2, 3, 4, 5, 6}, 8) == path({{0, 0}, {1, 2}, {4, 6}, {9, 12}}, {M, C, Z}));
  CHECK(after({1, 2, 3, 4}, 27) == path({{0, 0}, {1, 0}, {3, 3}, {7, 3}}, {M, C, Z}));
  CHECK(after({9, 1, 2, 3, 4}, 27) == path({{0, 0}, {1, 9}, {3, 12}, {7, 12}}, {M, C, Z}));
  CHECK(after({1, 2, 3, 4}, 26) == path({{0, 0}, {0, 1}, {2, 4}, {2, 8}}, {M, C, Z}));
  CHECK(after({9, 1, 2, 3, 4}, 26) == path({{0, 0}, {9, 1}, {11, 4}, {11, 8}}, {M, C, Z}));
  CHECK(after({1, 2, 3, 4}, 31) == path({{0, 0}, {1, 0}, {3, 3}, {3, 7}}, {M, C, Z}));
  CHECK(after({1, 2, 3, 4, 5}, 31) == path({{0, 0}, {1, 0}, {3, 3}, {8, 7}}, {M, C, Z}));
  CHECK(after({1, 2, 3, 4}, 30) == path({{0, 0}, {0, 1}, {2, 4}, {6, 4}}, {M, C, Z}));
  CHECK(after({1, 2, 3, 4, 1, 2, 3, 4, 5}, 30) ==
        path({{0, 0}, {0, 1}, {2, 4}, {6, 4}, {7, 4}, {9, 7}, {14, 11}}, {M, C, C, Z}));
  CHECK(after({1, 1, 1, 2, 3, 4, 5, 6}, 25) ==
        path({{0, 0}, {1, 1}, {2, 3}, {5, 7}, {10, 13}}, {M, L, C, Z}));
  CHECK(after({1, 2, 3, 4, 5, 6, 7, 7}, 24) ==
        path({{0, 0}, {1, 2}, {4, 6}, {9, 12}, {16, 19}}, {M, C, L, Z}));
}

TEST_CASE("flex is drawn as its two curves", "[cff]") {
  const Charstring start = Charstring().op({0, 0}, 21);
  const auto end_of = [&](std::initializer_list<double> v, int op) {
    const Contours out = draw(Charstring(start).op(v, op).op({}, 14));
    REQUIRE(out.commands == std::vector<PathCommand>{M, C, C, Z});
    return out.points;
  };
  CHECK(end_of({1, 2, 3, 4, 5, 6, 7}, 1234) ==
        std::vector<FontPoint>{{0, 0}, {1, 0}, {3, 3}, {7, 3}, {12, 3}, {18, 0}, {25, 0}});
  CHECK(end_of({1, 1, 1, 1, 1, 1, 2, 2, 2, 2, 2, 2, 50}, 1235).back() == FontPoint{9, 9});
  CHECK(end_of({1, 1, 2, 2, 3, 4, 5, -2, 6}, 1236).back() == FontPoint{21, 0});
  CHECK(end_of({10, 1, 10, 1, 10, 1, 10, -1, 10, -1, 7}, 1237).back() == FontPoint{57, 0});
  CHECK(end_of({1, 10, 1, 10, 1, 10, -1, 10, -1, 10, 7}, 1237).back() == FontPoint{0, 57});
}

TEST_CASE("hints are stepped over, masks with as many bits as there are hints", "[cff]") {
  // Three stems before the mask, seven more implied by it: ten bits, two bytes, which look like operators.
  const Contours out = draw(Charstring()
                                .op({1, 2, 3, 4}, 18)
                                .op({5, 6}, 3)
                                .op({1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1}, 19)
                                .raw({14, 14})
                                .op({1, 1}, 23)
                                .op({}, 20)
                                .raw({14, 14})
                                .op({3, 4}, 21)
                                .op({1, 1}, 5)
                                .op({}, 14));
  CHECK(out == path({{3, 4}, {4, 5}}, {M, L, Z}));
}

TEST_CASE("arithmetic and memory", "[cff]") {
  const auto value = [](const Charstring& c) {
    const Contours out = draw(Charstring(c).op({}, 22).op({1}, 6).op({}, 14));
    return out.points.at(0).x;
  };
  CHECK(value(Charstring().op({7, 3}, 1210)) == 10);
  CHECK(value(Charstring().op({7, 3}, 1211)) == 4);
  CHECK(value(Charstring().op({7, 2}, 1212)) == 3.5F);
  CHECK(value(Charstring().op({7, 0}, 1212)) == 0);
  CHECK(value(Charstring().op({7, 2}, 1224)) == 14);
  CHECK(value(Charstring().op({-7}, 1209)) == 7);
  CHECK(value(Charstring().op({7}, 1214)) == -7);
  CHECK(value(Charstring().op({49}, 1226)) == 7);
  CHECK(value(Charstring().op({7, 0}, 1203)) == 0);
  CHECK(value(Charstring().op({7, 0}, 1204)) == 1);
  CHECK(value(Charstring().op({7}, 1205)) == 0);
  CHECK(value(Charstring().op({7, 7}, 1215)) == 1);
  CHECK(value(Charstring().op({1, 9}, 1218)) == 1);
  CHECK(value(Charstring().op({5, 6, 1, 2}, 1222)) == 5);
  CHECK(value(Charstring().op({5, 6, 2, 1}, 1222)) == 6);
  CHECK(value(Charstring().op({42, 3}, 1220).op({3}, 1221)) == 42);
  CHECK(value(Charstring().op({8}, 1227).op({}, 1210)) == 16);
  CHECK(value(Charstring().op({9, 4}, 1228).op({}, 1211)) == -5);
  CHECK(value(Charstring().op({9, 4, 1}, 1229).op({}, 1228).op({}, 1218).op({}, 1228).op({}, 1218)) == 9);
  CHECK(value(Charstring().op({1, 2, 3, 3, 1}, 1230).op({}, 1218).op({}, 1228).op({}, 1218)) == 1);  // 3 1 2
  CHECK(value(Charstring().number(0.5)) == 0.5F);
  CHECK(value(Charstring().number(-1131)) == -1131);
  CHECK(value(Charstring().number(30000)) == 30000);
}

TEST_CASE("subroutines of both kinds, biased by their number", "[cff]") {
  const CffBytes line = Charstring().op({5, 5}, 5).op({}, 11).get(),
                 nested = Charstring().op({-107}, 10).op({1, 0}, 5).op({}, 11).get();
  const CffBytes glyph = Charstring().op({1, 1}, 21).op({-107}, 29).op({}, 14).get();
  const Result<Contours> out = draw({{kNothing, glyph}, {nested}, {line}, {"a"}});
  REQUIRE(out.has_value());
  CHECK(*out == path({{1, 1}, {6, 6}, {7, 6}}, {M, L, L, Z}));
  std::vector<CffBytes> many(1240, Charstring().op({}, 11).get());
  many[1131 + 7] = line;
  const Result<Contours> biased =
      draw({{kNothing, Charstring().op({1, 1}, 21).op({7}, 10).op({}, 14).get()}, {}, many, {"a"}});
  REQUIRE(biased.has_value());
  CHECK(biased->points.back() == FontPoint{6, 6});
}

TEST_CASE("an accented letter is put together from two glyphs", "[cff]") {
  const CffBytes letter = Charstring().op({0, 0}, 21).op({10, 0, 0, 10}, 5).op({}, 14).get(),
                 accent = Charstring().op({1, 1}, 21).op({2, 0, 0, 2}, 5).op({}, 14).get();
  const CffBytes both =
      Charstring().op({300, 4, 20, 65, 194}, 14).get();  // a width, then A and acute in the standard encoding
  const Result<Contours> out = draw({{kNothing, letter, accent, both}, {}, {}, {}, {34, 125, 171}}, 3);
  REQUIRE(out.has_value());
  CHECK(*out == [] {
    Contours wanted = path({{0, 0}, {10, 0}, {10, 10}, {5, 21}, {7, 21}, {7, 23}}, {M, L, L, Z, M, L, L, Z});
    wanted.may_overlap = true;
    return wanted;
  }());
  const CffBytes lost = Charstring().op({4, 20, 65, 200}, 14).get();
  CHECK_FALSE(draw({{kNothing, letter, accent, lost}, {}, {}, {}, {34, 125, 171}}, 3).has_value());
}

TEST_CASE("font matrices of CID-keyed fonts apply one after the other", "[cff]") {
  const CffBytes square = Charstring().op({100, 100}, 21).op({100, 0, 0, 100}, 5).op({}, 14).get();
  test::CffDrawing drawing{{kNothing, square, square, square}};
  drawing.keyed = true;
  drawing.charset = {1, 2, 3};
  drawing.select_format = GENERATE(0, 3);
  drawing.dict_matrices = {"0.001 0 0 0.001 0 0", "0.0005 0 0 0.001 0.01 0"};
  CHECK(draw(drawing, 1)->points[0] == FontPoint{100, 100});
  CHECK(draw(drawing, 2)->points[0] == FontPoint{60, 100});
  CHECK(draw(drawing, 1, 2000)->points[0] == FontPoint{200, 200});
  drawing.matrix = "0.001 0 0 0.001 0 0";
  drawing.dict_matrices = {"1 0 0 1 0 0", "2 0 0 1 0 0"};
  CHECK(draw(drawing, 3)->points[1] == FontPoint{400, 100});
}

TEST_CASE("units per em that only the font matrix knows", "[cff]") {
  test::CffDrawing drawing{
      {kNothing, Charstring().op({0, 0}, 21).op({512, 0, 0, 512}, 5).op({}, 14).get()}, {}, {}, {"a"}};
  drawing.matrix = "0.00048828125 0 0 4.8828125e-4 0 0";
  test::FontBuilder builder;
  for (const char* table : {"glyf", "loca"}) builder.remove(table);
  builder.table("CFF ") = test::make_cff(drawing);
  builder.put16("head", 18, 0);
  const auto face = builder.face();
  CHECK(face->units_per_em() == 2048);
  CHECK(face->facts().outlines == OutlineKind::cff);
  CHECK(face->glyph_box(GlyphId{1}) == FontRect{0, 0, 512, 512});
  CHECK(face->glyph_name(GlyphId{1}) == "a");
}

TEST_CASE("names of glyphs are standard strings or the font's own", "[cff]") {
  const CffBytes table = test::make_cff({{kNothing, kNothing, kNothing}, {}, {}, {"lantern"}, {34, 391}});
  const auto outlines = detail::CffOutlines::read({tag("CFF "), table}, false, {});
  REQUIRE(outlines.has_value());
  CHECK(outlines->glyph_name(0) == ".notdef");
  CHECK(outlines->glyph_name(1) == "A");
  CHECK(outlines->glyph_name(2) == "lantern");
}

TEST_CASE("programs that make no sense are errors that name the table and the glyph", "[cff]") {
  const Charstring bad[] = {Charstring().op({9}, 10).op({}, 14),  // no such subroutine
                            Charstring().op({}, 21),              // nothing to move by
                            Charstring().op({1, 40}, 1220),       // no such register
                            Charstring().op({5}, 24),
                            Charstring().op({5}, 25),  // too few numbers
                            Charstring().op({1, 2, 3}, 1237)};
  for (const Charstring& charstring : bad) {
    const Result<Contours> out = draw({{kNothing, charstring.get()}, {}, {}, {"a"}});
    REQUIRE_FALSE(out.has_value());
    CHECK(out.error().table == tag("CFF "));
    CHECK(describe(out.error(), "x.otf").find("x.otf") != std::string::npos);
  }
}

TEST_CASE("subroutines that call themselves or each other without end are stopped", "[cff]") {
  const CffBytes forever = Charstring().op({-107}, 10).op({-107}, 10).op({}, 11).get(),
                 glyph = Charstring().op({-107}, 10).op({}, 14).get();
  CHECK_FALSE(draw({{kNothing, glyph}, {}, {forever}, {"a"}}).has_value());
  // Ten levels that each call the next a hundred times: stopped by the number of steps.
  std::vector<CffBytes> levels;
  for (int level = 0; level < 9; ++level) {
    Charstring c;
    for (int i = 0; i < 100; ++i) c.op({-107.0 + level + 1}, 10);
    levels.push_back(c.op({}, 11).get());
  }
  levels.push_back(Charstring().op({}, 11).get());
  CHECK_FALSE(draw({{kNothing, glyph}, {}, levels, {"a"}}).has_value());
}

TEST_CASE("CFF2 blends its numbers along the axes", "[cff][variations]") {
  // 100 + 40 w right, then a line by 10 + 20 w and 0.
  const CffBytes glyph =
      Charstring().op({100, 40, 1}, 16).op({0}, 21).op({10, 0, 20, 0, 2}, 16).op({}, 5).get();
  const CffBytes table = test::make_cff2({kNothing, glyph}, {});
  for (const float w : {0.0F, 0.5F, 1.0F}) {
    const auto outlines = detail::CffOutlines::read({tag("CFF2"), table}, true,
                                                    w == 0 ? std::vector<float>{} : std::vector<float>{w});
    REQUIRE(outlines.has_value());
    Contours out;
    REQUIRE(outlines->read_outline(1, 1000, out).has_value());
    CHECK(out.points == std::vector<FontPoint>{{100 + 40 * w, 0}, {110 + 60 * w, 0}});
    CHECK(out.may_overlap);
  }
}

TEST_CASE("CFF tables cut or changed anywhere are errors or other glyphs", "[cff][property]") {
  test::CffDrawing drawing{
      {kNothing, Charstring().op({1, 1}, 21).op({-107}, 29).op({}, 14).get(), kNothing, kNothing},
      {Charstring().op({5, 5, 6, 6, 7, 7}, 8).op({}, 11).get()}};
  drawing.keyed = GENERATE(false, true);
  drawing.charset = {1, 2, 3};
  const bool version2 = GENERATE(false, true);
  const CffBytes whole = version2 ? test::make_cff2(drawing.glyphs, drawing.global) : test::make_cff(drawing);
  const auto use = [&](const CffBytes& bytes) {
    const auto outlines = detail::CffOutlines::read({tag("CFF "), bytes}, version2, {0.5F});
    Contours out;
    std::size_t good = 0;
    for (std::uint32_t g = 0; outlines && g < std::min<std::size_t>(outlines->glyph_count(), 50); ++g) {
      good += outlines->read_outline(g, 1000, out) ? 1 : 0;
      (void)outlines->glyph_name(g);
    }
    return good;
  };
  CHECK(use(whole) == 4);
  for (std::size_t length = 0; length < whole.size(); ++length) {
    CHECK(use(CffBytes(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length))) <= 50);
  }
  std::mt19937 random(3);
  for (int round = 0; round < 3000; ++round) {
    CffBytes changed = whole;
    changed[random() % changed.size()] = static_cast<std::byte>(random());
    CHECK(use(changed) <= 50);
  }
}
