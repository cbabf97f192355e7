// SPDX-License-Identifier: MIT
// A baked atlas with the live cache behind it: who answers, how pages are numbered, what epochs do.
#include <catch2/catch.hpp>

#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/atlas/source_chain.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

/// Digits and capitals baked; all else is made when it is asked for.
struct Chained {
  std::shared_ptr<const Face> face = test::dejavu();
  std::shared_ptr<AtlasSource> atlas;
  std::shared_ptr<GlyphCache> cache;
  std::shared_ptr<SourceChain> chain;

  Chained() {
    AtlasRecipe recipe;
    recipe.faces = {face};
    recipe.kind = PictureKind::distance_rgba;
    recipe.size = 24;
    recipe.closure = false;
    for (char32_t c = U'A'; c <= U'Z'; ++c) recipe.characters.push_back(c);
    atlas = std::make_shared<AtlasSource>(std::make_shared<const Atlas>(*bake(recipe)));
    GlyphCacheOptions options;
    options.size = 24;
    options.frame_time = std::chrono::hours(1);
    cache = *GlyphCache::make(options);
    REQUIRE(cache->add(face).has_value());
    chain = *SourceChain::make({atlas, cache});
  }
  GlyphKey key(char32_t c) const { return {face->id(), face->find_glyph(c), 96, 0}; }
};

}  // namespace

TEST_CASE("the first source that has a glyph answers, and pages keep their numbers", "[atlas][chain]") {
  Chained c;
  const GlyphKey keys[] = {c.key(U'A'), c.key(U'a'), c.key(U'B')};
  GlyphPicture sprites[3];
  c.chain->resolve(keys, sprites);
  for (const GlyphPicture& sprite : sprites) CHECK(sprite.state == PictureState::ready);
  const auto pages = c.chain->pages();
  REQUIRE(pages.size() == 2);
  CHECK(sprites[0].page == sprites[2].page);
  CHECK(sprites[0].page != sprites[1].page);
  CHECK(pages[sprites[0].page].part != pages[sprites[1].page].part);
  CHECK(c.chain->pixels(sprites[0].page).data == c.atlas->pixels(0).data);
  CHECK(c.chain->pixels(sprites[1].page).data == c.cache->pixels(0).data);
  // The cell of either holds the same glyph as its own source says.
  GlyphPicture own;
  c.atlas->resolve(std::span(keys, 1), std::span(&own, 1));
  CHECK(own.cell == sprites[0].cell);
  const GlyphKey unknown{c.face->id(), static_cast<GlyphId>(65000), 96, 0}, other{FaceId{}, GlyphId{}, 96, 0};
  GlyphPicture none;
  c.chain->resolve(std::span(&other, 1), std::span(&none, 1));
  CHECK(none.state == PictureState::absent);
  c.chain->resolve(std::span(&unknown, 1), std::span(&none, 1));
  CHECK(none.state != PictureState::ready);
}

TEST_CASE("the epoch of a chain moves with any of its sources", "[atlas][chain]") {
  Chained c;
  const std::uint64_t first = c.chain->epoch();
  c.atlas->replace(test::atlas_of(c.face));
  const std::uint64_t second = c.chain->epoch();
  CHECK(second != first);
  REQUIRE(c.cache->add(built_in_face()).has_value());
  CHECK(c.chain->epoch() != second);
  CHECK_FALSE(SourceChain::make({}).has_value());
  CHECK_FALSE(SourceChain::make({c.atlas, nullptr}).has_value());
}

TEST_CASE("labels and sets draw through a chain what they draw from one source", "[atlas][chain][set]") {
  Chained c;
  test::WhiteContext chained(FontStack{c.face}, c.chain), live(FontStack{c.face}, c.cache);
  const View view{.width = 260, .height = 60};
  const auto shown = [&](TextContext& context) {
    TextScene set(context);
    Label label = set.add("MARROW hill");
    label.set_placement({.at = {10, 10}, .rotate = 4});
    REQUIRE(set.update(view, 0).has_value());
    Image image = *Image::make(260, 60, PixelFormat::rgba8);
    fill_image(image, {0.1F, 0.1F, 0.2F, 1});
    REQUIRE(draw_in_software(set.memory(), Blending::linear, image).has_value());
    return image;
  };
  const Image a = shown(chained), b = shown(live);
  CHECK(test::share_that_differs(a, b, 6) < 0.002);
  int lit = 0;
  for (int y = 0; y < 60; ++y) {
    for (int x = 0; x < 260; ++x) lit += a.value(x, y, 0) > 200 ? 1 : 0;
  }
  CHECK(lit > 300);
}
