// SPDX-License-Identifier: MIT
// What GSUB and GPOS share: coverage, glyph classes, script and feature lists (OpenType, chapter 2).
#pragma once

#include <optional>
#include <vector>

#include "font/table.hpp"

namespace grafema::detail {

/// The glyph's place in a Coverage table.
std::optional<std::uint32_t> find_coverage(const TableView& coverage, std::uint32_t glyph);

/// The glyph's class in a ClassDef table; 0 where it has none.
std::uint16_t find_class(const TableView& classes, std::uint32_t glyph);

/// The tags of all scripts of a GSUB or GPOS table, and of all features.
std::vector<Tag> script_tags(const TableView& table);
std::vector<Tag> feature_tags(const TableView& table);

/// The lookups of `feature` in the default language of `script`, ascending. Falls back on the script DFLT; text that
/// belongs to no script (`script` is DFLT) also on Latin. Empty where the table has none.
std::vector<std::uint16_t> find_lookups(const TableView& table, Tag script, Tag feature);

}  // namespace grafema::detail
