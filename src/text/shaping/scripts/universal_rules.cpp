// SPDX-License-Identifier: MIT
// All scripts by one grammar (OpenType, "Universal Shaping Engine"): repha, left vowels, joining forms.
#include <algorithm>

#include "text/shaping/scripts/forbidden_vowels.hpp"
#include "text/shaping/scripts/syllables.hpp"
#include "text/shaping/scripts/universal_characters.hpp"

namespace grafema::detail {
namespace universal {
namespace {

using namespace universal;

enum Hook : std::uint8_t { before_repha = 1, after_repha, after_left, reorder };

constexpr ScriptFeature basic(Tag tag, bool ends_stage = false, std::uint8_t hook = 0) {
  return {.tag = tag, .ends_stage = ends_stage, .keeps_joiners = true, .within_syllable = true, .hook = hook};
}
constexpr ScriptFeature later(Tag tag) { return {.tag = tag, .keeps_joiners = true}; }
constexpr ScriptFeature form(Tag tag) { return {.tag = tag, .chosen = true}; }

constexpr std::size_t kRepha = 4, kFirstForm = 13;  // where they stand among the features
constexpr ScriptFeature kFeatures[] = {
    {.tag = tag("locl"), .within_syllable = true},
    {.tag = tag("ccmp"), .within_syllable = true},
    {.tag = tag("nukt"), .within_syllable = true},
    basic(tag("akhn"), true, before_repha),
    {.tag = tag("rphf"),
     .chosen = true,
     .ends_stage = true,
     .keeps_joiners = true,
     .within_syllable = true,
     .hook = after_repha},
    basic(tag("pref"), true, after_left),
    basic(tag("rkrf")),
    basic(tag("abvf")),
    basic(tag("blwf")),
    basic(tag("half")),
    basic(tag("pstf")),
    basic(tag("vatu")),
    basic(tag("cjct"), true, reorder),
    // In the order that `choose_joining_forms` asks for.
    form(tag("isol")),
    form(tag("fina")),
    form(tag("fin2")),
    form(tag("fin3")),
    form(tag("medi")),
    form(tag("med2")),
    {.tag = tag("init"), .chosen = true, .ends_stage = true},
    later(tag("abvs")),
    later(tag("blws")),
    later(tag("haln")),
    later(tag("pres")),
    later(tag("psts")),
};

enum Kind : std::uint8_t { standard, ends_in_stacker, ends_in_sakot, numeral, of_symbol, broken };

/// The grammar that the model's description gives. Letters are those of Category.
const SyllableGrammar& grammar() {
  const std::string halant = "(H|h|I|S)";
  const std::string signs = "K*k*((" + halant + "B|U)K*k*)*";
  const std::string medials = "L?A?a?l?", vowels = "P*E*e*p*", modifiers = "h?Q*X*x*q*";
  const std::string start = "(R|c)?(B|G)";
  const std::string middle = signs + medials + vowels + modifiers + "(SB)*";
  const std::string tail = middle + "F*f*g*(M*m*|n?)";
  const std::string numbers = "(jN)+", open_numbers = "(jN)*j", symbols = "(Y+y*|y+)";
  const std::string any_tail = "(" + tail + "|" + middle + "S|" + symbols + "|" + signs + "I)";
  static const SyllableGrammar all{
      start + tail,         start + signs + "I",
      start + middle + "S", "N((" + numbers + ")?|" + open_numbers + ")",
      "(o|G|s)" + any_tail, "R?(" + any_tail + "|" + open_numbers + "|" + numbers + ")",
  };
  return all;
}

bool is_mark_like(std::uint8_t category) {
  return category != other && category != base && category != base_number && category != base_other &&
         category != symbol && category != stacking && category != non_joiner && category != hidden;
}
bool is_halant(const ShapeItem& item) {
  return (item.category == halant || item.category == halant_or_vowel || item.category == stacker) &&
         !item.is(ShapeItem::kLigated);
}
/// What stands behind the base, and ends the way of a repha.
bool is_behind_base(std::uint8_t category) {
  switch (category) {
    case final_above:
    case final_below:
    case final_right:
    case final_mark_above:
    case final_mark_below:
    case final_mark_right:
    case medial_above:
    case medial_below:
    case medial_left:
    case medial_right:
    case vowel_above:
    case vowel_below:
    case vowel_left:
    case vowel_right:
    case modifier_above:
    case modifier_below:
    case modifier_left:
    case modifier_right:
      return true;
    default:
      return false;
  }
}

/// What shows nothing is no part of the grammar; a non-joiner before a mark neither.
bool is_passed_over(const ShapeBuffer& items, std::size_t at) {
  if (items[at].category == hidden) return true;
  if (items[at].category != non_joiner) return false;
  for (std::size_t i = at + 1; i < items.size(); ++i) {
    if (items[i].category != hidden) return is_mark_like(items[i].category);
  }
  return false;
}

class UniversalRules final : public ScriptRules {
 public:
  explicit UniversalRules(bool joins, MarkRoom room = MarkRoom::taken_before_positioning)
      : joins_(joins), room_(room) {}

  std::span<const ScriptFeature> features() const override { return kFeatures; }
  MarkRoom mark_room() const override { return room_; }
  bool hangs_marks() const override { return false; }
  bool finds_broken() const override { return true; }
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.take_apart = is_taken_apart;
    rules.compose_on_marks = false;
    return rules;
  }

  void prepare(ScriptWork& work) const override { part_forbidden_vowels(work); }
  void choose(ScriptWork& work) const override {
    ShapeBuffer& items = work.buffer;
    for (std::size_t i = 0; i < items.size(); ++i) items[i].category = category_of(items[i].character);
    find_syllables(work, grammar(), is_passed_over);
    if (joins_) choose_joining_forms(work, kFirstForm);
    std::uint8_t last_form = kNoForm;
    SyllableRange last;
    for (std::size_t i = 0; i < items.size();) {
      const SyllableRange syllable = syllable_at(items, i);
      if (syllable.kind != Syllable::kNoKind) mark_repha(work, syllable);
      if (!joins_) choose_form(work, syllable, last, last_form);
      last = syllable;
      i = syllable.end;
    }
  }

  void act(ScriptWork& work, std::uint8_t hook) const override {
    ShapeBuffer& items = work.buffer;
    switch (hook) {
      case before_repha:
        return clear_substituted(items);
      case after_repha:
        find_rephas(work);
        return clear_substituted(items);
      case after_left:
        return find_left_forms(items);
      default:
        break;
    }
    add_circles(work, broken, base, repha);
    for (std::size_t i = 0; i < items.size();) {
      const SyllableRange syllable = syllable_at(items, i);
      if (syllable.kind == standard || syllable.kind == ends_in_stacker || syllable.kind == ends_in_sakot ||
          syllable.kind == of_symbol || syllable.kind == broken) {
        order(items, syllable);
      }
      i = syllable.end;
    }
  }

 private:
  static constexpr std::uint8_t kIsolated = 0, kFinal = 1, kMedial = 4, kInitial = 6, kNoForm = 255;

  /// Split vowels, and letters with marks.
  static bool is_taken_apart(char32_t c) { return is_mark_like(category_of(c)) || c == 0x1B06; }

  /// The first letters may become a repha: one, where it is a character, or what stands before the base.
  static void mark_repha(ScriptWork& work, SyllableRange syllable) {
    constexpr std::size_t kLetters = 3;
    const std::size_t most = work.buffer[syllable.first].category == repha ? 1 : kLetters;
    const std::size_t end = std::min(syllable.end, syllable.first + most);
    for (std::size_t i = syllable.first; i < end; ++i) work.buffer[i].features |= work.bits[kRepha];
  }

  /// Syllables that follow one another are initial, medial and final ones.
  static void choose_form(ScriptWork& work, SyllableRange syllable, SyllableRange before,
                          std::uint8_t& last) {
    const auto set = [&](SyllableRange range, std::uint8_t was, std::uint8_t form) {
      for (std::size_t i = range.first; i < range.end; ++i) {
        if (was != kNoForm) work.buffer[i].features &= ~work.bits[kFirstForm + was];
        work.buffer[i].features |= work.bits[kFirstForm + form];
      }
    };
    if (syllable.kind == Syllable::kNoKind) {
      last = kNoForm;
      return;
    }
    const bool joins = last == kFinal || last == kIsolated;
    if (joins) set(before, last, last == kFinal ? kMedial : kInitial);
    last = joins ? kFinal : kIsolated;
    set(syllable, kNoForm, last);
  }

  static void find_rephas(ScriptWork& work) {
    ShapeBuffer& items = work.buffer;
    const std::uint32_t bit = work.bits[kRepha];
    for (std::size_t i = 0; bit != 0 && i < items.size();) {
      const SyllableRange syllable = syllable_at(items, i);
      for (std::size_t k = i; k < syllable.end && (items[k].features & bit) != 0; ++k) {
        if (!items[k].is(ShapeItem::kSubstituted)) continue;
        items[k].category = repha;
        break;
      }
      i = syllable.end;
    }
  }
  /// A form that the face made to stand before the base moves as a vowel on the left does.
  static void find_left_forms(ShapeBuffer& items) {
    for (std::size_t i = 0; i < items.size();) {
      const SyllableRange syllable = syllable_at(items, i);
      for (std::size_t k = i; k < syllable.end; ++k) {
        if (!items[k].is(ShapeItem::kSubstituted) || items[k].is(ShapeItem::kIgnorable)) continue;
        items[k].category = vowel_left;
        break;
      }
      i = syllable.end;
    }
  }

  static void order(ShapeBuffer& items, SyllableRange syllable) {
    const std::size_t first = syllable.first, end = syllable.end;
    // A repha goes to the end of what belongs to the base.
    if (items[first].category == repha && end - first > 1) {
      for (std::size_t i = first + 1; i < end; ++i) {
        const bool behind = is_behind_base(items[i].category) || is_halant(items[i]);
        if (!behind && i + 1 < end) continue;
        move_item(items, first, behind ? i - 1 : i);
        break;
      }
    }
    // Left vowels go before the base: behind the last halant.
    std::size_t to = first;
    for (std::size_t i = first; i < end; ++i) {
      const std::uint8_t c = items[i].category;
      if (is_halant(items[i])) {
        to = i + 1;
      } else if ((c == vowel_left || c == modifier_left) && to < i && !is_later_part(items, i)) {
        move_item(items, i, to);
      }
    }
  }
  /// Of several glyphs made from one, only the first moves.
  static bool is_later_part(const ShapeBuffer& items, std::size_t at) {
    return at > 0 && items[at].is(ShapeItem::kMultiplied) && items[at - 1].is(ShapeItem::kMultiplied) &&
           items[at - 1].character == items[at].character && items[at - 1].cluster == items[at].cluster;
  }

  bool joins_;
  MarkRoom room_;
};

}  // namespace
}  // namespace universal

bool moves_in_syllables(char32_t character) {
  using namespace universal;
  switch (category_of(character)) {
    case halant:
    case halant_or_vowel:
    case stacker:
    case sakot:
    case repha:
    case subjoined:
    case vowel_left:
    case modifier_left:
    case medial_left:
      return true;
    default:
      return false;
  }
}

const ScriptRules& universal_rules() {
  static const universal::UniversalRules rules(false);
  return rules;
}
/// Faces of Sinhala class vowels that take room as marks, as its older specification let them.
const ScriptRules& sinhala_rules() {
  static const universal::UniversalRules rules(false, MarkRoom::taken_from_nonspacing);
  return rules;
}
const ScriptRules& universal_joining_rules() {
  static const universal::UniversalRules rules(true);
  return rules;
}

}  // namespace grafema::detail
