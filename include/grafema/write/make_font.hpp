// SPDX-License-Identifier: MIT
// New fonts: from a sheet of drawn pixels to a TrueType file.
#pragma once

#include <string>
#include <vector>

#include "grafema/base/image.hpp"
#include "grafema/font/face.hpp"

namespace grafema {

/// A glyph to be written; lengths are font units.
struct DrawnGlyph {
  std::vector<char32_t>
      characters;    ///< that show it; the first glyph of a font, its missing-glyph shape, has none
  Contours outline;  ///< moves, lines and quadratic curves; filled sides on the right (y up: clockwise)
  float advance = 0;
};

struct DrawnPair {
  char32_t left = 0, right = 0;
  float value = 0;  ///< added to the advance of `left`
};

/// All that a font file is made from. Lengths are font units; ascent and descent are both positive.
struct FontDrawing {
  FaceNames names;
  std::uint16_t units_per_em = 1000;  ///< 16..16384
  LineMetrics lines;
  std::uint16_t weight_class = 400;
  std::vector<DrawnGlyph> glyphs;  ///< at least the missing-glyph shape
  std::vector<DrawnPair> kerning;
};

/// Writes a TrueType file with the tables OS/2, cmap, glyf, head, hhea, hmtx, kern (where there are pairs),
/// loca, maxp, name and post. The same drawing gives the same bytes. Fails with `bad_value` for a character
/// given twice, a pair of characters that are not there, or numbers that TrueType can't hold; `unsupported`
/// for cubic curves.
GRAFEMA_API Result<std::vector<std::byte>> make_font(const FontDrawing& drawing);

/// Characters drawn in the cells of a picture. Lengths are pixels of the sheet.
struct PixelSheet {
  Image sheet;  ///< dark and opaque pixels are ink
  int cell_width = 8, cell_height = 12;
  std::vector<std::u32string>
      rows;  ///< the characters of each row of cells in order; a space leaves its cell out
  int missing_column = -1,
      missing_row = -1;                     ///< the cell of the missing-glyph shape; -1: an empty box is made
  int baseline = 9;                         ///< rows of the cell above the baseline, 1..cell_height
  int ascender = 0;                         ///< rows of the cell above the ascent, 0..baseline-1
  int left_bearing = 0, right_bearing = 1;  ///< empty columns beside the ink, 0..64
  int space = 4;                            ///< advance of the space, 1..64
  FaceNames names;
  std::uint16_t weight_class = 400;
  std::vector<DrawnPair> kerning;  ///< in quarter pixels
};

/// A pixel of the sheet becomes this many font units: a multiple of four, so that quarter pixels are whole
/// units.
constexpr int kUnitsPerPixel = 128;

/// Traces the ink of every cell. A glyph is as wide as its ink and the bearings; neighboring pixels share one
/// outline, pixels that only touch at a corner have their own. Fails with `bad_value`; the error names the
/// cell or the line: a sheet that is no multiple of the cell, more rows or columns than the sheet has, a
/// character given twice, a cell without ink.
GRAFEMA_API Result<FontDrawing> draw_from_sheet(const PixelSheet& sheet);

}  // namespace grafema
