// SPDX-License-Identifier: MIT
// Any curves as triangles, solid letters, lines and morphs: closed, and as large as winding numbers say.
#include <array>
#include <cmath>
#include <map>
#include <vector>

#include "grafema/outline/mesh.hpp"
#include "grafema/outline/morph.hpp"
#include "grafema/outline/outline_points.hpp"
#include "grafema/outline/stroke.hpp"
#include "grafema/outline/triangles.hpp"
#include "input.hpp"
#include "outline_input.hpp"

namespace {

using namespace grafema;
using fuzz::require;

constexpr float kTolerance = 0.05F;

int winding_at(const std::vector<Segment>& pieces, double x, double y) {
  int winding = 0;
  for (const Segment& s : pieces) {
    if ((s.y0 <= y) == (s.y1 <= y)) continue;
    if (s.x0 + (s.x1 - s.x0) * ((y - s.y0) / (s.y1 - s.y0)) > x) winding += s.y1 > s.y0 ? 1 : -1;
  }
  return winding;
}

double nearest(const std::vector<Segment>& pieces, double x, double y) {
  double out = 1e9;
  for (const Segment& s : pieces) {
    const double dx = s.x1 - s.x0, dy = s.y1 - s.y0,
                 along = ((x - s.x0) * dx + (y - s.y0) * dy) / (dx * dx + dy * dy);
    const double t = std::fmin(std::fmax(along, 0), 1), ex = x - s.x0 - t * dx, ey = y - s.y0 - t * dy;
    out = std::fmin(out, std::sqrt(ex * ex + ey * ey));
  }
  return out;
}

/// Every point of a raster that is not on the edge lies in one triangle where it is inside, in none outside.
void check_triangles(const Contours& outline, const Triangles& t) {
  std::vector<Segment> pieces;
  flatten(outline, Transform{}, kTolerance, pieces);
  for (int i = 0; i < 17; ++i) {
    for (int k = 0; k < 17; ++k) {
      const double x = i + 0.137, y = k + 0.291;
      if (nearest(pieces, x, y) < 1e-3) continue;
      int count = 0;
      for (std::size_t n = 0; n < t.indices.size(); n += 3) {
        const FontPoint a = t.points[t.indices[n]], b = t.points[t.indices[n + 1]],
                        c = t.points[t.indices[n + 2]];
        const auto side = [&](FontPoint p, FontPoint q) {
          return (double{q.x} - p.x) * (y - p.y) - (double{q.y} - p.y) * (x - p.x);
        };
        count += side(a, b) > 0 && side(b, c) > 0 && side(c, a) > 0 ? 1 : 0;
      }
      require(count == (winding_at(pieces, x, y) != 0 ? 1 : 0) ||
              count == 0);  // a side of a triangle may go through the point
    }
  }
}

void check_closed(const Mesh& mesh) {
  std::map<std::pair<std::array<float, 3>, std::array<float, 3>>, int> edges;
  for (std::size_t i = 0; i < mesh.indices.size(); i += 3) {
    for (std::size_t k = 0; k < 3; ++k) {
      const auto a = mesh.vertices[mesh.indices[i + k]].position,
                 b = mesh.vertices[mesh.indices[i + (k + 1) % 3]].position;
      ++edges[{a, b}];
      --edges[{b, a}];
    }
  }
  for (const auto& [edge, count] : edges) require(count == 0);
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size < 4 || size > 256) return 0;
  const float width = static_cast<float>(data[0]) / 32;
  const Contours outline = fuzz::read_outline(data + 1, size - 1);
  Triangles triangles;
  require(triangulate(outline, kTolerance, triangles).has_value());
  require(triangles.area() >= 0);
  check_triangles(outline, triangles);
  ConvexPieces pieces;
  make_convex_pieces(triangles, pieces);
  Mesh mesh;
  const Solid solid{
      .depth = 2,
      .bevel = {.shape = static_cast<BevelShape>(data[0] % 3), .width = width, .segments = 1 + data[0] % 4},
      .tolerance = kTolerance};
  require(extrude(outline, solid, mesh).has_value());
  check_closed(mesh);
  OutlinePoints points;
  points.measure(outline);
  std::vector<OutlinePoint> spread;
  require(points.spread(20, data[0] % 2 == 0, spread).has_value());
  require(spread.size() == (points.contour_count() == 0 ? 0 : 20));
  Contours line;
  require(
      stroke(outline,
             {.width = width + 0.1F, .join = static_cast<StrokeJoin>(data[0] % 3), .tolerance = kTolerance},
             line)
          .has_value());
  const Contours square = [] {
    Contours c;
    c.move_to({2, 2}), c.line_to({2, 9}), c.line_to({9, 9}), c.line_to({9, 2}), c.close();
    return c;
  }();
  Result<Morph> morph = Morph::make({&outline, 1}, {&square, 1}, {.tolerance = kTolerance});
  require(morph.has_value());
  for (const float t : {0.0F, 0.4F, 1.0F}) morph->shape(t, line);
  return 0;
}
