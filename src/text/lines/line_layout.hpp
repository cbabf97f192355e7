// SPDX-License-Identifier: MIT
// From shaped text to a paragraph: lines, what overflows, places.
#pragma once

#include "text/lines/line_measure.hpp"

namespace grafema::detail {

/// Lays the text out as the style says, overflow included.
void lay_out_lines(ShapedText::State& state, const TextStyle& style, ShapeCache& cache, Paragraph& out,
                   Notes* notes);

/// Parts the text into lines of at most the style's width. Replaces `out`; at least one line.
void break_lines(LineMeasure& measure, std::vector<LineRange>& out);

/// Places the lines' glyphs. Replaces what `out` holds.
void place_lines(LineMeasure& measure, std::vector<LineRange>& lines, Paragraph& out);

/// Aligns lines and puts them below each other in the style's box; their glyphs follow.
void stack_lines(LineMeasure& measure, const std::vector<LineRange>& lines, Paragraph& out);

/// Aligns lines whose glyphs stand from 0 on, and puts them below each other in the style's box.
void arrange_lines(LineMeasure& measure, const std::vector<LineRange>& lines, Paragraph& out);

/// Lays a shortened text out where the box is too small for the whole: Overflow::clip and ::ellipsis.
void shorten(ShapedText::State& state, const TextStyle& style, ShapeCache& cache,
             std::vector<LineRange>& lines, Paragraph& out);

/// Places underlines and the like along the lines' glyphs. Replaces Paragraph::bars.
/// Vertical lines, which lie until all else is done.
void turn_lines(const ShapedText::State& state, Paragraph& out);

void place_bars(const ShapedText::State& state, float baseline_shift, Paragraph& out);

/// Whether all lines lie within the style's box.
bool fits(const TextStyle& style, const Paragraph& paragraph);

}  // namespace grafema::detail
