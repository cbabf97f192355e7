// SPDX-License-Identifier: MIT
// Solid letters: outlines given depth and beveled edges, as triangles for any 3D scene.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/export.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// x right, y up, z toward who looks at the front; interleaved, 48 bytes, as it may be copied into a vertex
/// buffer.
struct MeshVertex {
  std::array<float, 3> position{};
  std::array<float, 3> normal{};   ///< outward, length 1
  std::array<float, 4> tangent{};  ///< where u grows, length 1; the bitangent is cross(normal, tangent) *
                                   ///< [3], as glTF 2.0 has it
  std::array<float, 2>
      uv{};  ///< in the mesh's units, v down. Front, back and bevel: planar, from the letter's origin.
             ///< Side: u is the length along the outline, v the way from the front
  bool operator==(const MeshVertex&) const = default;
};

/// Which surface of a letter: what gets a material of its own.
enum class MeshSurface : std::uint8_t { front, back, side, bevel };

/// A run of Mesh::indices that belongs to one surface of one letter.
struct MeshPart {
  MeshSurface surface{};
  std::uint32_t letter = 0;            ///< which call of `extrude` made it, from 0
  std::uint32_t first = 0, count = 0;  ///< indices
  bool operator==(const MeshPart&) const = default;
};

/// Counterclockwise triangles, seen from outside. Closed: each edge is shared by two triangles, corners of
/// different normals lying at the very same position.
struct Mesh {
  std::vector<MeshVertex> vertices = {};
  std::vector<std::uint32_t> indices = {};
  std::vector<MeshPart> parts = {};
  std::uint32_t letters = 0;

  void clear() { vertices.clear(), indices.clear(), parts.clear(), letters = 0; }
};

enum class BevelShape : std::uint8_t { round, flat, concave };

/// The edge between front and side, cut away. It lies inside the outline: the letter's silhouette stays.
struct Bevel {
  BevelShape shape = BevelShape::round;
  float width = 0;   ///< how far it reaches inward from the outline, font units, 0 and more; 0: none
  float height = 0;  ///< how far down from the front, font units, 0 and more; 0: as `width`
  int segments = 4;  ///< steps of a round or concave one, 1 to 64; a flat one has one
  bool back = true;  ///< the back has the same
};

struct Solid {
  float depth = 200;  ///< from back (z = 0) to front, font units, above 0
  Bevel bevel = {};
  float sharp_angle = 40;  ///< degrees, 0 to 180: surfaces that meet at less are shaded as one smooth surface
  float tolerance = 1;     ///< how far straight pieces may leave the curves, font units, above 0
  float scale = 1;         ///< mesh units per font unit, above 0
  std::array<float, 3> at{};  ///< where the outline's origin stands, mesh units
};

/// Appends one solid letter to the mesh. A bevel that is wider than the letter's strokes ends where they are
/// used up; one wider than every stroke is made narrower, one higher than the depth has room for lower: both
/// are noted (NoteKind::clamped_bevel). An outline that fills nothing appends nothing but counts as a letter.
/// Fails (ErrorKind::bad_value) where a number is out of its range or not finite, and (unsupported) where an
/// outline crosses itself too often; the mesh is as it was then.
GRAFEMA_API Result<void> extrude(const Contours& contours, const Solid& solid, Mesh& mesh,
                                 Notes* notes = nullptr);

}  // namespace grafema
