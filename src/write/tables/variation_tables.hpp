// SPDX-License-Identifier: MIT
// The tables that make a face variable along its weight.
#pragma once

#include "write/font_plan.hpp"

namespace grafema::detail {

/// Names that fvar and STAT refer to, from number 256 on.
std::vector<std::string> variation_names(const FontDrawing& drawing);

/// fvar, avar, STAT, HVAR and gvar.
Result<std::vector<WrittenTable>> write_variations(const FontPlan& plan);

/// Runs of zeros, of bytes and of words (OpenType, "Packed deltas").
void pack_deltas(const std::vector<int>& deltas, TableWriter& out);

}  // namespace grafema::detail
