// SPDX-License-Identifier: MIT
// Myanmar: kinzi, medials, asat, Mon and Shan (OpenType, "Developing OpenType fonts for Myanmar script").
#include <unicode/uchar.h>

#include "text/shaping/scripts/syllables.hpp"

namespace grafema::detail {
namespace myanmar {
namespace {

constexpr std::uint8_t kOrder = 1;  // hook

constexpr ScriptFeature basic(Tag tag) {
  return {.tag = tag, .ends_stage = true, .keeps_joiners = true, .within_syllable = true};
}
constexpr ScriptFeature later(Tag tag) { return {.tag = tag, .keeps_joiners = true}; }
constexpr ScriptFeature kFeatures[] = {
    {.tag = tag("locl"), .within_syllable = true},
    {.tag = tag("ccmp"), .ends_stage = true, .within_syllable = true, .hook = kOrder},
    basic(tag("rphf")),
    basic(tag("pref")),
    basic(tag("blwf")),
    basic(tag("pstf")),
    later(tag("pres")),
    later(tag("abvs")),
    later(tag("blws")),
    later(tag("psts")),
};

/// Letters of the grammar.
enum Category : std::uint8_t {
  other = 'X',
  consonant = 'C',
  ra = 'R',  ///< a consonant that makes a kinzi
  stacking = 'T',
  independent = 'E',
  asat = 'Z',
  stacker = 'H',
  joiner = 'J',
  left = 'L',
  above = 'A',
  below = 'B',
  right = 'P',
  anusvara = 'U',
  dot_below = 'D',
  medial_ya = 'y',
  medial_ra = 'r',
  medial_wa = 'w',
  medial_ha = 'h',
  medial_la = 'l',
  tone = 'N',  ///< Pwo and other tones
  sign = 'S',  ///< visarga and Shan tones
  selector = 'W',
  placeholder = 'G',
  circle = 'O',
};

Category vowel_category(char32_t c) {
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_POSITIONAL_CATEGORY)) {
    case U_INPC_LEFT:
    case U_INPC_VISUAL_ORDER_LEFT:
      return left;
    case U_INPC_TOP:
      return above;
    case U_INPC_BOTTOM:
      return below;
    default:
      return right;
  }
}

Category category_of(char32_t c) {
  if (stands_for_letter(c)) return placeholder;
  switch (c) {
    case 0x1004:  // nga, ra and Mon nga make kinzi
    case 0x101B:
    case 0x105A:
      return ra;
    case 0x1032:
    case 0x1036:
      return anusvara;
    case 0x1037:
      return dot_below;
    case 0x1038:
      return sign;
    case 0x1039:
      return stacker;
    case 0x103A:
      return asat;
    case 0x103B:
    case 0x105E:
    case 0x105F:
      return medial_ya;
    case 0x103C:
      return medial_ra;
    case 0x103D:
    case 0x1082:
      return medial_wa;
    case 0x103E:
      return medial_ha;
    case 0x1060:
      return medial_la;
    case 0x1063:
    case 0x1064:
    case 0x1069:
    case 0x106A:
    case 0x106B:
    case 0x106C:
    case 0x106D:
    case 0xAA7B:
      return tone;
    case 0x25CC:
      return circle;
    case 0x104E:
      return placeholder;
    default:
      break;
  }
  if (c >= 0xFE00 && c <= 0xFE0F) return selector;
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_SYLLABIC_CATEGORY)) {
    case U_INSC_CONSONANT:
      return consonant;
    case U_INSC_CONSONANT_WITH_STACKER:
      return stacking;
    case U_INSC_VOWEL_INDEPENDENT:
      return independent;
    case U_INSC_VOWEL_DEPENDENT:
      return vowel_category(c);
    case U_INSC_TONE_MARK:
    case U_INSC_VISARGA:
    case U_INSC_SYLLABLE_MODIFIER:
      return sign;
    case U_INSC_NUMBER:
    case U_INSC_CONSONANT_PLACEHOLDER:
      return placeholder;
    case U_INSC_JOINER:
    case U_INSC_NON_JOINER:
      return joiner;
    default:
      return other;
  }
}

enum Kind : std::uint8_t { of_consonant, broken };

const SyllableGrammar& grammar() {
  const std::string kinzi = "RZH";
  const std::string medials = "y?Z?r?((wh?l?|hl?|l)Z?)?";
  const std::string vowels = "(LW?)*A*B*U*(DZ?)?";
  const std::string behind = "Ph?l?Z*A*U*(DZ?)?";
  const std::string tones = "S|NU*D?Z?";
  const std::string rest = "Z*" + medials + vowels + "(" + behind + ")*(" + tones + ")*S*J?";
  const std::string tail = "(H(C|R|E)W?)*(H|" + rest + ")";
  static const SyllableGrammar all{"((" + kinzi + ")|T)?(C|R|E|G|O)W?" + tail, "(" + kinzi + ")?W?" + tail};
  return all;
}

/// Places in a syllable, from the left.
enum Place : std::uint8_t {
  before_medial,  ///< vowels on the left
  before_base,
  at_base,
  after_main,
  before_below,
  below_base,
  after_below,
};

class MyanmarRules final : public ScriptRules {
 public:
  std::span<const ScriptFeature> features() const override { return kFeatures; }
  MarkRoom mark_room() const override { return MarkRoom::taken_before_positioning; }
  bool hangs_marks() const override { return false; }
  bool finds_broken() const override { return true; }
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.compose_on_marks = false;
    return rules;
  }

  void choose(ScriptWork& work) const override {
    for (std::size_t i = 0; i < work.buffer.size(); ++i) {
      work.buffer[i].category = category_of(work.buffer[i].character);
    }
    find_syllables(work, grammar());
  }

  void act(ScriptWork& work, std::uint8_t /*hook*/) const override {
    add_circles(work, broken, circle, other);
    for (std::size_t i = 0; i < work.buffer.size();) {
      const SyllableRange syllable = syllable_at(work.buffer, i);
      if (syllable.kind <= broken) order(work, syllable);
      i = syllable.end;
    }
  }

 private:
  static bool is_letter(std::uint8_t c) {
    return c == consonant || c == ra || c == stacking || c == independent || c == placeholder || c == circle;
  }

  static void order(ScriptWork& work, SyllableRange syllable) {
    ShapeBuffer& items = work.buffer;
    const std::size_t first = syllable.first, end = syllable.end;
    const bool kinzi = first + 3 <= end && items[first].category == ra && items[first + 1].category == asat &&
                       items[first + 2].category == stacker;
    const std::size_t limit = kinzi ? first + 3 : first;
    std::size_t base = limit;
    while (base < end && !is_letter(items[base].category)) ++base;
    for (std::size_t i = first; i < limit; ++i) items[i].place = after_main;
    for (std::size_t i = limit; i < base; ++i) items[i].place = before_base;
    if (base < end) items[base].place = at_base;
    std::uint8_t place = after_main;
    for (std::size_t i = base + 1; i < end; ++i) {
      ShapeItem& item = items[i];
      const std::uint8_t c = item.category;
      if (c == medial_ra) {
        item.place = before_base;
      } else if (c == left) {
        item.place = before_medial;
      } else if (c == selector) {
        item.place = items[i - 1].place;
      } else if (place == after_main) {
        if (c == below) place = below_base;
        item.place = place;
      } else if (place == below_base && c == anusvara) {
        item.place = before_below;
      } else {
        if (place == below_base && c != below) place = after_below;
        item.place = place;
      }
    }
    sort_by_place(work, first, end);
    items.join_clusters(first, end);  // a caret has no place in a syllable, whatever was moved
    reverse_left_vowels(items, first, end, before_medial, [](std::uint8_t c) { return c == left; });
  }
};

}  // namespace
}  // namespace myanmar

const ScriptRules& myanmar_rules() {
  static const myanmar::MyanmarRules rules;
  return rules;
}

}  // namespace grafema::detail
