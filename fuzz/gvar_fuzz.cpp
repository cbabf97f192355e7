// SPDX-License-Identifier: MIT
// Any bytes as a gvar table of two axes: the deltas of glyphs with a few contours.
#include "font/outline/gvar.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 14) return 0;
  const auto variations =
      detail::GlyphVariations::read(fuzz::table_of("gvar", fuzz::bytes_of(data, size)), fuzz::kPlace);
  if (variations.empty()) return 0;
  std::vector<FontPoint> points;
  for (int i = 0; i < 24; ++i) {
    points.push_back({static_cast<float>(i * 37 % 11), static_cast<float>(i * 13 % 7)});
  }
  const std::size_t ends[] = {5, 6, 20};
  detail::DeltaScratch scratch;
  for (std::uint32_t glyph = 0; glyph < 16; ++glyph) {
    std::vector<FontPoint> deltas(points.size());
    (void)variations.add_deltas(
        glyph,
        {points, glyph % 3 == 2 ? std::span<const std::size_t>{} : std::span<const std::size_t>(ends),
         deltas},
        scratch);
  }
  return 0;
}
