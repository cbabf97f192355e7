// SPDX-License-Identifier: MIT
// What a ShapedText holds: analysis, runs, glyphs, and sums by which lines are measured.
#pragma once

#include <algorithm>
#include <string>

#include "grafema/text/shaped_text.hpp"
#include "text/lines/line_range.hpp"
#include "text/runs/styles.hpp"
#include "text/shaping/engine/shape_memory.hpp"

namespace grafema {

struct ShapedText::State {
  FontStack base;             ///< the faces that no span changes
  detail::StyleTable styles;  ///< the stack of all faces included
  std::string text, language;
  LineBreaking breaking = LineBreaking::normal;  ///< of the line breaks in `analysis`
  WritingMode writing = WritingMode::horizontal;
  LetterStance stance = LetterStance::mixed;
  std::size_t digits_across = 0;
  bool has_script_gaps = false;
  bool is_part = false;  ///< of another text, which turns vertical lines itself
  TextAnalysis analysis;
  std::vector<ShapedRun> runs;
  std::vector<ShapedGlyph> glyphs;

  /// By how much a glyph of full width may be narrower at the end of a line, in units of its face.
  struct HalfWidth {
    FaceId face{};
    GlyphId glyph{};
    bool upright = false;
    float units = 0;
  };
  std::vector<HalfWidth> half_widths;  ///< of glyphs that ended lines, in this text or one before
  /// Whether a face has a form of the character for vertical text.
  struct VerticalForm {
    FaceId face{};
    char32_t character = 0;
    bool is_there = false;
  };
  std::vector<VerticalForm> vertical_forms;  ///< of characters that were looked for

  // Working memory of `lay_out`.
  std::vector<detail::LineRange> lines;
  std::vector<detail::LinePiece> pieces;
  std::vector<ShapedGlyph> fresh, part;

  // By character, one more than there are: sums of what stands before it.
  std::vector<double> sums;             ///< advances, in ems of the text's size
  std::vector<std::uint32_t> clusters;  ///< clusters that have a glyph
  std::vector<std::uint32_t> spaces;    ///< spaces between words
  /// How many boundaries before a character stand within a joined word, where no tracking widens; empty
  /// where there are none.
  std::vector<std::uint32_t> joined;
  std::vector<std::uint8_t> safe;  ///< 1 where text may be parted with no change of any glyph

  const FontStack& stack() const { return styles.stack; }
  const detail::ShapingStyle& style(const ShapedRun& run) const { return styles.shaping[run.style]; }
  /// Ems of the text's size a unit of a run's face.
  float ems(const ShapedRun& run) const {
    const StackFace& face = styles.stack[run.face];
    return style(run).scale * face.scale / face->units_per_em();
  }
  std::u32string_view characters(std::size_t first, std::size_t end) const {
    return std::u32string_view(analysis.characters.data(), analysis.characters.size())
        .substr(first, end - first);
  }
  /// The run in which the character stands.
  std::size_t run_of(std::uint32_t character) const;

  /// Whether a gap stands between the character and the next: an ideograph and a letter or digit.
  bool has_gap_behind(std::uint32_t character) const;
  /// How much narrower the character, the last of a line, may stand: punctuation of full width. Ems of the
  /// text's size.
  float room_behind(std::uint32_t character);
  static constexpr float kScriptGap = 0.25F;  ///< ems of the text's size
  void take_writing(const TextStyle& style);
  /// Analyzes and shapes `text` by `styles`, which stand already.
  void set(TextDirection direction, ShapeCache& cache, Notes* notes);
  void find_runs(ShapeCache& cache, Notes* notes);
  void shape(ShapeCache& cache, Notes* notes);
  void add_up();
  detail::KeptRecipe& recipe(const ShapedRun& run, ShapeCache& cache) const;
  /// How many clusters with a glyph in [first, end), the last one left out, have tracking behind them.
  std::uint32_t tracked_gaps(std::uint32_t first, std::uint32_t end) const {
    const std::uint32_t count = clusters[end] - clusters[first];
    const std::uint32_t within = joined.empty() || count < 2 ? 0 : joined[end] - joined[first + 1];
    return count == 0 ? 0 : count - 1 - std::min(within, count - 1);
  }
  /// Whether two clusters that stand side by side are joined letters of a cursive word.
  bool are_joined(std::uint32_t a, std::uint32_t b) const {
    if (joined.empty()) return false;
    const std::uint32_t first = std::min(a, b), second = std::max(a, b);
    return joined[second + 1] != joined[second] && clusters[second] - clusters[first] == 1;
  }
  void find_joined();
  /// The glyphs of a part of a run as they look alone; clusters count characters of the text.
  void shape_part(const ShapedRun& run, std::uint32_t first, std::uint32_t end, ShapeCache& cache,
                  std::vector<ShapedGlyph>& out) const;

 private:
  void shape_run(ShapedRun& run, ShapeCache& cache);
  void find_runs(const detail::StyleSegment& segment, std::uint32_t first, std::uint32_t end,
                 ShapeCache& cache, Notes* notes);
  std::size_t choose_face(const detail::ShapingStyle& style, std::uint32_t first, std::uint32_t end,
                          std::size_t current, Notes* notes);
  std::size_t face_behind(const detail::ShapingStyle& style, std::uint32_t first) const;
  void add_to_runs(std::uint32_t first, std::uint32_t end, std::uint16_t face, std::uint16_t style,
                   std::uint32_t across = 0);
  /// Whether a cluster stands upright in vertical lines (UAX #50).
  bool is_upright(std::uint32_t first, const StackFace& face);
  bool has_vertical_form(std::uint32_t character, const GlyphMetrics& face);
  /// How many digits that begin there stand side by side in vertical lines; 0 for what stands by itself.
  std::uint32_t digits_at(std::uint32_t first, std::uint32_t begin, std::uint32_t end) const;
  void shape_across(const ShapedRun& run, ShapeCache& cache);
  void add_icon_run(std::uint32_t first, std::uint32_t end, std::uint16_t style);
  void shape_icon(ShapedRun& run);
  void widen(const ShapedRun& run, std::span<ShapedGlyph> shaped) const;
  void add_gaps(const ShapedRun& run, std::uint32_t end, std::span<ShapedGlyph> shaped) const;
  bool goes_on(const ShapedRun& left, const ShapedRun& right) const;
  void add_word(detail::KeptRecipe& recipe, const ShapedRun& run, std::uint32_t first, std::uint32_t end,
                detail::WordShaper& shaper);
  detail::Word word(const ShapedRun& run, std::uint32_t first, std::uint32_t end, bool joins) const;
};

}  // namespace grafema
