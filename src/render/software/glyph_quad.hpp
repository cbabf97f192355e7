// SPDX-License-Identifier: MIT
// One layer of one glyph, placed: what the software renderer paints.
#pragma once

#include <array>
#include <cstdint>

namespace grafema::detail {

/// A parallelogram in clip space with a piece of a page on it. Its corners are origin, origin + across,
/// origin + down and origin + across + down; the cell, half a texel wider on every side, is stretched over
/// it.
struct GlyphQuad {
  std::array<float, 4> origin = {}, across = {}, down = {};  ///< homogeneous clip space x, y, z, w
  std::array<std::uint16_t, 4> cell =
      {};  ///< x, y, width, height in texels; what lies outside counts as empty
  std::array<std::uint8_t, 4> tint =
      {};                    ///< red, green, blue (sRGB) and alpha that multiply the layer's fill
  std::uint16_t record = 0;  ///< index into SceneMemory::layers
  std::uint16_t page = 0;    ///< PageInfo::array_layer of the page, in the texture array of its batch
};

}  // namespace grafema::detail
