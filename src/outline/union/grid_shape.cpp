// SPDX-License-Identifier: MIT
// Puts flattened outlines on a grid of whole numbers.
#include "outline/union/grid_shape.hpp"

#include <algorithm>
#include <cmath>

#include "outline/flatten/flattener.hpp"

namespace grafema::detail {
namespace {

constexpr int kBits = 24;

struct GridSink {
  Grid grid;
  Loops& out;
  GridPoint latest{};

  void begin(Dot p) { push(p, true); }
  void line(Dot p) { push(p, false); }
  void close() { out.close(); }

 private:
  void push(Dot p, bool first) {
    if (!std::isfinite(p.x) || !std::isfinite(p.y)) return;
    const GridPoint at{grid.at(p.x), grid.at(p.y)};
    if (first || !(at == latest)) out.points.push_back(at);
    latest = at;
  }
};

}  // namespace

Grid Grid::reaching(double largest) {
  int exponent = 0;
  std::frexp(std::max(largest, 1.0), &exponent);
  return {std::ldexp(1.0, exponent - kBits), std::ldexp(1.0, kBits - exponent)};
}

void Loops::close() {
  const std::size_t begin = ends.empty() ? 0 : ends.back();
  while (points.size() > begin && points.back() == points[begin]) points.pop_back();
  if (points.size() < begin + 3) {
    points.resize(begin);
  } else {
    ends.push_back(static_cast<std::uint32_t>(points.size()));
  }
}

void remove_repeated(std::vector<GridPoint>& points) {
  points.erase(std::unique(points.begin(), points.end()), points.end());
}

std::int64_t doubled_area(std::span<const GridPoint> loop) {
  std::uint64_t sum =
      0;  // single terms may be large where loops are hostile; unsigned numbers wrap and come back
  for (std::size_t i = 1; i + 1 < loop.size(); ++i) {
    sum += static_cast<std::uint64_t>(turn(loop[0], loop[i], loop[i + 1]));
  }
  return static_cast<std::int64_t>(sum);
}

double largest_coordinate(const Contours& contours) {
  double largest = 0;
  for (const FontPoint p : contours.points) {
    for (const double v : {std::abs(double{p.x}), std::abs(double{p.y})}) {
      if (v <= 3e38 && v > largest) largest = v;
    }
  }
  return largest;
}

void flatten_to_grid(const Contours& contours, double tolerance, Grid grid, Loops& out) {
  out.clear();
  GridSink sink{grid, out};
  Flattener(Transform{}, tolerance, sink).run(contours);
}

void add_loops(const Loops& loops, Grid grid, Contours& out) {
  const bool united = out.commands.empty() || out.united;
  for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
    const auto points = loops.of(loop);
    for (std::size_t i = points.size(); i-- > 0;) {
      const FontPoint p{static_cast<float>(grid.from(points[i].x)),
                        static_cast<float>(grid.from(points[i].y))};
      if (i + 1 == points.size()) {
        out.move_to(p);
      } else {
        out.line_to(p);
      }
    }
    out.close();
  }
  out.united = united;
}

}  // namespace grafema::detail
