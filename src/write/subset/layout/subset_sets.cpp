// SPDX-License-Identifier: MIT
// Sets and classes of glyphs as a subset has them (OpenType, Coverage and ClassDef).
#include <algorithm>

#include "write/subset/layout/subset_layout.hpp"
#include "write/tables/rule_tables.hpp"

namespace grafema::detail {

const std::vector<std::pair<std::uint16_t, std::uint32_t>>& LayoutWork::members(TableBytes coverage) {
  static const std::vector<std::pair<std::uint16_t, std::uint32_t>> none;
  if (coverage.empty()) return none;
  const auto [it, is_new] = covered.try_emplace(coverage.data());
  if (!is_new || !spend(plan.kept.size())) return it->second;
  const GlyphSet set(coverage);
  for (std::size_t i = 0; i < plan.kept.size(); ++i) {
    if (const auto number = set.find(GlyphId{plan.kept[i]})) {
      it->second.emplace_back(static_cast<std::uint16_t>(i), *number);
    }
  }
  return it->second;
}

const std::vector<std::uint16_t>& LayoutWork::classes_of(TableBytes bytes) {
  const auto [it, is_new] = classes.try_emplace(bytes.empty() ? nullptr : bytes.data());
  if (!is_new) return it->second;
  it->second.assign(plan.kept.size(), 0);
  if (bytes.empty() || !spend(plan.kept.size())) return it->second;
  const GlyphClasses set(bytes);
  for (std::size_t i = 0; i < plan.kept.size(); ++i) it->second[i] = set.class_of(GlyphId{plan.kept[i]});
  return it->second;
}

std::uint32_t LayoutWork::add_coverage(const std::vector<std::uint16_t>& glyphs) {
  return tree.add(write_coverage(glyphs));
}

std::uint32_t LayoutWork::add_classes(const std::map<std::uint16_t, std::uint16_t>& values,
                                      bool may_be_none) {
  const bool none =
      std::all_of(values.begin(), values.end(), [](const auto& value) { return value.second == 0; });
  return none && may_be_none ? kNone : tree.add(write_classes(values));
}

std::uint32_t LayoutWork::copy_coverage(TableBytes coverage) {
  std::vector<std::uint16_t> glyphs;
  for (const auto& [glyph, number] : members(coverage)) glyphs.push_back(glyph);
  return add_coverage(glyphs);
}

}  // namespace grafema::detail
