// SPDX-License-Identifier: MIT
// The parts of a CFF or CFF2 table that a subset copies.
#pragma once

#include <functional>
#include <vector>

#include "font/outline/cff_data.hpp"
#include "font/variation/item_variations.hpp"
#include "write/tables/cff_numbers.hpp"

namespace grafema::detail {

struct CffSource {
  /// A font dictionary and its private one.
  struct Font {
    TableView dict, private_dict;
    CffIndex local;
    std::size_t variation_group = 0;
  };

  TableView table, top;
  bool version2 = false, keyed = false;
  CffIndex names, strings, global, charstrings;
  CffCharset charset;
  FontSelect select;
  std::vector<Font> fonts;    ///< at least one
  TableView variation_store;  ///< its length first; empty where there is none
  std::size_t charset_at = 0;

  /// Fails where there are no charstrings or an index can't be read.
  static Result<CffSource> read(const TableView& table, bool version2);
  std::size_t font_of(std::uint32_t glyph) const { return std::min(select.find(glyph), fonts.size() - 1); }
};

/// An operator of a dictionary with the bytes and the values of its operands.
struct DictEntry {
  CffOperator op{};
  TableView operands;
  std::vector<double> values;
};
std::vector<DictEntry> read_entries(const TableView& dict);

/// Appends an operator, of one byte or two.
void write_operator(TableWriter& out, CffOperator op);
/// The least offsets that reach.
std::vector<std::byte> write_cff_index(const std::vector<std::vector<std::byte>>& items, bool version2);

}  // namespace grafema::detail
