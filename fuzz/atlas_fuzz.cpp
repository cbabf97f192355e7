// SPDX-License-Identifier: MIT
// Any text as an atlas' descriptor, over a page that is there; what loads can be laid out and drawn from.
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/glyph_source.hpp"
#include "grafema/files/files.hpp"
#include "input.hpp"

namespace {

using namespace grafema;

std::vector<std::byte> make_page() {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = {U'A', U'B'};
  recipe.kind = PictureKind::coverage;
  recipe.size = 12;
  return *make_png(bake(recipe)->pages[0].image);
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size > 1 << 20) return 0;
  static const std::vector<std::byte> page = make_page();
  const std::array<std::span<const std::byte>, 1> pages = {page};
  Result<Atlas> loaded = read_atlas({reinterpret_cast<const char*>(data), size}, pages);
  if (!loaded) return 0;
  const auto atlas = std::make_shared<const Atlas>(*std::move(loaded));
  for (const AtlasGlyph& g : atlas->glyphs) {
    fuzz::require(g.strike < atlas->strikes.size() && g.phase < 4);
    if (!g.page) continue;
    const Image& image = atlas->pages[*g.page].image;
    fuzz::require(g.cell.x >= 0 && g.cell.y >= 0 && g.cell.width > 0 && g.cell.height > 0 &&
                  g.cell.x + g.cell.width <= image.width() && g.cell.y + g.cell.height <= image.height());
  }
  AtlasSource source(atlas);
  const FontStack stack = atlas_stack(atlas);
  for (const auto& face : stack) {
    std::vector<GlyphKey> keys;
    for (char32_t c = 0x20; c < 0x80; ++c) keys.push_back({face->id(), face->find_glyph(c), 48, 1});
    std::vector<GlyphPicture> sprites(keys.size());
    source.resolve(keys, sprites);
    float sum = 0;
    for (std::size_t i = 0; i + 1 < keys.size(); ++i) {
      sum += face->kerning(keys[i].glyph, keys[i + 1].glyph, Tag{});
    }
    fuzz::require(sum == sum);
  }
  return 0;
}
