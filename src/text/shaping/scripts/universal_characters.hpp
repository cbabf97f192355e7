// SPDX-License-Identifier: MIT
// Classes of characters of all scripts by Unicode's syllabic and positional categories.
#pragma once

#include <cstdint>

namespace grafema::detail::universal {

/// Letters of the grammar of syllables (OpenType, "Universal Shaping Engine", where these classes are named
/// by what is told beside them).
enum Category : std::uint8_t {
  other = 'o',
  base = 'B',
  base_number = 'N',
  base_other = 'G',  ///< stands in for a letter: digits' signs, dashes, the dotted circle
  stacking = 'c',    ///< a consonant with a stacker
  above_sign = 'K',  ///< consonant modifiers, above and below
  below_sign = 'k',
  final_above = 'F',
  final_below = 'f',
  final_right = 'g',
  final_mark_above = 'M',
  final_mark_below = 'm',
  final_mark_right = 'n',
  halant = 'H',
  halant_or_vowel = 'h',
  joining_number = 'j',
  stacker = 'I',
  sakot = 'S',
  medial_above = 'A',
  medial_below = 'a',
  medial_left = 'L',
  medial_right = 'l',
  repha = 'R',
  subjoined = 'U',
  symbol_above = 'Y',
  symbol_below = 'y',
  symbol = 's',
  vowel_above = 'E',
  vowel_below = 'e',
  vowel_left = 'P',
  vowel_right = 'p',
  modifier_above = 'X',
  modifier_below = 'x',
  modifier_left = 'Q',
  modifier_right = 'q',
  non_joiner = 'Z',
  hidden = 'W',  ///< passed over: what shows nothing, but for the non-joiner
};

Category category_of(char32_t c);

}  // namespace grafema::detail::universal
