// SPDX-License-Identifier: MIT
// Reads item variation stores and index maps.
#include "font/variation/item_variations.hpp"

#include <algorithm>

#include "font/variation/axes.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kGroupHeader = 6;
constexpr std::uint16_t kLongWords = 0x8000;

}  // namespace

IndexMap::IndexMap(const TableView& table) : table_(table) {
  if (table.empty()) return;
  const std::uint16_t head = table.u16(0);
  const unsigned format = (head >> 8) & 0xFFU, entry = head & 0xFFU;
  entry_bytes_ = ((entry >> 4) & 3U) + 1;
  inner_bits_ = (entry & 15U) + 1;
  first_ = format == 0 ? 4 : 6;
  const std::size_t wanted = format == 0 ? table.u16(2) : table.u32(2);
  count_ = format > 1 || table.bytes.size() < first_
               ? 0
               : std::min(wanted, (table.bytes.size() - first_) / entry_bytes_);
}

VariationIndex IndexMap::find(std::uint32_t index) const {
  if (entry_bytes_ == 0) return {0, index};
  if (count_ == 0) return kNoVariation;
  const std::size_t at = first_ + std::min<std::size_t>(index, count_ - 1) *
                                      entry_bytes_;  // the last entry stands for all that follow
  std::uint32_t entry = 0;
  for (std::size_t i = 0; i < entry_bytes_; ++i) {
    entry = entry << 8 | static_cast<std::uint32_t>(table_.bytes[at + i]);
  }
  return {entry >> inner_bits_, entry & ((1U << inner_bits_) - 1)};
}

ItemVariations ItemVariations::read(const TableView& store, const std::vector<float>& coordinates) {
  ItemVariations made;
  if (store.u16(0) != 1 || store.u32(2) == 0) return made;
  made.store_ = store;  // how many regions a blend has is asked at the standard place too
  if (coordinates.empty()) return made;
  const TableView regions = store.from(store.u32(2));
  const std::size_t axis_count = regions.u16(0), count = regions.u16(2);
  if (axis_count != coordinates.size() || !regions.holds(4, count * axis_count * 6)) return made;
  for (std::size_t r = 0; r < count; ++r) {
    float weight = 1;
    for (std::size_t a = 0; a < axis_count && weight != 0; ++a) {
      const std::size_t at = 4 + (r * axis_count + a) * 6;
      weight *= axis_weight(f2dot14(regions, at), f2dot14(regions, at + 2), f2dot14(regions, at + 4),
                            coordinates[a]);
    }
    made.weights_.push_back(weight);
  }
  return made;
}

TableView ItemVariations::group(std::size_t i) const {
  if (i >= store_.u16(6)) return {store_.tag, {}};
  const std::uint32_t offset = store_.u32(8 + i * 4);
  return offset == 0 ? TableView{store_.tag, {}} : store_.from(offset);
}

std::size_t ItemVariations::region_count(std::size_t i) const { return group(i).u16(4); }

float ItemVariations::region_weight(std::size_t i, std::size_t region) const {
  const std::size_t index = group(i).u16(kGroupHeader + region * 2);
  return index < weights_.size() ? weights_[index] : 0.0F;
}

float ItemVariations::delta(VariationIndex index) const {
  if (weights_.empty()) return 0;
  const TableView data = group(index.outer);
  const std::size_t regions = data.u16(4), words = data.u16(2) & 0x7FFFU;
  const bool is_long = (data.u16(2) & kLongWords) != 0;
  if (index.inner >= data.u16(0) || words > regions) return 0;
  const std::size_t wide = is_long ? 4 : 2, narrow = is_long ? 2 : 1;
  const std::size_t row_bytes = words * wide + (regions - words) * narrow;
  const std::size_t row = kGroupHeader + regions * 2 + index.inner * row_bytes;
  if (!data.holds(row, row_bytes)) return 0;
  float sum = 0;
  std::size_t at = row;
  for (std::size_t r = 0; r < regions; ++r) {
    const std::size_t bytes = r < words ? wide : narrow, region = be16(data.bytes, kGroupHeader + r * 2);
    const float weight = region < weights_.size() ? weights_[region] : 0.0F;
    if (weight != 0) {
      const std::int32_t value = bytes == 4   ? static_cast<std::int32_t>(be32(data.bytes, at))
                                 : bytes == 2 ? std::int32_t{be16s(data.bytes, at)}
                                              : std::int32_t{static_cast<std::int8_t>(data.bytes[at])};
      sum += weight * static_cast<float>(value);
    }
    at += bytes;
  }
  return sum;
}

}  // namespace grafema::detail
