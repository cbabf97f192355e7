// SPDX-License-Identifier: MIT
// Shaping and lines, against decoding, finding each glyph, adding its advance and looking up its pair.
#include <string>

#include "bench.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/text/shaped_text.hpp"

namespace grafema::bench {
namespace {

const std::string& latin() {
  static const std::string text =
      "The last tram to Foxglove Cross is late. Passengers for Pale Orchard may ride the ferry with a tram "
      "ticket. Ring the bell once to stop, twice to go on, and never three times. Wren Achterberg waits "
      "under "
      "the lantern, Tavi Voss counts the coins, and AV line 47 leaves Quay Vault Yard at dusk.";
  return text;
}

/// The least that a kerned width takes.
float floor_width(const Face& face, std::string_view text) {
  float units = 0;
  GlyphId before = kMissingGlyph;
  for (std::size_t at = 0; at < text.size();) {
    const DecodedCharacter next = decode_utf8(text, at);
    const GlyphId glyph = face.find_glyph(next.character);
    if (before != kMissingGlyph) units += face.kerning(before, glyph, tag("latn"));
    units += face.advance(glyph);
    before = glyph;
    at += next.length;
  }
  return units;
}

void floor(benchmark::State& state) {
  for (auto _ : state) benchmark::DoNotOptimize(floor_width(*sans(), latin()));
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * latin().size()));
}

void shape_seen(benchmark::State& state) {
  const FontStack stack{sans()};
  ShapeCache cache;
  ShapedText text;
  for (auto _ : state) GRAFEMA_VERIFY(state, text.set(stack, latin(), {}, cache).has_value());
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * text.glyphs().size()));
}

/// Every word is new: its letters turn from round to round.
void shape_unseen(benchmark::State& state) {
  const FontStack stack{sans()};
  ShapeCache cache;
  ShapedText text;
  std::string changed = latin();
  std::uint32_t round = 1;
  std::int64_t glyphs = 0;
  for (auto _ : state) {
    ++round;
    std::uint32_t random = round * 2654435761U;
    for (char& c : changed) {
      random = random * 1664525U + 1013904223U;
      if (c >= 'a' && c <= 'z') c = static_cast<char>('a' + (random >> 16) % 26);
    }
    GRAFEMA_VERIFY(state, text.set(stack, changed, {}, cache).has_value());
    glyphs += static_cast<std::int64_t>(text.glyphs().size());
  }
  state.SetItemsProcessed(glyphs);
}

std::string long_text() {
  constexpr const char* kSyllables[] = {"tra",  "lan", "ter",   "fog", "quay",
                                        "wren", "or",  "chard", "ve",  "bell"};
  std::string text;
  std::uint32_t random = 1;
  const auto next = [&random](std::uint32_t below) {
    random = random * 1664525U + 1013904223U;
    return (random >> 16) % below;
  };
  for (int word = 0; word < 10000; ++word) {
    for (std::uint32_t n = 1 + next(3); n > 0; --n) text += kSyllables[next(std::size(kSyllables))];
    text += next(9) == 0 ? ". " : " ";
  }
  return text;
}

void lay_out_first(benchmark::State& state) {
  const FontStack stack{sans()};
  Paragraph paragraph;
  const std::string text = long_text();
  const TextStyle style{.size = 16, .wrap = 400.0F};
  for (auto _ : state) {
    ShapeCache cache;
    ShapedText shaped;
    GRAFEMA_VERIFY(state, shaped.set(stack, text, style, cache).has_value());
    GRAFEMA_VERIFY(state, shaped.lay_out(style, cache, paragraph).has_value());
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * paragraph.glyphs.size()));
}

void lay_out_again(benchmark::State& state) {
  const FontStack stack{sans()};
  ShapeCache cache;
  Paragraph paragraph;
  TextStyle style{.size = 16, .wrap = 400.0F};
  ShapedText shaped;
  GRAFEMA_VERIFY(state, shaped.set(stack, long_text(), style, cache).has_value());
  float width = 400;
  for (auto _ : state) {
    style.wrap = width = width > 500 ? 400 : width + 1;
    GRAFEMA_VERIFY(state, shaped.lay_out(style, cache, paragraph).has_value());
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * paragraph.glyphs.size()));
}

BENCHMARK(floor)->Name("shape Latin/floor");
BENCHMARK(shape_seen)->Name("shape Latin, words seen");
BENCHMARK(shape_unseen)->Name("shape Latin, words unseen");
BENCHMARK(lay_out_first)->Name("lay out 10,000 words");
BENCHMARK(lay_out_again)->Name("lay out 10,000 words at a new width");

}  // namespace
}  // namespace grafema::bench
