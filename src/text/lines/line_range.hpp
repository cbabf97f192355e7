// SPDX-License-Identifier: MIT
// Which characters stand on a line, and of which pieces it is made.
#pragma once

#include <cstdint>

namespace grafema::detail {

/// A stretch of a run on a line: glyphs of the text as shaped, or shaped anew.
struct LinePiece {
  std::uint32_t run = 0;
  std::uint32_t first = 0, end = 0;              ///< characters
  std::uint32_t first_glyph = 0, end_glyph = 0;  ///< of the text's glyphs, or of `LineMeasure::fresh`
  bool fresh = false;
  std::uint8_t level = 0;
  float tab_advance = 0;  ///< of a run that is a tab
};

/// The line's characters: `content_end` is where the spaces and the break begin that end it.
struct LineRange {
  std::uint32_t first = 0, end = 0, content_end = 0;
  std::uint32_t part = 0;  ///< index of TextAnalysis::parts
  bool begins_part = false, ends_part = false;
  bool hyphen = false;  ///< it ends at a soft hyphen
  float indent = 0;     ///< room before it
  float width = 0;      ///< of the content
  float gap = 0;        ///< what each gap of a justified line is widened by
};

}  // namespace grafema::detail
