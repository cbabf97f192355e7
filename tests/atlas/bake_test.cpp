// SPDX-License-Identifier: MIT
// Baked atlases: right cells, right pixels, right kerning.
#include <catch2/catch.hpp>

#include <cmath>
#include <set>
#include "grafema/draw/look_painter.hpp"

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/glyph_source.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "grafema/unicode/characters.hpp"
#include "support/bytes.hpp"
#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/reference.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

AtlasRecipe recipe_for(const std::shared_ptr<const Face>& face, PictureKind kind, float size) {
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters = *read_character_set("ascii");
  recipe.kind = kind;
  recipe.size = size;
  return recipe;
}

const AtlasGlyph& glyph_for(const Atlas& atlas, char32_t character) {
  for (const AtlasGlyph& glyph : atlas.glyphs) {
    if (std::find(glyph.codepoints.begin(), glyph.codepoints.end(), character) != glyph.codepoints.end()) {
      return glyph;
    }
  }
  FAIL("the atlas lacks a character");
  return atlas.glyphs.front();
}

/// What the atlas says two glyphs of strike 0 are kerned by.
float kerning_of(const Atlas& atlas, GlyphId left, GlyphId right) {
  const AtlasKerning& k = atlas.kerning[0];
  for (const auto& pair : k.pairs) {
    if (pair.left == left && pair.right == right) return pair.value;
  }
  for (std::size_t r = 0; r < k.first.size(); ++r) {
    for (std::size_t c = 0; c < k.second.size(); ++c) {
      const bool in_row = std::find(k.first[r].begin(), k.first[r].end(), left) != k.first[r].end();
      if (in_row && std::find(k.second[c].begin(), k.second[c].end(), right) != k.second[c].end()) {
        return k.values[r * k.second.size() + c];
      }
    }
  }
  return 0;
}

}  // namespace

TEST_CASE("cells hold the grown box, rounded outward, and never overlap", "[bake][property]") {
  const auto face = test::dejavu();
  const auto kind = GENERATE(PictureKind::coverage, PictureKind::distance);
  const float size = GENERATE(16.0F, 32.0F, 64.0F);
  const Result<Atlas> atlas = bake(recipe_for(face, kind, size));
  REQUIRE(atlas.has_value());
  const double around = kind == PictureKind::distance ? 6 : 0, scale = size / 2048.0;
  std::vector<int> taken(
      static_cast<std::size_t>(atlas->pages[0].image.width() * atlas->pages[0].image.height()));
  CHECK(atlas->pages.size() == 1);
  for (const AtlasGlyph& glyph : atlas->glyphs) {
    if (!glyph.page) continue;
    const FontRect box = face->glyph_box(glyph.glyph);
    CHECK(glyph.offset.x == std::floor(box.x_min * scale - around));
    CHECK(glyph.offset.y == std::floor(-box.y_max * scale - around));
    CHECK(glyph.offset.x + static_cast<float>(glyph.cell.width) == std::ceil(box.x_max * scale + around));
    CHECK(glyph.offset.y + static_cast<float>(glyph.cell.height) == std::ceil(-box.y_min * scale + around));
    CHECK(glyph.advance == Approx(face->advance(glyph.glyph) * scale));
    for (int y = glyph.cell.y; y < glyph.cell.y + glyph.cell.height; ++y) {
      for (int x = glyph.cell.x; x < glyph.cell.x + glyph.cell.width; ++x) {
        REQUIRE(taken[static_cast<std::size_t>(y * atlas->pages[0].image.width() + x)]++ == 0);
      }
    }
  }
  CHECK(glyph_for(*atlas, U' ').page == std::nullopt);
}

TEST_CASE("every pixel of a coverage page is within two steps of the exact area", "[bake][property]") {
  const auto face = test::dejavu();
  const Result<Atlas> atlas = bake(recipe_for(face, PictureKind::coverage, 32));
  REQUIRE(atlas.has_value());
  Contours c;
  for (const char32_t character : std::u32string(U"RSg@&%Q7")) {
    const AtlasGlyph& glyph = glyph_for(*atlas, character);
    REQUIRE(face->read_outline(glyph.glyph, c).has_value());
    const PixelRect cell{static_cast<int>(glyph.offset.x), static_cast<int>(glyph.offset.y), glyph.cell.width,
                         glyph.cell.height};
    const auto expected = test::reference_coverage(c, glyph_transform(32.0F / 2048), cell);
    for (int y = 0; y < cell.height; ++y) {
      for (int x = 0; x < cell.width; ++x) {
        const int value = atlas->pages[*glyph.page].image.value(glyph.cell.x + x, glyph.cell.y + y);
        REQUIRE(std::abs(value - 255 * expected[static_cast<std::size_t>(y * cell.width + x)]) <=
                3);  // one for the reference
      }
    }
  }
}

TEST_CASE("every pixel of a distance page is within its quantum and 0.02 pixels", "[bake][property]") {
  const auto face = test::dejavu();
  AtlasRecipe recipe = recipe_for(face, PictureKind::distance, 32);
  recipe.bits = GENERATE(8, 16);
  const Result<Atlas> atlas = bake(recipe);
  REQUIRE(atlas.has_value());
  const double max = recipe.bits == 8 ? 255 : 65535,
               allowed = (recipe.bits == 8 ? recipe.reach / 255 : 0) + 0.02;
  Contours c;
  for (const char32_t character : std::u32string(U"a4e")) {
    const AtlasGlyph& glyph = glyph_for(*atlas, character);
    REQUIRE(face->read_outline(glyph.glyph, c).has_value());
    const PixelRect cell{static_cast<int>(glyph.offset.x), static_cast<int>(glyph.offset.y), glyph.cell.width,
                         glyph.cell.height};
    const auto expected = test::reference_distance(c, glyph_transform(32.0F / 2048), cell);
    for (int y = 0; y < cell.height; ++y) {
      for (int x = 0; x < cell.width; ++x) {
        const double value =
            (atlas->pages[*glyph.page].image.value(glyph.cell.x + x, glyph.cell.y + y) / max - 0.5) * 2 *
            recipe.reach;
        const double exact = std::clamp(expected[static_cast<std::size_t>(y * cell.width + x)],
                                        -double{recipe.reach}, double{recipe.reach});
        REQUIRE(std::abs(value - exact) <= allowed);
      }
    }
  }
}

TEST_CASE("kerning in the atlas is the face's, whether as pairs or as classes", "[bake][property]") {
  const std::string file = GENERATE("DejaVuSans.ttf", "DejaVuSerif.ttf", "DejaVuSansMono.ttf");
  const auto face = test::dejavu(file);
  const Result<Atlas> atlas = bake(recipe_for(face, PictureKind::coverage, 32));
  REQUIRE(atlas.has_value());
  for (char32_t l = U'!'; l <= U'~'; l += 3) {
    for (char32_t r = U'!'; r <= U'~'; r += 2) {
      const GlyphId left = face->find_glyph(l), right = face->find_glyph(r);
      const bool has_script = script_of(l) != Tag{} || script_of(r) != Tag{};
      const float units = face->kerning(left, right, has_script ? tag("latn") : tag("DFLT"));
      REQUIRE(kerning_of(*atlas, left, right) == Approx(units * 32 / face->units_per_em()).margin(1e-6));
    }
  }
}

TEST_CASE("glyphs that only shaping yields kern in the script of the others", "[bake][property]") {
  // Glyph 40 is what shaping makes of A; GPOS kerns it with V under latn alone.
  test::FontBuilder builder;
  const auto whole = built_in_face();
  const auto a = static_cast<int>(index_of(whole->find_glyph(U'A'))),
             v = static_cast<int>(index_of(whole->find_glyph(U'V')));
  const int made = 90;
  const auto lookup_of = [](int type, const std::vector<std::byte>& table) {
    return test::joined({test::words({type, 0, 1, 8}), table});
  };
  builder.table("GSUB") = test::make_layout(
      {{{"latn", {{"", {0}}}}}, {{"ccmp", {0}}}, {lookup_of(1, test::words({2, 8, 1, made, 1, 1, a}))}});
  builder.table("GPOS") =
      test::make_layout({{{"latn", {{"", {0}}}}},
                         {{"kern", {0}}},
                         {lookup_of(2, test::words({1, 18, 4, 0, 1, 12, 1, v, -60, 1, 1, made}))}});
  const auto face = builder.face();
  REQUIRE(face->kerning(GlyphId{made}, GlyphId{static_cast<std::uint32_t>(v)}, tag("latn")) == -60);
  AtlasRecipe recipe = recipe_for(face, PictureKind::coverage, 12);
  recipe.closure = true;
  recipe.characters = {U'A', U'V'};
  const Atlas atlas = *bake(recipe);
  CHECK(kerning_of(atlas, GlyphId{made}, GlyphId{static_cast<std::uint32_t>(v)}) ==
        Approx(-60.0 * 12 / face->units_per_em()));
}

TEST_CASE("characters that no face has are noted, fallback faces are asked in order", "[bake]") {
  AtlasRecipe recipe = recipe_for(built_in_face(), PictureKind::coverage, 12);
  recipe.faces.push_back(test::dejavu());
  recipe.characters = {U'A', 0x3B1, 0x4E00, 0x200D};
  Notes notes;
  const Result<Atlas> atlas = bake(recipe, &notes);
  REQUIRE(atlas.has_value());
  CHECK(glyph_for(*atlas, U'A').strike == 0);
  CHECK(glyph_for(*atlas, 0x3B1).strike == 1);
  CHECK(atlas->strikes[1].lines.ascent == Approx(12 * 1901 / 2048.0));
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].character == 0x4E00);
  CHECK(index_of(atlas->glyphs[0].glyph) == 0);  // the missing-glyph shape is always there
}

TEST_CASE("fit finds the largest size: it fits, a quarter pixel more does not", "[bake]") {
  AtlasRecipe recipe = recipe_for(test::dejavu(), PictureKind::coverage, 0);
  recipe.fit = PageSize{256, 200};
  const Result<Atlas> atlas = bake(recipe);
  REQUIRE(atlas.has_value());
  CHECK(atlas->pages.size() == 1);
  CHECK(atlas->pages[0].image.width() == 256);
  CHECK(atlas->pages[0].image.height() == 200);
  recipe.fit.reset();
  recipe.size = atlas->strikes[0].size + 4;
  recipe.max_page = {256, 200};
  CHECK(bake(recipe)->pages.size() > 1);
}

TEST_CASE("the same recipe gives the same bytes, another one another key", "[bake]") {
  const AtlasRecipe recipe = recipe_for(test::dejavu(), PictureKind::distance, 20);
  const auto once = bake(recipe), again = bake(recipe);
  CHECK(once->key == again->key);
  CHECK(pixel_hash(once->pages[0].image) == pixel_hash(again->pages[0].image));
  AtlasRecipe other = recipe;
  other.reach = 5;
  CHECK(bake(other)->key != once->key);
}

TEST_CASE("recipes out of range are refused, each with its reason", "[bake]") {
  AtlasRecipe recipe = recipe_for(built_in_face(), PictureKind::coverage, 24);
  const auto refused = [&](auto change) {
    AtlasRecipe changed = recipe;
    change(changed);
    const Result<Atlas> atlas = bake(changed);
    REQUIRE_FALSE(atlas.has_value());
    return atlas.error().kind;
  };
  for (const float size : {0.0F, -1.0F, NAN, INFINITY, 1e9F}) {
    CHECK(refused([&](AtlasRecipe& r) { r.size = size; }) == ErrorKind::bad_value);
  }
  CHECK(refused([](AtlasRecipe& r) { r.faces.clear(); }) == ErrorKind::bad_value);
  CHECK(refused([](AtlasRecipe& r) { r.reach = NAN; }) == ErrorKind::bad_value);
  CHECK(refused([](AtlasRecipe& r) { r.padding = -1; }) == ErrorKind::bad_value);
  CHECK(refused([](AtlasRecipe& r) { r.bits = 12; }) == ErrorKind::bad_value);
  CHECK(refused([](AtlasRecipe& r) { r.gap = 1000; }) == ErrorKind::bad_value);
  CHECK(refused([](AtlasRecipe& r) { r.max_page = {0, 5}; }) == ErrorKind::bad_value);
  CHECK(refused([](AtlasRecipe& r) { r.max_page = {10, 10}; }) == ErrorKind::does_not_fit);
  CHECK(refused([](AtlasRecipe& r) { r.fit = PageSize{4, 4}; }) == ErrorKind::does_not_fit);
}

TEST_CASE("a face that forbids embedding is not baked", "[bake]") {
  test::FontBuilder builder;
  builder.put16("OS/2", 8, 2);
  CHECK(bake(recipe_for(builder.face(), PictureKind::coverage, 24)).error().kind == ErrorKind::forbidden);
}

TEST_CASE("a damaged glyph costs that glyph and is noted", "[bake]") {
  test::FontBuilder builder;
  const GlyphId glyph = built_in_face()->find_glyph(U'A');
  builder.put16("loca", index_of(glyph) * 4, 0x7FFF);
  Notes notes;
  const Result<Atlas> atlas = bake(recipe_for(builder.face(), PictureKind::coverage, 24), &notes);
  REQUIRE(atlas.has_value());
  CHECK_FALSE(glyph_for(*atlas, U'A').page.has_value());
  CHECK(glyph_for(*atlas, U'C').page.has_value());
  CHECK(notes.all()[0].kind == NoteKind::damaged_glyph);
}

TEST_CASE("padding is empty room inside coverage cells", "[bake]") {
  AtlasRecipe recipe = recipe_for(built_in_face(), PictureKind::coverage, 12);
  recipe.padding = 2.5F;
  const Result<Atlas> atlas = bake(recipe);
  const AtlasGlyph& glyph = glyph_for(*atlas, U'H');
  CHECK(glyph.cell.width == 5 + 6);
  CHECK(glyph.offset == PixelPoint{-3, -10});
  const Image& page = atlas->pages[0].image;
  for (int i = 0; i < 3; ++i) CHECK(page.value(glyph.cell.x + i, glyph.cell.y + 5) == 0);
  CHECK(page.value(glyph.cell.x + 3, glyph.cell.y + 5) == 255);
}

TEST_CASE("phases are pictures whose pens stand at quarters of a pixel", "[bake]") {
  const auto face = test::dejavu();
  AtlasRecipe recipe = recipe_for(face, PictureKind::coverage, 14);
  recipe.closure = false;
  recipe.phases = 4;
  const auto atlas = std::make_shared<const Atlas>(*bake(recipe));
  CHECK(atlas->glyphs.size() == 96 * 4);
  AtlasSource source(atlas);
  RasterScratch scratch;
  const GlyphId glyph = face->find_glyph(U'g');
  Contours outline;
  REQUIRE(face->read_outline(glyph, outline).has_value());
  for (std::uint8_t phase = 0; phase < 4; ++phase) {
    const GlyphKey key{face->id(), glyph, 14 * 4, phase};
    GlyphPicture sprite;
    source.resolve(std::span(&key, 1), std::span(&sprite, 1));
    REQUIRE(sprite.phase == phase);
    std::vector<float> area(static_cast<std::size_t>(sprite.cell[2]) * sprite.cell[3]);
    const PixelRect cell{static_cast<int>(sprite.offset.x), static_cast<int>(sprite.offset.y), sprite.cell[2],
                         sprite.cell[3]};
    REQUIRE(rasterize_coverage(outline, glyph_transform(14.0F / 2048, {static_cast<float>(phase) / 4, 0}),
                               cell, area, scratch)
                .has_value());
    for (int y = 0; y < cell.height; ++y) {
      for (int x = 0; x < cell.width; ++x) {
        const unsigned expected = coverage_value(area[static_cast<std::size_t>(y * cell.width + x)], 255);
        REQUIRE(std::abs(static_cast<int>(
                             atlas->pages[sprite.page].image.value(sprite.cell[0] + x, sprite.cell[1] + y)) -
                         static_cast<int>(expected)) <= 1);
      }
    }
  }
}

TEST_CASE("fitted rows end letters on whole rows of pixels", "[bake]") {
  const auto face = test::dejavu();
  const float size = GENERATE(11.0F, 13.0F, 15.0F);
  AtlasRecipe recipe = recipe_for(face, PictureKind::coverage, size);
  recipe.fit_rows = true;
  const Atlas atlas = *bake(recipe);
  for (const auto& [character, height] :
       {std::pair(U'z', face->facts().x_height), {U'Z', face->facts().cap_height}}) {
    const AtlasGlyph& glyph = glyph_for(atlas, character);
    CHECK(glyph.cell.height == std::lround(height * size / 2048));
    CHECK(glyph.offset.y == static_cast<float>(-glyph.cell.height));
    // Level strokes at both ends begin with their rows; they are nearly a pixel thick.
    const int middle = glyph.cell.x + glyph.cell.width / 2;
    CHECK(atlas.pages[0].image.value(middle, glyph.cell.y) > 190);
    CHECK(atlas.pages[0].image.value(middle, glyph.cell.y + glyph.cell.height - 1) > 190);
  }
  recipe.kind = PictureKind::distance;
  CHECK_FALSE(bake(recipe).has_value());
}

TEST_CASE("chosen pages are full", "[bake][property]") {
  const auto face = GENERATE(test::dejavu(), test::dejavu("DejaVuSerif.ttf"), built_in_face());
  const auto kind = GENERATE(PictureKind::coverage, PictureKind::distance);
  AtlasRecipe recipe = recipe_for(face, kind, 48);
  CHECK(bake(recipe)->used_area(1) >= 0.9);
}

TEST_CASE("two thousand glyphs fill their page to 95 percent", "[bake]") {
  AtlasRecipe recipe = recipe_for(test::dejavu(), PictureKind::coverage, 48);
  recipe.characters.clear();
  for (const auto& [character, glyph] : test::dejavu()->characters()) {
    if (recipe.characters.size() < 2000) recipe.characters.push_back(character);
  }
  recipe.closure = false;
  const Atlas atlas = *bake(recipe);
  CHECK(atlas.pages.size() == 1);
  CHECK(atlas.used_area(1) >= 0.95);
}

TEST_CASE("any number of threads gives the same bytes", "[bake][property]") {
  const auto kind = GENERATE(PictureKind::coverage, PictureKind::distance_rgba, PictureKind::color);
  const AtlasRecipe recipe = recipe_for(test::dejavu(), kind, 32);
  ThreadWorkers workers(3);
  const Atlas one = *bake(recipe), three = *bake(recipe, nullptr, {&workers, {}});
  REQUIRE(one.pages.size() == three.pages.size());
  for (std::size_t i = 0; i < one.pages.size(); ++i) {
    CHECK(one.pages[i].image.bytes() == three.pages[i].image.bytes());
  }
  CHECK(one.key == three.key);
}

TEST_CASE("whoever watches a bake may end it", "[bake]") {
  const AtlasRecipe recipe = recipe_for(test::dejavu(), PictureKind::distance, 32);
  std::size_t told = 0, last = 0;
  const auto whole = bake(recipe, nullptr, {nullptr, [&](std::size_t done, std::size_t total) {
                                              CHECK(done > last);
                                              CHECK(done <= total);
                                              last = done;
                                              return ++told > 0;
                                            }});
  CHECK(whole.has_value());
  CHECK(told > 1);
  const auto ended = bake(recipe, nullptr, {nullptr, [](std::size_t, std::size_t) { return false; }});
  REQUIRE_FALSE(ended.has_value());
  CHECK(ended.error().kind == ErrorKind::interrupted);
}

TEST_CASE("the key is that of the recipe: all that changes pixels changes it", "[bake]") {
  const AtlasRecipe recipe = recipe_for(test::dejavu(), PictureKind::coverage, 32);
  const std::string key = recipe_key(recipe);
  CHECK(key == recipe_key(recipe));
  CHECK(bake(recipe)->key == key);
  const auto changed = [&recipe](auto change) {
    AtlasRecipe other = recipe;
    change(other);
    return recipe_key(other);
  };
  const std::set<std::string> keys = {key,
                                      changed([](auto& r) { r.faces = {built_in_face()}; }),
                                      changed([](auto& r) { r.characters.pop_back(); }),
                                      changed([](auto& r) { r.kind = PictureKind::distance; }),
                                      changed([](auto& r) { r.size = 33; }),
                                      changed([](auto& r) { r.other_sizes = {33}; }),
                                      changed([](auto& r) {
                                        r.fit = PageSize{512, 512};
                                      }),
                                      changed([](auto& r) { r.reach = 7; }),
                                      changed([](auto& r) { r.padding = 1; }),
                                      changed([](auto& r) { r.gap = 2; }),
                                      changed([](auto& r) { r.phases = 2; }),
                                      changed([](auto& r) { r.fit_rows = true; }),
                                      changed([](auto& r) { r.closure = false; }),
                                      changed([](auto& r) { r.features = {tag("liga")}; }),
                                      changed([](auto& r) { r.color_glyphs = false; })};
  CHECK(keys.size() == 15);
  CHECK(changed([](auto& r) { std::reverse(r.characters.begin(), r.characters.end()); }) == key);
}

TEST_CASE("glyphs in color stand on color pages beside the others", "[bake][color]") {
  test::FontBuilder builder;
  using test::Bytes;
  const int a = 34, h = 41, dot = 15;  // A is painted as a red H and a dot in the text's color
  builder.table("COLR") =
      Bytes().u16(0).u16(1).u32(14).u32(20).u16(2).words(a, 0, 2).words(h, 0, dot, 0xFFFF);
  builder.table("CPAL") = Bytes().words(0, 1, 1, 1).u32(14).u16(0).u8(0).u8(0).u8(255).u8(255);
  const auto face = builder.face();
  AtlasRecipe recipe = recipe_for(face, PictureKind::distance_rgba, 24);
  recipe.characters = {U'A', U'B'};
  const Atlas atlas = *bake(recipe);
  REQUIRE(atlas.strikes.size() == 2);
  REQUIRE(atlas.pages.size() == 2);
  const AtlasGlyph &color = glyph_for(atlas, U'A'), &plain = glyph_for(atlas, U'B');
  CHECK(atlas.pages[*color.page].kind == PictureKind::color);
  CHECK(atlas.pages[*plain.page].kind == PictureKind::distance_rgba);
  const Image& page = atlas.pages[*color.page].image;
  int red = 0, black = 0;
  for (int y = color.cell.y; y < color.cell.y + color.cell.height; ++y) {
    for (int x = color.cell.x; x < color.cell.x + color.cell.width; ++x) {
      red += page.value(x, y, 0) == 255 && page.value(x, y, 3) == 255 ? 1 : 0;
      black += page.value(x, y, 0) == 0 && page.value(x, y, 3) == 255 ? 1 : 0;
    }
  }
  CHECK(red > 50);
  CHECK(black >= 4);
  recipe.color_glyphs = false;
  CHECK(bake(recipe)->pages.size() == 1);
}

TEST_CASE("transparent pixels of a color page have the color beside them", "[bake][color]") {
  AtlasRecipe recipe;
  recipe.faces = {test::dejavu()};
  recipe.characters = {U'o', U'A'};
  recipe.kind = PictureKind::color;
  recipe.size = 32;
  recipe.painter = make_painter(plain_look({1, 0.5F, 0, 1}), 32);
  const Atlas atlas = *bake(recipe);
  const Image& page = atlas.pages[0].image;
  // Mixed without regard to alpha, as a filtering renderer mixes straight alpha, no edge gets another color.
  int edges = 0;
  for (int y = 1; y + 1 < page.height(); ++y) {
    for (int x = 1; x + 1 < page.width(); ++x) {
      if (page.value(x, y, 3) == 0) continue;
      for (const auto& [i, j] : {std::pair(1, 0), {-1, 0}, {0, 1}, {0, -1}}) {
        if (page.value(x + i, y + j, 3) != 0) continue;
        ++edges;
        REQUIRE(page.value(x + i, y + j, 0) == 255);
        REQUIRE(std::abs(page.value(x + i, y + j, 1) - 128) <= 2);
      }
    }
  }
  CHECK(edges > 50);
}
