// SPDX-License-Identifier: MIT
// Outlines of faces that have pictures of pixels alone: the edges of the pixels.
#pragma once

#include <span>

#include "font/container/sfnt.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// The sizes of the pictures, ascending.
std::vector<std::uint16_t> read_strike_sizes(const Directory& directory);

/// The size whose pixels are crisp at `pixels_per_em`: the largest of which that is a whole multiple, else
/// the nearest above, else the largest. 0 stands for the largest. `sizes` ascend and are at least one.
std::uint16_t choose_strike(std::span<const std::uint16_t> sizes, float pixels_per_em);

/// Replaces `out` with the edges of the glyph's pixels, in font units. Empty where the strike has no picture
/// of the glyph. Gray pixels are ink from half on. Fails with `damaged` where the picture ends too early.
Result<void> read_strike_outline(const Directory& directory, std::uint32_t glyph, std::uint16_t strike,
                                 float units_per_em, Contours& out);

}  // namespace grafema::detail
