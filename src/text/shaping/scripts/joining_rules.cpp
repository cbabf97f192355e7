// SPDX-License-Identifier: MIT
// Letters that join to their neighbors: Arabic and Syriac (Unicode, chapter 9.2).
#include <unicode/uchar.h>

#include <algorithm>

#include "text/shaping/scripts/presentation_forms.hpp"
#include "text/shaping/scripts/script_rules.hpp"
#include "text/shaping/scripts/stretched_signs.hpp"

namespace grafema::detail {
namespace {

enum Form : std::uint8_t { isolated, final1, final2, final3, medial1, medial2, initial, form_count };

// OpenType, "Developing OpenType fonts for Arabic script" and "... Syriac script".
constexpr ScriptFeature form(Tag tag) {
  return {.tag = tag, .chosen = true, .ends_stage = true, .keeps_joiners = true};
}
constexpr ScriptFeature kJoiningFeatures[] = {
    {.tag = tag("stch"), .ends_stage = true, .hook = 1},
    {.tag = tag("ccmp")},
    {.tag = tag("locl"), .ends_stage = true},
    form(tag("isol")),
    form(tag("fina")),
    form(tag("fin2")),
    form(tag("fin3")),
    form(tag("medi")),
    form(tag("med2")),
    form(tag("init")),
    {.tag = tag("rlig"), .ends_stage = true, .keeps_joiners = true},
    {.tag = tag("calt"), .ends_stage = true, .keeps_joiners = true},
    {.tag = tag("rclt"), .ends_stage = true},
    {.tag = tag("liga")},
    {.tag = tag("clig")},
    {.tag = tag("mset"), .ends_stage = true},
};
constexpr std::size_t kFirstForm = 3;  // `isol` among them

UJoiningType joining_type(char32_t c) {
  const auto type =
      static_cast<UJoiningType>(u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_JOINING_TYPE));
  if (type != U_JT_NON_JOINING) return type;
  // Marks and format controls are transparent where the data says nothing else (ArabicShaping.txt).
  const int8_t category = u_charType(static_cast<UChar32>(c));
  const bool transparent = category == U_NON_SPACING_MARK || category == U_ENCLOSING_MARK ||
                           (category == U_FORMAT_CHAR && c != 0x200C && (c < 0x2066 || c > 0x2069));
  return transparent ? U_JT_TRANSPARENT : type;
}

bool joins_next(UJoiningType type) {
  return type == U_JT_DUAL_JOINING || type == U_JT_JOIN_CAUSING || type == U_JT_LEFT_JOINING;
}
bool joins_previous(UJoiningType type) {
  return type == U_JT_DUAL_JOINING || type == U_JT_JOIN_CAUSING || type == U_JT_RIGHT_JOINING;
}

bool is_of_group(char32_t c, UJoiningGroup group) {
  return u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_JOINING_GROUP) == group;
}

/// Unicode technical report 53: shadda before the vowels above it, and the marks that letters carry first.
std::uint8_t arabic_class(char32_t mark, std::uint8_t own) {
  constexpr std::uint8_t kFirstAbove = 25, kFirstBelow = 24;
  if (own == 33) return 26;                // shadda
  if (own >= 27 && own <= 32) return own;  // vowels follow
  switch (mark) {
    case 0x0654:
    case 0x0658:
    case 0x06DC:
    case 0x06E3:
    case 0x06E7:
    case 0x06E8:
    case 0x08D3:
    case 0x08F3:
      return own == 220 ? kFirstBelow : kFirstAbove;
    case 0x0655:
      return kFirstBelow;
    default:
      return own;
  }
}

/// Turns the form of a letter to which the next one joins, or behind which its word goes on.
void connect(std::uint8_t& form, bool joined, bool word_goes_on) {
  if (joined) {
    if (form == final1) {
      form = medial1;
    } else if (form == isolated) {
      form = initial;
    }
  } else if (word_goes_on && (form == final2 || form == final3)) {
    form = medial2;
  }
}

LetterForm letter_form(std::uint8_t form) {
  switch (form) {
    case final1:
    case final2:
    case final3:
      return LetterForm::final;
    case medial1:
    case medial2:
      return LetterForm::medial;
    case initial:
      return LetterForm::initial;
    default:
      return LetterForm::isolated;
  }
}

/// Lam and the alef that it carries become one glyph, where the face has it as a character. Returns true if
/// they did.
bool join_lam_alef(ScriptWork& work, std::size_t lam) {
  constexpr char32_t kLam = 0x644;
  ShapeBuffer& items = work.buffer;
  if (items[lam].character != kLam) return false;
  std::size_t alef = lam + 1;
  while (alef < items.size() && joining_type(items[alef].character) == U_JT_TRANSPARENT) ++alef;
  if (alef == items.size()) return false;
  const LetterForm whole =
      letter_form(work.numbers[lam]) == LetterForm::medial ? LetterForm::final : LetterForm::isolated;
  const char32_t ligature = presentation_form(kLam, items[alef].character, whole);
  const GlyphId glyph = ligature == 0 ? kMissingGlyph : work.face.find_glyph(ligature);
  if (glyph == kMissingGlyph) return false;
  items.join_clusters(lam, alef + 1);
  items[lam].glyph = glyph, items[lam].parts = 2, items[lam].flags |= ShapeItem::kLigated;
  items.replace(alef, 1, {});
  work.numbers.erase(work.numbers.begin() + static_cast<std::ptrdiff_t>(alef));
  return true;
}

/// For faces without features of forms: letters as the characters that look joined.
void use_presentation_forms(ScriptWork& work) {
  ShapeBuffer& items = work.buffer;
  for (std::size_t i = 0; i < items.size(); ++i) {
    if (work.numbers[i] == form_count || join_lam_alef(work, i)) continue;
    const LetterForm form = letter_form(work.numbers[i]);
    const char32_t character =
        form == LetterForm::isolated ? U'\0' : presentation_form(items[i].character, 0, form);
    const GlyphId glyph = character == 0 ? kMissingGlyph : work.face.find_glyph(character);
    if (glyph != kMissingGlyph) items[i].glyph = glyph;
  }
}

class JoiningRules final : public ScriptRules {
 public:
  std::span<const ScriptFeature> features() const override { return kJoiningFeatures; }
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.combining = arabic_class;
    return rules;
  }
  void act(ScriptWork& work, std::uint8_t /*hook*/) const override { mark_stretched(work.buffer); }
  void finish(ScriptWork& work, bool left_to_right) const override {
    stretch_signs(work.buffer, work.face.metrics(), left_to_right, work.items);
  }
  void choose(ScriptWork& work) const override {
    choose_joining_forms(work, kFirstForm);
    const auto forms = work.bits.subspan(kFirstForm + 1, form_count - 1);  // behind `isol`
    const bool joins = std::any_of(forms.begin(), forms.end(), [](std::uint32_t bit) { return bit != 0; });
    if (!joins && work.script == tag("arab")) use_presentation_forms(work);
  }
};

}  // namespace

void choose_joining_forms(ScriptWork& work, std::size_t first_form) {
  ShapeBuffer& items = work.buffer;
  constexpr std::size_t kNone = ~std::size_t{0};
  std::size_t last = kNone;  // the joining letter before
  UJoiningType last_type = U_JT_NON_JOINING;
  char32_t last_character = 0;
  for (std::size_t i = work.around.before.size(); i-- > 0;) {
    last_type = joining_type(work.around.before[i]);
    last_character = work.around.before[i];
    if (last_type != U_JT_TRANSPARENT) break;
    last_type = U_JT_NON_JOINING;
  }
  std::vector<std::uint8_t>& forms = work.numbers;
  forms.assign(items.size(), form_count);
  for (std::size_t i = 0; i < items.size(); ++i) {
    const char32_t c = items[i].character;
    const UJoiningType type = joining_type(c);
    if (type == U_JT_TRANSPARENT) continue;
    const bool joined = joins_next(last_type) && joins_previous(type);
    forms[i] = static_cast<std::uint8_t>(joined ? final1 : isolated);
    if (!joined && is_of_group(c, U_JG_ALAPH) && last_type != U_JT_NON_JOINING) {
      forms[i] = static_cast<std::uint8_t>(is_of_group(last_character, U_JG_DALATH_RISH) ? final3 : final2);
    }
    if (last != kNone) {
      if (joined) items.keep_together(last, i + 1);
      connect(forms[last], joined, type != U_JT_NON_JOINING);
    }
    last = i, last_type = type, last_character = c;
  }
  for (const char32_t c : work.around.after) {
    const UJoiningType type = joining_type(c);
    if (type == U_JT_TRANSPARENT) continue;
    if (last != kNone) {
      connect(forms[last], joins_next(last_type) && joins_previous(type), type != U_JT_NON_JOINING);
    }
    break;
  }
  for (std::size_t i = 0; i < items.size(); ++i) {
    if (forms[i] < form_count) items[i].features |= work.bits[first_form + forms[i]];
  }
}

const ScriptRules& joining_rules() {
  static const JoiningRules rules;
  return rules;
}

}  // namespace grafema::detail
