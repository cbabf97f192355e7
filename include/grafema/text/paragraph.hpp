// SPDX-License-Identifier: MIT
// Text laid out: where every glyph goes, and what can be asked of that.
#pragma once

#include <cstdint>
#include <memory>
#include <span>
#include <string_view>
#include <vector>

#include "grafema/base/notes.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/text/rich_text.hpp"
#include "grafema/text/shape_cache.hpp"
#include "grafema/text/text_style.hpp"

namespace grafema {

/// One glyph at its pen. Pixels, y down, origin at the top left of the paragraph's box.
struct PlacedGlyph {
  std::uint16_t face = 0;   ///< index into the FontStack
  std::uint16_t style = 0;  ///< index into Paragraph::styles
  GlyphId glyph{};
  std::uint32_t text_start = 0, text_end = 0;  ///< the bytes of its cluster
  PixelPoint pen =
      {};  ///< on the baseline; in vertical lines on the line's middle, or on the baseline if turned
  PixelPoint offset = {};  ///< from the pen to where it is painted
  float advance = 0;       ///< along the line, as placed: kerning, tracking and justification included
  std::uint8_t level = 0;  ///< odd: text that runs from right to left
  std::uint8_t parts = 1;  ///< of a ligature: how many glyphs it was made of
  bool turned = false;     ///< painted a quarter turn clockwise about its origin: letters on their side

  PixelPoint origin() const { return {pen.x + offset.x, pen.y + offset.y}; }
  bool operator==(const PlacedGlyph&) const = default;
};

/// In vertical lines `width` is the thickness, `height` the length, and `baseline` an x.
struct Line {
  std::uint32_t start = 0, end = 0;              ///< bytes, with the spaces and the line break that end it
  std::uint32_t first_glyph = 0, end_glyph = 0;  ///< range of Paragraph::glyphs
  float left = 0, baseline = 0, width = 0;  ///< pixels; spaces at the end of a wrapped line hang out of it
  float top = 0, height = 0;                ///< of the line's box: ascent and descent
  bool right_to_left = false;               ///< the direction of its paragraph
  bool operator==(const Line&) const = default;
};

/// What a rich text says of some of its glyphs. `look`, `motion` and `link` are indices of the innermost
/// spans that name one.
struct PlacedStyle {
  static constexpr std::uint32_t kNone = 0xFFFFFFFF;
  float scale = 1;  ///< of Paragraph::size
  std::uint32_t look = kNone, motion = kNone, link = kNone;
  bool operator==(const PlacedStyle&) const = default;
};

/// A face as it was laid out with: see StackFace.
struct PlacedFace {
  float scale = 1;
  float grow = 0;  ///< ems of the glyph's size
  float lean =
      0;  ///< by how many pixels a point moves to the right for each that it stands above the baseline
  bool operator==(const PlacedFace&) const = default;
};

/// A piece of a line under, through or over letters. Pixels as for glyphs.
struct PlacedBar {
  Rect box = {};
  std::uint16_t style = 0;                     ///< of the span that asked for it
  std::uint32_t text_start = 0, text_end = 0;  ///< bytes that it goes along with
  bool operator==(const PlacedBar&) const = default;
};

/// The room of an icon. Pixels as for glyphs.
struct IconBox {
  std::uint32_t icon = 0;  ///< index into RichText::icons
  Rect box = {};
  bool operator==(const IconBox&) const = default;
};

/// Refilled by `lay_out`; keeps its capacity.
struct Paragraph {
  std::vector<PlacedGlyph> glyphs = {};  ///< in visual order, line by line
  std::vector<Line> lines = {};          ///< at least one
  Rect advance_box = {};                 ///< around the lines' advances, first ascent to last descent
  Rect box = {};  ///< what labels are anchored by: 0, 0, the box's width and height where they are given,
                  ///< else the lines'
  WritingMode writing = WritingMode::horizontal;
  float size = 0, ascent = 0, descent = 0, line_height = 0;
  std::vector<PlacedFace> faces = {};    ///< of the stack that PlacedGlyph::face counts in
  std::vector<PlacedStyle> styles = {};  ///< the text's own first
  std::vector<PlacedBar> bars = {};      ///< underlines and the like
  std::vector<IconBox> icons = {};       ///< where games draw pictures of their own
  /// The faces of a rich text, those of its spans included; null for a text without spans, whose faces are
  /// those that it was laid out with.
  std::shared_ptr<const FontStack> rich_fonts = {};
  std::vector<float> tab_stops = {};  ///< where TextStyle::tabs stand, from the left of the box

  /// Pixels per em of a glyph.
  float glyph_size(const PlacedGlyph& glyph) const {
    return size * styles[glyph.style].scale * faces[glyph.face].scale;
  }
};

/// Whether `lay_out` takes the style. Fails with `bad_value`.
GRAFEMA_API Result<void> check_style(const TextStyle& style);

/// Lays `text` (UTF-8, below 2^31 bytes) out in lines. A byte that is not UTF-8 stands as U+FFFD and is
/// noted, as are characters that no face has; they show the first face's missing-glyph shape. Controls and
/// other invisible characters take no room. What does not fit, and lines that collide, are noted. Fails with
/// `bad_value` for an empty stack or a style out of its ranges. `ShapedText` keeps what a new width needs.
GRAFEMA_API Result<void> lay_out(const FontStack& stack, std::string_view text, const TextStyle& style,
                                 ShapeCache& cache, Paragraph& out, Notes* notes = nullptr);

/// The same of a text with spans and icons; `stack` and `style` are of what no span changes. Families come
/// from `book`, which may be null. Shaping goes on across spans that change only look, motion or link; a
/// cluster has the style of its first character. Spans that are no range of the text are noted.
GRAFEMA_API Result<void> lay_out(const FontStack& stack, const RichText& text, const TextStyle& style,
                                 ShapeCache& cache, Paragraph& out, Notes* notes = nullptr,
                                 const FontBook* book = nullptr);

/// The bounds of what a plain fill paints, in the paragraph's pixels; empty where it paints nothing. `stack`
/// is what the text was laid out with.
GRAFEMA_API Rect ink_box(const FontStack& stack, const Paragraph& paragraph);
/// The same of some glyphs: those of a line, a word, or one.
GRAFEMA_API Rect ink_box(const FontStack& stack, const Paragraph& paragraph, std::uint32_t first_glyph,
                         std::uint32_t end_glyph);
/// The box of a line: its advance, from ascent to descent.
GRAFEMA_API Rect line_box(const Line& line);
/// Fills `out` with the boxes of the clusters in a range of bytes, those that stand side by side joined: one
/// or more a line.
GRAFEMA_API void range_boxes(const Paragraph& paragraph, std::uint32_t start, std::uint32_t end,
                             std::vector<Rect>& out);

/// A place where a caret may stand.
struct CaretStop {
  std::uint32_t position = 0;  ///< the byte before which it stands
  float x = 0;                 ///< pixels; in vertical lines it is a y
  std::uint32_t line = 0;
  bool right_to_left = false;  ///< the direction of the text behind it
  bool operator==(const CaretStop&) const = default;
};

/// Fills `out` with the carets of all lines, from left to right in each: on either side of every cluster, a
/// ligature's parts in between.
GRAFEMA_API void caret_stops(const Paragraph& paragraph, std::string_view text, std::vector<CaretStop>& out);

}  // namespace grafema
