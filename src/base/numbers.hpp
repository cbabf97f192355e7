// SPDX-License-Identifier: MIT
// Roots, powers and angles from plain arithmetic: the same bits on every machine, whatever its libm.
#pragma once

#include <charconv>
#include <cmath>
#include <initializer_list>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema::detail {

/// The `n`-th root of `x` in [0, 1] by Newton's method.
constexpr double root(double x, int n) {
  if (x <= 0) return 0;
  double y = 1;
  for (int step = 0; step < 64; ++step) {
    double power = 1;
    for (int i = 1; i < n; ++i) power *= y;
    const double next = ((n - 1) * y + x / power) / n;
    if (next >= y) break;  // from above it falls until it can fall no more
    y = next;
  }
  return y;
}

/// Returns true if none of the numbers is infinite or not a number.
inline bool all_finite(std::span<const float> numbers) {
  for (const float v : numbers) {
    if (!std::isfinite(v)) return false;
  }
  return true;
}
inline bool all_finite(std::initializer_list<float> numbers) {
  return all_finite(std::span(numbers.begin(), numbers.size()));
}

struct SineCosine {
  double sine, cosine;
};

/// Sine and cosine of an angle in degrees, to about 1e-15; exact at multiples of 90.
GRAFEMA_API SineCosine sine_cosine(double degrees);

/// A whole text as a finite decimal number; nothing where it is anything else.
GRAFEMA_API std::optional<double> find_number(std::string_view text);

/// The shortest decimal text that reads back to the same float.
GRAFEMA_API std::string shortest(float value);

}  // namespace grafema::detail
