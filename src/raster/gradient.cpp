// SPDX-License-Identifier: MIT
// Where a point lies on a gradient, and the color there.
#include "raster/gradient.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

/// Degrees counter-clockwise from the right, 0..360, to 1e-4. libm's own differs from machine to machine in
/// its last bit.
float degrees_of(float x, float y) {
  const float ax = std::abs(x), ay = std::abs(y);
  if (ax == 0 && ay == 0) return 0;
  const float r = std::min(ax, ay) / std::max(ax, ay), q = r * r;
  // Hastings' polynomial for the arc tangent on 0..1.
  float angle =
      r * (0.99997726F + q * (-0.33262347F +
                              q * (0.19354346F + q * (-0.11643287F + q * (0.05265332F + q * -0.01172120F)))));
  constexpr float kHalfTurn = 3.14159265F;
  if (ay > ax) angle = kHalfTurn / 2 - angle;
  if (x < 0) angle = kHalfTurn - angle;
  if (y < 0) angle = 2 * kHalfTurn - angle;
  return angle * (180 / kHalfTurn);
}

/// Where between 0 and 1 a position lies that the gradient's extension has folded.
float folded(float t, GradientExtend extend) {
  if (extend == GradientExtend::repeat) return t - std::floor(t);
  if (extend == GradientExtend::reflect) {
    const float half = t / 2, part = (half - std::floor(half)) * 2;
    return part <= 1 ? part : 2 - part;
  }
  return t;
}

}  // namespace

Gradient::Gradient(const Paint& paint, std::vector<Stop> stops) : paint_(paint), stops_(std::move(stops)) {
  empty_ = stops_.empty();
  if (paint.kind != PaintKind::linear_gradient) return;
  // The third point turns the lines of one color: they run along the line from the first to it.
  const FontPoint &p0 = paint.points[0], &p1 = paint.points[1], &p2 = paint.points[2];
  const float dx = p1.x - p0.x, dy = p1.y - p0.y, rx = p2.x - p0.x, ry = p2.y - p0.y;
  const float across = dx * ry - dy * rx;
  if (across == 0) {  // the points stand in one line: nothing is painted
    empty_ = true;
    return;
  }
  axis_ = {ry / across, -rx / across};
}

Tone Gradient::at(FontPoint p) const {
  if (empty_) return {};
  const std::optional<float> t = position(p);
  if (!t || !std::isfinite(*t)) return {};
  return color_at(*t);
}

std::optional<float> Gradient::position(FontPoint p) const {
  const FontPoint d{p.x - paint_.points[0].x, p.y - paint_.points[0].y};
  if (paint_.kind == PaintKind::linear_gradient) return d.x * axis_.x + d.y * axis_.y;
  if (paint_.kind == PaintKind::radial_gradient) return radial_position(d);
  const float from = paint_.angles[0], to = paint_.angles[1], angle = degrees_of(d.x, d.y);
  if (from == to) {
    return paint_.extend == GradientExtend::pad ? std::optional(angle < from ? 0.0F : 1.0F) : std::nullopt;
  }
  return (angle - from) / (to - from);
}

/// The largest t whose circle, between the two given ones and beyond, goes through the point and has a
/// radius.
std::optional<float> Gradient::radial_position(FontPoint p) const {
  const double cx = double{paint_.points[1].x} - paint_.points[0].x,
               cy = double{paint_.points[1].y} - paint_.points[0].y;
  const double r0 = paint_.radii[0], dr = double{paint_.radii[1]} - r0;
  const double a = cx * cx + cy * cy - dr * dr, b = p.x * cx + p.y * cy + r0 * dr,
               c = double{p.x} * p.x + double{p.y} * p.y - r0 * r0;
  const auto has_radius = [&](double t) { return r0 + t * dr >= 0; };
  if (std::abs(a) < 1e-9) {
    if (b == 0) return std::nullopt;
    const double t = c / (2 * b);
    return has_radius(t) ? std::optional(static_cast<float>(t)) : std::nullopt;
  }
  const double inside = b * b - a * c;
  if (inside < 0) return std::nullopt;
  const double root = std::sqrt(inside), t0 = (b + root) / a, t1 = (b - root) / a;
  const double high = std::max(t0, t1), low = std::min(t0, t1);
  if (has_radius(high)) return static_cast<float>(high);
  if (has_radius(low)) return static_cast<float>(low);
  return std::nullopt;
}

Tone Gradient::color_at(float t) const {
  const float first = stops_.front().offset, last = stops_.back().offset, length = last - first;
  if (length > 0 && paint_.extend != GradientExtend::pad) {
    t = first + folded((t - first) / length, paint_.extend) * length;
  }
  if (t <= first) return stops_.front().color;
  if (t >= last) return stops_.back().color;
  const auto above =
      std::upper_bound(stops_.begin(), stops_.end(), t, [](float v, const Stop& s) { return v < s.offset; });
  const Stop &b = *above, &a = *(above - 1);
  const float f = b.offset > a.offset ? (t - a.offset) / (b.offset - a.offset) : 1;
  return a.color * (1 - f) + b.color * f;
}

}  // namespace grafema::detail
