// SPDX-License-Identifier: MIT
// The `kern` table of a subset.
#pragma once

#include <optional>

#include "write/subset/subset_plan.hpp"

namespace grafema::detail {

/// Nothing where no pair is left. Subtables that only other programs read are left out.
std::optional<WrittenTable> subset_kerning(const SubsetPlan& plan);

}  // namespace grafema::detail
