// SPDX-License-Identifier: MIT
// Sheets of drawn pixels: traced, measured, and refused where they are wrong.
#include <catch2/catch.hpp>
#include <set>

#include "grafema/files/files.hpp"
#include "grafema/raster/raster.hpp"
#include "outline/trace.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// A sheet of 8x12 cells from rows of text: '#' is ink.
PixelSheet sheet_of(const std::vector<std::string>& pixels, std::vector<std::u32string> rows) {
  PixelSheet sheet;
  sheet.sheet =
      *Image::make(static_cast<int>(pixels[0].size()), static_cast<int>(pixels.size()), PixelFormat::r8);
  for (std::size_t y = 0; y < pixels.size(); ++y) {
    for (std::size_t x = 0; x < pixels[y].size(); ++x) {
      sheet.sheet.row(static_cast<int>(y))[x] = pixels[y][x] == '#' ? 0 : 255;
    }
  }
  sheet.cell_width = sheet.cell_height = 4;
  sheet.baseline = 3;
  sheet.rows = std::move(rows);
  sheet.names = {"Test", "Regular", "", "1", "", "", ""};
  return sheet;
}

const std::vector<std::string> kTwoCells = {"##.#..#.", "##.#.#..", "##.#....", "........"};

detail::Bitmap random_bitmap(unsigned seed) {
  std::mt19937 random(seed);
  detail::Bitmap bitmap{7, 9, {}};
  for (int i = 0; i < 63; ++i) bitmap.ink.push_back(random() % 5 < 2);
  return bitmap;
}

}  // namespace

TEST_CASE("traced outlines cover just the ink", "[trace][property]") {
  const unsigned seed = GENERATE(range(0U, 40U));
  const detail::Bitmap bitmap = random_bitmap(seed);
  Contours c;
  detail::trace(bitmap, 9, 1, c);
  RasterScratch scratch;
  std::vector<float> area(63);
  REQUIRE(rasterize_coverage(c, {1, 0, 0, -1, 0, 9}, {0, 0, 7, 9}, area, scratch).has_value());
  for (std::size_t i = 0; i < 63; ++i) CHECK(area[i] == (bitmap.ink[i] ? 1.0F : 0.0F));
}

TEST_CASE("traced outlines turn at every point and stay apart at corners", "[trace][property]") {
  const unsigned seed = GENERATE(range(0U, 40U));
  Contours c;
  detail::trace(random_bitmap(seed), 9, 1, c);
  std::size_t at = 0;
  while (at < c.points.size()) {
    std::size_t end = at + 1;
    for (std::size_t v = 0, p = 0; v < c.commands.size(); ++v) {
      if (c.commands[v] == PathCommand::closepath) continue;
      if (c.commands[v] == PathCommand::moveto && p > at) break;
      end = ++p > at ? p : end;
    }
    const std::size_t count = end - at;
    for (std::size_t i = 0; i < count; ++i) {  // level and upright pieces take turns
      const FontPoint a = c.points[at + i], b = c.points[at + (i + 1) % count],
                      d = c.points[at + (i + 2) % count];
      CHECK((a.x == b.x) != (a.y == b.y));
      CHECK((a.x == b.x) != (b.x == d.x));
    }
    at = end;
  }
}

TEST_CASE("a stroke is one contour of four points, two pixels at a corner are two", "[trace]") {
  Contours stroke, corner;
  detail::trace({1, 5, {true, true, true, true, true}}, 5, 10, stroke);
  CHECK(stroke.points == std::vector<FontPoint>{{0, 50}, {10, 50}, {10, 0}, {0, 0}});
  detail::trace({2, 2, {true, false, false, true}}, 2, 1, corner);
  CHECK(std::count(corner.commands.begin(), corner.commands.end(), PathCommand::moveto) == 2);
}

TEST_CASE("widths come from the ink and the bearings", "[sheet]") {
  const auto drawing = draw_from_sheet(sheet_of(kTwoCells, {U"ab"}));
  REQUIRE(drawing.has_value());
  CHECK(drawing->units_per_em == 4 * kUnitsPerPixel);
  REQUIRE(drawing->glyphs.size() == 4);  // missing, space, a, b
  CHECK(drawing->glyphs[1].characters == std::vector<char32_t>{0x20, 0xA0});
  CHECK(drawing->glyphs[2].advance == 5 * kUnitsPerPixel);
  CHECK(drawing->glyphs[3].advance == 3 * kUnitsPerPixel);
  CHECK(bounds(drawing->glyphs[3].outline) ==
        FontRect{0, kUnitsPerPixel, 2 * kUnitsPerPixel, 3 * kUnitsPerPixel});
}

TEST_CASE("sheets that are wrong name the cell or the line", "[sheet]") {
  const auto message = [](PixelSheet sheet) {
    const auto drawing = draw_from_sheet(sheet);
    REQUIRE_FALSE(drawing.has_value());
    return describe(drawing.error());
  };
  CHECK_THAT(message(sheet_of({"#######"}, {U"a"})),
             Catch::Contains("multiple of the cell") && Catch::Contains("7x1"));
  CHECK_THAT(message(sheet_of(kTwoCells, {U"aa"})),
             Catch::Contains("'a' (U+0061) in line 1, cell 2 again after line 1, cell 1"));
  CHECK_THAT(message(sheet_of(kTwoCells, {U"a", U"b"})),
             Catch::Contains("line 2 of 'rows', the sheet has 1 rows"));
  CHECK_THAT(message(sheet_of(kTwoCells, {U"abc"})),
             Catch::Contains("3 in line 1") && Catch::Contains("2 columns"));
  CHECK_THAT(message(sheet_of({"##.#....", "##.#....", "##.#....", "........"}, {U"ab"})),
             Catch::Contains("'b' (U+0062) in line 1, cell 2"));
  PixelSheet baseline = sheet_of(kTwoCells, {U"ab"});
  baseline.baseline = 9;
  CHECK_THAT(message(std::move(baseline)), Catch::Contains("baseline"));
}

TEST_CASE("the built-in face is what the committed sheet makes, byte for byte", "[sheet][golden]") {
  const auto sheet = load_font_sheet(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.png");
  REQUIRE(sheet.has_value());
  const auto font = make_font(*draw_from_sheet(*sheet));
  REQUIRE(font.has_value());
  CHECK(*font == test::dot_bytes());
}

TEST_CASE("in the built-in face no letter touches its neighbor, kerned pairs included", "[sheet][property]") {
  const auto face = built_in_face();
  const auto ink = [&](GlyphId glyph, int shift) {
    std::vector<float> area(32 * 14);
    RasterScratch scratch;
    Contours c;
    REQUIRE(face->read_outline(glyph, c).has_value());
    const Transform map{1.0F / kUnitsPerPixel,         0, 0, -1.0F / kUnitsPerPixel,
                        static_cast<float>(shift) + 1, 10};
    REQUIRE(rasterize_coverage(c, map, {0, 0, 32, 14}, area, scratch).has_value());
    std::set<std::pair<int, int>> pixels;
    for (int i = 0; i < 32 * 14; ++i) {
      if (area[static_cast<std::size_t>(i)] > 0.5F) pixels.insert({i % 32, i / 32});
    }
    return pixels;
  };
  const auto all = face->characters();
  for (const auto& [l, left] : all) {
    const auto here = ink(left, 0);
    for (const auto& [r, right] : all) {
      const float kern = face->kerning(left, right, tag("latn"));
      if (kern == 0 && right != all[40].second) {
        continue;
      }  // unkerned pairs all stand apart by the same bearing
      const auto there = ink(right, static_cast<int>((face->advance(left) + kern) / kUnitsPerPixel));
      bool apart = true;
      for (const auto& [x, y] : here) {
        for (int dy = -1; dy <= 1; ++dy) {
          apart = apart && there.count({x + 1, y + dy}) == 0 && there.count({x, y + dy}) == 0;
        }
      }
      INFO(static_cast<unsigned>(l) << " before " << static_cast<unsigned>(r));
      CHECK(apart);
    }
  }
}

TEST_CASE("letters of the built-in face have even heights", "[sheet]") {
  const auto face = built_in_face();
  for (const char32_t c : std::u32string(U"ABCDEFGHIJKLMNOPRSTUVWXYZ0123456789bdhklf")) {
    CHECK(face->glyph_box(face->find_glyph(c)).y_max == 7 * kUnitsPerPixel);
  }
  for (const char32_t c : std::u32string(U"acemnorsuvwxzgpqy")) {
    CHECK(face->glyph_box(face->find_glyph(c)).y_max == 5 * kUnitsPerPixel);
  }
  for (const char32_t c : std::u32string(U"gpqyj")) {
    CHECK(face->glyph_box(face->find_glyph(c)).y_min == -2 * kUnitsPerPixel);
  }
  for (const char32_t c : std::u32string(U"0123456789")) {
    CHECK(face->advance(face->find_glyph(c)) == 6 * kUnitsPerPixel);
  }
}

TEST_CASE("blocks hold cells of other sizes with their own baseline", "[sheet][make-font]") {
  PixelSheet sheet;
  sheet.names.family = "Ferry";
  sheet.sheet = *Image::make(20, 30, PixelFormat::r8);
  for (int y = 0; y < 30; ++y) std::fill_n(sheet.sheet.row(y), 20, std::uint8_t{255});
  sheet.cell_width = 5, sheet.cell_height = 8, sheet.baseline = 7;
  sheet.rows = {U"a"};
  sheet.sheet.row(6)[1] = 0;  // one pixel on the baseline
  sheet.blocks = {{.x = 3, .y = 10, .cell_width = 9, .cell_height = 18, .baseline = 15, .rows = {U"B"}}};
  for (int y = 12; y < 25; ++y) sheet.sheet.row(y)[6] = 0;  // a stem from 13 above the baseline down to it
  const auto drawing = draw_from_sheet(sheet);
  REQUIRE(drawing.has_value());
  REQUIRE(drawing->glyphs.size() == 4);
  CHECK(bounds(drawing->glyphs[2].outline).y_max == kUnitsPerPixel);
  const FontRect tall = bounds(drawing->glyphs[3].outline);
  CHECK(tall.y_min == 0);
  CHECK(tall.y_max == 13 * kUnitsPerPixel);
  CHECK(drawing->glyphs[3].characters == std::vector<char32_t>{U'B'});
  const auto refused = [&](PixelBlock block) {
    sheet.blocks = {std::move(block)};
    const auto wrong = draw_from_sheet(sheet);
    REQUIRE_FALSE(wrong.has_value());
    CHECK(wrong.error().kind == ErrorKind::bad_value);
  };
  refused({.x = 15, .y = 0, .cell_width = 9, .cell_height = 9, .baseline = 5, .rows = {U"B"}});
  refused({.x = -1, .y = 0, .cell_width = 9, .cell_height = 9, .baseline = 5, .rows = {U"B"}});
  refused({.x = 0, .y = 0, .cell_width = 9, .cell_height = 9, .baseline = 10, .rows = {U"B"}});
  refused({.x = 3, .y = 10, .cell_width = 9, .cell_height = 18, .baseline = 15, .rows = {U"a"}});
  refused({.x = 10, .y = 0, .cell_width = 9, .cell_height = 9, .baseline = 5, .rows = {U"B"}});  // no ink
}

TEST_CASE("colors of a sheet become layers, the most frequent under all", "[sheet][make-font]") {
  PixelSheet sheet;
  sheet.names.family = "Ferry";
  sheet.color = true;
  sheet.sheet = *Image::make(4, 4, PixelFormat::rgba8);
  const auto put = [&](int x, int y, std::array<std::uint8_t, 4> color) {
    std::copy(color.begin(), color.end(), sheet.sheet.row(y) + 4 * x);
  };
  for (int y = 0; y < 3; ++y) {
    for (int x = 0; x < 3; ++x) put(x, y, {255, 176, 0, 255});
  }
  put(1, 1, {0, 0, 160, 255});
  sheet.cell_width = sheet.cell_height = 4, sheet.baseline = 3;
  sheet.rows = {U"a"};
  const auto drawing = draw_from_sheet(sheet);
  REQUIRE(drawing.has_value());
  const DrawnGlyph& glyph = drawing->glyphs[2];
  REQUIRE(glyph.layers.size() == 2);
  CHECK(glyph.layers[0].color == *read_color("#ffb000"));
  CHECK(glyph.layers[0].outline == glyph.outline);
  CHECK(glyph.layers[1].color == *read_color("#0000a0"));
  const FontRect dot = bounds(glyph.layers[1].outline);
  CHECK(dot.x_min == kUnitsPerPixel);
  CHECK(dot.y_max == 2 * kUnitsPerPixel);
  const auto face = Face::open(FontData::own(*make_font(*drawing)));
  REQUIRE(face.has_value());
  CHECK((*face)->color_layers((*face)->find_glyph(U'a')).size() == 2);
  sheet.sheet = *Image::make(4, 4, PixelFormat::r8);
  CHECK_FALSE(draw_from_sheet(sheet).has_value());
}
