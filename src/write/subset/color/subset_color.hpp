// SPDX-License-Identifier: MIT
// Color glyphs of a subset: layers, paint graphs, embedded pictures.
#pragma once

#include <functional>
#include <optional>

#include "write/subset/subset_plan.hpp"

namespace grafema::detail {

/// COLR with both versions' lists; nothing where no kept glyph has colors.
Result<std::optional<WrittenTable>> subset_colors(const SubsetPlan& plan);

/// Calls `add` with the glyph whose picture `glyph` shows in the place of its own (sbix, `dupe`).
void visit_picture_parts(const Face& face, std::uint32_t glyph,
                         const std::function<void(std::uint32_t)>& add);
std::optional<WrittenTable> subset_sbix(const SubsetPlan& plan);
/// CBLC and CBDT or EBLC and EBDT, by the names of both.
std::vector<WrittenTable> subset_bitmaps(const SubsetPlan& plan, const char* places, const char* pictures);

}  // namespace grafema::detail
