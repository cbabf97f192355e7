// SPDX-License-Identifier: MIT
// Makes triangles as round as their points allow.
#pragma once

#include <vector>

#include "outline/union/sweep.hpp"

namespace grafema::detail {

/// Turns shared edges until no point lies within the circle around a neighboring triangle (Lawson 1977), or
/// many were turned: the border stays, and so does what the triangles cover.
void flip_edges(const std::vector<GridPoint>& points, std::vector<Sweep::Triangle>& triangles);

}  // namespace grafema::detail
