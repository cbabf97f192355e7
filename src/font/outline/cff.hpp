// SPDX-License-Identifier: MIT
// Outlines of CFF and CFF2 tables (Adobe Technical Note 5176; OpenType, CFF2).
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "font/outline/charstring.hpp"

namespace grafema::detail {

class CffOutlines {
 public:
  CffOutlines() = default;
  /// `coordinates` are normalized; CFF2 alone has any use for them. Fails where the table has no charstrings.
  static Result<CffOutlines> read(const TableView& table, bool version2,
                                  const std::vector<float>& coordinates);

  std::size_t glyph_count() const { return char_strings_.size(); }
  /// What the font matrix says; nothing where there is none. Faces whose `head` tells nothing take it from
  /// here.
  std::optional<double> units_per_em() const;

  /// Replaces the contents of `out`; lengths are in units of `units_per_em` to the em.
  Result<void> read_outline(std::uint32_t glyph, double units_per_em, Contours& out) const;
  /// The letter and the accent that an old glyph is put together from; empty for others.
  std::vector<std::uint32_t> accent_parts(std::uint32_t glyph) const;
  /// Empty for CID-keyed fonts and CFF2, whose glyphs have no names.
  std::string glyph_name(std::uint32_t glyph) const;

 private:
  using Matrix = std::array<double, 6>;
  struct FontDict {
    CffIndex local;
    std::size_t variation_group = 0;
    std::optional<Matrix> matrix;
  };
  void read_private(std::size_t offset, std::size_t size, FontDict& dict) const;
  FontDict read_font_dict(const TableView& dict) const;
  std::optional<Matrix> matrix_of(const FontDict& dict) const;
  Result<void> draw(std::uint32_t glyph, const FontDict& dict, Contours& out) const;

  TableView table_;
  bool version2_ = false, keyed_ = false;
  CffIndex char_strings_, global_, strings_;
  CffCharset charset_;
  FontSelect select_;
  std::optional<Matrix> matrix_;
  std::vector<FontDict> dicts_;
  ItemVariations variations_;
};

}  // namespace grafema::detail
