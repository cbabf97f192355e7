// SPDX-License-Identifier: MIT
// Skeletons as curves: which run on from which, and which contours are open.
#pragma once

#include <vector>

#include "outline/union/pieces.hpp"

namespace grafema::detail {

/// A contour of a skeleton.
struct Strand {
  std::vector<Curve> curves;
  Dot start;
  bool closed = false;
};

/// The contours of a skeleton; those that closepath does not end are open.
std::vector<Strand> list_strands(const Contours& skeleton);

/// Whether the curve has a length.
bool moves(const Curve& curve);

}  // namespace grafema::detail
