// SPDX-License-Identifier: MIT
// The surface of a solid letter as triangles between shared points, before normals and texture coordinates.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "grafema/outline/mesh.hpp"
#include "outline/union/grid_shape.hpp"

namespace grafema::detail {

struct ShellPoint {
  double x = 0, y = 0, z = 0;  ///< font units
};

struct ShellFace {
  std::array<std::uint32_t, 3> points{};
  std::array<float, 3> lengths{};  ///< along the outline at each corner; of faces of the side alone
  MeshSurface surface{};
};

struct Shell {
  std::vector<ShellPoint> points;
  std::vector<ShellFace> faces;  ///< by surface
};

/// How far one step of the bevel lies inside the outline and below the front, in shares of its width and
/// height.
struct BevelStep {
  double inward = 0, up = 0;
};
std::vector<BevelStep> bevel_steps(const Bevel& bevel);

/// Appends the shell's triangles to the mesh: normals smoothed where surfaces meet at less than the sharp
/// angle, corners that agree in everything shared.
void append_shell(const Shell& shell, const Solid& solid, Mesh& mesh);

}  // namespace grafema::detail
