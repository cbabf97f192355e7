// SPDX-License-Identifier: MIT
// Bounds and areas of outlines.
#include "grafema/outline/contours.hpp"

#include <algorithm>
#include <cmath>

namespace grafema {
namespace {

struct Extent {
  double low = INFINITY, high = -INFINITY;
  void add(double v) {
    low = std::min(low, v);
    high = std::max(high, v);
  }
};

/// Adds the turning point of one coordinate of a quadratic curve.
void add_quad(Extent& extent, double a, double b, double c) {
  extent.add(c);
  const double bend = a - 2 * b + c;
  if (bend == 0) return;
  const double t = (a - b) / bend;
  if (t > 0 && t < 1) extent.add((1 - t) * (1 - t) * a + 2 * t * (1 - t) * b + t * t * c);
}

double cubic_at(double a, double b, double c, double d, double t) {
  const double s = 1 - t;
  return s * s * s * a + 3 * s * s * t * b + 3 * s * t * t * c + t * t * t * d;
}

void add_cubic(Extent& extent, double a, double b, double c, double d) {
  extent.add(d);
  // The derivative is 3 (q2 t^2 + q1 t + q0); its roots in (0, 1) are the turning points.
  const double q2 = -a + 3 * b - 3 * c + d, q1 = 2 * (a - 2 * b + c), q0 = b - a;
  const auto add_root = [&](double t) {
    if (t > 0 && t < 1) extent.add(cubic_at(a, b, c, d, t));
  };
  if (std::abs(q2) < 1e-12) {
    if (q1 != 0) add_root(-q0 / q1);
    return;
  }
  const double discriminant = q1 * q1 - 4 * q2 * q0;
  if (discriminant < 0) return;
  const double r = std::sqrt(discriminant);
  add_root((-q1 + r) / (2 * q2));
  add_root((-q1 - r) / (2 * q2));
}

}  // namespace

FontRect bounds(const Contours& contours) {
  Extent x, y;
  std::size_t at = 0;
  FontPoint pen;
  for (const PathCommand command : contours.commands) {
    const FontPoint* p = contours.points.data() + at;
    switch (command) {
      case PathCommand::moveto:
      case PathCommand::lineto:
        x.add(p[0].x), y.add(p[0].y);
        at += 1, pen = p[0];
        break;
      case PathCommand::quadratic_curveto:
        add_quad(x, pen.x, p[0].x, p[1].x), add_quad(y, pen.y, p[0].y, p[1].y);
        at += 2, pen = p[1];
        break;
      case PathCommand::curveto:
        add_cubic(x, pen.x, p[0].x, p[1].x, p[2].x), add_cubic(y, pen.y, p[0].y, p[1].y, p[2].y);
        at += 3, pen = p[2];
        break;
      case PathCommand::closepath:
        break;
    }
  }
  if (!(x.high >= x.low)) return {};
  return {static_cast<float>(x.low), static_cast<float>(y.low), static_cast<float>(x.high),
          static_cast<float>(y.high)};
}

double signed_area(std::span<const Segment> segments) {
  double twice = 0;
  for (const Segment& s : segments) twice += s.x0 * s.y1 - s.x1 * s.y0;
  return twice / 2;
}

}  // namespace grafema
