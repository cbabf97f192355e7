// SPDX-License-Identifier: MIT
// What a subset says of itself: names, OS/2, post, characters, whole-face metrics on pinned axes.
#pragma once

#include <map>
#include <string>

#include "write/subset/subset_plan.hpp"
#include "write/tables/glyph_tables.hpp"

namespace grafema::detail {

/// The family's name in the subset; empty where the old one stays. Where a license reserves the old name, one
/// is made, and noted, unless the recipe has one.
Result<std::string> new_family(const Face& face, const SubsetRecipe& recipe, Notes* notes);

/// What names become, by their ids, where the family or, by its pins, the style has another name; an empty
/// text takes the name away.
std::map<std::uint16_t, std::string> new_names(const SubsetPlan& plan);

WrittenTable subset_name(const SubsetPlan& plan);
WrittenTable subset_post(const SubsetPlan& plan);
/// Characters, and the variation sequences whose selectors are kept.
WrittenTable subset_cmap(const SubsetPlan& plan);
/// OS/2 with the ranges of the kept characters.
std::optional<WrittenTable> subset_os2(const SubsetPlan& plan);

/// Tables that hold whole-face metrics, as the pinned axes have them; MVAR for the axes that are left.
void pin_face_metrics(const SubsetPlan& plan, std::vector<WrittenTable>& tables);

/// fvar, avar and STAT for the axes that are left; cvar where none is pinned.
Result<std::vector<WrittenTable>> subset_axes(const SubsetPlan& plan);

/// BASE without glyphs, which it only names as a hint; its rows of deltas renumbered.
std::optional<WrittenTable> subset_baselines(const SubsetPlan& plan);

}  // namespace grafema::detail
