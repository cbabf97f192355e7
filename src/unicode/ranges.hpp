// SPDX-License-Identifier: MIT
// Sorted ranges of characters and how they are searched.
#pragma once

#include <algorithm>
#include <span>

namespace grafema::detail {

struct CharacterRange {
  char32_t first, last;
};

/// The range that holds the character; null where none does. `ranges` ascend and do not overlap.
template <class Range>
const Range* find_range(std::span<const Range> ranges, char32_t character) {
  const auto at = std::lower_bound(ranges.begin(), ranges.end(), character,
                                   [](const Range& range, char32_t c) { return range.last < c; });
  return at != ranges.end() && at->first <= character ? &*at : nullptr;
}

}  // namespace grafema::detail
