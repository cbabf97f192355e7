// SPDX-License-Identifier: MIT
// Curves of an outline, and whether any two of them meet.
#include "outline/union/pieces.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace grafema::detail {
namespace {

Dot between(const Dot& a, const Dot& b, double t) { return {a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t}; }

bool is_finite(const Dot& d) { return std::isfinite(d.x) && std::isfinite(d.y); }

/// De Casteljau's construction: the curve up to t, and from there.
std::pair<Curve, Curve> cut(const Curve& c, double t) {
  Curve low = c, high = c;
  std::array<Dot, 4> level = c.p;
  const auto n = static_cast<std::size_t>(c.degree);
  for (std::size_t k = 0; k <= n; ++k) {
    low.p[k] = level[0];
    high.p[n - k] = level[n - k];
    for (std::size_t i = 0; i + k < n; ++i) level[i] = between(level[i], level[i + 1], t);
  }
  return {low, high};
}

/// Parameters in (0, 1) where one coordinate of the curve turns.
void add_turns(const Curve& c, double Dot::*axis, std::vector<double>& out) {
  const auto add = [&out](double t) {
    if (t > 0 && t < 1) out.push_back(t);
  };
  const double a = c.p[0].*axis, b = c.p[1].*axis, d = c.p[2].*axis;
  if (c.degree == 2) {
    if (a - 2 * b + d != 0) add((a - b) / (a - 2 * b + d));
    return;
  }
  const double e = c.p[3].*axis, q2 = -a + 3 * b - 3 * d + e, q1 = 2 * (a - 2 * b + d), q0 = b - a;
  if (std::abs(q2) < 1e-12) {
    if (q1 != 0) add(-q0 / q1);
    return;
  }
  const double inside = q1 * q1 - 4 * q2 * q0;
  if (inside < 0) return;
  add((-q1 + std::sqrt(inside)) / (2 * q2));
  add((-q1 - std::sqrt(inside)) / (2 * q2));
}

class Meeting {
 public:
  explicit Meeting(double tolerance) : tolerance_(tolerance) {}

  /// `ends`: a's end is b's start; `starts`: a's start is b's end. There they may touch.
  bool meet(const Curve& a, const Curve& b, bool ends, bool starts) {
    budget_ = kMaxSteps;
    return search(a, b, ends, starts);
  }

 private:
  static constexpr int kMaxSteps = 2000;  // curves that need more are as good as touching

  bool search(const Curve& a, const Curve& b, bool ends, bool starts) {
    if (apart(a, b)) return false;
    if (a.degree == 1 && b.degree == 1) return lines_meet(a, b, ends, starts);
    if (ends || starts ? only_joined(a, b, ends, starts) : divided(a, b) || divided(b, a)) return false;
    if (--budget_ < 0) return true;
    const double size_a = size(a), size_b = size(b);
    if (std::max(size_a, size_b) < tolerance_) return !ends && !starts;
    if (size_a >= size_b) {
      const auto [low, high] = cut(a, 0.5);
      return search(low, b, false, starts) || search(high, b, ends, false);
    }
    const auto [low, high] = cut(b, 0.5);
    return search(a, low, ends, false) || search(a, high, false, starts);
  }

  static double size(const Curve& c) {
    return std::max(std::abs(c.end().x - c.start().x), std::abs(c.end().y - c.start().y));
  }

  static bool apart(const Curve& a, const Curve& b) {
    return std::max(a.start().x, a.end().x) < std::min(b.start().x, b.end().x) ||
           std::max(b.start().x, b.end().x) < std::min(a.start().x, a.end().x) ||
           std::max(a.start().y, a.end().y) < std::min(b.start().y, b.end().y) ||
           std::max(b.start().y, b.end().y) < std::min(a.start().y, a.end().y);
  }

  /// Whether the strip along a's chord that holds all of a leaves b on one side.
  static bool divided(const Curve& a, const Curve& b) {
    double low = 0, high = 0;
    for (std::size_t i = 1; i < static_cast<std::size_t>(a.degree); ++i) {
      const double side = turn(a.start(), a.end(), a.p[i]);
      low = std::min(low, side), high = std::max(high, side);
    }
    double b_low = INFINITY, b_high = -INFINITY;
    for (std::size_t i = 0; i <= static_cast<std::size_t>(b.degree); ++i) {
      const double side = turn(a.start(), a.end(), b.p[i]);
      b_low = std::min(b_low, side), b_high = std::max(b_high, side);
    }
    return b_low > high || b_high < low;
  }

  /// Whether two curves that are joined at one end meet nowhere else, as far as their boxes and a line
  /// through the joint can tell. A curve reaches the side of its box only at its end, for it does not turn.
  static bool only_joined(const Curve& a, const Curve& b, bool ends, bool starts) {
    if (ends && starts) return false;
    const double width = std::min(std::max(a.start().x, a.end().x), std::max(b.start().x, b.end().x)) -
                         std::max(std::min(a.start().x, a.end().x), std::min(b.start().x, b.end().x));
    const double height = std::min(std::max(a.start().y, a.end().y), std::max(b.start().y, b.end().y)) -
                          std::max(std::min(a.start().y, a.end().y), std::min(b.start().y, b.end().y));
    if (width <= 0 || height <= 0) return true;
    const Dot& joint = ends ? a.end() : a.start();
    const Dot &far_a = ends ? a.start() : a.end(), &far_b = ends ? b.end() : b.start();
    const double length_a = std::abs(far_a.x - joint.x) + std::abs(far_a.y - joint.y),
                 length_b = std::abs(far_b.x - joint.x) + std::abs(far_b.y - joint.y);
    const Dot middle{joint.x + (far_a.x - joint.x) / length_a + (far_b.x - joint.x) / length_b,
                     joint.y + (far_a.y - joint.y) / length_a + (far_b.y - joint.y) / length_b};
    const auto all_on = [&](const Curve& c, double side) {
      for (std::size_t i = 0; i <= static_cast<std::size_t>(c.degree); ++i) {
        if (!(c.p[i] == joint) && !(turn(joint, middle, c.p[i]) * side > 0)) return false;
      }
      return true;
    };
    const double side = turn(joint, middle, far_a);
    return all_on(a, side) && all_on(b, -side);
  }

  /// Twice the area of the triangle, above 0 where c lies to one side of the line from a to b.
  static double turn(const Dot& a, const Dot& b, const Dot& c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
  }

  static bool lines_meet(const Curve& a, const Curve& b, bool ends, bool starts) {
    const double c = turn(a.start(), a.end(), b.start()), d = turn(a.start(), a.end(), b.end());
    const double e = turn(b.start(), b.end(), a.start()), f = turn(b.start(), b.end(), a.end());
    if (ends || starts) {  // they meet elsewhere only where one runs back along the other
      const double back = (a.end().x - a.start().x) * (b.end().x - b.start().x) +
                          (a.end().y - a.start().y) * (b.end().y - b.start().y);
      return (ends ? d : c) == 0 && back < 0;
    }
    return !((c > 0 && d > 0) || (c < 0 && d < 0) || (e > 0 && f > 0) || (e < 0 && f < 0));
  }

  double tolerance_;
  int budget_ = 0;
};

}  // namespace

Dot Curve::at(double t) const {
  std::array<Dot, 4> level = p;
  for (int n = degree; n > 0; --n) {
    for (std::size_t i = 0; i < static_cast<std::size_t>(n); ++i) {
      level[i] = between(level[i], level[i + 1], t);
    }
  }
  return level[0];
}

Dot Curve::slope(double t) const {
  Curve d;
  d.degree = degree - 1;
  for (std::size_t i = 0; i < static_cast<std::size_t>(degree); ++i) {
    d.p[i] = {(p[i + 1].x - p[i].x) * degree, (p[i + 1].y - p[i].y) * degree};
  }
  return d.at(t);
}

Curve Curve::part(double t0, double t1) const {
  if (t0 > t1) {
    Curve back = part(t1, t0);
    std::reverse(back.p.begin(), back.p.begin() + degree + 1);
    return back;
  }
  Curve out = t1 < 1 ? cut(*this, t1).first : *this;
  return t0 > 0 && t1 > 0 ? cut(out, t0 / t1).second : out;
}

void list_curves(const Contours& contours, std::vector<Curve>& out) {
  out.clear();
  out.reserve(contours.commands.size());
  const FontPoint* from = contours.points.data();
  Dot first, pen;
  std::uint32_t contour = 0;
  bool open = false;
  const auto dot = [](const FontPoint& p) { return Dot{p.x, p.y}; };
  const auto add = [&](int degree, std::array<Dot, 4> p) {
    bool good = true, moves = false;
    for (std::size_t i = 0; i <= static_cast<std::size_t>(degree); ++i) {
      good = good && is_finite(p[i]), moves = moves || !(p[i] == p[0]);
    }
    pen = p[static_cast<std::size_t>(degree)];
    if (good && moves) out.push_back({p, degree, contour});
  };
  const auto close = [&] {
    if (open) add(1, {pen, first});
    contour += open ? 1 : 0;
    open = false;
  };
  for (const PathCommand command : contours.commands) {
    switch (command) {
      case PathCommand::moveto:
        close(), first = pen = dot(*from++), open = true;
        break;
      case PathCommand::lineto:
        add(1, {pen, dot(*from++)});
        break;
      case PathCommand::quadratic_curveto:
        add(2, {pen, dot(from[0]), dot(from[1])}), from += 2;
        break;
      case PathCommand::curveto:
        add(3, {pen, dot(from[0]), dot(from[1]), dot(from[2])}), from += 3;
        break;
      case PathCommand::closepath:
        close();
        break;
    }
  }
  close();
}

void cut_at_turns(const std::vector<Curve>& curves, std::vector<Piece>& out) {
  out.clear();
  out.reserve(curves.size() + curves.size() / 2);
  std::vector<double> turns;
  turns.reserve(4);       // of a cubic curve
  std::size_t first = 0;  // of the present contour
  for (std::size_t i = 0; i < curves.size(); ++i) {
    const Curve& c = curves[i];
    if (out.size() > first && out[first].curve.contour != c.contour) {
      out.back().next = static_cast<std::uint32_t>(first), first = out.size();
    }
    turns.clear();
    if (c.degree > 1) add_turns(c, &Dot::x, turns), add_turns(c, &Dot::y, turns);
    std::sort(turns.begin(), turns.end());
    double from = 0;
    Dot pen = c.start();
    for (std::size_t k = 0; k <= turns.size(); ++k) {
      const double to = k < turns.size() ? turns[k] : 1;
      Piece piece{c.part(from, to), static_cast<std::uint32_t>(out.size() + 1)};
      piece.curve.p[0] = pen;  // the very point where the one before ends
      from = to, pen = piece.curve.end();
      if (!(piece.curve.start() == piece.curve.end())) out.push_back(piece);
    }
  }
  if (out.size() > first) out.back().next = static_cast<std::uint32_t>(first);
}

bool any_meet(std::vector<Piece>& pieces, Steps& steps) {
  double extent = 0;
  for (const Piece& p : pieces) {
    extent =
        std::max({extent, std::abs(p.left()), std::abs(p.right()), std::abs(p.top()), std::abs(p.bottom())});
  }
  Meeting meeting(extent * 1e-6);
  std::vector<std::uint32_t> order(pieces.size()), active;
  active.reserve(pieces.size());
  std::iota(order.begin(), order.end(), 0U);
  std::sort(order.begin(), order.end(),
            [&pieces](std::uint32_t a, std::uint32_t b) { return pieces[a].top() < pieces[b].top(); });
  for (const std::uint32_t i : order) {
    const Piece& a = pieces[i];
    const double top = a.top(), left = a.left(), right = a.right();
    std::erase_if(active, [&](std::uint32_t k) { return pieces[k].bottom() < top; });
    if (!steps.spend(active.size() / 4 + 1)) return true;
    for (const std::uint32_t k : active) {
      const Piece& b = pieces[k];
      if (b.right() < left || right < b.left()) continue;
      if (meeting.meet(a.curve, b.curve, a.next == k, b.next == i)) return true;
    }
    active.push_back(i);
  }
  return false;
}

}  // namespace grafema::detail
