// SPDX-License-Identifier: MIT
// Gauss and Legendre's quadrature, on halves where it is not good enough.
#include "outline/flatten/curve_length.hpp"

#include <array>
#include <cmath>

namespace grafema::detail {
namespace {

constexpr int kDeepest = 12;
constexpr double kAgree = 1e-5;
constexpr double kEven = 1e-6;

double speed(const Curve& curve, double t) {
  const Dot d = velocity(curve, t);
  return std::sqrt(d.x * d.x + d.y * d.y);
}

double length_between(const Curve& curve, double from, double to) {
  constexpr std::array<double, 5> kAt = {0, -0.5384693101056831, 0.5384693101056831, -0.9061798459386640,
                                         0.9061798459386640};
  constexpr std::array<double, 5> kWeight = {0.5688888888888889, 0.4786286704993665, 0.4786286704993665,
                                             0.2369268850561891, 0.2369268850561891};
  const double middle = (from + to) / 2, half = (to - from) / 2;
  double sum = 0;
  for (std::size_t i = 0; i < kAt.size(); ++i) sum += kWeight[i] * speed(curve, middle + half * kAt[i]);
  return sum * half;
}

/// The same by three samples: where both agree to a hundred thousandth, five are as good as exact.
double roughly_between(const Curve& curve, double from, double to) {
  constexpr double kAside = 0.7745966692414834;
  const double middle = (from + to) / 2, half = (to - from) / 2;
  return half / 9 *
         (8 * speed(curve, middle) +
          5 * (speed(curve, middle - half * kAside) + speed(curve, middle + half * kAside)));
}

double measure(const Curve& curve, LengthPart part, int depth, std::vector<LengthPart>& out) {
  part.length = length_between(curve, part.from, part.to);
  const double rough = roughly_between(curve, part.from, part.to);
  const double off = std::abs(rough - part.length);
  if (off <= kAgree * part.length || depth == kDeepest) {
    part.is_even = off <= kEven * part.length;
    part.speed_from = speed(curve, part.from), part.speed_to = speed(curve, part.to);
    out.push_back(part);
    return part.begin + part.length;
  }
  LengthPart first = part, second = part;
  first.to = second.from = (part.from + part.to) / 2;
  second.begin = measure(curve, first, depth + 1, out);
  return measure(curve, second, depth + 1, out);
}

}  // namespace

double measure_curve(const Curve& curve, std::uint32_t index, double begin, std::vector<LengthPart>& out) {
  if (curve.degree == 1) {
    const double x = curve.end().x - curve.start().x, y = curve.end().y - curve.start().y;
    out.push_back({0, 1, begin, std::sqrt(x * x + y * y), index, 0, 0, true});
    return begin + out.back().length;
  }
  return measure(curve, {0, 1, begin, 0, index, 0, 0, false}, 0, out);
}

/// Newton's steps, kept within the bounds that are known.
double parameter_at(const Curve& curve, const LengthPart& part, double distance) {
  if (!(part.length > 0)) return part.from;
  const double share = distance / part.length, span = part.to - part.from;
  double low = part.from, high = part.to, t = part.from + span * share;
  if (curve.degree == 1) return t;
  // From the slopes at both ends a first guess that is good to a thousandth: t as a cubic function of the
  // length.
  if (part.speed_from > 0 && part.speed_to > 0) {
    const double a = part.length / (span * part.speed_from), b = part.length / (span * part.speed_to),
                 s = share;
    const double guess = a * s + (3 - 2 * a - b) * s * s + (a + b - 2) * s * s * s;
    if (guess > 0 && guess < 1) t = part.from + span * guess;
  }
  for (int i = 0; i < 20; ++i) {
    const double length =
        part.is_even ? roughly_between(curve, part.from, t) : length_between(curve, part.from, t);
    const double off = length - distance;
    if (std::abs(off) <= 1e-6 * part.length) break;
    (off > 0 ? high : low) = t;
    const double v = speed(curve, t), next = v > 0 ? t - off / v : low;
    const bool is_within = next > low && next < high;
    t = is_within ? next : (low + high) / 2;
    // A step squares what is left: from a thousandth on the next need not be looked at.
    if (is_within && std::abs(off) <= 1e-3 * part.length) break;
  }
  return t;
}

namespace {

int crossings(const Curve& curve, Dot from, int depth) {
  constexpr int kDeepestCut = 30;
  bool all_left = true, all_right = true, all_below = true, all_above = true;
  for (std::size_t k = 0; k <= static_cast<std::size_t>(curve.degree); ++k) {
    const Dot p = curve.p[k];
    all_left = all_left && p.x < from.x, all_right = all_right && p.x >= from.x;
    all_below = all_below && p.y <= from.y, all_above = all_above && p.y > from.y;
  }
  if (all_left || all_below || all_above) return 0;
  const Dot a = curve.start(), b = curve.end();
  const int up = (b.y > from.y ? 1 : 0) - (a.y > from.y ? 1 : 0);
  if (all_right) return up;
  if (curve.degree == 1 || depth == kDeepestCut) {
    const double side = (b.x - a.x) * (from.y - a.y) - (from.x - a.x) * (b.y - a.y);
    return side * up > 0 ? up : 0;
  }
  return crossings(curve.part(0, 0.5), from, depth + 1) + crossings(curve.part(0.5, 1), from, depth + 1);
}

}  // namespace

int crossings_right_of(const Curve& curve, Dot from) { return crossings(curve, from, 0); }

}  // namespace grafema::detail
