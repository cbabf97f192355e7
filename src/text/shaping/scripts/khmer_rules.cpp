// SPDX-License-Identifier: MIT
// Khmer: subscripts behind a coeng, split vowels, robat (OpenType, "Developing OpenType fonts for Khmer").
#include <unicode/uchar.h>

#include "text/shaping/scripts/syllables.hpp"

namespace grafema::detail {
namespace khmer {
namespace {

constexpr ScriptFeature basic(Tag tag, bool ends_stage = false) {
  return {.tag = tag,
          .chosen = true,
          .ends_stage = ends_stage,
          .keeps_joiners = true,
          .keeps_non_joiners = true,
          .within_syllable = true};
}
constexpr ScriptFeature later(Tag tag) { return {.tag = tag, .keeps_joiners = true}; }
enum Feature : std::uint8_t { locl, ccmp, pref, blwf, abvf, pstf, cfar };
constexpr ScriptFeature kFeatures[] = {
    {.tag = tag("locl"), .within_syllable = true},
    {.tag = tag("ccmp"), .within_syllable = true},
    basic(tag("pref")),
    basic(tag("blwf")),
    basic(tag("abvf")),
    basic(tag("pstf")),
    basic(tag("cfar"), true),
    later(tag("pres")),
    later(tag("abvs")),
    later(tag("blws")),
    later(tag("psts")),
};
constexpr Tag kLeftOut[] = {tag("liga")};

/// Letters of the grammar.
enum Category : std::uint8_t {
  other = 'X',
  consonant = 'C',
  ra = 'R',
  vowel = 'V',
  coeng = 'H',
  joiner = 'J',
  non_joiner = 'K',
  left = 'L',
  above = 'A',
  below = 'B',
  right = 'P',
  robat = 'T',
  inner_sign = 'I',  ///< stands among the vowels
  outer_sign = 'Y',  ///< stands behind them
  placeholder = 'D',
  circle = 'O',
};

Category vowel_category(char32_t c) {
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_POSITIONAL_CATEGORY)) {
    case U_INPC_LEFT:
      return left;
    case U_INPC_TOP:
    case U_INPC_TOP_AND_LEFT:
      return above;
    case U_INPC_BOTTOM:
      return below;
    default:
      return right;
  }
}

Category category_of(char32_t c) {
  if (stands_for_letter(c)) return placeholder;
  constexpr char32_t kRo = 0x179A;
  switch (c) {
    case kRo:
      return ra;
    case 0x25CC:
      return circle;
    case 0x17CC:
    case 0x17C9:  // register shifters stand where the robat does
    case 0x17CA:
      return robat;
    case 0x17C6:
    case 0x17CB:
    case 0x17CD:
    case 0x17CE:
    case 0x17CF:
    case 0x17D0:
    case 0x17D1:
      return inner_sign;
    case 0x17C7:
    case 0x17C8:
    case 0x17D3:
    case 0x17DD:
      return outer_sign;
    default:
      break;
  }
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_INDIC_SYLLABIC_CATEGORY)) {
    case U_INSC_CONSONANT:
    case U_INSC_CONSONANT_DEAD:
      return consonant;
    case U_INSC_VOWEL_INDEPENDENT:
      return vowel;
    case U_INSC_VOWEL_DEPENDENT:
      return vowel_category(c);
    case U_INSC_INVISIBLE_STACKER:
    case U_INSC_VIRAMA:
      return coeng;
    case U_INSC_NUMBER:
    case U_INSC_CONSONANT_PLACEHOLDER:
      return placeholder;
    case U_INSC_JOINER:
      return joiner;
    case U_INSC_NON_JOINER:
      return non_joiner;
    default:
      return other;
  }
}

enum Kind : std::uint8_t { of_consonant, broken };

/// The grammar of the specification: subscripts, vowels from left to right, signs.
const SyllableGrammar& grammar() {
  const std::string joiner = "(J|K)", letter = "(C|R|V)(" + joiner + "?T)?";
  const std::string inner = "(" + joiner + "*I)*";
  const std::string vowels = "L?" + inner + "B?" + inner + "(" + joiner + "?A)?" + inner + "P?";
  const std::string tail = inner + vowels + inner + "(H(C|R|V))?Y*";
  const std::string rest = "T?(H" + letter + ")*(H|" + tail + ")";
  static const SyllableGrammar all{"(" + letter + "|D|O)" + rest, rest};
  return all;
}

/// The part on the left of vowels that have one.
char32_t first_half(char32_t c) {
  constexpr char32_t kLeft = 0x17C1;
  return (c >= 0x17BE && c <= 0x17C0) || c == 0x17C4 || c == 0x17C5 ? kLeft : char32_t{0};
}

class KhmerRules final : public ScriptRules {
 public:
  std::span<const ScriptFeature> features() const override { return kFeatures; }
  std::span<const Tag> leaves_out() const override { return kLeftOut; }
  MarkRoom mark_room() const override { return MarkRoom::kept; }
  bool hangs_marks() const override { return false; }
  bool finds_broken() const override { return true; }
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.first_half = first_half;
    rules.compose_on_marks = false;
    return rules;
  }

  void choose(ScriptWork& work) const override {
    for (std::size_t i = 0; i < work.buffer.size(); ++i) {
      work.buffer[i].category = category_of(work.buffer[i].character);
    }
    find_syllables(work, grammar());
    add_circles(work, broken, circle, robat);
    for (std::size_t i = 0; i < work.buffer.size();) {
      const SyllableRange syllable = syllable_at(work.buffer, i);
      if (syllable.kind <= broken) order(work, syllable);
      i = syllable.end;
    }
  }

 private:
  /// A subscript Ro and vowels on the left go to the start.
  static void order(ScriptWork& work, SyllableRange syllable) {
    ShapeBuffer& items = work.buffer;
    for (std::size_t i = syllable.first + 1; i < syllable.end; ++i) {
      items[i].features |= work.bits[blwf] | work.bits[abvf] | work.bits[pstf];
    }
    int subscripts = 0;  // two at most are one letter's
    for (std::size_t i = syllable.first + 1; i < syllable.end; ++i) {
      if (items[i].category == coeng && subscripts < 2 && i + 1 < syllable.end) {
        ++subscripts;
        if (items[i + 1].category != ra) continue;
        for (std::size_t k = i; k < i + 2; ++k) items[k].features |= work.bits[pref];
        move_item(items, i, syllable.first);
        move_item(items, i + 1, syllable.first + 1);
        // What follows it may have a form of its own.
        for (std::size_t k = i + 2; k < syllable.end; ++k) items[k].features |= work.bits[cfar];
        subscripts = 2;
      } else if (items[i].category == left) {
        move_item(items, i, syllable.first);
      }
    }
  }
};

}  // namespace
}  // namespace khmer

const ScriptRules& khmer_rules() {
  static const khmer::KhmerRules rules;
  return rules;
}

}  // namespace grafema::detail
