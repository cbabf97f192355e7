// SPDX-License-Identifier: MIT
// An entry of a scene's order as the quad that it stands for; the vertex shader does the same, line by line.
#pragma once

#include <optional>

#include "grafema/draw/scene_memory.hpp"
#include "render/software/glyph_quad.hpp"

namespace grafema::detail {

/// How far a quad is cut off: u, v and divisor of the clip are `origin` + a `across` + b `down` at the
/// fractions a, b of the quad.
struct QuadCut {
  std::array<double, 3> origin = {}, across = {}, down = {};
};

struct SceneQuad {
  GlyphQuad quad;
  std::array<float, 4> place = {};  ///< of the cell's sides on the layer's fill: left, top, right, bottom
  SceneArray array;
  std::size_t array_number = 0;
  std::optional<QuadCut> cut;
};

/// Nothing where the entry of the batch shows nothing, or is out of range.
std::optional<SceneQuad> find_scene_quad(const SceneMemory& scene, std::uint32_t entry,
                                         const SceneBatch& batch);

}  // namespace grafema::detail
