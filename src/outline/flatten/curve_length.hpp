// SPDX-License-Identifier: MIT
// The true length of a curve, where along it a length is reached, and on which side of it a place lies.
#pragma once

#include <vector>

#include "outline/union/pieces.hpp"

namespace grafema::detail {

/// The place at t, as Curve::at, from the closed forms.
inline Dot place(const Curve& c, double t) {
  const double s = 1 - t;
  const auto mix = [&](double a, double b, double d) {
    if (c.degree == 1) return s * a + t * b;
    return s * s * a + 2 * s * t * b + t * t * d;
  };
  if (c.degree < 3) return {mix(c.p[0].x, c.p[1].x, c.p[2].x), mix(c.p[0].y, c.p[1].y, c.p[2].y)};
  const double wa = s * s * s, wb = 3 * s * s * t, wc = 3 * s * t * t, wd = t * t * t;
  return {wa * c.p[0].x + wb * c.p[1].x + wc * c.p[2].x + wd * c.p[3].x,
          wa * c.p[0].y + wb * c.p[1].y + wc * c.p[2].y + wd * c.p[3].y};
}

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
  bool is_even = false;                 ///< three samples tell it to a millionth too
};

/// Appends the parts of a curve; `begin` is the length before it. Gives back the length behind it.
double measure_curve(const Curve& curve, std::uint32_t index, double begin, std::vector<LengthPart>& out);

/// The parameter of the curve at `distance` from where the part begins, 0 to its length.
double parameter_at(const Curve& curve, const LengthPart& part, double distance);

/// How often the curve goes up through the half line to the right of `from`, less how often it goes down.
int crossings_right_of(const Curve& curve, Dot from);

}  // namespace grafema::detail
