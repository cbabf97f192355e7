// SPDX-License-Identifier: MIT
// Characters to glyphs (OpenType, cmap), formats 4 and 12.
#pragma once

#include <utility>
#include <vector>

#include "font/table.hpp"
#include "grafema/glyph_metrics.hpp"

namespace grafema::detail {

class CharacterMap {
 public:
  CharacterMap() = default;
  /// Chooses the subtable that reaches most characters. Glyphs from `glyph_count` on count as missing.
  /// A damaged table is an error; a face without one has no characters.
  static Result<CharacterMap> read(const TableView& cmap, std::uint32_t glyph_count);

  GlyphId find(char32_t character) const;
  /// Every mapped character, ascending.
  std::vector<std::pair<char32_t, GlyphId>> all() const;

 private:
  std::uint32_t find_in_segments(char32_t character) const;
  std::uint32_t find_in_groups(char32_t character) const;
  void add_segments(std::vector<std::pair<char32_t, GlyphId>>& out) const;
  void add_groups(std::vector<std::pair<char32_t, GlyphId>>& out) const;

  TableView table_;
  std::uint16_t format_ = 0;
  std::uint32_t count_ = 0;  ///< segments or groups; all of them lie inside the table
  std::uint32_t glyph_count_ = 0;
};

}  // namespace grafema::detail
