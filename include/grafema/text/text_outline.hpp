// SPDX-License-Identifier: MIT
// Laid-out text as outlines: letters where they stand, to take apart, stroke, morph or make solid.
#pragma once

#include <cstdint>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/outline/contours.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

/// One glyph of a paragraph as an outline. Pixels of the paragraph with y up: y is minus what the paragraph
/// says, so that its first line stands below 0.
struct LetterOutline {
  std::uint32_t glyph = 0;  ///< index into Paragraph::glyphs
  Contours contours = {};   ///< empty where the glyph paints nothing, as a space
};

/// Replaces `out` with the outline of each glyph, in the paragraph's order; slanted where an italic is made.
/// `stack` is what the text was laid out with. A glyph that is damaged, or has only pictures, stands empty
/// and is noted. Fails with `bad_value` where the paragraph was laid out from an atlas, which has no
/// outlines.
GRAFEMA_API Result<void> outline_text(const FontStack& stack, const Paragraph& paragraph,
                                      std::vector<LetterOutline>& out, Notes* notes = nullptr);

/// The letters together, as one outline.
GRAFEMA_API void join_letters(const std::vector<LetterOutline>& letters, Contours& out);

}  // namespace grafema
