// SPDX-License-Identifier: MIT
// Copies of a mark at points of an outline.
#include <cmath>

#include "base/numbers.hpp"
#include "grafema/outline/stroke.hpp"

namespace grafema {

Result<void> place_marks(std::span<const OutlinePoint> points, const Contours& mark, const MarkStyle& style,
                         Contours& out) {
  if (!(style.scale > 0) || !std::isfinite(style.scale) || !std::isfinite(style.aside) ||
      !std::isfinite(style.turn)) {
    return bad_value("a scale above 0, a finite turn and place aside");
  }
  constexpr std::size_t kMaxPoints = std::size_t{1} << 26;
  if (mark.points.size() > 0 && points.size() > kMaxPoints / mark.points.size()) {
    return bad_value("fewer marks");
  }
  const detail::SineCosine turn = detail::sine_cosine(-double{style.turn});
  for (const OutlinePoint& p : points) {
    const double x = style.along ? p.tangent.x : 1, y = style.along ? p.tangent.y : 0;
    const double ax = (x * turn.cosine - y * turn.sine) * style.scale,
                 ay = (x * turn.sine + y * turn.cosine) * style.scale;
    const double dx = double{p.place.x} + double{p.normal.x} * style.aside,
                 dy = double{p.place.y} + double{p.normal.y} * style.aside;
    for (const FontPoint m : mark.points) {
      out.points.push_back(
          {static_cast<float>(dx + ax * m.x - ay * m.y), static_cast<float>(dy + ay * m.x + ax * m.y)});
    }
    out.commands.insert(out.commands.end(), mark.commands.begin(), mark.commands.end());
  }
  out.united = false;
  out.may_overlap = true;
  return {};
}

void add_circle(float radius, Contours& out) {
  const float r = radius, k = radius * 0.5522847F;  // 4/3 (sqrt(2) - 1): four cubic curves
  out.move_to({r, 0});
  out.curve_to({r, -k}, {k, -r}, {0, -r});
  out.curve_to({-k, -r}, {-r, -k}, {-r, 0});
  out.curve_to({-r, k}, {-k, r}, {0, r});
  out.curve_to({k, r}, {r, k}, {r, 0});
  out.close();
}

void add_arrow(float size, Contours& out) {
  const float s = size / 2;
  out.move_to({-s, -s});
  out.line_to({-s / 2, 0});
  out.line_to({-s, s});
  out.line_to({s, 0});
  out.close();
}

}  // namespace grafema
