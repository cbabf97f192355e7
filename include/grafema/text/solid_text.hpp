// SPDX-License-Identifier: MIT
// Laid-out text as solid letters.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/outline/mesh.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

/// How letters become solid. Lengths are ems of the paragraph's size.
struct SolidTextStyle {
  float depth = 0.2F;  ///< above 0
  BevelShape bevel_shape = BevelShape::round;
  float bevel = 0;         ///< width, 0 and more
  float bevel_height = 0;  ///< 0: as wide
  int bevel_segments = 4;  ///< 1 to 64
  bool bevel_back = true;
  float sharp_angle = 40;    ///< degrees, see Solid
  float tolerance = 0.001F;  ///< how far straight pieces may leave the curves, above 0
  float unit = 1;            ///< mesh units per em, above 0
  bool colors = true;        ///< glyphs with color layers (COLR version 0) become a letter a layer
};

/// What one letter of the mesh is: its number there is its place in SolidText::letters.
struct SolidLetter {
  std::uint32_t glyph = 0;          ///< index into Paragraph::glyphs
  std::uint32_t layer = 0;          ///< which color layer of the glyph, from 0
  std::array<float, 3> pivot{};     ///< its pen on the baseline, mesh units; what it may be turned about
  std::optional<Color> color = {};  ///< of its color layer; none: what the game likes
};

/// A word as one mesh whose parts tell letters and surfaces apart.
struct SolidText {
  Mesh mesh =
      {};  ///< x right, y up, z toward the reader; the origin at the top left of the paragraph, on its back
  std::vector<SolidLetter> letters = {};

  void clear() { mesh.clear(), letters.clear(); }
};

/// Replaces `out`. Each color layer stands a hundredth of an em in front of the one below it. What is damaged
/// or has only pictures is noted and left out, bevels without room are noted, in ems. Fails as `outline_text`
/// and `extrude` do; `out` is empty then.
GRAFEMA_API Result<void> make_solid_text(const FontStack& stack, const Paragraph& paragraph,
                                         const SolidTextStyle& style, SolidText& out, Notes* notes = nullptr);

}  // namespace grafema
