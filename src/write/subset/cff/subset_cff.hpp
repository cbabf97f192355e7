// SPDX-License-Identifier: MIT
// CFF and CFF2 of a subset: kept charstrings, the subroutines that they call, names that are used.
#pragma once

#include "write/subset/subset_plan.hpp"

namespace grafema::detail {

/// `CFF ` or CFF2, whichever the face has. Fails with `damaged` where its dictionaries can't be read.
Result<WrittenTable> subset_cff(const SubsetPlan& plan);

}  // namespace grafema::detail
