// SPDX-License-Identifier: MIT
// Baking ASCII at 48 px against its pictures alone; packing; the cache.
#include <algorithm>
#include <random>

#include "atlas/pack.hpp"
#include "bench.hpp"
#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::bench {
namespace {

constexpr float kSize = 48;

void bake_ascii(benchmark::State& state) {
  AtlasRecipe recipe;
  recipe.faces = {sans()};
  recipe.characters = *read_character_set("ascii");
  recipe.size = kSize;
  recipe.kind = PictureKind::distance;
  recipe.closure = false;
  for (auto _ : state) {
    const Result<Atlas> atlas = bake(recipe);
    GRAFEMA_VERIFY(state, atlas.has_value() && atlas->glyphs.size() == 96);
  }
}

void bake_ascii_floor(benchmark::State& state) {
  RasterScratch scratch;
  std::vector<float> out;
  const Transform map = glyph_transform(kSize / sans()->units_per_em());
  for (auto _ : state) {
    for (const NamedOutline& outline : ascii_outlines()) {
      const PixelRect cell =
          rounded_out(to_pixels(bounds(outline.contours), kSize / sans()->units_per_em()).grown(6));
      out.resize(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
      GRAFEMA_VERIFY(state, rasterize_distance(outline.contours, map, cell, 6, out, scratch).has_value());
      benchmark::DoNotOptimize(out.data());
    }
  }
}

/// Twenty thousand rectangles as large as letters, on pages of 2,048 pixels.
std::vector<detail::PackItem> many_rectangles() {
  std::mt19937 random(1);
  std::vector<detail::PackItem> items(20000);
  for (detail::PackItem& item : items) {
    item.width = 8 + static_cast<int>(random() % 40), item.height = 8 + static_cast<int>(random() % 40);
  }
  return items;
}

void pack_many(benchmark::State& state) {
  for (auto _ : state) {
    auto items = many_rectangles();
    const auto packed = detail::pack(items, 1, 2048, 2048, false);
    GRAFEMA_VERIFY(state, packed.has_value() && packed->page_count == 4);
  }
}

void pack_many_floor(benchmark::State& state) {
  for (auto _ : state) {
    auto items = many_rectangles();
    std::sort(items.begin(), items.end(), [](const auto& a, const auto& b) {
      return a.height != b.height ? a.height > b.height : a.width > b.width;
    });
    GRAFEMA_VERIFY(state, items.front().height == 47);
  }
}

constexpr std::size_t kKeys = 1000;

/// A thousand glyphs that are there: what a label that changed asks.
void resolve_from_cache(benchmark::State& state) {
  GlyphCacheOptions options;
  options.frame_bytes = options.budget = 64U << 20U;
  options.frame_time = std::chrono::seconds(100);
  const auto cache = GlyphCache::make(options);
  GRAFEMA_VERIFY(state, cache.has_value() && (*cache)->add(sans()).has_value());
  std::vector<GlyphKey> keys;
  for (std::size_t i = 0; i < kKeys; ++i) {
    keys.push_back({sans()->id(), GlyphId{static_cast<std::uint32_t>(3 + i * 7 % 200)}});
  }
  std::vector<GlyphPicture> sprites(keys.size());
  (*cache)->resolve(keys, sprites);
  for (auto _ : state) {
    (*cache)->resolve(keys, sprites);
    GRAFEMA_VERIFY(state, sprites[5].state == PictureState::ready);
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kKeys));
}

/// Copying a thousand sprites from a list by an index.
void resolve_floor(benchmark::State& state) {
  std::vector<GlyphPicture> known(200), sprites(kKeys);
  for (auto _ : state) {
    for (std::size_t i = 0; i < kKeys; ++i) sprites[i] = known[i * 7 % 200];
    benchmark::DoNotOptimize(sprites.data());
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kKeys));
}

BENCHMARK(pack_many)->Name("pack 20,000 rectangles")->Unit(benchmark::kMicrosecond);
BENCHMARK(pack_many_floor)->Name("pack 20,000 rectangles/floor")->Unit(benchmark::kMicrosecond);
BENCHMARK(resolve_from_cache)->Name("resolve 1,000 glyphs in the cache");
BENCHMARK(resolve_floor)->Name("resolve 1,000 glyphs in the cache/floor");
BENCHMARK(bake_ascii)->Name("bake ASCII at 48 px")->Unit(benchmark::kMicrosecond);
BENCHMARK(bake_ascii_floor)->Name("bake ASCII at 48 px/floor")->Unit(benchmark::kMicrosecond);

}  // namespace
}  // namespace grafema::bench
