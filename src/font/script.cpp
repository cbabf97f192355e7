// SPDX-License-Identifier: MIT
// The script of a character, without a Unicode library in the core.
#include <algorithm>
#include <array>
#include <iterator>

#include "grafema/face.hpp"

namespace grafema {
namespace {

struct ScriptRange {
  char32_t first, last;
  Tag script;
};

constexpr ScriptRange kRanges[] = {
#include "font/script_ranges.inc"
};

Tag find_in_ranges(char32_t character) {
  const auto* range = std::lower_bound(std::begin(kRanges), std::end(kRanges), character,
                                       [](const ScriptRange& r, char32_t c) { return r.last < c; });
  return range != std::end(kRanges) && range->first <= character ? range->script : Tag{};
}

/// Most text stands below this: Latin, Greek and Cyrillic are found by one look.
constexpr std::size_t kQuickCharacters = 0x530;

const std::array<Tag, kQuickCharacters>& quick_table() {
  static const std::array<Tag, kQuickCharacters> table = [] {
    std::array<Tag, kQuickCharacters> made = {};
    for (std::size_t i = 0; i < kQuickCharacters; ++i) made[i] = find_in_ranges(static_cast<char32_t>(i));
    return made;
  }();
  return table;
}

}  // namespace

Tag script_of(char32_t character) {
  return character < kQuickCharacters ? quick_table()[character] : find_in_ranges(character);
}

}  // namespace grafema
