// SPDX-License-Identifier: MIT
// New fonts: from a sheet of drawn pixels to a TrueType file.
#pragma once

#include <string>
#include <vector>

#include "grafema/base/image.hpp"
#include "grafema/write/font_rules.hpp"

namespace grafema {

/// Writes an OpenType file with the tables OS/2, cmap, gasp, head, hhea, hmtx, maxp, name and post; glyf and
/// loca, or CFF; GDEF, GPOS and kern (which agree), GSUB, COLR and CPAL where there is what they hold. The
/// same drawing gives the same bytes. Fails with `bad_value` for a character or name given twice, pairs,
/// parts and substitutions of glyphs that are not there, or numbers that the tables can't hold; `unsupported`
/// for cubic curves in glyf.
GRAFEMA_API Result<std::vector<std::byte>> make_font(const FontDrawing& drawing);

/// Cells of another size in the same picture, from `x` and `y` on. Lengths are pixels of the sheet.
struct PixelBlock {
  int x = 0, y = 0;  ///< the top left corner of its first cell
  int cell_width = 8, cell_height = 12;
  int baseline = 9;                       ///< rows of its cells above the baseline, 1..cell_height
  std::vector<std::u32string> rows = {};  ///< as those of the sheet
};

/// Characters drawn in the cells of a picture. Lengths are pixels of the sheet.
struct PixelSheet {
  Image sheet = {};  ///< pixels that are dark and opaque are ink; of a colored sheet all that are opaque
  bool color =
      false;  ///< colors become layers (COLR version 0), up to 64 in a cell; needs a picture with alpha
  int cell_width = 8, cell_height = 12;
  std::vector<std::u32string> rows =
      {};  ///< the characters of each row of cells, from left to right; a space stands for an unused cell
  int missing_column = -1,
      missing_row = -1;                     ///< the cell of the missing-glyph shape; -1: an empty box is made
  int baseline = 9;                         ///< rows of the cell above the baseline, 1..cell_height
  int ascender = 0;                         ///< rows of the cell above the ascent, 0..baseline-1
  int left_bearing = 0, right_bearing = 1;  ///< empty columns beside the ink, 0..64
  int space = 4;                            ///< advance of the space, 1..64
  FaceNames names = {};
  std::uint16_t weight_class = 400;
  std::vector<DrawnPair> kerning = {};  ///< in quarter pixels
  FontRules rules = {};                 ///< lengths in quarter pixels
  std::vector<PixelBlock> blocks =
      {};  ///< beside the grid, which is read without what is left over at the sides
};

/// Font units that a pixel of the sheet becomes. A multiple of four, so that quarter pixels are whole units.
constexpr int kUnitsPerPixel = 128;

/// Traces the ink of every cell. The advance of a glyph is the width of its ink and its bearings. Pixels that
/// share a side share one outline; pixels that touch at a corner do not. Fails with `bad_value`, naming the
/// cell or the line, where the sheet is no multiple of the cell (one without blocks), there are more rows or
/// columns than it has, a character comes twice or a cell has no ink.
GRAFEMA_API Result<FontDrawing> draw_from_sheet(const PixelSheet& sheet);

}  // namespace grafema
