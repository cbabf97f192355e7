// SPDX-License-Identifier: MIT
// Which rules a script follows.
#include "text/shaping/script_rules.hpp"

#include <algorithm>

namespace grafema::detail {

const ScriptRules& plain_rules() {
  static const ScriptRules rules;
  return rules;
}

namespace {

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

const ScriptRules& script_rules(Tag script, Tag found) {
  const bool is_there =
      found != Tag{} && found != tag("DFLT") && found != tag("dflt") && found != tag("latn");
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
      // Faces with the older tag expect text as it is seen.
      return is_there && found != script ? myanmar_rules() : plain_rules();
    case tag("beng"):
    case tag("deva"):
    case tag("gujr"):
    case tag("guru"):
    case tag("knda"):
    case tag("mlym"):
    case tag("orya"):
    case tag("taml"):
    case tag("telu"):
      return is_there ? indic_rules() : plain_rules();
    default:
      if (holds(kJoining, script)) return universal_joining_rules();
      return is_there && holds(kUniversal, script) ? universal_rules() : plain_rules();
  }
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
