// SPDX-License-Identifier: MIT
// Reads letters for morphs.
#include "outline/morph/morph_letters.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

void measure(Letter& out) {
  for (const MeasuredLoop& loop : out.loops) {
    for (const Place p : loop.points()) {
      const auto x = static_cast<float>(p.x), y = static_cast<float>(p.y);
      if (out.box.empty()) {
        out.box = {x, y, x, y};
      } else {
        out.box = {std::min(out.box.x_min, x), std::min(out.box.y_min, y), std::max(out.box.x_max, x),
                   std::max(out.box.y_max, y)};
      }
    }
  }
  out.middle = {(double{out.box.x_min} + out.box.x_max) / 2, (double{out.box.y_min} + out.box.y_max) / 2};
}

bool same_shape(const Letter& a, const Letter& b) {
  if (a.loops.size() != b.loops.size()) return false;
  for (std::size_t i = 0; i < a.loops.size(); ++i) {
    const auto &p = a.loops[i].points(), &q = b.loops[i].points();
    if (p.size() != q.size()) return false;
    const double slack = 1e-3 * (a.width() + a.height());
    for (std::size_t k = 0; k < p.size(); ++k) {
      if (std::abs(p[k].x - a.middle.x - q[k].x + b.middle.x) > slack) return false;
      if (std::abs(p[k].y - a.middle.y - q[k].y + b.middle.y) > slack) return false;
    }
  }
  return true;
}

}  // namespace

bool LetterReader::read(const Contours& contours, Letter& out) {
  Steps steps;
  flatten_to_grid(contours, tolerance_, grid_, loops_);
  if (!fill_.run(loops_, triangles_, steps)) return false;
  const Loops whole = loops_;
  for (std::size_t i = 0; i < whole.ends.size(); ++i) {
    std::vector<Place> points;
    for (const GridPoint p : whole.of(i)) points.push_back({grid_.from(p.x), grid_.from(p.y)});
    out.loops.emplace_back(std::move(points));
    out.area += out.loops.back().doubled_area() / 2;
    out.holes += out.loops.back().doubled_area() < 0 ? 1 : 0;
    out.inside.push_back(point_inside(whole.of(i)));
  }
  measure(out);
  return true;
}

/// The middle of the largest triangle.
Place LetterReader::point_inside(std::span<const GridPoint> loop) {
  Steps steps;
  loops_.clear();
  loops_.points.assign(loop.begin(), loop.end());
  loops_.close();
  Place out{grid_.from(loop[0].x), grid_.from(loop[0].y)};
  if (!fill_.run(loops_, triangles_, steps)) return out;
  std::int64_t largest = 0;
  for (const auto& t : triangles_) {
    const GridPoint a = loops_.points[t[0]], b = loops_.points[t[1]], c = loops_.points[t[2]];
    const std::int64_t area = turn(a, b, c);
    if (area <= largest) continue;
    largest = area;
    out = {(grid_.from(a.x) + grid_.from(b.x) + grid_.from(c.x)) / 3,
           (grid_.from(a.y) + grid_.from(b.y) + grid_.from(c.y)) / 3};
  }
  return out;
}

double unlikeness(const Letter& a, const Letter& b, double size) {
  const double way = 0.02 * std::sqrt(squared(a.middle.x - b.middle.x, a.middle.y - b.middle.y)) / size;
  if (same_shape(a, b)) return way;
  const auto apart = [](double x, double y) { return std::abs(x - y) / std::max({x, y, 1e-9}); };
  const auto count = [](std::size_t x, std::size_t y) { return static_cast<double>(x > y ? x - y : y - x); };
  return 1 + count(a.holes, b.holes) + 0.5 * count(a.loops.size() - a.holes, b.loops.size() - b.holes) +
         apart(a.width(), b.width()) + apart(a.height(), b.height()) + apart(a.area, b.area) + way;
}

}  // namespace grafema::detail
