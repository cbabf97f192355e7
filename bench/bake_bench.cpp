// SPDX-License-Identifier: MIT
// Baking printable ASCII at 48 px, against making the same pictures with no selection, packing or pages.
#include "bench.hpp"
#include "grafema/atlas.hpp"
#include "grafema/character_sets.hpp"
#include "grafema/raster.hpp"

namespace grafema::bench {
namespace {

constexpr float kSize = 48;

void bake_ascii(benchmark::State& state) {
  AtlasRecipe recipe;
  recipe.faces = {sans()};
  recipe.characters = *read_character_set("ascii");
  recipe.size = kSize;
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
      const PixelRect cell = rounded_out(to_pixels(bounds(outline.contours), kSize / sans()->units_per_em()).grown(6));
      out.resize(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
      GRAFEMA_VERIFY(state, rasterize_distance(outline.contours, map, cell, 6, out, scratch).has_value());
      benchmark::DoNotOptimize(out.data());
    }
  }
}

BENCHMARK(bake_ascii)->Name("bake ASCII at 48 px")->Unit(benchmark::kMicrosecond);
BENCHMARK(bake_ascii_floor)->Name("bake ASCII at 48 px/floor")->Unit(benchmark::kMicrosecond);

}  // namespace
}  // namespace grafema::bench
