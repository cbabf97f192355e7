// SPDX-License-Identifier: MIT
// Angles by their power series; numbers from and to text without a locale.
#include "base/numbers.hpp"

#include <fmt/format.h>

#include <cstdlib>

namespace grafema::detail {

namespace {

constexpr double kRadiansPerDegree = 3.14159265358979323846 / 180;

double sine_series(double x) {  // |x| <= pi/4: ten terms leave less than 1e-18
  double term = x, sum = x;
  for (int n = 1; n <= 10; ++n) {
    term *= -x * x / ((2 * n) * (2 * n + 1));
    sum += term;
  }
  return sum;
}

double cosine_series(double x) {
  double term = 1, sum = 1;
  for (int n = 1; n <= 10; ++n) {
    term *= -x * x / ((2 * n - 1) * (2 * n));
    sum += term;
  }
  return sum;
}

bool looks_like_number(std::string_view text) {
  if (text.empty() || text.size() > 40) return false;
  return text.find_first_not_of("0123456789+-.eE") == std::string_view::npos;
}

}  // namespace

SineCosine sine_cosine(double degrees) {
  const double quarter = std::floor(degrees / 90 + 0.5);
  const double rest = (degrees - quarter * 90) * kRadiansPerDegree;
  const double s = sine_series(rest), c = cosine_series(rest);
  const double turn = quarter - 4 * std::floor(quarter / 4);
  if (turn < 0.5) return {s, c};
  if (turn < 1.5) return {c, -s};
  if (turn < 2.5) return {-s, -c};
  return {-c, s};
}

std::optional<double> find_number(std::string_view text) {
  if (!looks_like_number(text)) return std::nullopt;  // strtod would take "inf", "0x1p3" and leading spaces
  const std::string copy(text);
  char* end = nullptr;
  const double value = std::strtod(copy.c_str(), &end);
  if (end != copy.c_str() + copy.size() || !std::isfinite(value)) return std::nullopt;
  return value;
}

std::string shortest(float value) { return fmt::format("{}", value); }

}  // namespace grafema::detail
