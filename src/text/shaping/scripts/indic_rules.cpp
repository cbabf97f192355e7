// SPDX-License-Identifier: MIT
// Nine scripts of India: syllables, and the features of each in the order of their specifications.
#include "text/shaping/scripts/forbidden_vowels.hpp"
#include "text/shaping/scripts/indic_order.hpp"

namespace grafema::detail {
namespace indic {
namespace {

constexpr std::uint8_t kFirst = 1, kLast = 2;  // hooks

constexpr ScriptFeature basic(Tag tag, bool chosen, std::uint8_t hook = 0) {
  return {.tag = tag,
          .chosen = chosen,
          .ends_stage = true,
          .keeps_joiners = true,
          .keeps_non_joiners = true,
          .within_syllable = true,
          .hook = hook};
}
constexpr ScriptFeature later(Tag tag, bool chosen = false) {
  return {.tag = tag, .chosen = chosen, .keeps_joiners = true, .within_syllable = true};
}
// In the order of indic::Feature.
constexpr ScriptFeature kFeatures[] = {
    {.tag = tag("locl"), .within_syllable = true},
    {.tag = tag("ccmp"), .ends_stage = true, .within_syllable = true, .hook = kFirst},
    basic(tag("nukt"), false),
    basic(tag("akhn"), false),
    basic(tag("rphf"), true),
    basic(tag("rkrf"), false),
    basic(tag("pref"), true),
    basic(tag("blwf"), true),
    basic(tag("abvf"), true),
    basic(tag("half"), true),
    basic(tag("pstf"), true),
    basic(tag("vatu"), false),
    basic(tag("cjct"), false, kLast),
    later(tag("init"), true),
    later(tag("pres")),
    later(tag("abvs")),
    later(tag("blws")),
    later(tag("psts")),
    later(tag("haln")),
};
constexpr Tag kLeftOut[] = {tag("liga")};

enum Kind : std::uint8_t { of_consonant, of_vowel, standalone, of_symbol, broken };

/// OpenType, "Indic scripts": the grammar of syllables, with Vedic marks. Letters are those of Category.
const SyllableGrammar& grammar() {
  const std::string joiner = "(J|K)", letter = "(C|R)J?N?";
  const std::string joining = joiner + "?H(JN?)?";
  const std::string matras = joiner + "*(M|S?P)N?(H|JHJR)?";
  const std::string tail = "(" + joiner + "?SS?K?)?A*";
  const std::string rest =
      "(" + joining + letter + ")*B?(" + joining + "|HK|" + up_to(4, matras) + ")" + tail;
  static const SyllableGrammar all{
      "(F|T)?" + letter + rest, "(RH|F)?VN?(J|" + rest + ")", "((F|T)?D|(RH|F)?O)N?" + rest, "YN?" + tail,
      "(RH|F)?N?" + rest,
  };
  return all;
}

/// Vowels that are whole letters with marks of their own, which no mark was ever taken from.
bool stays_whole(char32_t c) { return c == 0x0931 || c == 0x09DC || c == 0x09DD || c == 0x0B94; }
/// The parts of split vowels stand on several sides of their letter.
bool is_taken_apart(char32_t c) {
  return c >= 0x0900 && c < 0x0D80 && indic::character_of(c, tag("deva")).category != indic::consonant;
}
/// What Unicode takes apart but does not compose.
char32_t compose(char32_t first, char32_t second, bool /*face_places_marks*/) {
  return first == 0x09AF && second == 0x09BC ? char32_t{0x09DF} : char32_t{0};
}

class IndicRules final : public ScriptRules {
 public:
  std::span<const ScriptFeature> features() const override { return kFeatures; }
  std::span<const Tag> leaves_out() const override { return kLeftOut; }
  MarkRoom mark_room() const override { return MarkRoom::kept; }
  bool hangs_marks() const override { return false; }
  bool finds_broken() const override { return true; }
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.compose = compose;
    rules.take_apart = is_taken_apart;
    rules.keep = stays_whole;
    rules.compose_on_marks = false;
    return rules;
  }

  void prepare(ScriptWork& work) const override { part_forbidden_vowels(work); }
  void choose(ScriptWork& work) const override {
    for (std::size_t i = 0; i < work.buffer.size(); ++i) {
      const indic::Character c = indic::character_of(work.buffer[i].character, work.script);
      work.buffer[i].category = c.category;
      work.buffer[i].place = c.place;
    }
    find_syllables(work, grammar());
  }

  void act(ScriptWork& work, std::uint8_t hook) const override {
    const Tag found = work.memory.found;
    const indic::Order order{work, indic::script_of_tag(work.script), found == work.script};
    if (hook == kFirst) add_circles(work, broken, indic::circle, indic::repha);
    for (std::size_t i = 0; i < work.buffer.size();) {
      const SyllableRange syllable = syllable_at(work.buffer, i);
      if (syllable.kind <= standalone || syllable.kind == broken) {
        if (hook == kFirst) {
          order_first(order, syllable);
        } else {
          order_last(order, syllable);
        }
      }
      i = syllable.end;
    }
  }
};

}  // namespace
}  // namespace indic

const ScriptRules& indic_rules() {
  static const indic::IndicRules rules;
  return rules;
}

}  // namespace grafema::detail
