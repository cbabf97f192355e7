// SPDX-License-Identifier: MIT
// What is probably wrong with drawn letters, before a font is made from them.
#pragma once

#include <string>
#include <vector>

#include "grafema/write/make_font.hpp"

namespace grafema {

enum class DrawingFaultKind : std::uint8_t {
  higher,        ///< its top stands off that of its fellows by one pixel
  lower,         ///< its bottom does
  pinhole,       ///< one pixel of paper with ink all around it
  gap,           ///< one pixel of paper within a straight stroke
  touches,       ///< its ink meets that of the cell beside it
  stroke_width,  ///< its stems are not as wide as those of other letters
  figure_width,  ///< it is not as wide as the other figures
  no_partner,    ///< a bracket without the one that closes it, a letter without its other case
};

/// A fault of a cell. Pixels are counted from the cell's top left corner.
struct DrawingFault {
  DrawingFaultKind kind = DrawingFaultKind::higher;
  char32_t character = 0;
  char32_t fellow = 0;       ///< the one that it differs from, touches or misses
  int row = 0, column = 0;   ///< of the cell, from 0
  int x = -1, y = -1;        ///< the pixel to look at; -1: none in particular
  int found = 0, usual = 0;  ///< rows or widths in pixels, where the fault is one of these

  /// A sentence with cell, pixel and fellow, as people count: from 1.
  GRAFEMA_API std::string text() const;
};

/// Looks at each cell and compares it with its fellows: small letters without and with ascender or descender,
/// capitals, figures. In the order of the cells. Fails as `draw_from_sheet` does for sheets that can't be
/// read.
GRAFEMA_API Result<std::vector<DrawingFault>> lint_drawings(const PixelSheet& sheet);

}  // namespace grafema
