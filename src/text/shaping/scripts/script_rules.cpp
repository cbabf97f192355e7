// SPDX-License-Identifier: MIT
// Which rules a script follows.
#include "text/shaping/scripts/script_rules.hpp"

#include <algorithm>

namespace grafema::detail {

const ScriptRules& plain_rules() {
  static const ScriptRules rules;
  return rules;
}

namespace {

constexpr Tag kIndic[] = {tag("beng"), tag("deva"), tag("gujr"), tag("guru"), tag("knda"),
                          tag("mlym"), tag("orya"), tag("taml"), tag("telu")};
/// Scripts whose letters join, and whose marks make syllables as those of the universal model do.
constexpr Tag kJoining[] = {tag("mand"), tag("nko "), tag("adlm"), tag("mong"), tag("phag"), tag("mani"),
                            tag("phlp"), tag("rohg"), tag("sogd"), tag("chrs"), tag("ougr")};
/// Scripts of the universal model (OpenType, "Universal Shaping Engine", and scripts of their kind since).
constexpr Tag kUniversal[] = {
    tag("ahom"), tag("bali"), tag("batk"), tag("bhks"), tag("brah"), tag("bugi"), tag("buhd"), tag("cakm"),
    tag("cham"), tag("cpmn"), tag("diak"), tag("dogr"), tag("dupl"), tag("egyp"), tag("elym"), tag("gong"),
    tag("gonm"), tag("gran"), tag("hano"), tag("hmng"), tag("hmnp"), tag("java"), tag("kali"), tag("kawi"),
    tag("khar"), tag("khoj"), tag("kits"), tag("kthi"), tag("lana"), tag("lepc"), tag("limb"), tag("mahj"),
    tag("maka"), tag("marc"), tag("medf"), tag("modi"), tag("mtei"), tag("mult"), tag("nagm"), tag("nand"),
    tag("newa"), tag("rjng"), tag("saur"), tag("shrd"), tag("sidd"), tag("sind"), tag("sinh"), tag("sogo"),
    tag("soyo"), tag("sund"), tag("sylo"), tag("tagb"), tag("takr"), tag("tale"), tag("talu"), tag("tavt"),
    tag("tfng"), tag("tglg"), tag("tibt"), tag("tirh"), tag("tnsa"), tag("toto"), tag("vith"), tag("wcho"),
    tag("yezi"), tag("zanb")};

template <std::size_t Count>
bool holds(const Tag (&list)[Count], Tag script) {
  return std::find(std::begin(list), std::end(list), script) != std::end(list);
}

}  // namespace

bool has_rules_of(Tag script, Tag found) {
  if (script == tag("mymr"))
    return found == tag("mym2");  // faces with the older tag expect text as it is seen
  return found != Tag{} && found != tag("DFLT") && found != tag("dflt") &&
         (found != tag("latn") || script == tag("latn"));
}

const ScriptRules& script_rules(Tag script, Tag found) {
  const bool ruled = has_rules_of(script, found);
  switch (script) {
    case tag("arab"):
    case tag("syrc"):
      return joining_rules();
    case tag("hebr"):
      return hebrew_rules();
    case tag("hang"):
      return hangul_rules();
    case tag("thai"):
    case tag("lao "):
      return thai_rules();
    case tag("khmr"):
      return khmer_rules();
    case tag("mymr"):
      return ruled ? myanmar_rules() : plain_rules();
    case tag("sinh"):
      return ruled ? sinhala_rules() : plain_rules();
    default:
      if (holds(kIndic, script)) return ruled ? indic_rules() : plain_rules();
      if (holds(kJoining, script)) return universal_joining_rules();
      return ruled && holds(kUniversal, script) ? universal_rules() : plain_rules();
  }
}

ScriptNeeds script_needs(Tag script) {
  ScriptNeeds needs;
  const bool indic = holds(kIndic, script);
  needs.joins = script == tag("arab") || script == tag("syrc") || holds(kJoining, script);
  needs.syllables = indic || script == tag("khmr") || script == tag("mymr") || holds(kUniversal, script);
  // Tamil writes its consonants side by side.
  needs.conjuncts = (indic && script != tag("taml")) || script == tag("khmr") || script == tag("mymr") ||
                    script == tag("sinh") || script == tag("tibt");
  needs.marks = needs.joins || needs.syllables || script == tag("hebr") || script == tag("thai") ||
                script == tag("lao ") || script == tag("thaa");
  return needs;
}

bool is_cursive(Tag script) {
  constexpr Tag kScripts[] = {tag("arab"), tag("syrc"), tag("mong"), tag("nko "),
                              tag("mand"), tag("rohg"), tag("phag")};
  return holds(kScripts, script);
}

bool runs_right_to_left(Tag script) {
  // Unicode's scripts whose letters have the bidi classes R and AL.
  constexpr Tag kScripts[] = {tag("arab"), tag("hebr"), tag("syrc"), tag("thaa"), tag("nko "), tag("adlm"),
                              tag("mand"), tag("mani"), tag("samr"), tag("rohg"), tag("phlp"), tag("phli"),
                              tag("prti"), tag("armi"), tag("avst"), tag("cprt"), tag("hatr"), tag("hung"),
                              tag("khar"), tag("lydi"), tag("mend"), tag("merc"), tag("mero"), tag("narb"),
                              tag("nbat"), tag("orkh"), tag("palm"), tag("phnx"), tag("sarb"), tag("sogd"),
                              tag("sogo"), tag("yezi"), tag("elym"), tag("chrs"), tag("ougr")};
  return std::find(std::begin(kScripts), std::end(kScripts), script) != std::end(kScripts);
}

}  // namespace grafema::detail
