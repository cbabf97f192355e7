// SPDX-License-Identifier: MIT
// How numbers of tables change along the axes (OpenType, "Common table formats", item variation store).
#pragma once

#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

/// Names a row of deltas.
struct VariationIndex {
  std::uint32_t outer = 0, inner = 0;
};
constexpr VariationIndex kNoVariation{0xFFFF, 0xFFFF};

/// Maps glyphs or other small numbers to rows of deltas. Without a table a number is the inner index of the
/// first group.
class IndexMap {
 public:
  IndexMap() = default;
  explicit IndexMap(const TableView& table);
  VariationIndex find(std::uint32_t index) const;

 private:
  TableView table_;
  std::size_t first_ = 0, count_ = 0, entry_bytes_ = 0;
  unsigned inner_bits_ = 16;
};

/// The deltas of a table, at one place of the axes.
class ItemVariations {
 public:
  ItemVariations() = default;
  /// `coordinates` are normalized; without any, all deltas are 0.
  static ItemVariations read(const TableView& store, const std::vector<float>& coordinates);

  bool empty() const { return weights_.empty(); }
  /// What is to be added; 0 for rows that there are not.
  float delta(VariationIndex index) const;
  /// How many regions a group blends and the weight of each (CFF2, "blend").
  std::size_t region_count(std::size_t group) const;
  float region_weight(std::size_t group, std::size_t region) const;

 private:
  TableView group(std::size_t i) const;

  TableView store_;
  std::vector<float> weights_;  ///< of every region
};

}  // namespace grafema::detail
