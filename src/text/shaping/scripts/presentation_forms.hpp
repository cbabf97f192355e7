// SPDX-License-Identifier: MIT
// Joined Arabic for faces that have forms of letters as characters, and no features for them.
#pragma once

#include <cstdint>

namespace grafema::detail {

enum class LetterForm : std::uint8_t { isolated, final, initial, medial };

/// The character for a form of an Arabic letter, or of a letter with a second one behind it (lam with alef):
/// U+FB50 to U+FDFF and U+FE70 to U+FEFC (Unicode, compatibility decompositions); 0 where there is none.
char32_t presentation_form(char32_t letter, char32_t second, LetterForm form);

}  // namespace grafema::detail
