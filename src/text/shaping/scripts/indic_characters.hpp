// SPDX-License-Identifier: MIT
// Classes and places of the characters of the nine scripts of the Indic model (OpenType, "Indic scripts").
#pragma once

#include <cstdint>

#include "grafema/base/tag.hpp"

namespace grafema::detail::indic {

/// Letters of the grammar of syllables.
enum Category : std::uint8_t {
  other = 'X',
  consonant = 'C',
  ra = 'R',        ///< the consonant that becomes a reph
  stacking = 'T',  ///< a consonant that stands before another one with no virama
  medial = 'B',    ///< a consonant that is a mark
  vowel = 'V',     ///< independent
  nukta = 'N',
  virama = 'H',
  joiner = 'J',
  non_joiner = 'K',
  matra = 'M',        ///< a dependent vowel
  right_matra = 'P',  ///< one that stands on the right
  syllable_modifier = 'S',
  vedic = 'A',
  placeholder = 'D',  ///< digits, dashes and the like, which marks may stand on
  circle = 'O',
  repha = 'F',  ///< a character that is a reph
  symbol = 'Y',
};

/// Where a glyph stands in its syllable, from the left. The specifications name these places.
enum Place : std::uint8_t {
  at_start,
  reph_to_be,
  before_matra,  ///< matras on the left
  before_base,   ///< consonants before the base
  at_base,
  after_main,
  above_base,
  before_below,
  below_base,
  after_below,
  before_post,
  post_base,
  after_post,
  modifiers,  ///< syllable modifiers and Vedic marks
  at_end,
};

struct Character {
  Category category = other;
  Place place = at_end;
};
/// Of a character in text of the script, an OpenType tag as `script_of` has them.
Character character_of(char32_t c, Tag script);

constexpr bool is_consonant(std::uint8_t category) {
  return category == consonant || category == ra || category == stacking || category == medial ||
         category == vowel || category == placeholder || category == circle;
}
constexpr bool is_joiner(std::uint8_t category) { return category == joiner || category == non_joiner; }

/// How a script makes a reph of Ra and virama.
enum class RephMode : std::uint8_t {
  implicit_form,  ///< of the two
  explicit_form,  ///< with a joiner behind them
  character,      ///< a character of its own
};

/// What differs between the scripts.
struct Script {
  Tag tag{};
  char32_t virama = 0, ra = 0;
  Place reph = before_post;  ///< where the reph comes to stand
  RephMode reph_mode = RephMode::implicit_form;
  bool below_before_base = true;  ///< below forms are made before the base too
  bool has_halves = true;         ///< the left matra stands before half forms, not at the base itself
};
/// Of Devanagari where the script is none of the nine.
const Script& script_of_tag(Tag script);

}  // namespace grafema::detail::indic
