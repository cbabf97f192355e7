// SPDX-License-Identifier: MIT
// GSUB, GPOS and GDEF of a subset: rules of glyphs that are gone fall away, what is left is renumbered.
#pragma once

#include <map>
#include <optional>
#include <vector>

#include "write/subset/layout/object_tree.hpp"
#include "write/subset/subset_plan.hpp"

namespace grafema::detail {

/// Whether the recipe keeps the feature.
bool keeps_feature(const SubsetRecipe& recipe, Tag feature);

/// The lookups of GSUB that kept features have, at any place of the axes that are left.
std::vector<std::uint16_t> substitution_lookups(const SubsetPlan& plan);

/// What a subset of a layout table reads and writes.
struct LayoutWork {
  const SubsetPlan& plan;
  ObjectTree tree = {};
  VariationRows* rows = nullptr;  ///< of GDEF, which value records and anchors refer to
  std::size_t spent = 0;          ///< glyphs and records looked at
  /// Glyphs of sets and classes that were looked up, by where they stand.
  std::map<const std::byte*, std::vector<std::pair<std::uint16_t, std::uint32_t>>> covered = {};
  std::map<const std::byte*, std::vector<std::uint16_t>> classes = {};

  static constexpr std::uint32_t kNone = ObjectTree::kNone;
  /// Real fonts stay far below; a hostile one may let one table stand for many.
  static constexpr std::size_t kMaxWork = 400'000'000;
  /// False when too much was done already.
  bool spend(std::size_t steps) { return (spent += steps) <= kMaxWork; }

  /// The kept glyphs of a set, new numbers ascending, each with its number in the set.
  const std::vector<std::pair<std::uint16_t, std::uint32_t>>& members(TableBytes coverage);
  /// The class of every kept glyph, by new number.
  const std::vector<std::uint16_t>& classes_of(TableBytes classes);
  std::uint32_t add_coverage(const std::vector<std::uint16_t>& glyphs);
  /// `values` by new number; kNone where all are 0 and `may_be_none`.
  std::uint32_t add_classes(const std::map<std::uint16_t, std::uint16_t>& values, bool may_be_none);
  /// The kept glyphs of a set as a set, an empty one where there are none.
  std::uint32_t copy_coverage(TableBytes coverage);
};

/// Actions of contexts: which lookups are alive, and their new numbers.
struct LookupNumbers {
  std::vector<std::int32_t> renumbered;  ///< -1: gone
  int to(std::size_t lookup) const {
    return lookup < renumbered.size() ? static_cast<int>(renumbered[lookup]) : -1;
  }
};

/// What became of one subtable: its object, kNone where no kept glyph is concerned; the lookups that its
/// rules call. Contexts are written with `numbers`, and without them only looked through.
struct NewSubtable {
  std::uint32_t object = ObjectTree::kNone;
  bool has_rules = false;                 ///< for contexts that were only looked through
  std::vector<std::uint16_t> calls = {};  ///< old numbers
};
NewSubtable subset_substitution(LayoutWork& work, std::uint16_t type, const TableView& table);
NewSubtable subset_positioning(LayoutWork& work, std::uint16_t type, const TableView& table);
NewSubtable subset_context(LayoutWork& work, bool chained, const TableView& table,
                           const LookupNumbers* numbers);

/// The device table at the offset that stands at `at` of `parent`, with its row renumbered; what pinned axes
/// add goes to `base`.
std::uint32_t copy_device(LayoutWork& work, const TableView& parent, std::size_t at, int& base);

/// GSUB or GPOS. Nothing where there is none; fails with `damaged` where it takes too much work, with
/// `unsupported` where what is left would not fit its offsets.
Result<std::optional<WrittenTable>> subset_layout(const SubsetPlan& plan, bool positions,
                                                  VariationRows& rows);
/// GDEF, after the layout tables, whose rows of deltas it holds.
Result<std::optional<WrittenTable>> subset_definitions(const SubsetPlan& plan, VariationRows& rows);

}  // namespace grafema::detail
