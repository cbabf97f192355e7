// SPDX-License-Identifier: MIT
// Measuring a line of 40 characters, against adding advances and kerning from dense tables.
#include <array>
#include <cmath>
#include <string_view>

#include "bench.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema::bench {
namespace {

constexpr std::string_view kText = "The last tram to Foxglove Cross is late.";
static_assert(kText.size() == 40);

void measure(benchmark::State& state) {
  const FontStack stack{sans()};
  ShapeCache cache;
  Paragraph paragraph;
  for (auto _ : state) {
    GRAFEMA_VERIFY(state, lay_out(stack, kText, {}, cache, paragraph).has_value());
    benchmark::DoNotOptimize(paragraph.advance_box.right);
  }
  GRAFEMA_VERIFY(state, paragraph.glyphs.size() == 40);
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kText.size()));
}

void measure_floor(benchmark::State& state) {
  static std::array<float, 128> advances;
  static std::array<std::array<float, 128>, 128> kerning;
  for (char32_t c = 0x20; c < 0x7F; ++c) {
    advances[c] = sans()->advance(sans()->find_glyph(c));
    for (char32_t d = 0x20; d < 0x7F; ++d) {
      kerning[c][d] = sans()->kerning(sans()->find_glyph(c), sans()->find_glyph(d), tag("latn"));
    }
  }
  float width = 0;
  std::array<PixelPoint, 40> pens;
  for (auto _ : state) {
    std::string_view text = kText;
    benchmark::DoNotOptimize(text);
    width = 0;
    std::size_t before = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
      const auto c = static_cast<std::size_t>(text[i]);
      width += kerning[before][c];
      pens[i] = {width, 0};
      width += advances[c];
      before = c;
    }
    benchmark::DoNotOptimize(pens.data());
    benchmark::DoNotOptimize(width);
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kText.size()));
}

BENCHMARK(measure)->Name("measure 40 characters");
BENCHMARK(measure_floor)->Name("measure 40 characters/floor");

}  // namespace
}  // namespace grafema::bench
