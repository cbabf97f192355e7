// SPDX-License-Identifier: MIT
// GSUB or GPOS as it stands in the file: features, what axes change of them, lookups.
#pragma once

#include <map>
#include <vector>

#include "font/layout/layout_bytes.hpp"
#include "write/subset/pins.hpp"

namespace grafema::detail {

struct LayoutSource {
  struct Feature {
    Tag tag{};
    TableView table;  ///< FeatureParams, then lookups
  };
  struct Condition {
    std::uint16_t axis = 0;
    std::int16_t low = 0, high = 0;
    bool operator<(const Condition& o) const {
      return std::tie(axis, low, high) < std::tie(o.axis, o.low, o.high);
    }
  };
  /// Features that are replaced where all conditions hold.
  struct Variation {
    std::vector<Condition> conditions;
    std::map<std::uint16_t, TableView> features;
  };
  struct Lookup {
    std::uint16_t type = 0, flags = 0, mark_set = 0;
    std::vector<TableView> subtables;
  };

  TableView table, scripts, lookups;
  std::vector<Feature> features;
  std::vector<bool> required;         ///< of each feature: whether a language can't do without it
  std::vector<Variation> variations;  ///< as pins leave them

  LayoutSource() = default;
  LayoutSource(const TableView& layout, const Pins& pins);
  /// The lookup with its extensions resolved; `extension` is the type that stands for them.
  Lookup read_lookup(std::size_t index, std::uint16_t extension) const;
};

/// The lookups that a feature's table lists.
std::vector<std::uint16_t> lookups_of(const TableView& feature);

}  // namespace grafema::detail
