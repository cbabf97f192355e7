// SPDX-License-Identifier: MIT
// Characters composed or taken apart as the face allows, marks in their order (Unicode, chapter 3.11).
#pragma once

#include "text/shaping/scripts/script_rules.hpp"

namespace grafema::detail {

/// Gives every item of the buffer a glyph. Characters of the buffer may become others, fewer or more.
/// `places_marks`: GPOS does.
/// Returns true if a space was made.
bool normalize(ShapeBuffer& items, const FaceLookups& face, const NormalizeRules& rules, bool places_marks);

}  // namespace grafema::detail
