// SPDX-License-Identifier: MIT
// Unites overlapping contours by a sweep over slabs.
#include "outline/union/unite.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

/// Pieces nearer than this, in pixels, are taken as one: far above rounding errors, far below what can be
/// seen.
constexpr double kTouching = 1e-6;

/// Heights stand on a grid of a millionth of a pixel. An edge that falls by less, level but for rounding,
/// would make a slab so thin that heights inside it can't be told apart, and with them what crosses what.
double on_grid(double y) {
  constexpr double kGrid = 1 << 20;
  return std::nearbyint(y * kGrid) / kGrid;
}

}  // namespace

double Uniter::Edge::x_at(double y) const {
  if (y <= y0) return x0;
  if (y >= y1) return x1;
  return x0 + (x1 - x0) * ((y - y0) / (y1 - y0));
}

void Uniter::prepare(const std::vector<Segment>& in) {
  edges_.clear();
  heights_.clear();
  active_.clear();
  bounding_.clear();
  above_.clear();
  next_edge_ = 0;
  for (std::size_t i = 0; i < in.size(); ++i) {
    const Segment s = {in[i].x0, on_grid(in[i].y0), in[i].x1, on_grid(in[i].y1)};
    if (s.y0 == s.y1) continue;  // what it bounds shows as the difference of two slabs
    if (s.y0 < s.y1) {
      edges_.push_back({s.x0, s.y0, s.x1, s.y1, 1, static_cast<std::uint32_t>(i)});
    } else {
      edges_.push_back({s.x1, s.y1, s.x0, s.y0, -1, static_cast<std::uint32_t>(i)});
    }
    heights_.push_back(s.y0);
    heights_.push_back(s.y1);
  }
  std::sort(heights_.begin(), heights_.end());
  heights_.erase(std::unique(heights_.begin(), heights_.end()), heights_.end());
  std::sort(edges_.begin(), edges_.end(), [](const Edge& a, const Edge& b) {
    if (a.y0 != b.y0) return a.y0 < b.y0;
    if (a.x0 != b.x0) return a.x0 < b.x0;
    return a.x1 != b.x1 ? a.x1 < b.x1 : a.y1 < b.y1;
  });
}

bool Uniter::unite(const std::vector<Segment>& in, std::vector<Segment>& out, Steps& steps) {
  out.clear();
  sources_.clear();
  out_ = &out;
  prepare(in);
  for (std::size_t i = 0; i + 1 < heights_.size(); ++i) {
    if (!sweep_slab(heights_[i], heights_[i + 1], steps)) return false;
  }
  if (heights_.empty()) return true;
  for (Edge* edge : bounding_) flush(*edge, heights_.back());
  below_.clear();
  emit_between(heights_.back(), above_, below_);
  return true;
}

bool Uniter::sweep_slab(double top, double bottom, Steps& steps) {
  std::erase_if(active_, [top](const Active& a) { return a.edge->y1 <= top; });
  while (next_edge_ < edges_.size() && edges_[next_edge_].y0 <= top) {
    active_.push_back({&edges_[next_edge_], 0, 0});
    ++next_edge_;
  }
  if (!steps.spend(active_.size() + 1)) return false;
  update_actives(top, bottom);
  if (!actives_cross()) {
    emit_slab(top);
    return true;
  }
  if (!steps.spend(active_.size() * active_.size() / 2)) return false;
  find_crossings(top, bottom);
  if (!steps.spend(active_.size() * crossings_.size())) return false;
  double from = top;
  for (std::size_t i = 0; i <= crossings_.size(); ++i) {
    const double to = i < crossings_.size() ? crossings_[i] : bottom;
    update_actives(from, to);
    emit_slab(from);
    from = to;
  }
  return true;
}

/// Where each active piece stands at both ends of the slab, sorted by the middle. The order changes little
/// from slab to slab, so insertion is quickest.
void Uniter::update_actives(double top, double bottom) {
  for (Active& a : active_) {
    a.top = a.edge->x_at(top);
    a.bottom = a.edge->x_at(bottom);
  }
  for (std::size_t i = 1; i < active_.size(); ++i) {
    const Active moved = active_[i];
    std::size_t j = i;
    for (; j > 0 && active_[j - 1].top + active_[j - 1].bottom > moved.top + moved.bottom; --j) {
      active_[j] = active_[j - 1];
    }
    active_[j] = moved;
  }
}

bool Uniter::actives_cross() const {
  for (std::size_t i = 1; i < active_.size(); ++i) {
    const Active &a = active_[i - 1], &b = active_[i];
    if (a.top > b.top + kTouching || a.bottom > b.bottom + kTouching) return true;
  }
  return false;
}

void Uniter::find_crossings(double top, double bottom) {
  crossings_.clear();
  for (std::size_t i = 0; i < active_.size(); ++i) {
    for (std::size_t j = i + 1; j < active_.size(); ++j) {
      const double at_top = active_[i].top - active_[j].top,
                   at_bottom = active_[i].bottom - active_[j].bottom;
      if (!(at_top < 0 && at_bottom > 0) && !(at_top > 0 && at_bottom < 0)) continue;
      const double y = top + (bottom - top) * (at_top / (at_top - at_bottom));
      if (y > top && y < bottom) crossings_.push_back(y);
    }
  }
  std::sort(crossings_.begin(), crossings_.end());
  crossings_.erase(std::unique(crossings_.begin(), crossings_.end()), crossings_.end());
}

void Uniter::emit_slab(double top) {
  tops_.clear();
  bottoms_.clear();
  bounding_before_.swap(bounding_);
  bounding_.clear();
  int winding = 0;
  for (std::size_t i = 0; i < active_.size();) {
    const Active& first = active_[i];
    const int before = winding;
    std::size_t end = i;
    while (end < active_.size() && std::abs(active_[end].top - first.top) < kTouching &&
           std::abs(active_[end].bottom - first.bottom) < kTouching) {
      winding += active_[end++].edge->winding;
    }
    i = end;
    if ((before != 0) == (winding != 0)) continue;
    bound(*first.edge, winding != 0, first.top, top);
    if (winding != 0) {
      tops_.push_back({first.top, first.top});
      bottoms_.push_back({first.bottom, first.bottom});
    } else {
      tops_.back().right = first.top;
      bottoms_.back().right = first.bottom;
    }
  }
  for (Edge* edge : bounding_before_) {
    if (edge->open && std::find(bounding_.begin(), bounding_.end(), edge) == bounding_.end()) {
      flush(*edge, top);
    }
  }
  emit_between(top, above_, tops_);
  above_.swap(bottoms_);
}

/// The edge bounds the shape in this slab; its stretch goes on or begins at `x`, `y`.
void Uniter::bound(Edge& edge, bool fills_right, double x, double y) {
  if (edge.open && edge.fills_right != fills_right) flush(edge, y);
  if (!edge.open) {
    edge.open = true;
    edge.fills_right = fills_right;
    edge.open_x = x;
    edge.open_y = y;
  }
  bounding_.push_back(&edge);
}

void Uniter::flush(Edge& edge, double y) {
  if (!edge.open) return;
  edge.open = false;
  const double end_y = std::min(y, edge.y1), end_x = edge.x_at(end_y);
  if (edge.fills_right) {  // a left side runs up, so that the filled side is on its right
    out_->push_back({end_x, end_y, edge.open_x, edge.open_y});
  } else {
    out_->push_back({edge.open_x, edge.open_y, end_x, end_y});
  }
  sources_.push_back(edge.source);
}

/// Bounds the shape at height `y` where it is filled on one side only.
void Uniter::emit_between(double y, const std::vector<Interval>& above, const std::vector<Interval>& below) {
  std::size_t a = 0, b = 0;
  double x = -INFINITY;
  bool in_above = false, in_below = false;
  while (a < above.size() || b < below.size()) {
    const double next_a = a < above.size() ? (in_above ? above[a].right : above[a].left) : INFINITY;
    const double next_b = b < below.size() ? (in_below ? below[b].right : below[b].left) : INFINITY;
    const double next = std::min(next_a, next_b);
    if (in_above != in_below) emit_horizontal(y, x, next, in_below);
    x = std::max(x, next);
    if (next_a == next) {
      if (in_above) ++a;
      in_above = !in_above;
    }
    if (next_b == next) {
      if (in_below) ++b;
      in_below = !in_below;
    }
  }
}

void Uniter::emit_horizontal(double y, double left, double right, bool fills_below) {
  if (right - left < kTouching) return;
  if (fills_below) {
    out_->push_back({left, y, right, y});
  } else {
    out_->push_back({right, y, left, y});
  }
  sources_.push_back(kNoSource);
}

}  // namespace grafema::detail
