// SPDX-License-Identifier: MIT
// Kerning pairs of the `kern` table (OpenType, kern, format 0).
#pragma once

#include <vector>

#include "font/table.hpp"

namespace grafema::detail {

class KernTable {
 public:
  KernTable() = default;
  /// Damaged subtables are passed over; what is left of them is used.
  static KernTable read(const TableView& kern);

  bool empty() const { return subtables_.empty(); }
  /// Font units; 0 where there is no such pair.
  float find(std::uint32_t left, std::uint32_t right) const;

 private:
  struct Subtable {
    TableView pairs;         ///< six bytes a pair, nothing else
    std::size_t count = 0;
    bool sorted = false, overrides = false;
  };
  static void add_subtable(std::vector<Subtable>& list, const TableView& data, bool overrides);
  static std::int16_t find_in(const Subtable& subtable, std::uint32_t key, bool& found);

  std::vector<Subtable> subtables_;
};

}  // namespace grafema::detail
