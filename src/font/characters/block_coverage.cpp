// SPDX-License-Identifier: MIT
// Counts the characters of a face by Unicode block.
#include "grafema/font/block_coverage.hpp"

namespace grafema {

std::vector<BlockCoverage> block_coverage(const Face& face) {
  std::vector<BlockCoverage> out;
  auto block = unicode_blocks().begin();
  const auto end = unicode_blocks().end();
  for (const auto& [character, glyph] : face.characters()) {  // characters and blocks both ascend
    while (block != end && block->last < character) ++block;
    if (block == end) break;
    if (character < block->first || !is_assigned_character(character)) continue;
    if (out.empty() || out.back().block.first != block->first) out.push_back({*block, 0});
    ++out.back().covered;
  }
  return out;
}

}  // namespace grafema
