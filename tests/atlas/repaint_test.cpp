// SPDX-License-Identifier: MIT
// Painted pages come back, paint that leaves its cell is found, and letters need no font.
#include "grafema/atlas/repaint.hpp"

#include <catch2/catch.hpp>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/glyph_source.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Atlas padded_atlas(PictureKind kind = PictureKind::coverage) {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = {U'A', U'B', U'C'};
  recipe.kind = kind;
  recipe.size = 24, recipe.padding = 3;
  return *bake(recipe);
}

const AtlasGlyph& repainted_glyph(const Atlas& atlas, char32_t c) {
  return *std::find_if(atlas.glyphs.begin(), atlas.glyphs.end(),
                       [c](const AtlasGlyph& g) { return !g.codepoints.empty() && g.codepoints[0] == c; });
}

Result<Repainted> repainted(const Atlas& atlas, Image page) {
  std::vector<PaintedPage> pages;
  pages.push_back({0, std::move(page)});
  return repaint(atlas, std::move(pages));
}

}  // namespace

TEST_CASE("an unchanged page gives the same pixels, no spill and an empty difference", "[repaint]") {
  const Atlas atlas = padded_atlas();
  const auto made = repainted(atlas, atlas.pages[0].image.clone());
  REQUIRE(made.has_value());
  CHECK(made->spills.empty());
  CHECK(made->atlas.pages[0].image.bytes() == atlas.pages[0].image.bytes());
  const Image& d = made->differences[0];
  for (int y = 0; y < d.height(); ++y) {
    for (int x = 0; x < d.width(); ++x) {
      REQUIRE((d.value(x, y, 0) == d.value(x, y, 1) && d.value(x, y, 1) == d.value(x, y, 2)));
    }
  }
}

TEST_CASE("paint in the padding stays, paint outside of cells is counted against its neighbor", "[repaint]") {
  const Atlas atlas = padded_atlas();
  Image page = atlas.pages[0].image.clone();
  const AtlasGlyph& b = repainted_glyph(atlas, U'B');
  page.row(b.cell.y)[b.cell.x] = 200;  // the corner of the padding
  const auto inside = repainted(atlas, page.clone());
  CHECK(inside->spills.empty());
  CHECK(inside->atlas.pages[0].image.value(b.cell.x, b.cell.y) == 200);
  CHECK(inside->differences[0].value(b.cell.x, b.cell.y, 1) == 200);
  page.row(b.cell.y + 2)[b.cell.x - 1] = 90;  // in the gap
  const auto outside = repainted(atlas, std::move(page));
  REQUIRE(outside->spills.size() == 1);
  CHECK(outside->spills[0].pixels == 1);
}

TEST_CASE("a page painted in color makes the atlas one of color", "[repaint]") {
  const Atlas atlas = padded_atlas();
  const Image& page = atlas.pages[0].image;
  Image painted = *Image::make(page.width(), page.height(), PixelFormat::rgba8);
  for (int y = 0; y < page.height(); ++y) {
    for (int x = 0; x < page.width(); ++x) {
      painted.row(y)[x * 4] = 255, painted.row(y)[x * 4 + 3] = page.row(y)[x];
    }
  }
  const auto made = repainted(atlas, std::move(painted));
  REQUIRE(made.has_value());
  CHECK(made->atlas.pages[0].kind == PictureKind::color);
  CHECK(made->atlas.strikes[0].kind == PictureKind::color);
  CHECK(made->spills.empty());
  CHECK(made->atlas.key != atlas.key);
}

TEST_CASE("an enlarged atlas lays text out as the original does at its size", "[repaint]") {
  const Atlas atlas = padded_atlas();
  const int times = GENERATE(2, 4);
  const auto large = enlarged(atlas, times);
  REQUIRE(large.has_value());
  CHECK(large->pages[0].image.width() == atlas.pages[0].image.width() * times);
  CHECK(large->strikes[0].size == atlas.strikes[0].size * static_cast<float>(times));
  const AtlasGlyph &a = repainted_glyph(atlas, U'C'), &b = repainted_glyph(*large, U'C');
  CHECK(b.advance == a.advance * static_cast<float>(times));
  CHECK(b.cell.x == a.cell.x * times);
  CHECK(large->pages[0].image.value(b.cell.x + times * 8, b.cell.y + times * 8) ==
        atlas.pages[0].image.value(a.cell.x + 8, a.cell.y + 8));
  CHECK_FALSE(enlarged(atlas, 3).has_value());
}

TEST_CASE("what can't be painted is refused with the reason", "[repaint]") {
  const Atlas distance = padded_atlas(PictureKind::distance_rgba), atlas = padded_atlas();
  CHECK(repainted(distance, distance.pages[0].image.clone()).error().kind == ErrorKind::unsupported);
  CHECK(enlarged(distance, 2).error().kind == ErrorKind::unsupported);
  CHECK(repainted(atlas, *Image::make(7, 7, PixelFormat::r8)).error().kind == ErrorKind::damaged);
  std::vector<PaintedPage> pages;
  pages.push_back({9, *Image::make(7, 7, PixelFormat::r8)});
  CHECK(repaint(atlas, std::move(pages)).error().kind == ErrorKind::bad_value);
}

TEST_CASE("a guide shows cells, padding and letters", "[repaint]") {
  const Atlas atlas = padded_atlas();
  const auto guide = draw_page_guide(atlas, 0, 4);
  REQUIRE(guide.has_value());
  const AtlasGlyph& a = repainted_glyph(atlas, U'A');
  CHECK(guide->width() == atlas.pages[0].image.width() * 4);
  const auto red = [&](int x, int y) { return guide->value(x, y, 0); };
  CHECK(red(a.cell.x * 4, a.cell.y * 4 + 5) == 255);  // the frame
  CHECK(red(a.cell.x * 4 + 5, a.cell.y * 4 + 5) <
        red(a.cell.x * 4 + 13, a.cell.y * 4 + 13));  // padding is darker than the letter's own room
  CHECK_FALSE(draw_page_guide(atlas, 1, 4).has_value());
}

TEST_CASE("painted letters are an atlas that lays out and draws", "[repaint]") {
  PaintedLetters sheet;
  sheet.image = *Image::make(40, 20, PixelFormat::rgba8);
  sheet.size = 20, sheet.lines = {16, 4, 0}, sheet.family = "Brushed";
  sheet.letters = {{{U'a'}, {0, 0, 20, 20}, 16, 1, 21}, {{U'b', U'B'}, {20, 0, 20, 20}, 16, 0, 22}};
  sheet.kerning = {{U'a', U'b', -3}};
  Result<Atlas> made = make_atlas(sheet);
  REQUIRE(made.has_value());
  const auto atlas = std::make_shared<const Atlas>(*std::move(made));
  const FontStack stack = atlas_stack(atlas);
  const GlyphId a = stack[0]->find_glyph(U'a'), b = stack[0]->find_glyph(U'B');
  CHECK(a != kMissingGlyph);
  CHECK(b == stack[0]->find_glyph(U'b'));
  CHECK(stack[0]->kerning(a, b, Tag{}) == -3);
  AtlasSource source(atlas);
  GlyphPicture sprite;
  const GlyphKey key{stack[0]->id(), b};
  source.resolve(std::span(&key, 1), std::span(&sprite, 1));
  CHECK(sprite.state == PictureState::ready);
  CHECK(sprite.kind == PictureKind::color);
  sheet.letters[1].cell.x = 21;
  CHECK(make_atlas(sheet).error().kind == ErrorKind::damaged);
  sheet.letters[1].cell.x = 20;
  sheet.letters[1].characters = {U'a'};
  CHECK(make_atlas(sheet).error().kind == ErrorKind::damaged);
}
