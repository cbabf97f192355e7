// SPDX-License-Identifier: MIT
// Atlases whose pages were painted by hand: brought back, checked, enlarged, and made of painted letters
// alone.
#pragma once

#include <vector>

#include "grafema/atlas/atlas.hpp"

namespace grafema {

/// A page as it came back from an image editor.
struct PaintedPage {
  std::size_t page = 0;
  Image image;  ///< r8, rgb8 or rgba8 of the page's size. Gray is coverage; with colors the whole atlas
                ///< becomes `color`
};

/// Paint outside of every cell, which no glyph will show; the glyph is the one whose cell is nearest.
struct SpilledPaint {
  std::size_t glyph = 0;  ///< index into Atlas::glyphs
  int pixels = 0;
};

struct Repainted {
  Atlas atlas;
  std::vector<SpilledPaint> spills;  ///< ascending by glyph
  std::vector<std::size_t> pages;    ///< which were painted
  std::vector<Image> differences;    ///< one for each: gray as it was, green what is new, red what is gone
};

/// Puts painted pages in the place of those of a coverage or color atlas. Fails with `unsupported` for
/// distance pages, `bad_value` for a page that is not there and `damaged` for a picture of another size.
GRAFEMA_API Result<Repainted> repaint(const Atlas& atlas, std::vector<PaintedPage> painted);

/// The same atlas with pages 2 or 4 times as large, cells, metrics and kerning along with them: more room for
/// a brush. Coverage and color only.
GRAFEMA_API Result<Atlas> enlarged(const Atlas& atlas, int times);

/// A page, magnified `times`, to paint by: cells framed, what belongs to the letter lighter than the padding
/// around it, baselines drawn.
GRAFEMA_API Result<Image> draw_page_guide(const Atlas& atlas, std::size_t page, int times);

/// One letter of a sheet painted without any font.
struct PaintedLetter {
  std::vector<char32_t> characters;
  PixelRect cell;      ///< on the sheet
  float baseline = 0;  ///< from the cell's top, pixels
  float left = 0;      ///< from the pen to the cell's left side
  float advance = 0;
};

struct PaintedSheet {
  std::string family, copyright, license;
  Image image;        ///< rgba8
  float size = 0;     ///< pixels per em: what layouts call this size
  LineMetrics lines;  ///< pixels at that size
  std::vector<PaintedLetter> letters;
  struct Kern {
    char32_t left, right;
    float value;  ///< pixels
  };
  std::vector<Kern> kerning;
};

/// A color atlas of it. Letters are glyphs 1, 2, 3 ... in their order. Fails with `damaged` where a cell
/// leaves the sheet, a character comes twice or a number is out of range.
GRAFEMA_API Result<Atlas> make_atlas(const PaintedSheet& sheet);

}  // namespace grafema
