// SPDX-License-Identifier: MIT
// Pair kerning of GPOS (OpenType, GPOS, lookup types 2 and 9).
#pragma once

#include <vector>

#include "font/layout_common.hpp"

namespace grafema::detail {

class GposKerning {
 public:
  GposKerning() = default;
  static GposKerning read(const TableView& gpos);

  /// Whether any script has pair kerning.
  bool empty() const { return sets_.empty(); }
  /// What pairs of `script` add to the advance of `left`, in font units.
  float find(std::uint32_t left, std::uint32_t right, Tag script) const;

 private:
  /// A lookup's subtables of pair adjustment; the first that knows the pair decides.
  struct Lookup {
    std::vector<TableView> subtables;
  };
  struct Set {
    std::vector<std::uint16_t> indices;  ///< the lookups as the font numbers them
    std::vector<Lookup> lookups;
  };
  struct Script {
    Tag script;
    std::size_t set;
  };
  static Lookup read_lookup(const TableView& gpos, std::uint16_t index);
  void add_script(const TableView& gpos, Tag script);
  const Set* find_set(Tag script) const;

  std::vector<Script> scripts_;
  std::vector<Set> sets_;
};

}  // namespace grafema::detail
