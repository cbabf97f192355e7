// SPDX-License-Identifier: MIT
// Outlines to try, and what tests ask of them by brute force.
#pragma once

#include <array>
#include <map>
#include <random>
#include <tuple>
#include <vector>

#include "grafema/font/face.hpp"
#include "grafema/outline/contours.hpp"
#include "grafema/outline/mesh.hpp"
#include "grafema/outline/triangles.hpp"

namespace grafema::test {

/// The winding number of straight pieces around a point.
inline int winding_at(std::span<const Segment> pieces, double x, double y) {
  int winding = 0;
  for (const Segment& s : pieces) {
    if ((s.y0 <= y) == (s.y1 <= y)) continue;
    if (s.x0 + (s.x1 - s.x0) * ((y - s.y0) / (s.y1 - s.y0)) > x) winding += s.y1 > s.y0 ? 1 : -1;
  }
  return winding;
}

inline double twice_area(FontPoint a, FontPoint b, FontPoint c) {
  return (double{b.x} - a.x) * (double{c.y} - a.y) - (double{b.y} - a.y) * (double{c.x} - a.x);
}

/// How often triangles lie over a point: 1 inside of a shape that was cut well, 0 outside.
inline int triangles_at(const Triangles& t, FontPoint p) {
  int count = 0;
  for (std::size_t i = 0; i < t.indices.size(); i += 3) {
    const FontPoint a = t.points[t.indices[i]], b = t.points[t.indices[i + 1]],
                    c = t.points[t.indices[i + 2]];
    count += twice_area(a, b, p) > 0 && twice_area(b, c, p) > 0 && twice_area(c, a, p) > 0 ? 1 : 0;
  }
  return count;
}

/// Whether every edge of a triangle is that of one other, turned round, or an edge of a loop.
inline bool edges_pair_up(const Triangles& t) {
  std::map<std::array<float, 4>, int> edges;
  const auto add = [&](FontPoint a, FontPoint b) {
    const bool swapped = std::tie(a.x, a.y) > std::tie(b.x, b.y);
    edges[swapped ? std::array{b.x, b.y, a.x, a.y} : std::array{a.x, a.y, b.x, b.y}] += swapped ? -1 : 1;
  };
  for (std::size_t i = 0; i < t.indices.size(); i += 3) {
    for (std::size_t k = 0; k < 3; ++k) add(t.points[t.indices[i + k]], t.points[t.indices[i + (k + 1) % 3]]);
  }
  for (std::size_t loop = 0; loop < t.loop_count(); ++loop) {
    const auto points = t.loop(loop);
    for (std::size_t i = 0; i < points.size(); ++i) add(points[(i + 1) % points.size()], points[i]);
  }
  return std::all_of(edges.begin(), edges.end(), [](const auto& edge) { return edge.second == 0; });
}

/// Whether every edge of the mesh is passed as often one way as the other: closed, and all turned the same
/// way.
inline bool is_closed(const Mesh& mesh) {
  std::map<std::pair<std::array<float, 3>, std::array<float, 3>>, int> edges;
  for (std::size_t i = 0; i < mesh.indices.size(); i += 3) {
    for (std::size_t k = 0; k < 3; ++k) {
      const auto a = mesh.vertices[mesh.indices[i + k]].position,
                 b = mesh.vertices[mesh.indices[i + (k + 1) % 3]].position;
      ++edges[{a, b}];
      --edges[{b, a}];
    }
  }
  return std::all_of(edges.begin(), edges.end(), [](const auto& edge) { return edge.second == 0; });
}

/// By the divergence theorem; above 0 where triangles face outward.
inline double volume(const Mesh& mesh) {
  double sum = 0;
  for (std::size_t i = 0; i < mesh.indices.size(); i += 3) {
    const auto &a = mesh.vertices[mesh.indices[i]].position, &b = mesh.vertices[mesh.indices[i + 1]].position,
               &c = mesh.vertices[mesh.indices[i + 2]].position;
    sum += a[0] * (double{b[1]} * c[2] - double{b[2]} * c[1]) -
           a[1] * (double{b[0]} * c[2] - double{b[2]} * c[0]) +
           a[2] * (double{b[0]} * c[1] - double{b[1]} * c[0]);
  }
  return sum / 6;
}

/// Random closed polygons on whole numbers, so that corners, edges and crossings often coincide.
inline Contours tangled(std::mt19937& random) {
  const int span = std::uniform_int_distribution(3, 40)(random);
  std::uniform_int_distribution<int> at(0, span), count(3, 9), contours(1, 4);
  Contours c;
  for (int i = contours(random); i > 0; --i) {
    c.move_to({static_cast<float>(at(random)), static_cast<float>(at(random))});
    for (int k = count(random); k > 1; --k)
      c.line_to({static_cast<float>(at(random)), static_cast<float>(at(random))});
    c.close();
  }
  return c;
}

inline Contours outline_of(const Face& face, char32_t character) {
  Contours c;
  REQUIRE(face.read_outline(face.find_glyph(character), c).has_value());
  return c;
}

}  // namespace grafema::test
