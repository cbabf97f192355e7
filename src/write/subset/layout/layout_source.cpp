// SPDX-License-Identifier: MIT
// Reads features, feature variations and lookups (OpenType, "Common table formats").
#include "write/subset/layout/layout_source.hpp"

#include <algorithm>
#include <cmath>

#include "font/variation/axes.hpp"

namespace grafema::detail {
namespace {

// Far above what real fonts hold.
constexpr std::size_t kMaxFeatures = 4096, kMaxVariations = 1024, kMaxConditions = 64, kMaxSubtables = 4096,
                      kMaxScripts = 256, kMaxSystems = 2048;

/// Conditions on axes that are left; false where one on a pinned axis does not hold.
bool read_conditions(const TableView& set, const Pins& pins, std::vector<LayoutSource::Condition>& out) {
  for (std::size_t c = 0; c < std::min<std::size_t>(set.u16(0), kMaxConditions); ++c) {
    const TableView condition = set.from(set.u32(2 + c * 4));
    const std::size_t axis = condition.u16(2);
    if (condition.u16(0) != 1 || axis >= pins.axis_count()) return false;
    if (pins.holds(axis)) {
      if (pins.place(axis) < f2dot14(condition, 4) || pins.place(axis) > f2dot14(condition, 6)) return false;
      continue;
    }
    out.push_back({static_cast<std::uint16_t>(pins.renumbered(axis)), condition.s16(4), condition.s16(6)});
  }
  return true;
}

/// Marks the features that languages require.
void mark_required(const TableView& scripts, std::vector<bool>& features) {
  const auto mark = [&features](TableBytes system) {
    const std::size_t feature = system.empty() ? 0xFFFF : view(system).u16(2);
    if (feature < features.size()) features[feature] = true;
  };
  for (std::size_t i = 0;
       i < std::min<std::size_t>(scripts.u16(0), kMaxScripts) && scripts.holds(2 + i * 6, 6); ++i) {
    const TableView script = view(sub_table(scripts, 6 + i * 6));
    mark(sub_table(script, 0));
    for (std::size_t l = 0;
         l < std::min<std::size_t>(script.u16(2), kMaxSystems) && script.holds(4 + l * 6, 6); ++l) {
      mark(sub_table(script, 8 + l * 6));
    }
  }
}

}  // namespace

LayoutSource::LayoutSource(const TableView& layout, const Pins& pins) : table(layout) {
  if (layout.u16(0) != 1) return;
  scripts = view(sub_table(layout, 4)), lookups = view(sub_table(layout, 8));
  const TableView list = view(sub_table(layout, 6));
  for (std::size_t i = 0; i < std::min<std::size_t>(list.u16(0), kMaxFeatures) && list.holds(2 + i * 6, 6);
       ++i) {
    features.push_back({Tag{list.u32(2 + i * 6)}, view(sub_table(list, 2 + i * 6 + 4))});
  }
  required.assign(features.size(), false);
  mark_required(scripts, required);
  if (layout.u16(2) < 1 || layout.u32(10) == 0) return;
  const TableView records = layout.from(layout.u32(10));
  for (std::size_t i = 0; i < std::min<std::size_t>(records.u32(4), kMaxVariations); ++i) {
    const std::uint32_t set_at = records.u32(8 + i * 8), features_at = records.u32(12 + i * 8);
    Variation variation;
    if (!read_conditions(set_at == 0 ? TableView{} : records.from(set_at), pins, variation.conditions))
      continue;
    const TableView replaced = features_at == 0 ? TableView{} : records.from(features_at);
    for (std::size_t r = 0;
         r < std::min<std::size_t>(replaced.u16(4), kMaxFeatures) && replaced.holds(6 + r * 6, 6); ++r) {
      variation.features.emplace(replaced.u16(6 + r * 6), replaced.from(replaced.u32(8 + r * 6)));
    }
    const bool always = variation.conditions.empty();
    if (always && variations.empty()) {  // what would hold at every place is the rule
      for (const auto& [index, feature] : variation.features) {
        if (index < features.size()) features[index].table = feature;
      }
      return;
    }
    variations.push_back(std::move(variation));
    if (always) return;
  }
}

LayoutSource::Lookup LayoutSource::read_lookup(std::size_t index, std::uint16_t extension) const {
  Lookup lookup;
  if (index >= lookups.u16(0) || !lookups.holds(2 + index * 2, 2)) return lookup;
  const TableView own = view(sub_table(lookups, 2 + index * 2));
  lookup.type = own.u16(0), lookup.flags = own.u16(2);
  const std::size_t count = own.u16(4);
  if ((lookup.flags & 0x10) != 0) lookup.mark_set = own.u16(6 + count * 2);
  const bool extended = lookup.type == extension;
  for (std::size_t i = 0; i < std::min(count, kMaxSubtables) && own.holds(6 + i * 2, 2); ++i) {
    TableView subtable = view(sub_table(own, 6 + i * 2));
    if (extended) {
      if (subtable.u16(0) == 1) lookup.type = subtable.u16(2);
      subtable = subtable.u32(4) == 0 ? TableView{} : subtable.from(subtable.u32(4));
    }
    if (subtable.bytes.size() >= 2) lookup.subtables.push_back(subtable);
  }
  return lookup;
}

std::vector<std::uint16_t> lookups_of(const TableView& feature) {
  std::vector<std::uint16_t> out;
  for (std::size_t i = 0; i < feature.u16(2) && feature.holds(4 + i * 2, 2); ++i) {
    out.push_back(feature.u16(4 + i * 2));
  }
  return out;
}

}  // namespace grafema::detail
