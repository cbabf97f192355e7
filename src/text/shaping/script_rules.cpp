// SPDX-License-Identifier: MIT
// Which rules a script follows.
#include "text/shaping/script_rules.hpp"

#include <algorithm>

namespace grafema::detail {

const ScriptRules& plain_rules() {
  static const ScriptRules rules;
  return rules;
}

const ScriptRules& script_rules(Tag script) {
  switch (script) {
    case tag("arab"):
    case tag("syrc"):
    case tag("mand"):
    case tag("nko "):
    case tag("adlm"):
    case tag("mong"):
    case tag("phag"):
    case tag("mani"):
    case tag("phlp"):
    case tag("rohg"):
    case tag("sogd"):
    case tag("chrs"):
    case tag("ougr"):
      return joining_rules();
    case tag("hebr"):
      return hebrew_rules();
    case tag("hang"):
      return hangul_rules();
    case tag("thai"):
    case tag("lao "):
      return thai_rules();
    default:
      return plain_rules();
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
