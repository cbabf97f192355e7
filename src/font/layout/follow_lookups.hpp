// SPDX-License-Identifier: MIT
// The glyphs that given lookups make of given glyphs.
#pragma once

#include <vector>

#include "grafema/font/face.hpp"

namespace grafema::detail {

/// The glyphs of the characters, and of their variation sequences where the selectors are among them.
std::vector<GlyphId> glyphs_of(const Face& face, std::span<const char32_t> characters);

/// `glyphs` and what lookups of GSUB make of them, ascending; see reachable_glyphs.
std::vector<GlyphId> follow_lookups(const Face& face, std::span<const GlyphId> glyphs,
                                    const std::vector<std::uint16_t>& lookups);

}  // namespace grafema::detail
