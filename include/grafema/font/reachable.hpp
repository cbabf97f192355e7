// SPDX-License-Identifier: MIT
// The glyphs that shaping a set of characters can yield: what an atlas or a subset of a font must hold.
#pragma once

#include <vector>

#include "grafema/font/face.hpp"

namespace grafema {

/// Features that shaping applies without being asked (OpenType feature registry, "default on"), script
/// features included.
GRAFEMA_API std::span<const Tag> default_features();

/// Every glyph that GSUB can make of texts of `characters`: the characters' own glyphs, their variation
/// sequences where `characters` holds the selectors, and what lookups of `features` replace them with,
/// contexts and ligatures included. Ascending, without glyphs that need a character which is not there. Never
/// too few; a context may allow a glyph or two that no text reaches.
GRAFEMA_API std::vector<GlyphId> reachable_glyphs(const Face& face, std::span<const char32_t> characters,
                                                  std::span<const Tag> features = default_features());

}  // namespace grafema
