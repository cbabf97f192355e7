// SPDX-License-Identifier: MIT
// Outlines as font files hold them: quadratic curves, whole numbers, no point more than needed.
#pragma once

#include <vector>

#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// Replaces cubic curves with quadratic ones that stay within `tolerance` of them. Outlines with the same
/// commands still have the same ones afterwards.
void make_quadratic(std::vector<Contours>& outlines, double tolerance);

/// Rounds to whole numbers and leaves out what that makes needless: repeated points, points within straight
/// lines, and ends of curves that stand in the middle between their control points as good as exactly.
void round_outline(Contours& contours);

/// Turns contours so that the non-zero rule fills what the even-odd rule does: those within an odd number of
/// others against the rest. False, and they are as they were, where any two cross.
bool make_nonzero(Contours& contours);

}  // namespace grafema::detail
