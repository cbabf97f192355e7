// SPDX-License-Identifier: MIT
// Reads a skeleton's commands.
#include "outline/stroke/strands.hpp"

#include <cmath>

namespace grafema::detail {

std::vector<Strand> list_strands(const Contours& skeleton) {
  std::vector<Strand> strands;
  const FontPoint* from = skeleton.points.data();
  Dot pen;
  const auto next = [&] {
    const FontPoint p = *from++;
    return Dot{p.x, p.y};
  };
  const auto add = [&](int degree, std::array<Dot, 4> p) {
    if (strands.empty()) strands.push_back({{}, pen, false});
    strands.back().curves.push_back({p, degree, 0});
    pen = p[static_cast<std::size_t>(degree)];
  };
  for (const PathCommand command : skeleton.commands) {
    switch (command) {
      case PathCommand::moveto:
        pen = next();
        strands.push_back({{}, pen, false});
        break;
      case PathCommand::lineto:
        add(1, {pen, next()});
        break;
      case PathCommand::quadratic_curveto: {
        const Dot one = next(), end = next();
        add(2, {pen, one, end});
        break;
      }
      case PathCommand::curveto: {
        const Dot one = next(), two = next(), end = next();
        add(3, {pen, one, two, end});
        break;
      }
      case PathCommand::closepath:
        if (strands.empty()) break;
        if (!(pen == strands.back().start)) add(1, {pen, strands.back().start});
        strands.back().closed = true;
        break;
    }
  }
  return strands;
}

bool moves(const Curve& c) {
  for (int i = 1; i <= c.degree; ++i) {
    const Dot p = c.p[static_cast<std::size_t>(i)];
    if (std::abs(p.x - c.p[0].x) + std::abs(p.y - c.p[0].y) > 1e-9) return true;
  }
  return false;
}

}  // namespace grafema::detail
