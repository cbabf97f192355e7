// SPDX-License-Identifier: MIT
// The boxes that fills of lines and of glyphs span.
#pragma once

#include "grafema/draw/scene_memory.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema::detail {

/// Quickest where glyphs are asked for in their order.
class BoxFinder {
 public:
  FillBoxes of_glyph(const Paragraph& paragraph, std::size_t glyph);
  FillBoxes of_bar(const Paragraph& paragraph, const PlacedBar& bar);

 private:
  std::size_t line_ = 0;
};

inline const Rect& box_of(const FillBoxes& boxes, FillBox wanted) {
  return wanted == FillBox::line ? boxes.line : boxes.glyph;
}

}  // namespace grafema::detail
