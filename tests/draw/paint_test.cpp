// SPDX-License-Identifier: MIT
// Text painted on pictures.
#include "grafema/draw/paint.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/raster/raster.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Image canvas(int width, int height, const Color& color = {1, 1, 1, 1}) {
  Image image = *Image::make(width, height, PixelFormat::rgba8);
  fill_image(image, color);
  return image;
}

Paragraph lay(const FontStack& stack, std::string_view text, float size) {
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, text, {.size = size}, cache, p).has_value());
  return p;
}

}  // namespace

TEST_CASE("the pixel face at its crisp size paints whole pixels", "[paint][golden]") {
  const FontStack stack{built_in_face()};
  Image image = canvas(24, 12);
  REQUIRE(paint(image, stack, lay(stack, "4 Ca", 12), plain_look({0, 0, 0, 1}), {0, 0}).has_value());
  const char* expected[] = {"...#.......###..........", "..##......#...#.........",
                            ".#.#......#......###....", "#..#......#.........#...",
                            "#####.....#......####...", "...#......#...#.#...#...",
                            "...#.......###...####..."};
  for (int y = 0; y < 7; ++y) {
    for (int x = 0; x < 24; ++x) {
      INFO(x << ", " << y);
      CHECK(image.value(x, y + 2) == (expected[y][x] == '#' ? 0 : 255));
    }
  }
}

TEST_CASE("a look's ink box holds every painted pixel and is within one of the tightest",
          "[paint][property]") {
  const FontStack stack{test::dejavu()};
  const std::string text = GENERATE(as<std::string>{}, "Quay", "q\xCC\x81\xD7\x99\xD7\x9D 7", "f");
  const Paragraph p = lay(stack, text, 40.5F);
  Look outlined, shadowed, thin;
  outlined.add({.grow = 3});
  outlined.add({});
  shadowed.add({.shift = {5, 7}, .grow = 1, .blur = 3});
  shadowed.add({.shift = {-9, 0}});
  thin.add({.grow = -0.75F});
  const std::pair<Look, bool> looks[] = {
      {plain_look({0, 0, 0, 1}), true}, {outlined, true}, {shadowed, true}, {thin, false}};
  for (const auto& [look, tight] : looks) {
    Image image = canvas(200, 120);
    const PixelPoint origin{30.25F, 30.5F};
    REQUIRE(paint(image, stack, p, look, origin).has_value());
    PixelRect found{200, 120, 0, 0};  // x, y, right, bottom
    for (int y = 0; y < 120; ++y) {
      for (int x = 0; x < 200; ++x) {
        if (image.value(x, y) == 255) continue;
        found = {std::min(found.x, x), std::min(found.y, y), std::max(found.width, x + 1),
                 std::max(found.height, y + 1)};
      }
    }
    const PixelRect box = rounded_out(ink_box(stack, p, look).moved(origin));
    CHECK(box.x <= found.x);
    CHECK(box.y <= found.y);
    CHECK(box.x + box.width >= found.width);
    CHECK(box.y + box.height >= found.height);
    if (!tight) continue;
    CHECK(found.x - box.x <= 1);
    CHECK(found.y - box.y <= 1);
    CHECK(box.x + box.width - found.width <= 1);
    CHECK(box.y + box.height - found.height <= 1);
  }
}

TEST_CASE("a plain fill is exact coverage in linear light", "[paint][property]") {
  const auto face = test::dejavu();
  const FontStack stack{face};
  const Paragraph p = lay(stack, "S", 40);
  Image image = canvas(48, 60, {0, 0, 0, 1});
  const PixelPoint origin{4.3F, 5.6F};
  REQUIRE(paint(image, stack, p, plain_look({1, 1, 1, 1}), origin).has_value());
  Contours c;
  RasterScratch scratch;
  std::vector<float> area(48 * 60);
  REQUIRE(face->read_outline(p.glyphs[0].glyph, c).has_value());
  const PixelPoint pen{origin.x, origin.y + p.lines[0].baseline};
  REQUIRE(
      rasterize_coverage(c, glyph_transform(40.0F / 2048, pen), {0, 0, 48, 60}, area, scratch).has_value());
  for (int i = 0; i < 48 * 60; ++i) {
    CHECK(std::abs(image.value(i % 48, i / 48) - to_srgb(area[static_cast<std::size_t>(i)]) * 255) <= 1);
  }
}

TEST_CASE("an outline surrounds the fill by its width", "[paint]") {
  const FontStack stack{built_in_face()};
  const Paragraph p = lay(stack, "l", 48);  // four pixels to a pixel of the face
  Look look;
  look.add({.grow = 3, .fill = Fill::solid({1, 0, 0, 1})});
  look.add({.fill = Fill::solid({0, 0, 1, 1})});
  Image image = canvas(40, 60);
  REQUIRE(paint(image, stack, p, look, {10, 0}).has_value());
  const int y = 20;  // across the stem, which covers x 10 to 14
  CHECK(image.value(8, y, 0) == 255);
  CHECK(image.value(8, y, 1) == 0);
  CHECK(image.value(11, y, 2) == 255);
  CHECK(image.value(11, y, 0) == 0);
  CHECK(image.value(16, y, 1) == 0);
  CHECK(image.value(6, y, 1) == 255);
  CHECK(image.value(17, y, 1) == 255);
}

TEST_CASE("a shadow falls where it is shifted and is softer with blur", "[paint]") {
  const FontStack stack{built_in_face()};
  const Paragraph p = lay(stack, ".", 48);
  const auto drawn = [&](float blur) {
    Look look;
    look.add({.shift = {20, 10}, .blur = blur, .fill = Fill::solid({0, 0, 0, 1})});
    Image image = canvas(60, 70);
    REQUIRE(paint(image, stack, p, look, {4, 4}).has_value());
    return image;
  };
  const Image hard = drawn(0), soft = drawn(4);
  CHECK(hard.value(26, 44) == 0);
  CHECK(hard.value(8, 34) == 255);
  CHECK(hard.value(22, 44) == 255);
  CHECK(soft.value(22, 44) < 255);
}

TEST_CASE("the fill's corners are those of the label's box", "[paint]") {
  const FontStack stack{built_in_face()};
  const Paragraph p = lay(stack, "||||", 96);
  Look look;
  look.add({.fill = {{*read_color("red"), *read_color("lime"), *read_color("blue"), *read_color("white")}}});
  Image image = canvas(static_cast<int>(p.advance_box.width()), 96, {0, 0, 0, 1});
  REQUIRE(paint(image, stack, p, look, {0, 0}).has_value());
  for (const int x : {2, 20, 34, 50}) {
    for (const int y : {20, 50, 80}) {
      const Color expected =
          color_at(look.layers[0].fill, {static_cast<float>(x) + 0.5F, static_cast<float>(y) + 0.5F},
                   {0, 0, static_cast<float>(image.width()), 96});
      CHECK(std::abs(image.value(x, y, 0) - expected.red * 255) <= 1);
      CHECK(std::abs(image.value(x, y, 2) - expected.blue * 255) <= 1);
    }
  }
}

TEST_CASE("text far outside, or cut by the edge, is safe", "[paint]") {
  const FontStack stack{test::dejavu()};
  const Paragraph p = lay(stack, "Saltglass Quay", 200);
  Image image = canvas(20, 20);
  Look look;
  look.add({.shift = {3, 3}, .grow = 9, .blur = 20});
  for (const PixelPoint origin : {PixelPoint{-5000, 0}, {1e6F, 1e6F}, {-300, -100}, {15, 15}}) {
    REQUIRE(paint(image, stack, p, look, origin).has_value());
  }
}

TEST_CASE("numbers that are not finite and pictures of other kinds are refused", "[paint]") {
  const FontStack stack{built_in_face()};
  const Paragraph p = lay(stack, "a", 12);
  Image image = canvas(8, 8), gray = *Image::make(8, 8, PixelFormat::r8);
  Look look;
  look.add({.grow = NAN});
  CHECK_FALSE(paint(image, stack, p, plain_look({0, 0, 0, 1}), {NAN, 0}).has_value());
  CHECK_FALSE(paint(image, stack, p, look, {0, 0}).has_value());
  CHECK_FALSE(paint(gray, stack, p, plain_look({0, 0, 0, 1}), {0, 0}).has_value());
}

TEST_CASE("a glyph that can't be read is noted, the others are painted", "[paint]") {
  test::FontBuilder builder;
  const auto whole = built_in_face();
  builder.put16("loca", index_of(whole->find_glyph(U'A')) * 4, 0x7FFF);
  const FontStack stack{builder.face()};
  Image image = canvas(40, 12);
  Notes notes;
  REQUIRE(paint(image, stack, lay(stack, "AH", 12), plain_look({0, 0, 0, 1}), {0, 0}, &notes).has_value());
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::damaged_glyph);
  CHECK(image.value(6, 5) == 0);
}

TEST_CASE("rectangles between pixels are shared by area", "[paint]") {
  Image image = canvas(4, 4, {0, 0, 0, 0});
  paint_rect(image, {0.5F, 1, 2, 3.25F}, {1, 1, 1, 1});
  CHECK(image.value(0, 1, 3) == 128);
  CHECK(image.value(1, 2, 3) == 255);
  CHECK(image.value(1, 3, 3) == 64);
  CHECK(image.value(2, 2, 3) == 0);
}

TEST_CASE("a picture is painted magnified, its alpha respected", "[paint]") {
  Image source = *Image::make(2, 1, PixelFormat::rgba8), image = canvas(6, 4);
  source.row(0)[3] = 255;
  paint_image(image, source, 1, 1, 2);
  CHECK(image.value(1, 1) == 0);
  CHECK(image.value(2, 2) == 0);
  CHECK(image.value(3, 1) == 255);  // the second pixel is transparent
  CHECK(image.value(0, 0) == 255);
}

TEST_CASE("glyphs in color are painted as renderers show them: their own colors last, their shape in shadows",
          "[paint][color]") {
  test::FontBuilder builder;
  const std::uint32_t glyph = 34;  // A of the built-in face
  // COLR 0: one base glyph of one layer, itself, in color 0; CPAL: one palette of one color, BGRA.
  builder.table("COLR") =
      test::words({0, 1, 0, 14, 0, 20, 1, static_cast<int>(glyph), 0, 1, static_cast<int>(glyph), 0});
  builder.table("CPAL") =
      test::joined({test::words({0, 1, 1, 1, 0, 14, 0}),
                    {std::byte{0x20}, std::byte{0x90}, std::byte{0xD0}, std::byte{0xFF}}});
  const auto face = builder.face();
  REQUIRE(index_of(face->find_glyph(U'A')) == glyph);
  const FontStack stack{face};
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, "AB", {.size = 48}, cache, p).has_value());
  Look look;
  look.add({.shift = {3, 3}, .fill = Fill::solid({0, 0, 1, 1})});
  look.add({.fill = Fill::solid({0, 1, 0, 1})});
  Image image = *Image::make(120, 70, PixelFormat::rgba8);
  fill_image(image, {1, 1, 1, 1});
  Notes notes;
  REQUIRE(paint(image, stack, p, look, {10, 5}, &notes).has_value());
  CHECK(notes.empty());
  int own = 0, blue = 0, green = 0;
  for (int y = 0; y < 70; ++y) {
    for (int x = 0; x < 120; ++x) {
      const auto is = [&](int r, int g, int b) {
        return image.value(x, y, 0) == r && image.value(x, y, 1) == g && image.value(x, y, 2) == b;
      };
      own += is(0xD0, 0x90, 0x20), blue += is(0, 0, 255), green += is(0, 255, 0);
    }
  }
  CHECK(own > 150);    // the A
  CHECK(blue > 50);    // shadows of both
  CHECK(green > 150);  // the B
}

TEST_CASE("a shadow drawn out across the world is painted all the same", "[paint]") {
  const FontStack stack{test::dejavu()};
  const Paragraph p = lay(stack, "Weir", 24);
  Image image = canvas(80, 40);
  Look look;
  for (const PixelPoint far : {PixelPoint{1e9F, 1e8F}, PixelPoint{-3e37F, 3e37F}, PixelPoint{1e-30F, 0}}) {
    look.count = 0;
    look.add({.shift = {1, 1}, .grow = 1, .sweep = far, .fill = Fill::solid({1, 0, 0, 1})});
    REQUIRE(paint(image, stack, p, look, {4, 2}).has_value());
  }
  CHECK(image.value(76, 18, 1) < 128);  // red all the way to the edge
}
