// SPDX-License-Identifier: MIT
// Any bytes as a font file that is reduced: what comes out opens, and can be reduced again.
#include <algorithm>

#include "grafema/base/notes.hpp"
#include "grafema/files/web_font_file.hpp"
#include "grafema/write/make_subset.hpp"
#include "input.hpp"

namespace {

using namespace grafema;
using fuzz::require;

void check(const Face& face, const Subset& subset, bool web) {
  const auto open = Face::open(FontData::borrow(subset.font));
  require(open.has_value());
  require((*open)->glyph_count() == subset.glyphs.size());
  require(std::is_sorted(subset.glyphs.begin(), subset.glyphs.end()));
  Contours outline;
  for (std::uint32_t glyph = 0; glyph < std::min((*open)->glyph_count(), 100U); ++glyph) {
    require(index_of(subset.glyphs[glyph]) < face.glyph_count());
    (void)(*open)->read_outline(GlyphId{glyph}, outline);
    (void)(*open)->read_paint(GlyphId{glyph});
    (void)(*open)->find_bitmap(GlyphId{glyph}, 64);
    (void)(*open)->kerning(GlyphId{glyph}, GlyphId{glyph / 2}, tag("latn"));
  }
  SubsetRecipe again;
  again.permit = again.all_characters = true;
  if (const auto same = make_subset(**open, again))
    require(Face::open(FontData::borrow(same->font)).has_value());
  if (!web) return;
  const auto packed = make_web_font(subset.font);
  require(packed.has_value() && Face::open(FontData::borrow(*packed)).has_value());
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size > fuzz::kMaxBytes || size < 16) return 0;
  const auto face = Face::open(FontData::borrow(fuzz::bytes_of(data, size)));
  if (!face) return 0;
  // What is asked for hangs on the file, so that an input stays an input.
  const unsigned choice = data[size - 1] ^ data[size / 2];
  SubsetRecipe recipe;
  recipe.permit = true;
  recipe.all_characters = (choice & 1U) != 0;
  for (const auto& [character, glyph] : (*face)->characters()) {
    if (recipe.characters.size() < 12 + (choice & 14U)) recipe.characters.push_back(character);
  }
  if ((choice & 16U) != 0) recipe.features.emplace();
  const std::vector<Axis> axes = (*face)->axes();
  for (std::size_t a = 0; a < axes.size() && (choice & 32U) != 0; ++a) {
    if (a == 0 || (choice & 64U) != 0)
      recipe.pins.push_back({axes[a].tag, (axes[a].standard + axes[a].max) / 2});
  }
  Notes notes;
  if (const auto subset = make_subset(**face, recipe, &notes)) check(**face, *subset, choice >= 0xF0);
  return 0;
}
