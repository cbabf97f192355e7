// SPDX-License-Identifier: MIT
// Helpers of the layout tables: bytes as a table view, sub-tables by offset, device tables.
#pragma once

#include "font/container/table.hpp"
#include "font/variation/item_variations.hpp"
#include "grafema/font/layout_rules.hpp"

namespace grafema::detail {

inline TableView view(TableBytes bytes) { return {Tag{}, bytes}; }

/// The table that the 16-bit offset at `at` leads to; empty where the offset is 0.
inline TableBytes sub_table(const TableView& table, std::size_t at) {
  const std::uint16_t offset = table.u16(at);
  return offset == 0 ? TableBytes{} : table.from(offset).bytes;
}

/// The first index in [0, count) for which `is_below` is false.
template <class IsBelow>
std::size_t find_first(std::size_t count, IsBelow is_below) {
  std::size_t low = 0, high = count;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (is_below(middle)) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  return low;
}

/// What a Device table adds at `pixels_per_em`, in pixels, or a VariationIndex table at the face's place on
/// its axes, in font units.
struct DeviceDelta {
  float units = 0, pixels = 0;
};
DeviceDelta read_device(TableBytes device, const ItemVariations* variations, std::uint16_t pixels_per_em);

/// See PairAdjustments::order; null for matrices of classes.
std::shared_ptr<const std::vector<std::vector<std::uint16_t>>> find_pair_order(const TableView& table);

/// A value record: how many bytes one takes, and its numbers. Offsets in it count from `parent`.
std::size_t value_bytes(std::uint16_t format);
struct ValueContext {
  TableView parent;
  const ItemVariations* variations = nullptr;
  std::uint16_t pixels_per_em = 0;
  float units_per_pixel = 0;  ///< turns the pixels of Device tables into font units; 0 leaves them out
};
Adjustment read_value(const ValueContext& context, std::size_t at, std::uint16_t format);

}  // namespace grafema::detail
