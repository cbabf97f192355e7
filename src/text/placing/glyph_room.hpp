// SPDX-License-Identifier: MIT
// The room of a glyph on its line: its advance, from side to side of the line.
#pragma once

#include "grafema/text/paragraph.hpp"

namespace grafema::detail {

inline Rect glyph_room(const Paragraph& paragraph, const Line& line, const PlacedGlyph& glyph) {
  if (paragraph.writing != WritingMode::horizontal) {
    return {line.left, glyph.pen.y, line.left + line.width, glyph.pen.y + glyph.advance};
  }
  return {glyph.pen.x, line.top, glyph.pen.x + glyph.advance, line.top + line.height};
}

}  // namespace grafema::detail
