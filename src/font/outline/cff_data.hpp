// SPDX-License-Identifier: MIT
// Indexes and dictionaries, which CFF and CFF2 are built from (Technical Note 5176; OpenType, CFF2).
#pragma once

#include <array>
#include <functional>
#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

/// A list of byte strings.
class CffIndex {
 public:
  CffIndex() = default;
  /// Reads the index at `at`; CFF2 counts with 32 bits. Fails where its offsets leave the table.
  static Result<CffIndex> read(const TableView& table, std::size_t at, bool version2);

  std::size_t size() const { return count_; }
  /// Empty where there is no such string or its offsets are wrong.
  TableView get(std::size_t i) const;
  /// Where what follows the index begins.
  std::size_t end() const { return end_; }

 private:
  std::size_t offset(std::size_t i) const;

  TableView table_;
  std::size_t count_ = 0, offset_bytes_ = 1, offsets_at_ = 0, data_at_ = 0, end_ = 0;
};

/// Operators; those behind the escape byte 12 have 0x0C00 added.
enum class CffOperator : std::uint16_t {
  charset = 15,
  char_strings = 17,
  private_dict = 18,
  local_subroutines = 19,
  variation_group = 22,
  blend = 23,
  variation_store = 24,
  font_matrix = 0x0C07,
  registry = 0x0C1E,
  font_dicts = 0x0C24,
  font_select = 0x0C25,
};

/// Calls `visit` with every operator of a dictionary and the numbers before it.
void visit_dict(const TableView& dict,
                const std::function<void(CffOperator, std::span<const double>)>& visit);

/// An offset or count that a dictionary states; 0 where it is not a whole number that a file can hold.
std::size_t to_offset(double value);

/// Which font dictionary each glyph of a CID-keyed or CFF2 font uses.
class FontSelect {
 public:
  FontSelect() = default;
  explicit FontSelect(const TableView& table) : table_(table) {}
  std::size_t find(std::uint32_t glyph) const;

 private:
  TableView table_;
};

/// The names or CIDs of the glyphs.
class CffCharset {
 public:
  CffCharset() = default;
  /// `offset` 0 to 2 are the predefined ones.
  CffCharset(const TableView& table, std::size_t offset, std::uint32_t glyph_count);

  std::uint16_t name_of(std::uint32_t glyph) const {
    return glyph < ids_.size() ? ids_[glyph] : std::uint16_t{0};
  }
  /// The glyph of a standard string, as accents of `endchar` ask for; 0 where there is none.
  std::uint32_t find(std::uint16_t id) const;

 private:
  std::vector<std::uint16_t> ids_;
};

/// The string id of a code in Adobe's standard encoding; 0 where the code stands for nothing.
std::uint16_t standard_encoding(unsigned code);

}  // namespace grafema::detail
