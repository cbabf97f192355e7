// SPDX-License-Identifier: MIT
// Coverage by lines and distance by samples, with no shared code with the library's rasterizer.
#include "support/reference.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::test {

std::vector<std::vector<Dot>> dots(const Contours& contours, const Transform& map, int pieces) {
  std::vector<std::vector<Dot>> out;
  const auto mapped = [&map](FontPoint p) {
    return Dot{double{map.xx} * p.x + double{map.xy} * p.y + map.dx,
               double{map.yx} * p.x + double{map.yy} * p.y + map.dy};
  };
  const FontPoint* p = contours.points.data();
  for (const PathCommand command : contours.commands) {
    if (command == PathCommand::closepath) continue;
    if (command == PathCommand::moveto) out.emplace_back();
    if (command == PathCommand::moveto || command == PathCommand::lineto) {
      out.back().push_back(mapped(*p++));
      continue;
    }
    const Dot a = out.back().back();
    const int count = command == PathCommand::quadratic_curveto ? 2 : 3;
    for (int i = 1; i <= pieces; ++i) {
      // De Casteljau's construction for either degree.
      Dot level[4] = {a, mapped(p[0]), mapped(p[1]), count == 3 ? mapped(p[2]) : Dot{0, 0}};
      const double t = static_cast<double>(i) / pieces;
      for (int n = count; n > 0; --n) {
        for (int k = 0; k < n; ++k) {
          level[k] = {level[k].x + (level[k + 1].x - level[k].x) * t,
                      level[k].y + (level[k + 1].y - level[k].y) * t};
        }
      }
      out.back().push_back(level[0]);
    }
    p += count;
  }
  return out;
}

namespace {

struct Crossing {
  double x;
  int turn;
};

std::vector<Crossing> crossings(const std::vector<std::vector<Dot>>& contours, double y) {
  std::vector<Crossing> out;
  for (const auto& list : contours) {
    for (std::size_t i = 0; i < list.size(); ++i) {
      const Dot a = list[i], b = list[(i + 1) % list.size()];
      if ((a.y <= y) == (b.y <= y)) continue;
      out.push_back({a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y), a.y < b.y ? 1 : -1});
    }
  }
  std::sort(out.begin(), out.end(), [](const Crossing& a, const Crossing& b) { return a.x < b.x; });
  return out;
}

}  // namespace

int winding(const std::vector<std::vector<Dot>>& contours, double x, double y) {
  int sum = 0;
  for (const Crossing& c : crossings(contours, y)) sum += c.x > x ? c.turn : 0;
  return sum;
}

std::vector<double> reference_coverage(const Contours& contours, const Transform& map,
                                       const PixelRect& cell) {
  constexpr int kLines = 128;
  const auto shape = dots(contours, map, 64);
  std::vector<double> area(static_cast<std::size_t>(cell.width * cell.height));
  for (int line = 0; line < cell.height * kLines; ++line) {
    const auto list = crossings(shape, cell.y + (line + 0.5) / kLines);
    int sum = 0;
    for (std::size_t i = 0; i + 1 < list.size(); ++i) {
      sum += list[i].turn;
      if (sum == 0) continue;
      const double left = std::max(list[i].x - cell.x, 0.0),
                   right = std::min(list[i + 1].x - cell.x, static_cast<double>(cell.width));
      for (int x = static_cast<int>(left); x < cell.width && x < right; ++x) {
        const double overlap = std::min(right, x + 1.0) - std::max(left, static_cast<double>(x));
        area[static_cast<std::size_t>(line / kLines * cell.width + x)] += std::max(0.0, overlap) / kLines;
      }
    }
  }
  return area;
}

std::vector<double> reference_distance(const Contours& contours, const Transform& map,
                                       const PixelRect& cell) {
  const auto shape = dots(contours, map, 200);
  std::vector<Dot> edge;
  for (const auto& list : shape) {
    for (std::size_t i = 0; i < list.size(); ++i) {
      const Dot a = list[i], b = list[(i + 1) % list.size()];
      const double length = std::hypot(b.x - a.x, b.y - a.y);
      if (length == 0) continue;
      const double nx = -(b.y - a.y) / length * 1e-4, ny = (b.x - a.x) / length * 1e-4;
      const int steps = std::max(1, static_cast<int>(length / 0.02));
      for (int s = 0; s < steps; ++s) {
        const double t = (s + 0.5) / steps, x = a.x + (b.x - a.x) * t, y = a.y + (b.y - a.y) * t;
        if ((winding(shape, x + nx, y + ny) != 0) != (winding(shape, x - nx, y - ny) != 0)) {
          edge.push_back({x, y});
        }
      }
    }
  }
  std::vector<double> out;
  for (int y = 0; y < cell.height; ++y) {
    for (int x = 0; x < cell.width; ++x) {
      const double cx = cell.x + x + 0.5, cy = cell.y + y + 0.5;
      double best = INFINITY;
      for (const Dot& d : edge) best = std::min(best, (d.x - cx) * (d.x - cx) + (d.y - cy) * (d.y - cy));
      out.push_back(winding(shape, cx, cy) != 0 ? std::sqrt(best) : -std::sqrt(best));
    }
  }
  return out;
}

}  // namespace grafema::test
