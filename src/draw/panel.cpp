// SPDX-License-Identifier: MIT
// Boxes with round corners and pointers.
#include "grafema/draw/panel.hpp"
#include "base/numbers.hpp"

#include <algorithm>
#include <cmath>

namespace grafema {
namespace {

/// A length rounded up to whole pixels about the middle of the side.
void round_up(float& low, float& high) {
  const float wide = std::max(high - low, 0.0F), middle = (low + high) / 2,
              whole = std::ceil(wide - 1.0F / 64);
  low = middle - whole / 2, high = middle + whole / 2;
}

/// CSS Backgrounds 3, section 5.5: where two radii overlap, all are made smaller alike.
void make_radii_fit(PanelShape& shape) {
  const auto& r = shape.radii;
  const float width = shape.box.width(), height = shape.box.height();
  float by = 1;
  const auto fit = [&by](float side, float a, float b) {
    if (a + b > side) by = std::min(by, side / (a + b));
  };
  fit(width, r[0], r[1]), fit(height, r[1], r[2]), fit(width, r[2], r[3]), fit(height, r[3], r[0]);
  for (float& radius : shape.radii) radius *= by;
}

/// The pointer leaves the side that the line from the middle to its tip crosses, between the corners.
void add_pointer(PanelShape& shape, const Panel& panel) {
  const Rect& box = shape.box;
  const PixelPoint to = *panel.points_to, middle{(box.left + box.right) / 2, (box.top + box.bottom) / 2};
  const bool is_inside = to.x >= box.left && to.x <= box.right && to.y >= box.top && to.y <= box.bottom;
  if (is_inside || box.empty() || panel.pointer_width <= 0) return;
  const float dx = to.x - middle.x, dy = to.y - middle.y;
  const bool is_side = std::abs(dx) * box.height() > std::abs(dy) * box.width();
  const float corner = *std::max_element(shape.radii.begin(), shape.radii.end());  // of any side
  // Along the side, and away from it.
  const float low = is_side ? box.top : box.left, high = is_side ? box.bottom : box.right;
  const float room = std::max(high - low - 2 * corner, 0.0F), half = std::min(panel.pointer_width, room) / 2;
  const float edge = is_side ? (dx > 0 ? box.right : box.left) : (dy > 0 ? box.bottom : box.top);
  const float away = is_side ? dx : dy, reach = is_side ? box.width() / 2 : box.height() / 2;
  const float crossing = (is_side ? middle.y : middle.x) + (is_side ? dy : dx) * reach / std::abs(away);
  const float at =
      std::clamp(crossing, low + corner + half, std::max(high - corner - half, low + corner + half));
  const auto point = [is_side](float along, float across) {
    return is_side ? PixelPoint{across, along} : PixelPoint{along, across};
  };
  PixelPoint tip = to;
  const PixelPoint base = point(at, edge);
  const float length = std::hypot(tip.x - base.x, tip.y - base.y);
  if (panel.pointer_length > 0 && length > panel.pointer_length) {
    const float by = panel.pointer_length / length;
    tip = {base.x + (tip.x - base.x) * by, base.y + (tip.y - base.y) * by};
  }
  if (half <= 0 || length <= 0) return;
  // It begins a way inside, so that no line lies where it leaves the box; so much wider that it is as wide
  // there.
  const float out = std::abs((is_side ? tip.x : tip.y) - edge);
  const float widest = std::max(room / 2 + corner, half),
              sink = std::min({reach * 0.6F, out, out * (widest / half - 1)});
  const float inner = edge - std::copysign(sink, away), wider = half * (out + sink) / std::max(out, 1e-3F);
  const float from = at - ((is_side ? tip.y : tip.x) - at) * sink / std::max(out, 1e-3F);
  shape.has_pointer = true;
  shape.pointer = {tip, point(from - wider, inner), point(from + wider, inner)};
}

float distance_to_segment(PixelPoint p, PixelPoint a, PixelPoint b) {
  const float dx = b.x - a.x, dy = b.y - a.y, squared = std::max(dx * dx + dy * dy, 1e-12F);
  const float t = std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / squared, 0.0F, 1.0F);
  return std::hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}

}  // namespace

Result<void> check_panel(const Panel& panel) {
  const PixelPoint to = panel.points_to.value_or(PixelPoint{});
  const Rect box = panel.box.value_or(Rect{});
  const std::array<float, 8> others = {
      to.x, to.y, box.left, box.top, box.right, box.bottom, panel.pointer_width, panel.pointer_length};
  const bool is_good =
      detail::all_finite(panel.padding) && detail::all_finite(panel.radii) && detail::all_finite(others) &&
      *std::min_element(panel.radii.begin(), panel.radii.end()) >= 0 && panel.pointer_width >= 0;
  if (is_good) return {};
  return bad_value("a panel of finite numbers, radii and pointer not below 0");
}

PanelShape panel_shape(const Panel& panel, const Rect& label) {
  PanelShape shape;
  shape.box = panel.box.value_or(label);
  shape.box = {shape.box.left - panel.padding[3], shape.box.top - panel.padding[0],
               shape.box.right + panel.padding[1], shape.box.bottom + panel.padding[2]};
  round_up(shape.box.left, shape.box.right), round_up(shape.box.top, shape.box.bottom);
  shape.radii = panel.radii;
  make_radii_fit(shape);
  if (panel.points_to) add_pointer(shape, panel);
  return shape;
}

float distance_to(const PanelShape& shape, PixelPoint p) {
  const Rect& box = shape.box;
  const float half_x = box.width() / 2, half_y = box.height() / 2, x = p.x - box.left - half_x,
              y = p.y - box.top - half_y;
  const float radius =
      y < 0 ? (x < 0 ? shape.radii[0] : shape.radii[1]) : (x < 0 ? shape.radii[3] : shape.radii[2]);
  const float qx = std::abs(x) - half_x + radius, qy = std::abs(y) - half_y + radius;
  const float out_x = std::max(qx, 0.0F), out_y = std::max(qy, 0.0F);
  const float inside = radius - std::sqrt(out_x * out_x + out_y * out_y) - std::min(std::max(qx, qy), 0.0F);
  if (!shape.has_pointer) return inside;
  const auto& t = shape.pointer;
  const auto side = [&](std::size_t a, std::size_t b) {
    return (t[b].x - t[a].x) * (p.y - t[a].y) - (t[b].y - t[a].y) * (p.x - t[a].x);
  };
  const float s0 = side(0, 1), s1 = side(1, 2), s2 = side(2, 0);
  const bool is_within = (s0 >= 0 && s1 >= 0 && s2 >= 0) || (s0 <= 0 && s1 <= 0 && s2 <= 0);
  const float edge = std::min({distance_to_segment(p, t[0], t[1]), distance_to_segment(p, t[1], t[2]),
                               distance_to_segment(p, t[2], t[0])});
  return std::max(inside, is_within ? edge : -edge);
}

}  // namespace grafema
