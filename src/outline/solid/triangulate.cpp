// SPDX-License-Identifier: MIT
// Triangles of an outline in font units.
#include <algorithm>
#include <cmath>

#include "grafema/outline/triangles.hpp"
#include "outline/solid/fill_triangles.hpp"
#include "outline/solid/flip_edges.hpp"

namespace grafema {

double Triangles::area() const {
  double doubled = 0;
  for (std::size_t i = 0; i + 2 < indices.size(); i += 3) {
    const FontPoint a = points[indices[i]], b = points[indices[i + 1]], c = points[indices[i + 2]];
    doubled += (double{b.x} - a.x) * (double{c.y} - a.y) - (double{b.y} - a.y) * (double{c.x} - a.x);
  }
  return doubled / 2;
}

struct Triangulator::Memory {
  detail::Loops loops;
  detail::FillTriangles fill;
  std::vector<detail::FillTriangles::Triangle> triangles;
};

Triangulator::Triangulator() : memory_(std::make_unique<Memory>()) {}
Triangulator::~Triangulator() = default;
Triangulator::Triangulator(Triangulator&&) noexcept = default;
Triangulator& Triangulator::operator=(Triangulator&&) noexcept = default;

Result<void> Triangulator::run(const Contours& contours, float tolerance, Triangles& out,
                               TriangleShape shape) {
  out.clear();
  if (!(tolerance > 0) || !std::isfinite(tolerance)) {
    return bad_value("a tolerance above 0");
  }
  Memory& m = *memory_;
  const detail::Grid grid = detail::Grid::reaching(detail::largest_coordinate(contours));
  detail::flatten_to_grid(contours, tolerance, grid, m.loops);
  detail::Steps steps;
  if (!m.fill.run(m.loops, m.triangles, steps)) {
    return fail(make_error(ErrorKind::unsupported, "an outline that crosses itself less often"));
  }
  if (shape == TriangleShape::rounded) detail::flip_edges(m.loops.points, m.triangles);
  out.points.resize(m.loops.points.size());
  for (std::size_t i = 0; i < out.points.size(); ++i) {
    const detail::GridPoint p = m.loops.points[i];
    out.points[i] = {static_cast<float>(grid.from(p.x)), static_cast<float>(grid.from(p.y))};
  }
  out.loop_ends.assign(m.loops.ends.begin(), m.loops.ends.end());
  out.indices.resize(m.triangles.size() * 3);
  std::uint32_t* corner = out.indices.data();
  for (const auto& triangle : m.triangles) {
    for (const std::uint32_t place : triangle) *corner++ = place;
  }
  return {};
}

Result<void> triangulate(const Contours& contours, float tolerance, Triangles& out, TriangleShape shape) {
  return Triangulator().run(contours, tolerance, out, shape);
}

}  // namespace grafema
