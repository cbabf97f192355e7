// SPDX-License-Identifier: MIT
// Pages of an atlas painted by hand: brought back, checked, enlarged; letters painted without a font.
#pragma once

#include <vector>

#include "grafema/atlas/atlas.hpp"

namespace grafema {

/// A page as it came back from an image editor.
struct PaintedPage {
  std::size_t page = 0;
  Image image = {};  ///< r8, rgb8 or rgba8 of the page's size. Gray is coverage; with colors the whole atlas
                     ///< becomes `color`
};

/// Paint that lies outside of every cell, so that no glyph shows it.
struct SpilledPaint {
  std::size_t glyph = 0;  ///< index into Atlas::glyphs of the glyph whose cell is nearest
  int pixels = 0;
};

struct Repainted {
  Atlas atlas = {};
  std::vector<SpilledPaint> spills = {};  ///< ascending by glyph
  std::vector<std::size_t> pages = {};    ///< the pages that were painted
  std::vector<Image> differences =
      {};  ///< one for each painted page: gray what stayed, green what is new, red what is gone
};

/// Puts painted pages in the place of those of a coverage or color atlas. Fails with `unsupported` for
/// distance pages, `bad_value` for a page that is not there and `damaged` for a picture of another size.
GRAFEMA_API Result<Repainted> repaint(const Atlas& atlas, std::vector<PaintedPage> painted);

/// The same atlas `times` as large, 2 or 4: pages, cells, metrics and kerning, for a finer brush. Fails with
/// `unsupported` for distance pages.
GRAFEMA_API Result<Atlas> enlarged(const Atlas& atlas, int times);

/// A magnified picture of a page to paint by. Cells are framed, the room of the letter itself is lighter than
/// the padding around it, baselines are drawn.
GRAFEMA_API Result<Image> draw_page_guide(const Atlas& atlas, std::size_t page, int times);

/// A letter painted without any font.
struct PaintedLetter {
  std::vector<char32_t> characters = {};
  PixelRect cell = {};  ///< in PaintedLetters::image
  float baseline = 0;   ///< from the cell's top, pixels
  float left = 0;       ///< from the pen to the cell's left side
  float advance = 0;
};

struct PaintedLetters {
  std::string family = {}, copyright = {}, license = {};
  Image image = {};        ///< rgba8
  float size = 0;          ///< pixels per em: what layouts call this size
  LineMetrics lines = {};  ///< pixels at that size
  std::vector<PaintedLetter> letters = {};
  struct Kern {
    char32_t left = {}, right = {};
    float value = {};  ///< pixels
  };
  std::vector<Kern> kerning = {};
};

/// A color atlas of painted letters. They become the glyphs 1, 2, 3 ... in their order. Fails with `damaged`
/// where a cell leaves the picture, a character comes twice or a number is out of range.
GRAFEMA_API Result<Atlas> make_atlas(const PaintedLetters& sheet);

}  // namespace grafema
