// SPDX-License-Identifier: MIT
// An entry of a set's order as the quad that it stands for; the vertex shader does the same, line by line.
#pragma once

#include <optional>

#include "grafema/draw/set_memory.hpp"

namespace grafema::detail {

/// How far a quad is cut off: u, v and divisor of the clip are `origin` + a `across` + b `down` at the
/// fractions a, b of the quad.
struct QuadCut {
  std::array<double, 3> origin = {}, across = {}, down = {};
};

struct SetQuad {
  GlyphQuad quad;                   ///< its `record` counts in SetMemory::layers; `box` is not filled
  std::array<float, 4> place = {};  ///< of the cell's sides on the layer's fill: left, top, right, bottom
  SetArray array;
  std::size_t array_number = 0;
  std::optional<QuadCut> cut;
};

/// Nothing where the entry of the batch shows nothing, or is out of range.
std::optional<SetQuad> find_set_quad(const SetMemory& set, std::uint32_t entry, const SetBatch& batch);

}  // namespace grafema::detail
