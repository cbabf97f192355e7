// SPDX-License-Identifier: MIT
// Kerning that makes the white between letters equal, as a proposal to accept, edit or refuse.
#pragma once

#include "grafema/write/font_rules.hpp"

namespace grafema {

/// Lengths are shares of an em.
struct KerningTaste {
  float deepest = 0.2F;    ///< white farther in than this from a neighbor counts no more
  float closest = 0.075F;  ///< kerning brings no two outlines nearer than this
  float most = 0.1F;       ///< kerning moves letters by at most this
  float strength = 0.5F;   ///< how much of the difference in white is made up for
  float least = 0.02F;     ///< what is less is left out
  float alike = 0.02F;     ///< sides that differ by less, on average, are in one group
};

/// Groups of letters whose sides have the same shape, and a value in font units for each two groups whose
/// white is not that of n, o, H and O beside each other.
struct KerningProposal {
  std::vector<KerningGroup> left_groups = {}, right_groups = {};
  std::vector<GroupPair> pairs = {};  ///< the largest values first
};

/// Looks at glyphs with an outline of their own that show a letter or a punctuation mark; what is composed
/// follows its letter. Fails with `bad_value` where the drawing has none of n, o, H and O to compare with.
GRAFEMA_API Result<KerningProposal> propose_kerning(const FontDrawing& drawing,
                                                    const KerningTaste& taste = {});

}  // namespace grafema
