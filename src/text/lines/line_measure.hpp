// SPDX-License-Identifier: MIT
// How wide a part of a text is as a line, without placing it.
#pragma once

#include "text/runs/text_state.hpp"

namespace grafema::detail {

class LineMeasure {
 public:
  LineMeasure(ShapedText::State& state, const TextStyle& style, ShapeCache& cache);

  ShapedText::State& state() const { return state_; }
  const TextStyle& style() const { return style_; }
  /// Pixels a unit of the run's face.
  float scale(const ShapedRun& run) const { return style_.size * state_.ems(run); }

  /// The width of a part without tabs as it stands alone: tracking between its clusters, none behind the
  /// last.
  float width(std::uint32_t first, std::uint32_t end);
  /// What a line that ends there leaves out of its width: a gap between scripts, half of a punctuation mark.
  float trim(std::uint32_t end);
  /// The width of the hyphen behind the character before `end`.
  float hyphen_width(std::uint32_t end);
  void set_width(LineRange& line);
  /// The line's pieces in the order of the text, tabs with the room they take, `fresh` glyphs refilled.
  void take_pieces(LineRange& line, std::vector<LinePiece>& out);
  const std::vector<ShapedGlyph>& fresh() const { return state_.fresh; }

  /// Where the spaces begin that end the part.
  std::uint32_t content_end(std::uint32_t first, std::uint32_t end) const;
  /// Where a tab that stands at `x` ends, with the text from `after` to `end` behind it.
  float tab_advance(float x, std::uint32_t after, std::uint32_t text_end);
  /// A face and glyph of a hyphen; kMissingGlyph where there is none.
  FontStack::Found find_hyphen(std::uint32_t end) const;
  bool has_tabs() const { return has_tabs_; }
  /// The width that TextStyle::reserve keeps free.
  float reserved() const { return reserved_; }
  void reserve(float width) { reserved_ = std::max(reserved_, width); }

 private:
  struct Cut {
    std::uint32_t head_end = 0, tail_begin = 0;  ///< [first, head_end) and [tail_begin, end) are shaped anew
  };
  Cut cut(const ShapedRun& run, std::uint32_t first, std::uint32_t end) const;
  std::uint32_t tracked(std::uint32_t first, std::uint32_t end) const;
  double shaped_width(const ShapedRun& run, std::uint32_t first, std::uint32_t end);
  std::uint32_t decimal_point(std::uint32_t first, std::uint32_t end) const;
  void add_piece(std::uint32_t run, std::uint32_t first, std::uint32_t end, bool fresh,
                 std::vector<LinePiece>& out);

  ShapedText::State& state_;
  const TextStyle& style_;
  ShapeCache& cache_;
  bool has_tabs_ = false;
  float reserved_ = 0;
};

}  // namespace grafema::detail
