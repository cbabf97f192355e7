// SPDX-License-Identifier: MIT
// Finds lines and clusters of glyphs.
#include "draw/content/fill_boxes.hpp"
#include "text/placing/glyph_room.hpp"

#include <algorithm>

namespace grafema::detail {

FillBoxes BoxFinder::of_glyph(const Paragraph& paragraph, std::size_t index) {
  const std::vector<Line>& lines = paragraph.lines;
  const auto holds = [&](const Line& line) { return index >= line.first_glyph && index < line.end_glyph; };
  if (line_ >= lines.size() || !holds(lines[line_])) {
    line_ = static_cast<std::size_t>(std::find_if(lines.begin(), lines.end(), holds) - lines.begin());
  }
  if (line_ >= lines.size() || index >= paragraph.glyphs.size()) return {paragraph.box, paragraph.box};
  const Line& line = lines[line_];
  const std::vector<PlacedGlyph>& glyphs = paragraph.glyphs;
  const std::uint32_t cluster = glyphs[index].text_start;
  // Glyphs of a cluster stand together.
  std::size_t first = index, end = index + 1;
  while (first > line.first_glyph && glyphs[first - 1].text_start == cluster) --first;
  while (end < line.end_glyph && glyphs[end].text_start == cluster) ++end;
  Rect glyph = glyph_room(paragraph, line, glyphs[first]);
  for (std::size_t g = first; g < end; ++g) {
    const Rect room = glyph_room(paragraph, line, glyphs[g]);
    glyph = {std::min(glyph.left, room.left), std::min(glyph.top, room.top),
             std::max(glyph.right, room.right), std::max(glyph.bottom, room.bottom)};
  }
  return {line_box(line), glyph};
}

FillBoxes BoxFinder::of_bar(const Paragraph& paragraph, const PlacedBar& bar) {
  const float middle = (bar.box.top + bar.box.bottom) / 2;
  const Line* nearest = nullptr;
  for (const Line& line : paragraph.lines) {
    const bool holds = bar.text_start >= line.start && bar.text_start < line.end;
    if (holds || (nearest == nullptr && middle <= line.top + line.height)) nearest = &line;
    if (holds) break;
  }
  return {nearest != nullptr ? line_box(*nearest) : bar.box, bar.box};
}

}  // namespace grafema::detail
