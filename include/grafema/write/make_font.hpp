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
  std::vector<char32_t> characters;  ///< the characters that show it; none for the first glyph of a font, its
                                     ///< missing-glyph shape
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
  Image sheet;  ///< pixels that are dark and opaque are ink
  int cell_width = 8, cell_height = 12;
  std::vector<std::u32string>
      rows;  ///< the characters of each row of cells, from left to right; a space stands for an unused cell
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

/// Font units that a pixel of the sheet becomes. A multiple of four, so that quarter pixels are whole units.
constexpr int kUnitsPerPixel = 128;

/// Traces the ink of every cell. The advance of a glyph is the width of its ink and its bearings. Pixels that
/// share a side share one outline; pixels that touch at a corner do not. Fails with `bad_value`, naming the
/// cell or the line, where the sheet is no multiple of the cell, there are more rows or columns than it has,
/// a character comes twice or a cell has no ink.
GRAFEMA_API Result<FontDrawing> draw_from_sheet(const PixelSheet& sheet);

}  // namespace grafema
