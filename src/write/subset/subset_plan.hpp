// SPDX-License-Identifier: MIT
// What a subset keeps: glyphs and their new numbers, characters, axes; and how much work it may cost.
#pragma once

#include <memory>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "font/layout/layout_bytes.hpp"
#include "grafema/write/make_subset.hpp"
#include "write/subset/pins.hpp"

namespace grafema::detail {

struct SubsetPlan {
  const Face* face = nullptr;
  const SubsetRecipe* recipe = nullptr;
  Pins pins;
  std::shared_ptr<const Face> pinned;    ///< the face with its pins; null where there are none
  std::vector<std::uint16_t> kept;       ///< old numbers, ascending; the missing-glyph shape is the first
  std::vector<std::int32_t> renumbered;  ///< of each old glyph; -1: not kept
  std::vector<char32_t> wanted;          ///< ascending, with those that shaping puts in the place of others
  std::vector<std::pair<char32_t, std::uint16_t>> characters;  ///< ascending, new numbers
  std::string family;                                          ///< the new name; empty: as it was
  std::vector<Tag> left_out;                                   ///< tables

  TableView table(const char* name) const { return {tag(name), face->table(tag(name))}; }
  /// The new number of a glyph; -1 where it is not kept.
  int to(std::uint32_t old) const { return old < renumbered.size() ? static_cast<int>(renumbered[old]) : -1; }
  int to(GlyphId old) const { return to(index_of(old)); }
  std::size_t glyph_count() const { return kept.size(); }
};

/// The glyphs that the recipe asks for and all that they are made of. Fails as `make_subset` does.
Result<SubsetPlan> plan_subset(const Face& face, const SubsetRecipe& recipe, Notes* notes);

/// Sets two or four bytes of a table that may be too short for them.
inline void put_u16(std::vector<std::byte>& bytes, std::size_t at, int v) {
  if (at + 2 > bytes.size()) return;
  bytes[at] = static_cast<std::byte>(static_cast<unsigned>(v) >> 8 & 0xFFU);
  bytes[at + 1] = static_cast<std::byte>(static_cast<unsigned>(v) & 0xFFU);
}

inline std::vector<std::byte> copy_of(const TableView& table) {
  return {table.bytes.begin(), table.bytes.end()};
}

}  // namespace grafema::detail
