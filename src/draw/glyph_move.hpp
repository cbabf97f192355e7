// SPDX-License-Identifier: MIT
// What a motion makes of a glyph: terms worked out as the shader of a renderer does, line by line.
#pragma once

#include <array>
#include <cstdint>

#include "grafema/draw/motion.hpp"

namespace grafema::detail {

/// Where points of a glyph go: (x, y) to (xx x + xy y + dx, yx x + yy y + dy), in the label's pixels; and
/// what its colors are multiplied with.
struct GlyphMove {
  float xx = 1, xy = 0, dx = 0, yx = 0, yy = 1, dy = 0;
  std::array<float, 4> tint = {1, 1, 1, 1};

  PixelPoint operator()(PixelPoint p) const { return {xx * p.x + xy * p.y + dx, yx * p.x + yy * p.y + dy}; }
  /// Then a map that leaves `pivot`, a point of the glyph at rest, where it has come to.
  void turn(PixelPoint pivot, float a, float b, float c, float d);
};

/// What terms need to know of a glyph; pixels of the label.
struct GlyphAtRest {
  std::uint32_t index = 0;
  float size = 0;  ///< pixels per em of the label
  PixelPoint middle, baseline, label;
};

/// The sine of an angle in whole turns, to a millionth, from plain arithmetic.
float sine_of_turns(float turns);

/// Whether a term changes nothing at this time of its label.
bool is_at_rest(const MotionTerm& term, float seconds);
/// What MotionEasing says, of one glyph at a time of its label.
float motion_value(const MotionTerm& term, std::uint32_t index, float seconds);

void apply(std::span<const MotionTerm> terms, const GlyphAtRest& glyph, float seconds, GlyphMove& move);
/// A function's change, about the middle.
void apply(const GlyphChange& change, const GlyphAtRest& glyph, GlyphMove& move);

/// How far a motion can take any point of a label whose box has this diagonal, with glyphs as large as
/// `glyph`: layout pixels. Infinite for a function.
float motion_reach(const Motion& motion, float size, float glyph, float diagonal);

}  // namespace grafema::detail
