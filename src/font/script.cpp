// SPDX-License-Identifier: MIT
// The script of a character, without a Unicode library in the core.
#include <algorithm>
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

}  // namespace

Tag script_of(char32_t character) {
  const auto* range = std::lower_bound(std::begin(kRanges), std::end(kRanges), character,
                                       [](const ScriptRange& r, char32_t c) { return r.last < c; });
  return range != std::end(kRanges) && range->first <= character ? range->script : Tag{};
}

}  // namespace grafema
