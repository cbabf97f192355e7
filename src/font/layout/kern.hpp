// SPDX-License-Identifier: MIT
// Kerning of the `kern` table: pair lists and class arrays, with both kinds of header.
#pragma once

#include <utility>
#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

class KernTable {
 public:
  KernTable() = default;
  /// Damaged subtables are passed over; what is left of them is used.
  static KernTable read(const TableView& kern);

  bool empty() const { return subtables_.empty(); }
  /// Whether the table kerns in any way, also by contextual subtables, which hold no pairs and are not read.
  bool stated() const { return !subtables_.empty() || contextual_; }
  /// Font units; 0 where there is no such pair.
  float find(std::uint32_t left, std::uint32_t right) const;
  /// Marks the glyphs that may be the left one of a pair that is not 0.
  void mark_lefts(std::vector<bool>& glyphs) const;

 private:
  struct Subtable {
    TableView data;          ///< the whole subtable, its header included: offsets of classes count from there
    std::size_t header = 0;  ///< bytes of that header
    bool classes = false;    ///< format 2
    bool overrides = false;
    std::size_t count = 0;  ///< pairs of format 0
    std::vector<std::pair<std::uint32_t, std::int16_t>>
        sorted;  ///< the pairs, where the font has them in no order
  };
  static bool read_pairs(Subtable& subtable);
  static std::int16_t find_pair(const Subtable& subtable, std::uint32_t key, bool& found);
  static std::int16_t find_class(const Subtable& subtable, std::uint32_t left, std::uint32_t right);
  void add(const TableView& data, std::size_t header, unsigned format, bool overrides);

  std::vector<Subtable> subtables_;
  bool contextual_ = false;
};

}  // namespace grafema::detail
