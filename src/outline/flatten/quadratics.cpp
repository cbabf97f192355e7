// SPDX-License-Identifier: MIT
// Curve by curve, then contour by contour.
#include "outline/flatten/quadratics.hpp"

#include <algorithm>
#include <cmath>

#include "outline/flatten/curve_length.hpp"
#include "outline/union/pieces.hpp"

namespace grafema::detail {
namespace {

FontPoint narrow(Dot p) { return {static_cast<float>(p.x), static_cast<float>(p.y)}; }

/// The quadratic curve with the same ends and slopes as the cubic where these meet, else the nearest in the
/// middle.
Dot control_of(const Curve& c) {
  return {(3 * (c.p[1].x + c.p[2].x) - c.p[0].x - c.p[3].x) / 4,
          (3 * (c.p[1].y + c.p[2].y) - c.p[0].y - c.p[3].y) / 4};
}

/// A cubic leaves the quadratic with that control point by at most sqrt(3) / 36 of its third difference.
int pieces_of(const Curve& c, double tolerance) {
  const double x = c.p[3].x - 3 * c.p[2].x + 3 * c.p[1].x - c.p[0].x,
               y = c.p[3].y - 3 * c.p[2].y + 3 * c.p[1].y - c.p[0].y;
  const double off = std::sqrt(3.0) / 36 * std::sqrt(x * x + y * y);
  return std::clamp(static_cast<int>(std::ceil(std::cbrt(off / tolerance))), 1, 64);
}

struct Node {
  FontPoint at;
  bool on_curve;
};

float rounded(float v) { return std::floor(v + 0.5F); }

bool same(FontPoint a, FontPoint b) { return a.x == b.x && a.y == b.y; }

/// Contours of lines and quadratic curves, point by point.
std::vector<std::vector<Node>> list_nodes(const Contours& contours) {
  std::vector<std::vector<Node>> all;
  const FontPoint* p = contours.points.data();
  for (const PathCommand command : contours.commands) {
    switch (command) {
      case PathCommand::moveto:
        all.push_back({{*p++, true}});
        break;
      case PathCommand::lineto:
        all.back().push_back({*p++, true});
        break;
      case PathCommand::quadratic_curveto:
        all.back().push_back({p[0], false}), all.back().push_back({p[1], true}), p += 2;
        break;
      case PathCommand::curveto:
        all.back().push_back({p[2], true}), p += 3;
        break;
      case PathCommand::closepath:
        break;
    }
  }
  return all;
}

/// Whether `b` between `a` and `c` says nothing.
bool is_needless(const Node& a, const Node& b, const Node& c) {
  if (!b.on_curve) return same(a.at, b.at) || same(b.at, c.at);  // on an end of its curve it bends nothing
  if (c.on_curve && same(b.at, c.at)) return true;
  if (!a.on_curve || !c.on_curve) return false;
  const float turn = (b.at.x - a.at.x) * (c.at.y - b.at.y) - (b.at.y - a.at.y) * (c.at.x - b.at.x);
  const float along = (b.at.x - a.at.x) * (c.at.x - b.at.x) + (b.at.y - a.at.y) * (c.at.y - b.at.y);
  return turn == 0 && along >= 0;
}

/// One pass; true where anything went. What goes may make its neighbors needless.
bool leave_out(std::vector<Node>& nodes) {
  std::size_t kept = 0;
  const std::size_t count = nodes.size();
  for (std::size_t i = 0; i < count; ++i) {
    const Node& before = kept > 0 ? nodes[kept - 1] : nodes[count - 1];
    const bool few = kept + (count - i) <= 2;
    if (!few && is_needless(before, nodes[i], i + 1 < count ? nodes[i + 1] : nodes[0])) continue;
    nodes[kept++] = nodes[i];
  }
  nodes.resize(kept);
  return kept < count;
}

}  // namespace

void make_quadratic(std::vector<Contours>& all, double tolerance) {
  const std::vector<PathCommand> commands = all[0].commands;
  if (std::find(commands.begin(), commands.end(), PathCommand::curveto) == commands.end()) return;
  const auto cubic = [](FontPoint pen, const FontPoint* p) {
    return Curve{{Dot{pen.x, pen.y}, Dot{p[0].x, p[0].y}, Dot{p[1].x, p[1].y}, Dot{p[2].x, p[2].y}}, 3, 0};
  };
  std::vector<Contours> out(all.size());
  std::vector<FontPoint> pens(all.size());
  std::size_t at = 0;
  for (const PathCommand command : commands) {
    int pieces = 1;
    for (std::size_t w = 0; w < all.size() && command == PathCommand::curveto; ++w) {
      pieces = std::max(pieces, pieces_of(cubic(pens[w], &all[w].points[at]), tolerance));
    }
    std::size_t taken = 1;
    for (std::size_t w = 0; w < all.size(); ++w) {
      const FontPoint* p = all[w].points.data() + at;
      switch (command) {
        case PathCommand::moveto:
          out[w].move_to(*p);
          break;
        case PathCommand::lineto:
          out[w].line_to(*p);
          break;
        case PathCommand::quadratic_curveto:
          out[w].quadratic_curve_to(p[0], p[1]), taken = 2;
          break;
        case PathCommand::curveto: {
          const Curve whole = cubic(pens[w], p);
          for (int i = 0; i < pieces; ++i) {
            const Curve part =
                whole.part(static_cast<double>(i) / pieces, static_cast<double>(i + 1) / pieces);
            out[w].quadratic_curve_to(narrow(control_of(part)), i + 1 == pieces ? p[2] : narrow(part.end()));
          }
          taken = 3;
          break;
        }
        case PathCommand::closepath:
          out[w].close(), taken = 0;
          break;
      }
      if (taken > 0) pens[w] = p[taken - 1];
    }
    at += taken;
  }
  for (std::size_t w = 0; w < all.size(); ++w) {
    out[w].may_overlap = all[w].may_overlap, out[w].united = all[w].united;
  }
  for (std::size_t w = 0; w < all.size(); ++w) all[w] = std::move(out[w]);
}

void round_outline(Contours& contours) {
  const bool may_overlap = contours.may_overlap;
  std::vector<std::vector<Node>> all = list_nodes(contours);
  contours.clear();
  contours.may_overlap = may_overlap;
  for (std::vector<Node>& nodes : all) {
    for (Node& n : nodes) {
      n.at = {rounded(n.at.x), rounded(n.at.y)};
    }
    while (nodes.size() > 1 && nodes.back().on_curve && same(nodes.back().at, nodes[0].at)) nodes.pop_back();
    while (leave_out(nodes)) {
    }
    if (nodes.size() < 3) continue;
    // Curves that go on smoothly meet in the middle between their control points, where readers put them
    // unasked.
    for (std::size_t i = 1; i < nodes.size(); ++i) {
      const Node &a = nodes[i - 1], &c = nodes[(i + 1) % nodes.size()];
      if (!nodes[i].on_curve || a.on_curve || c.on_curve) continue;
      const FontPoint middle{(a.at.x + c.at.x) / 2, (a.at.y + c.at.y) / 2};
      const bool near = std::abs(middle.x - nodes[i].at.x) <= 1 && std::abs(middle.y - nodes[i].at.y) <= 1;
      if (near) nodes[i].at = middle;
    }
    contours.move_to(nodes[0].at);
    for (std::size_t i = 1; i < nodes.size(); ++i) {
      if (nodes[i].on_curve) {
        contours.line_to(nodes[i].at);
      } else {
        contours.quadratic_curve_to(nodes[i].at, nodes[(i + 1) % nodes.size()].at), ++i;
      }
    }
    contours.close();
  }
}

bool make_nonzero(Contours& contours) {
  std::vector<Curve> curves;
  list_curves(contours, curves);
  std::vector<Piece> pieces;
  cut_at_turns(curves, pieces);
  Steps steps;
  if (any_meet(pieces, steps)) return false;
  std::vector<std::vector<Curve>> all;
  for (const Curve& c : curves) {
    if (all.empty() || all.back().back().contour != c.contour) all.emplace_back();
    all.back().push_back(c);
  }
  contours.clear();
  for (std::size_t i = 0; i < all.size(); ++i) {
    int depth = 0;
    double doubled = 0;
    const Dot from = all[i][0].at(0.5);
    for (std::size_t k = 0; k < all.size(); ++k) {
      int winding = 0;
      for (const Curve& c : all[k]) winding += k == i ? 0 : crossings_right_of(c, from);
      depth += winding != 0 ? 1 : 0;
    }
    for (const Curve& c : all[i]) {
      constexpr int kSteps = 8;
      for (int s = 0; s < kSteps; ++s) {
        const Dot a = c.at(static_cast<double>(s) / kSteps), b = c.at((s + 1.0) / kSteps);
        doubled += (a.x - from.x) * (b.y - from.y) - (a.y - from.y) * (b.x - from.x);
      }
    }
    const bool runs_left = doubled > 0, keep = runs_left == (depth % 2 == 1);
    const auto add = [&](const Curve& c) {
      if (c.degree == 1) contours.line_to(narrow(c.p[1]));
      if (c.degree == 2) contours.quadratic_curve_to(narrow(c.p[1]), narrow(c.p[2]));
      if (c.degree == 3) contours.curve_to(narrow(c.p[1]), narrow(c.p[2]), narrow(c.p[3]));
    };
    contours.move_to(narrow(keep ? all[i].front().start() : all[i].back().end()));
    if (keep) {
      for (const Curve& c : all[i]) add(c);
    } else {
      for (std::size_t k = all[i].size(); k-- > 0;) add(all[i][k].part(1, 0));
    }
    contours.close();
  }
  return true;
}

}  // namespace grafema::detail
