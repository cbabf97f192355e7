// SPDX-License-Identifier: MIT
// Which glyphs a recipe asks for, and how large their cells are.
#pragma once

#include <vector>

#include "grafema/atlas.hpp"

namespace grafema::detail {

/// The recipe's faces that are used, and their glyphs in the order of the atlas; strike i is face i.
struct Selection {
  std::vector<std::size_t> faces;   ///< indices into AtlasRecipe::faces
  std::vector<AtlasGlyph> glyphs;   ///< strike, glyph and codepoints are set
  std::vector<FontRect> boxes;      ///< of what is painted, one for each glyph
};

Selection select_glyphs(const AtlasRecipe& recipe, Notes* notes);

/// Sets cell size, offset and advance of every glyph for `size`; a glyph without outline keeps an empty cell.
void size_cells(const AtlasRecipe& recipe, float size, Selection& selection);

/// Kerning of all pairs of a strike's glyphs in pixels, as pairs or classes, whichever is shorter.
AtlasKerning make_kerning(const Face& face, float size, std::size_t strike, const std::vector<AtlasGlyph>& glyphs);

}  // namespace grafema::detail
