// SPDX-License-Identifier: MIT
// Turns lines that were laid out from left to right into ones that run from top to bottom.
#include <algorithm>

#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

/// A line as it lay, and its right side now.
struct Turn {
  float top = 0, right = 0;
  /// What stood at `x` along the line and at `y` down from the first line.
  PixelPoint operator()(float x, float y) const { return {right - (y - top), x}; }
  Rect operator()(const Rect& r) const {
    const PixelPoint a = (*this)(r.left, r.bottom), b = (*this)(r.right, r.top);
    return {a.x, a.y, b.x, b.y};
  }
};

}  // namespace

void turn_lines(const ShapedText::State& state, Paragraph& out) {
  out.writing = state.writing;
  if (state.writing == WritingMode::horizontal) return;
  const float depth = out.box.bottom;
  const bool from_right = state.writing == WritingMode::vertical_rl;
  const auto turn_of = [&](const Line& line) {
    return Turn{line.top, from_right ? depth - line.top : line.top + line.height};
  };
  const auto line_of = [&](std::uint32_t byte) -> const Line& {
    const auto after = std::upper_bound(out.lines.begin(), out.lines.end(), byte,
                                        [](std::uint32_t b, const Line& line) { return b < line.start; });
    return after == out.lines.begin() ? out.lines.front() : *(after - 1);
  };
  for (PlacedBar& bar : out.bars) bar.box = turn_of(line_of(bar.text_start))(bar.box);
  std::size_t icon = 0;
  for (const Line& line : out.lines) {
    const Turn turn = turn_of(line);
    const float middle = line.top + line.height / 2;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      PlacedGlyph& glyph = out.glyphs[g];
      if (glyph.turned) {
        glyph.pen = turn(glyph.pen.x, glyph.pen.y);
        glyph.offset = {-glyph.offset.y, glyph.offset.x};
      } else {
        glyph.pen = turn(glyph.pen.x, middle);
      }
    }
    // Pictures stand upright in the middle of the room that they have along the line.
    for (; icon < out.icons.size(); ++icon) {
      Rect& box = out.icons[icon].box;
      if ((box.top + box.bottom) / 2 > line.top + line.height && &line != &out.lines.back()) break;
      const float width = box.width(), height = box.height();
      const PixelPoint at = turn((box.left + box.right) / 2, middle);
      box = {at.x - width / 2, at.y - height / 2, at.x + width / 2, at.y + height / 2};
    }
  }
  const Rect around = out.advance_box;
  out.advance_box = from_right ? Rect{depth - around.bottom, around.left, depth - around.top, around.right}
                               : Rect{around.top, around.left, around.bottom, around.right};
  out.box = {0, 0, out.box.bottom, out.box.right};
  for (Line& line : out.lines) {
    const Turn turn = turn_of(line);
    const float left = turn.right - line.height, top = line.left, length = line.width;
    line.baseline = turn.right - (line.baseline - line.top);
    line.width = line.height, line.height = length;
    line.left = left, line.top = top;
  }
}

}  // namespace grafema::detail
