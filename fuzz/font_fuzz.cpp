// SPDX-License-Identifier: MIT
// Any bytes as a font file: all that every face and an instance of it offer.
#include <algorithm>

#include "grafema/font/family.hpp"
#include "grafema/font/license.hpp"
#include "grafema/font/reachable.hpp"
#include "grafema/raster/raster.hpp"
#include "input.hpp"

namespace {

using namespace grafema;
using fuzz::require;

void use_outlines(const Face& face) {
  Contours outline;
  RasterScratch scratch;
  std::vector<float> area(32 * 32);
  const std::uint32_t count = std::min(face.glyph_count(), 1000U);
  for (std::uint32_t glyph = 0; glyph < count; ++glyph) {
    if (face.read_outline(GlyphId{glyph}, outline) && glyph < 20) {
      (void)rasterize_coverage(outline, glyph_transform(16 / face.units_per_em(), {8, 24}), {0, 0, 32, 32},
                               area, scratch);
      for (const float v : area) require(v >= 0 && v <= 1);
    }
    const GlyphId other{(glyph * 7) % count};
    const float kern = face.kerning(GlyphId{glyph}, other, tag("latn"));
    if (face.kerning_source() == KerningSource::gpos) {
      require(kern == face.pair_adjustment(GlyphId{glyph}, other, tag("latn")).first.x_advance ||
              kern != kern);
    }
    (void)face.vertical_origin(GlyphId{glyph});
    (void)face.vertical_advance(GlyphId{glyph});
    (void)face.glyph_name(GlyphId{glyph});
    if (glyph < 100) {
      (void)face.read_paint(GlyphId{glyph});
      (void)face.color_layers(GlyphId{glyph});
      (void)face.find_bitmap(GlyphId{glyph}, 64);
    }
  }
}

void use(const Face& face) {
  use_outlines(face);
  std::vector<char32_t> characters;
  for (const auto& [character, glyph] : face.characters()) {
    require(glyph != kMissingGlyph && index_of(glyph) < face.glyph_count());
    if (characters.size() < 64) characters.push_back(character);
  }
  for (const GlyphId glyph : reachable_glyphs(face, characters)) {
    require(index_of(glyph) < face.glyph_count());
  }
  (void)read_license(face.names(), face.facts());
  (void)style_of(face);
  (void)face.palettes();
  (void)face.style_attributes();
  (void)face.features();
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size > fuzz::kMaxBytes) return 0;
  const FontData bytes = FontData::borrow(fuzz::bytes_of(data, size));
  const Result<FontData> plain = unpack(bytes);
  if (!plain) return 0;
  const Result<std::size_t> faces = Face::count(*plain);
  for (std::size_t i = 0; faces && i < std::min<std::size_t>(*faces, 3); ++i) {
    const auto face = Face::open(*plain, i);
    if (!face) continue;
    use(**face);
    std::vector<AxisValue> place;
    for (const Axis& axis : (*face)->axes()) place.push_back({axis.tag, (axis.standard + axis.max) / 2});
    if (!place.empty()) use_outlines(*(*face)->instance(place));
  }
  return 0;
}
