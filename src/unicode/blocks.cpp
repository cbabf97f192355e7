// SPDX-License-Identifier: MIT
// The table of blocks, made from Unicode's data.
#include "grafema/unicode/blocks.hpp"

#include "unicode/ranges.hpp"

namespace grafema {
namespace {

constexpr UnicodeBlock kBlocks[] = {
#include "unicode/blocks.inc"
};

constexpr detail::CharacterRange kAssigned[] = {
#include "unicode/assigned.inc"
};

}  // namespace

std::span<const UnicodeBlock> unicode_blocks() { return kBlocks; }

bool is_assigned_character(char32_t character) {
  return detail::find_range<detail::CharacterRange>(kAssigned, character) != nullptr;
}

}  // namespace grafema
