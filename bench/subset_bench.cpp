// SPDX-License-Identifier: MIT
// A face reduced to characters, against reading the outlines that are kept.
#include "bench.hpp"
#include "grafema/write/make_subset.hpp"

namespace grafema::bench {
namespace {

SubsetRecipe ascii() {
  SubsetRecipe recipe;
  for (char32_t c = 0x20; c < 0x7F; ++c) recipe.characters.push_back(c);
  return recipe;
}

void reduce(benchmark::State& state) {
  const SubsetRecipe recipe = ascii();
  for (auto _ : state) {
    const auto subset = make_subset(*sans(), recipe);
    GRAFEMA_VERIFY(state, subset.has_value() && subset->character_count == recipe.characters.size());
    benchmark::DoNotOptimize(subset->font.data());
  }
}

void reduce_floor(benchmark::State& state) {
  const auto subset = make_subset(*sans(), ascii());
  GRAFEMA_VERIFY(state, subset.has_value());
  Contours outline;
  for (auto _ : state) {
    for (const GlyphId glyph : subset->glyphs) {
      GRAFEMA_VERIFY(state, sans()->read_outline(glyph, outline).has_value());
    }
  }
}

BENCHMARK(reduce)->Name("subset/DejaVu Sans to ASCII");
BENCHMARK(reduce_floor)->Name("subset/DejaVu Sans to ASCII/floor");

}  // namespace
}  // namespace grafema::bench
