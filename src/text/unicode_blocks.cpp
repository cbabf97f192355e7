// SPDX-License-Identifier: MIT
// Counts characters by Unicode block with ICU's data.
#include "grafema/unicode_blocks.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <map>

namespace grafema {
namespace {

bool counts(UChar32 c) {
  const int category = u_charType(c);
  return category != U_UNASSIGNED && category != U_CONTROL_CHAR && category != U_SURROGATE;
}

/// Turns ICU's property names into Unicode's block names: spaces for underscores, small joining words, and a hyphen
/// before a last letter ("Latin Extended-A", but "Extension A").
std::string block_name(int block) {
  const char* raw = u_getPropertyValueName(UCHAR_BLOCK, block, U_LONG_PROPERTY_NAME);
  std::string name = raw == nullptr ? "No block" : raw;
  std::replace(name.begin(), name.end(), '_', ' ');
  for (const std::string_view word : {" And ", " For ", " Of "}) {
    for (std::size_t at = name.find(word); at != std::string::npos; at = name.find(word, at)) name[at + 1] = static_cast<char>(name[at + 1] + 32);
  }
  if (name == "Greek") name = "Greek and Coptic";
  if (name.starts_with("Latin 1 ")) name[5] = '-';
  const std::size_t last = name.size() - 1;
  if (name.size() > 3 && name[last - 1] == ' ' && !name.ends_with("Extension " + name.substr(last))) name[last - 1] = '-';
  return name;
}

}  // namespace

std::vector<BlockCoverage> block_coverage(const Face& face) {
  struct Counts {
    char32_t first = 0;
    std::size_t covered = 0, assigned = 0;
  };
  std::map<int, Counts> blocks;
  for (const auto& [character, glyph] : face.characters()) {
    const auto c = static_cast<UChar32>(character);
    if (!counts(c)) continue;
    Counts& block = blocks[ublock_getCode(c)];
    if (block.covered++ == 0) block.first = character;
  }
  for (UChar32 c = 0; c <= 0x10FFFF; ++c) {
    if (!counts(c)) continue;
    if (const auto block = blocks.find(ublock_getCode(c)); block != blocks.end()) ++block->second.assigned;
  }
  std::vector<std::pair<char32_t, BlockCoverage>> ordered;
  for (const auto& [code, block] : blocks) ordered.push_back({block.first, {block_name(code), block.covered, block.assigned}});
  std::sort(ordered.begin(), ordered.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  std::vector<BlockCoverage> out;
  for (auto& [first, block] : ordered) out.push_back(std::move(block));
  return out;
}

}  // namespace grafema
