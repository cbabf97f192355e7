// SPDX-License-Identifier: MIT
// Any bytes as a font file: every glyph of every face, its kerning and names, and the coverage of a few outlines.
#include <algorithm>
#include <vector>

#include "grafema/face.hpp"
#include "grafema/raster.hpp"

namespace {

using namespace grafema;

void use(const Face& face) {
  Contours outline;
  RasterScratch scratch;
  std::vector<float> area(32 * 32);
  const std::uint32_t count = std::min(face.glyph_count(), 2000U);
  for (std::uint32_t glyph = 0; glyph < count; ++glyph) {
    if (face.read_outline(GlyphId{glyph}, outline) && glyph < 40) {
      (void)rasterize_coverage(outline, glyph_transform(16 / face.units_per_em(), {8, 24}), {0, 0, 32, 32}, area, scratch);
      for (const float v : area) {
        if (!(v >= 0 && v <= 1)) __builtin_trap();  // fast and wrong is wrong
      }
    }
    (void)face.kerning(GlyphId{glyph}, GlyphId{(glyph * 7) % count}, tag("latn"));
  }
  for (const auto& [character, glyph] : face.characters()) {
    if (face.find_glyph(character) == kMissingGlyph && glyph == kMissingGlyph) __builtin_trap();  // missing ones are not listed
  }
  (void)face.names();
  (void)face.facts();
  (void)face.features();
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  constexpr std::size_t kMostBytes = 1 << 18;
  if (size > kMostBytes) return 0;
  const FontData bytes = FontData::borrow(std::as_bytes(std::span(data, size)));
  const Result<std::size_t> faces = Face::count(bytes);
  for (std::size_t i = 0; faces && i < std::min<std::size_t>(*faces, 4); ++i) {
    if (const auto face = Face::open(bytes, i)) use(**face);
  }
  return 0;
}
