// SPDX-License-Identifier: MIT
// The true length of a curve, and where along it a length is reached.
#pragma once

#include <vector>

#include "outline/pieces.hpp"

namespace grafema::detail {

/// The derivative by t, as Curve::slope, from the closed forms.
inline Dot velocity(const Curve& c, double t) {
  const double s = 1 - t;
  const auto difference = [&c](std::size_t i) {
    return Dot{c.p[i + 1].x - c.p[i].x, c.p[i + 1].y - c.p[i].y};
  };
  const Dot a = difference(0);
  if (c.degree == 1) return a;
  const Dot b = difference(1);
  if (c.degree == 2) return {2 * (s * a.x + t * b.x), 2 * (s * a.y + t * b.y)};
  const Dot d = difference(2);
  return {3 * (s * s * a.x + 2 * s * t * b.x + t * t * d.x),
          3 * (s * s * a.y + 2 * s * t * b.y + t * t * d.y)};
}

/// The second derivative by t.
inline Dot acceleration(const Curve& c, double t) {
  const auto bend = [&c](std::size_t i) {
    return Dot{c.p[i].x - 2 * c.p[i + 1].x + c.p[i + 2].x, c.p[i].y - 2 * c.p[i + 1].y + c.p[i + 2].y};
  };
  if (c.degree == 1) return {0, 0};
  const Dot a = bend(0);
  if (c.degree == 2) return {2 * a.x, 2 * a.y};
  const Dot b = bend(1);
  return {6 * ((1 - t) * a.x + t * b.x), 6 * ((1 - t) * a.y + t * b.y)};
}

/// A part of a curve whose length five samples tell to a millionth.
struct LengthPart {
  double from = 0, to = 0;  ///< of the curve's parameter
  double begin = 0;         ///< length from the first curve's start
  double length = 0;
  std::uint32_t curve = 0;
  double speed_from = 0, speed_to = 0;  ///< lengths of the slope at its ends; 0 for lines
};

/// Appends the parts of a curve; `begin` is the length before it. Gives back the length behind it.
double measure_curve(const Curve& curve, std::uint32_t index, double begin, std::vector<LengthPart>& out);

/// The parameter of the curve at `distance` from where the part begins, 0 to its length.
double parameter_at(const Curve& curve, const LengthPart& part, double distance);

}  // namespace grafema::detail
