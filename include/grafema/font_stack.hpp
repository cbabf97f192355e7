// SPDX-License-Identifier: MIT
// Faces in the order in which they are asked for a character.
#pragma once

#include <memory>
#include <vector>

#include "grafema/face.hpp"

namespace grafema {

/// The first face sets the line metrics and stands in with its missing-glyph shape; the others are its fallback.
struct FontStack {
  std::vector<std::shared_ptr<const GlyphMetrics>> faces;
  std::vector<float> scales;  ///< each face's size as a multiple of the text's; 1 for faces past its end

  float scale(std::size_t face) const { return face < scales.size() ? scales[face] : 1.0F; }

  /// A glyph and the index of the face that has it.
  struct Found {
    std::size_t face = 0;
    GlyphId glyph = kMissingGlyph;
  };
  /// The first face that has the character; face 0 and `kMissingGlyph` where none has it.
  Found find(char32_t character) const {
    for (std::size_t i = 0; i < faces.size(); ++i) {
      const GlyphId glyph = faces[i]->find_glyph(character);
      if (glyph != kMissingGlyph) return {i, glyph};
    }
    return {};
  }
};

/// Sets `scales` so that small letters of every face are as high as those of the first; faces without small letters, or
/// without tables, keep the text's size.
GRAFEMA_API void match_x_heights(FontStack& stack);

/// Whether a character shows nothing where no face has a glyph for it: controls, joiners, variation selectors and the
/// like (Unicode, Default_Ignorable_Code_Point, and category Cc). Such characters are never missing.
GRAFEMA_API bool is_invisible(char32_t character);

}  // namespace grafema
