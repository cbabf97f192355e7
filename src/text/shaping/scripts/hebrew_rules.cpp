// SPDX-License-Identifier: MIT
// Hebrew with points: the order of marks, and letters with points as one character for faces that place none.
#include <unicode/unorm2.h>

#include <algorithm>
#include <array>

#include "text/shaping/scripts/script_rules.hpp"

namespace grafema::detail {
namespace {

struct Pair {
  char32_t first = 0, second = 0, whole = 0;
};

/// The letters with points that Unicode keeps for old text: it composes none of them.
std::vector<Pair> read_pairs() {
  std::vector<Pair> out;
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = unorm2_getNFCInstance(&status);
  if (U_FAILURE(status)) return out;
  for (char32_t c = 0xFB1D; c <= 0xFB4E; ++c) {
    std::array<UChar, 8> parts = {};
    const int32_t length =
        unorm2_getRawDecomposition(normal, static_cast<UChar32>(c), parts.data(), 8, &status);
    if (length != 2) continue;
    out.push_back({parts[0], parts[1], c});
  }
  return out;
}

char32_t compose_pointed(char32_t first, char32_t second, bool face_places_marks) {
  static const std::vector<Pair> pairs = read_pairs();
  if (face_places_marks) return 0;
  const auto found = std::find_if(pairs.begin(), pairs.end(),
                                  [&](const Pair& p) { return p.first == first && p.second == second; });
  return found == pairs.end() ? 0 : found->whole;
}

/// The order in which letters carry their points: shin and sin dots, dagesh, rafe, vowels, meteg.
std::uint8_t hebrew_class(char32_t /*mark*/, std::uint8_t own) {
  // By Unicode's classes 10 to 26.
  constexpr std::uint8_t kOrder[] = {22, 15, 16, 17, 23, 18, 19, 20, 21, 14, 24, 12, 25, 13, 10, 11, 26};
  return own >= 10 && own <= 26 ? kOrder[own - 10] : own;
}

class HebrewRules final : public ScriptRules {
 public:
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.compose = compose_pointed, rules.combining = hebrew_class;
    return rules;
  }
};

}  // namespace

const ScriptRules& hebrew_rules() {
  static const HebrewRules rules;
  return rules;
}

}  // namespace grafema::detail
