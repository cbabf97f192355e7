// SPDX-License-Identifier: MIT
// New fonts from drawn shapes: filled paths, and strokes that become outlines.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "grafema/outline/stroke.hpp"
#include "grafema/write/font_rules.hpp"

namespace grafema {

/// One filled or stroked element (SVG 2, chapters 9, 10 and 13). Points are the element's own, y down.
struct DrawnShape {
  Contours path = {};         ///< contours that closepath does not end are open
  Transform to_drawing = {};  ///< from the element's coordinates to those of its drawing, y down in both
  bool filled = true, stroked = false, even_odd = false;
  Color fill = {}, stroke = {};
  float width = 1;  ///< of the stroke, above 0
  StrokeCap cap = StrokeCap::butt;
  StrokeJoin join = StrokeJoin::miter;
  float miter_limit = 4;
  float pen_share =
      1;  ///< how much of the pen's change in another style its stroke takes, 0..1: accents take less
  std::string element = {};  ///< as messages name it: its tag, id and line
};

/// A character, or a glyph that others bring in. Lengths and places are those of the drawing, y down.
struct CharacterDrawing {
  std::string name = {};
  std::vector<char32_t> characters = {};  ///< that show it; may be none
  std::optional<float> advance = {}, left = {},
                       right = {};  ///< instead of the sheet's bearings; with an advance the
                                    ///< drawing stands where it is drawn, x from 0
  std::vector<DrawnShape> shapes = {};
  std::vector<DrawnAnchor> anchors = {};
  std::string place = {};  ///< as messages name it: its id and line
};

/// One weight that is made from the same strokes.
struct SheetStyle {
  std::string name = "Regular";
  std::uint16_t weight_class = 400;
  float pen = 1;       ///< how many times as wide strokes are
  float widen = 1;     ///< how many times as wide letters are, strokes aside
  float bearings = 1;  ///< how many times as wide the room beside them is
};

/// Drawings of a whole face. Lengths are units of the drawings, y down; `em` of them are the size of the
/// text.
struct ShapeSheet {
  std::vector<CharacterDrawing> drawings = {};  ///< `.notdef` is the missing-glyph shape
  FaceNames names = {};
  std::uint16_t units_per_em = 1000;
  float em = 1000;     ///< above 0
  float baseline = 0;  ///< its y
  float ascent = 800, descent = 200, line_gap = 0;
  float left_bearing = 50, right_bearing = 50;  ///< room beside the ink
  float space = 250;                            ///< advance of the space, where it is not drawn
  /// Heights above the baseline that letters reach up or down to. Where strokes become wider their outer
  /// edges stay there.
  std::vector<float> heights = {};
  std::vector<SheetStyle> styles = {{}};
  std::vector<DrawnPair> kerning = {};
  FontRules rules = {};
  bool cff = false;    ///< cubic curves stay
  bool color = false;  ///< shapes of other colors than black become color layers
};

/// Draws the characters in one of the sheet's styles: strokes become their outlines within half a font unit,
/// shapes of a character are united, cubic curves become quadratic ones within half a unit (not for `cff`).
/// Fails with `bad_value`, naming the drawing, for characters drawn twice, numbers out of their ranges, and
/// even-odd fills whose contours cross.
GRAFEMA_API Result<FontDrawing> draw_from_shapes(const ShapeSheet& sheet, std::size_t style = 0);

/// Draws all styles as one variable face with a `wght` axis; its default is the first style. Shapes are not
/// united: points answer each other from weight to weight. `unsupported` with `cff`.
GRAFEMA_API Result<FontDrawing> draw_variable_from_shapes(const ShapeSheet& sheet);

}  // namespace grafema
