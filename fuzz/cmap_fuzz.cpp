// SPDX-License-Identifier: MIT
// Any bytes as a character map: what is listed is found, and found again by the same glyph.
#include "font/characters/cmap.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 14) return 0;
  const auto map = detail::CharacterMap::read(fuzz::table_of("cmap", fuzz::bytes_of(data, size)), 500);
  if (!map) return 0;
  char32_t before = 0;
  bool first = true;
  std::size_t looked_at = 0;
  for (const auto& [character, glyph] : map->all()) {
    fuzz::require(first || character > before);
    fuzz::require(glyph != kMissingGlyph && index_of(glyph) < 500 && character <= 0x10FFFF);
    if (++looked_at < 2000) (void)map->find(character);
    before = character;
    first = false;
  }
  for (char32_t c = 0; c < 0x400; ++c) {
    const std::optional<GlyphId> variant = map->find_variant(c, 0xFE00 + c % 16);
    fuzz::require(index_of(map->find(c)) < 500 && (!variant || index_of(*variant) < 500));
  }
  return 0;
}
