// SPDX-License-Identifier: MIT
// Derives the classes of the universal model from ICU's properties.
#include "text/shaping/scripts/universal_characters.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <iterator>

namespace grafema::detail::universal {
namespace {

enum class Side : std::uint8_t { above, below, left, right };

/// A mark of several sides counts by its last in the order left, above, below, right that has a place.
Side side_of(char32_t c) {
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_POSITIONAL_CATEGORY)) {
    case U_INPC_LEFT:
    case U_INPC_VISUAL_ORDER_LEFT:
      return Side::left;
    case U_INPC_TOP:
    case U_INPC_TOP_AND_BOTTOM:
    case U_INPC_TOP_AND_BOTTOM_AND_RIGHT:
    case U_INPC_TOP_AND_RIGHT:
    case U_INPC_TOP_AND_BOTTOM_AND_LEFT:
      return Side::above;
    case U_INPC_BOTTOM:
    case U_INPC_OVERSTRUCK:
    case U_INPC_BOTTOM_AND_LEFT:
    case U_INPC_BOTTOM_AND_RIGHT:
      return Side::below;
    case U_INPC_TOP_AND_LEFT:
    case U_INPC_TOP_AND_LEFT_AND_RIGHT:
    case U_INPC_LEFT_AND_RIGHT:
      return Side::left;
    case U_INPC_RIGHT:
    default:
      return Side::right;
  }
}

Category by_side(char32_t c, Category above, Category below, Category left, Category right) {
  switch (side_of(c)) {
    case Side::above:
      return above;
    case Side::below:
      return below;
    case Side::left:
      return left;
    case Side::right:
      return right;
  }
  return other;
}

/// What the model's description names by its code, since Unicode has no class for it, or since it is written
/// in another order than its place would have it.
struct Exception {
  char32_t first = 0, last = 0;
  Category category = other;
};
constexpr Exception kExceptions[] = {
    {0x0DCA, 0x0DCA, halant_or_vowel},  // Sinhala: stacks, or is a sign of its own
    {0x0F71, 0x0F71, below_sign},       // Tibetan: the long vowel's sign stands right behind its letter,
    {0x0F74, 0x0F74, vowel_above},      // vowels below come next, and then those above
    {0x0F72, 0x0F72, vowel_below},
    {0x0F7A, 0x0F7D, vowel_below},
    {0x0F80, 0x0F80, vowel_below},
    {0x1A18, 0x1A18, vowel_above},  // Buginese, Cham, Chakma: the same
    {0xAA35, 0xAA35, vowel_above},
    {0x11127, 0x11129, vowel_below},
    {0x1112D, 0x1112D, vowel_below},
    {0x11130, 0x11130, vowel_below},
    {0x2D7F, 0x2D7F, halant},             // Tifinagh: joins letters
    {0x11046, 0x11046, halant_or_vowel},  // Brahmi and Grantha: the same
    {0x1134D, 0x1134D, halant_or_vowel},
    {0x1A60, 0x1A60, sakot},         // Tai Tham: stacks, and may end a syllable
    {0x1B6B, 0x1B6B, symbol_above},  // Balinese: marks of musical symbols
    {0x1B6C, 0x1B6C, symbol_below},
    {0x1B6D, 0x1B73, symbol_above},
    {0x200B, 0x200B, other},  // a place to end a line: letters before it take no marks behind it
    {0x25CC, 0x25CC, base},   // the circle that stands in for a letter
    {0x2015, 0x2015, base_other},
    {0x2022, 0x2022, base_other},
    {0x25FB, 0x25FE, base_other},
};

bool is_mark(char32_t c) {
  const int8_t category = u_charType(static_cast<UChar32>(c));
  return category == U_NON_SPACING_MARK || category == U_ENCLOSING_MARK ||
         category == U_COMBINING_SPACING_MARK;
}
bool is_symbol(char32_t c) {
  const int8_t category = u_charType(static_cast<UChar32>(c));
  return category == U_OTHER_SYMBOL;
}

}  // namespace

Category category_of(char32_t c) {
  for (const Exception& e : kExceptions) {
    if (c >= e.first && c <= e.last) return e.category;
  }
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_SYLLABIC_CATEGORY)) {
    case U_INSC_AVAGRAHA:
    case U_INSC_NUMBER:
    case U_INSC_CONSONANT:
    case U_INSC_CONSONANT_HEAD_LETTER:
    case U_INSC_TONE_LETTER:
    case U_INSC_VOWEL_INDEPENDENT:
      return base;
    case U_INSC_CONSONANT_DEAD:
    case U_INSC_MODIFYING_LETTER:
      return other;
    case U_INSC_BRAHMI_JOINING_NUMBER:
      return base_number;
    case U_INSC_CONSONANT_PLACEHOLDER:
      return base_other;
    case U_INSC_CONSONANT_WITH_STACKER:
      return stacking;
    case U_INSC_BINDU:
      if (!is_mark(c)) return base;
      [[fallthrough]];
    case U_INSC_TONE_MARK:
    case U_INSC_CANTILLATION_MARK:
    case U_INSC_REGISTER_SHIFTER:
    case U_INSC_VISARGA:
      return by_side(c, modifier_above, modifier_below, modifier_left, modifier_right);
    case U_INSC_GEMINATION_MARK:
    case U_INSC_CONSONANT_KILLER:
    case U_INSC_NUKTA:
      return by_side(c, above_sign, below_sign, below_sign, below_sign);
    case U_INSC_CONSONANT_FINAL:
      return is_mark(c) ? by_side(c, final_above, final_below, final_right, final_right) : base;
    case U_INSC_SYLLABLE_MODIFIER:
      return by_side(c, final_mark_above, final_mark_below, final_mark_right, final_mark_right);
    case U_INSC_CONSONANT_MEDIAL:
    case U_INSC_CONSONANT_INITIAL_POSTFIXED:
      return is_mark(c) ? by_side(c, medial_above, medial_below, medial_left, medial_right) : base;
    case U_INSC_CONSONANT_PRECEDING_REPHA:
    case U_INSC_CONSONANT_PREFIXED:
      return repha;
    case U_INSC_CONSONANT_SUBJOINED:
      return is_mark(c) ? subjoined : base;
    case U_INSC_CONSONANT_SUCCEEDING_REPHA:
      return by_side(c, final_above, final_below, final_right, final_right);
    case U_INSC_INVISIBLE_STACKER:
      return stacker;
    case U_INSC_VIRAMA:
      return halant;
    case U_INSC_NUMBER_JOINER:
      return joining_number;
    case U_INSC_PURE_KILLER:
    case U_INSC_VOWEL:
    case U_INSC_VOWEL_DEPENDENT:
      return is_mark(c) ? by_side(c, vowel_above, vowel_below, vowel_left, vowel_right) : base;
    case U_INSC_JOINER:
      return hidden;
    case U_INSC_NON_JOINER:
      return non_joiner;
    default:
      break;
  }
  if (u_hasBinaryProperty(static_cast<UChar32>(c), UCHAR_DEFAULT_IGNORABLE_CODE_POINT) != 0) return hidden;
  if (is_symbol(c)) return symbol;
  if (!is_mark(c)) return other;
  // Marks to which Unicode gives no class of syllables stand where their combining class says.
  constexpr std::uint8_t kBelow = 220;
  return u_getCombiningClass(static_cast<UChar32>(c)) == kBelow ? modifier_below : modifier_above;
}

}  // namespace grafema::detail::universal
