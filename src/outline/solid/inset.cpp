// SPDX-License-Identifier: MIT
// Moves corners inward where that is all there is to it; else takes a strip along every edge away.
#include "outline/solid/inset.hpp"

#include <cmath>

namespace grafema::detail {
namespace {

struct Vector {
  double x, y;
};

/// A corner and the directions of its edges, of length 1.
struct Corner {
  GridPoint before, at, after;
  Vector in, out;
  double turning;  ///< sine of the angle between them: above 0 where the corner points outward
  double along;    ///< its cosine
};

Vector direction(GridPoint a, GridPoint b) {
  const double x = double{1} * b.x - a.x, y = double{1} * b.y - a.y, length = std::sqrt(x * x + y * y);
  return {x / length, y / length};
}

Corner corner_at(std::span<const GridPoint> loop, std::size_t i) {
  Corner c{};
  c.before = loop[i == 0 ? loop.size() - 1 : i - 1], c.at = loop[i],
  c.after = loop[i + 1 == loop.size() ? 0 : i + 1];
  c.in = direction(c.before, c.at), c.out = direction(c.at, c.after);
  c.turning = c.in.x * c.out.y - c.in.y * c.out.x;
  c.along = c.in.x * c.out.x + c.in.y * c.out.y;
  return c;
}

GridPoint moved(GridPoint p, double x, double y) {
  constexpr double kLargest = 1 << 24;
  return {static_cast<std::int32_t>(std::nearbyint(std::clamp(p.x + x, -kLargest, kLargest))),
          static_cast<std::int32_t>(std::nearbyint(std::clamp(p.y + y, -kLargest, kLargest)))};
}

/// Where the lines of both edges, moved to the left by `d`, cross.
GridPoint mitered(const Corner& c, double d) {
  const double scale = d / (1 + c.along);
  return moved(c.at, -(c.in.y + c.out.y) * scale, (c.in.x + c.out.x) * scale);
}

GridPoint left_of(GridPoint p, Vector along, double d) { return moved(p, -along.y * d, along.x * d); }

/// A miter reaches at most twice the distance: the cosine of the turn is at least -1/2.
bool sharp(const Corner& c) { return c.along < -0.5; }

}  // namespace

bool Inset::run(const Loops& shape, double distance, Loops& out,
                std::vector<FillTriangles::Triangle>& triangles, Steps& steps) {
  if (move_corners(shape, distance, out) && fill_.run_on_boundary(out, triangles, steps)) return true;
  take_strips_away(shape, distance, out);
  return fill_.run(out, triangles, steps, Filled::positive);
}

/// False where an edge would vanish or turn round.
bool Inset::move_corners(const Loops& shape, double distance, Loops& out) {
  out.clear();
  for (std::size_t loop = 0; loop < shape.ends.size(); ++loop) {
    const auto points = shape.of(loop);
    for (std::size_t i = 0; i < points.size(); ++i) {
      const Corner c = corner_at(points, i);
      if (sharp(c)) return false;
      const GridPoint p = mitered(c, distance);
      if (i > 0) {
        const GridPoint last = out.points.back();
        if ((p.x - double{1} * last.x) * c.in.x + (p.y - double{1} * last.y) * c.in.y <= 0) return false;
      }
      out.points.push_back(p);
    }
    const GridPoint first = out.points[shape.first(loop)], last = out.points.back();
    const Vector closing = direction(points.back(), points.front());
    if ((first.x - double{1} * last.x) * closing.x + (first.y - double{1} * last.y) * closing.y <= 0)
      return false;
    out.ends.push_back(static_cast<std::uint32_t>(out.points.size()));
  }
  return true;
}

/// The winding number is 1 inside the shape, and 1 less on each strip: what stays above 0 is what was wanted.
/// A strip's outer side and the edge that it lies along cancel, so neither is written.
void Inset::take_strips_away(const Loops& shape, double distance, Loops& out) {
  out.clear();
  for (std::size_t loop = 0; loop < shape.ends.size(); ++loop) {
    const auto points = shape.of(loop);
    for (std::size_t i = 0; i < points.size(); ++i) {
      const Corner c = corner_at(points, i);
      if (c.turning >= 0 && c.along > 0.9999) {  // as good as straight
        out.points.push_back(mitered(c, distance));
        continue;
      }
      if (c.turning < 0 && !sharp(c)) {
        out.points.push_back(mitered(c, distance));
        continue;
      }
      out.points.push_back(left_of(c.at, c.in, distance));
      if (c.turning >= 0) out.points.push_back(c.at);
      out.points.push_back(left_of(c.at, c.out, distance));
    }
    out.close();
  }
}

}  // namespace grafema::detail
