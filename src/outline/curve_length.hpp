// SPDX-License-Identifier: MIT
// The true length of a curve, and where along it a length is reached.
#pragma once

#include <vector>

#include "outline/pieces.hpp"

namespace grafema::detail {

/// A part of a curve whose length five samples tell to a millionth.
struct LengthPart {
  double from = 0, to = 0;  ///< of the curve's parameter
  double begin = 0;         ///< length from the first curve's start
  double length = 0;
  std::uint32_t curve = 0;
};

/// Appends the parts of a curve; `begin` is the length before it. Gives back the length behind it.
double measure_curve(const Curve& curve, std::uint32_t index, double begin, std::vector<LengthPart>& out);

/// The parameter of the curve at `distance` from where the part begins, 0 to its length.
double parameter_at(const Curve& curve, const LengthPart& part, double distance);

}  // namespace grafema::detail
