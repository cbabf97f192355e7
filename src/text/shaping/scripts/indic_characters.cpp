// SPDX-License-Identifier: MIT
// Takes classes and places of Indic characters from Unicode's syllabic and positional categories.
#include "text/shaping/scripts/indic_characters.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <iterator>

#include "text/shaping/scripts/syllables.hpp"

namespace grafema::detail::indic {
namespace {

constexpr Script kScripts[] = {
    {tag("deva"), 0x094D, 0x0930, before_post, RephMode::implicit_form, true, true},
    {tag("beng"), 0x09CD, 0x09B0, after_below, RephMode::implicit_form, true, true},
    {tag("guru"), 0x0A4D, 0x0A30, before_below, RephMode::implicit_form, true, true},
    {tag("gujr"), 0x0ACD, 0x0AB0, before_post, RephMode::implicit_form, true, true},
    {tag("orya"), 0x0B4D, 0x0B30, after_main, RephMode::implicit_form, true, true},
    {tag("taml"), 0x0BCD, 0x0BB0, after_post, RephMode::implicit_form, true, false},
    {tag("telu"), 0x0C4D, 0x0C30, after_post, RephMode::explicit_form, false, true},
    {tag("knda"), 0x0CCD, 0x0CB0, after_post, RephMode::implicit_form, false, true},
    {tag("mlym"), 0x0D4D, 0x0D30, after_main, RephMode::character, true, false},
};

/// Where matras above, below and on the right stand among the consonants, by the scripts' specifications.
struct MatraPlaces {
  Tag tag{};
  Place above = above_base, below = below_base, right = post_base;
};
constexpr MatraPlaces kMatras[] = {
    {tag("deva"), after_below, after_below, after_below},
    {tag("beng"), after_below, after_below, after_post},
    {tag("guru"), after_post, after_post, after_post},
    {tag("gujr"), after_below, after_post, after_post},
    {tag("orya"), after_main, after_below, after_post},
    {tag("taml"), after_below, after_post, after_post},
    {tag("telu"), before_below, before_below, before_below},
    {tag("knda"), before_below, before_below, before_below},
    {tag("mlym"), after_below, after_post, after_post},
};

/// The side on which a mark stands. A vowel of several parts that was not taken apart counts by the one that
/// decides where its glyph has to stand.
enum class Side : std::uint8_t { none, left, above, below, right };
Side side_of(char32_t c) {
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_POSITIONAL_CATEGORY)) {
    case U_INPC_LEFT:
    case U_INPC_VISUAL_ORDER_LEFT:
    case U_INPC_TOP_AND_LEFT:
    case U_INPC_TOP_AND_LEFT_AND_RIGHT:
      return Side::left;
    case U_INPC_TOP:
      return Side::above;
    case U_INPC_BOTTOM:
    case U_INPC_TOP_AND_BOTTOM:
    case U_INPC_BOTTOM_AND_LEFT:
      return Side::below;
    case U_INPC_RIGHT:
    case U_INPC_LEFT_AND_RIGHT:
    case U_INPC_BOTTOM_AND_RIGHT:
    case U_INPC_TOP_AND_RIGHT:
    case U_INPC_TOP_AND_BOTTOM_AND_RIGHT:
      return Side::right;
    default:
      return Side::none;
  }
}

Place matra_place(char32_t c, Side side, Tag script) {
  const auto* const found = std::find_if(std::begin(kMatras), std::end(kMatras),
                                         [&](const MatraPlaces& m) { return m.tag == script; });
  const MatraPlaces places = found == std::end(kMatras) ? kMatras[0] : *found;
  switch (side) {
    case Side::left:
      return before_matra;
    case Side::above:
      return places.above;
    case Side::below:
      return places.below;
    case Side::right:
      // Telugu and Kannada: vowel signs of later letters stand behind below forms, as their tables say.
      if (script == tag("telu") && c > 0x0C42) return after_below;
      if (script == tag("knda") && c >= 0x0CC3 && c <= 0x0CD6) return after_below;
      return places.right;
    case Side::none:
      break;
  }
  return at_end;
}

Category category_of(char32_t c) {
  if (stands_for_letter(c)) return placeholder;
  switch (c) {
    case 0x25CC:
      return circle;
    case 0x2010:
    case 0x2011:
    case 0x0980:  // anji, which signs stand on as on a letter
      return placeholder;
    case 0x0953:  // accents that take part as modifiers do
    case 0x0954:
      return syllable_modifier;
    case 0x0A72:  // bearers of vowels, which are written as letters with signs
    case 0x0A73:
      return consonant;
    case 0x1CED:  // tiryak, below Vedic marks as one of them
      return vedic;
    default:
      break;
  }
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_SYLLABIC_CATEGORY)) {
    case U_INSC_AVAGRAHA:
      return symbol;
    case U_INSC_BINDU:
    case U_INSC_VISARGA:
    case U_INSC_GEMINATION_MARK:
    case U_INSC_SYLLABLE_MODIFIER:
      return syllable_modifier;
    case U_INSC_CANTILLATION_MARK:
      return vedic;
    case U_INSC_CONSONANT:
    case U_INSC_CONSONANT_DEAD:
    case U_INSC_CONSONANT_HEAD_LETTER:
    case U_INSC_CONSONANT_INITIAL_POSTFIXED:
      return consonant;
    case U_INSC_CONSONANT_FINAL:
    case U_INSC_CONSONANT_MEDIAL:
    case U_INSC_CONSONANT_SUBJOINED:
    case U_INSC_CONSONANT_SUCCEEDING_REPHA:
      return medial;
    case U_INSC_CONSONANT_PRECEDING_REPHA:
      return repha;
    case U_INSC_CONSONANT_WITH_STACKER:
      return stacking;
    case U_INSC_CONSONANT_PLACEHOLDER:
    case U_INSC_NUMBER:
    case U_INSC_NUMBER_JOINER:
    case U_INSC_BRAHMI_JOINING_NUMBER:
      return placeholder;
    case U_INSC_NUKTA:
    case U_INSC_TONE_MARK:
      return nukta;
    case U_INSC_VIRAMA:
    case U_INSC_INVISIBLE_STACKER:
      return virama;
    case U_INSC_VOWEL:
    case U_INSC_VOWEL_INDEPENDENT:
      return vowel;
    case U_INSC_VOWEL_DEPENDENT:
    case U_INSC_PURE_KILLER:
    case U_INSC_CONSONANT_KILLER:
      return side_of(c) == Side::right ? right_matra : matra;
    case U_INSC_JOINER:
      return joiner;
    case U_INSC_NON_JOINER:
      return non_joiner;
    default:
      return other;
  }
}

}  // namespace

const Script& script_of_tag(Tag script) {
  const auto* const found = std::find_if(std::begin(kScripts), std::end(kScripts),
                                         [&](const Script& s) { return s.tag == script; });
  return found == std::end(kScripts) ? kScripts[0] : *found;
}

Character character_of(char32_t c, Tag script) {
  Character out;
  out.category = category_of(c);
  switch (out.category) {
    case consonant:
      if (c == script_of_tag(script).ra || c == 0x09F0) out.category = ra;  // 09F0: that of Assamese
      out.place = at_base;
      break;
    case stacking:
    case medial:
    case vowel:
    case placeholder:
    case circle:
      out.place = at_base;
      break;
    case matra:
    case right_matra:
      out.place = matra_place(c, side_of(c), script);
      break;
    case syllable_modifier:
      // The sign of Oriya that stands over the letter itself, before what is below.
      out.place = c == 0x0B01 ? before_below : modifiers;
      break;
    case vedic:
    case symbol:
      out.place = modifiers;
      break;
    default:
      out.place = at_end;
      break;
  }
  return out;
}

}  // namespace grafema::detail::indic
