// SPDX-License-Identifier: MIT
// Places lines: visual order (UAX #9, rule L2), alignment, justification, and where the lines stand in the
// box.
#include <algorithm>

#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

bool is_ideographic(Tag script) {
  return script == tag("hani") || script == tag("kana") || script == tag("hira") || script == tag("bopo") ||
         script == tag("yi  ");
}

class Placer {
 public:
  Placer(LineMeasure& measure, Paragraph& out)
      : measure_(measure),
        s_(measure.state()),
        style_(measure.style()),
        out_(out),
        pieces_(measure.state().pieces) {}

  void run(std::vector<LineRange>& lines) {
    out_.glyphs.clear(), out_.lines.clear();
    for (LineRange& line : lines) add_line(line);
    arrange(lines);
  }

  void arrange(const std::vector<LineRange>& lines) {
    reserved_ = measure_.reserved();
    out_.face_scales.clear(), out_.tab_stops.clear();
    align(lines);
    stack_lines(lines);
    for (const StackFace& face : s_.stack) out_.face_scales.push_back(face.scale);
    for (const TabStop& stop : style_.tabs) out_.tab_stops.push_back(stop.x);
  }

 private:
  bool right_to_left(const LineRange& line) const { return s_.analysis.parts[line.part].level % 2 != 0; }

  void add_line(LineRange& range) {
    measure_.take_pieces(range, pieces_);
    Line line;
    line.start = s_.analysis.starts[range.first];
    line.end = s_.analysis.starts[range.end];
    line.first_glyph = static_cast<std::uint32_t>(out_.glyphs.size());
    line.right_to_left = right_to_left(range);
    find_gaps(range);
    order_pieces();
    pen_ = 0;
    hanging_ = 0;
    last_ = kNone;
    if (range.hyphen && line.right_to_left) add_hyphen(range);
    for (const LinePiece& piece : pieces_) add_piece(piece, range);
    if (range.hyphen && !line.right_to_left) add_hyphen(range);
    line.end_glyph = static_cast<std::uint32_t>(out_.glyphs.size());
    line.width = range.width + justified_;
    // In a line from right to left the spaces that hang stand on the left.
    line.left = line.right_to_left ? -hanging_ : 0;
    out_.lines.push_back(line);
  }

  /// How much wider a line gets at each of its gaps, to fill its box.
  void find_gaps(const LineRange& line) {
    space_extra_ = cluster_extra_ = justified_ = 0;
    if (style_.align != TextAlign::justify || !style_.wrap || (line.ends_part && !style_.justify_last))
      return;
    const float room = *style_.wrap - line.indent - line.width;
    if (!(room > 0)) return;
    std::size_t gaps = 0;
    for (std::uint32_t i = line.first; i < line.content_end; ++i) {
      gaps += widens_at(i, line) ? 1 : 0;
    }
    if (gaps == 0) return;
    space_extra_ = cluster_extra_ = room / static_cast<float>(gaps);
    justified_ = room;
  }
  /// Whether justified text is widened behind the character.
  bool widens_at(std::uint32_t i, const LineRange& line) const {
    const TextAnalysis& a = s_.analysis;
    if (i + 1 >= line.content_end || i < line.first) return false;
    if (a.is(i, TextAnalysis::kWordSpace)) return i > line.first;
    std::uint32_t next = i + 1;
    if (!a.is(next, TextAnalysis::kCluster)) return false;
    return is_ideographic(a.scripts[i]) && is_ideographic(a.scripts[next]) &&
           !a.is(next, TextAnalysis::kWordSpace);
  }

  void order_pieces() {
    std::uint8_t highest = 0, lowest_odd = 255;
    for (const LinePiece& piece : pieces_) {
      highest = std::max(highest, piece.level);
      if (piece.level % 2 != 0) lowest_odd = std::min(lowest_odd, piece.level);
    }
    for (std::uint8_t level = highest; level >= lowest_odd && level > 0; --level) {
      for (std::size_t i = 0; i < pieces_.size();) {
        std::size_t end = i;
        while (end < pieces_.size() && pieces_[end].level >= level) ++end;
        std::reverse(pieces_.begin() + static_cast<std::ptrdiff_t>(i),
                     pieces_.begin() + static_cast<std::ptrdiff_t>(end));
        i = std::max(end, i + 1);
      }
    }
  }

  void add_piece(const LinePiece& piece, const LineRange& line) {
    const ShapedRun& run = s_.runs[piece.run];
    if (run.tab) {
      add_tab(piece, line);
      return;
    }
    const std::vector<ShapedGlyph>& glyphs = piece.fresh ? measure_.fresh() : s_.glyphs;
    const std::uint32_t count = piece.end_glyph - piece.first_glyph;
    const bool backward = run.level % 2 != 0;
    for (std::uint32_t k = 0; k < count; ++k) {
      const std::uint32_t g = backward ? piece.end_glyph - 1 - k : piece.first_glyph + k;
      const ShapedGlyph& glyph = glyphs[g];
      // The end of its cluster: where the next one of this piece begins.
      std::uint32_t next = g + 1;
      while (next < piece.end_glyph && glyphs[next].cluster == glyph.cluster) ++next;
      const std::uint32_t end = next < piece.end_glyph ? glyphs[next].cluster : piece.end;
      add_glyph(run, glyph, glyph.cluster, end, line);
    }
  }

  void add_glyph(const ShapedRun& run, const ShapedGlyph& glyph, std::uint32_t first, std::uint32_t end,
                 const LineRange& line) {
    const float scale = measure_.scale(run);
    PlacedGlyph placed;
    placed.face = run.face, placed.style = run.style;
    placed.glyph = glyph.glyph;
    placed.text_start = s_.analysis.starts[first];
    placed.text_end = s_.analysis.starts[std::max(end, first + 1)];
    placed.level = run.level;
    placed.parts = glyph.parts;
    placed.offset = {glyph.x * scale, -glyph.y * scale - style_.baseline_shift};
    placed.advance = glyph.advance * scale;
    const bool hangs = first >= line.content_end;
    const bool new_cluster = last_ == kNone || first != last_;
    if (new_cluster && last_ != kNone &&
        !(hangs && line.content_end > line.first && last_ < line.content_end)) {
      widen_last(style_.tracking, line);
    }
    placed.pen = {pen_, 0};
    float extra = 0;
    if (new_cluster) {
      if (s_.analysis.is(first, TextAnalysis::kWordSpace)) extra += style_.word_spacing;
      if (justified_ > 0 && !hangs) {
        for (std::uint32_t i = first; i < std::max(end, first + 1); ++i)
          extra += widens_at(i, line) ? space_extra_ : 0;
      }
    }
    placed.advance += extra;
    pen_ += placed.advance;
    if (hangs) hanging_ += placed.advance;
    last_ = first;
    out_.glyphs.push_back(placed);
  }

  /// Tracking stands behind the glyph before.
  void widen_last(float by, const LineRange& line) {
    if (by == 0 || out_.glyphs.empty()) return;
    out_.glyphs.back().advance += by;
    pen_ += by;
    if (last_ >= line.content_end) hanging_ += by;
  }

  void add_tab(const LinePiece& piece, const LineRange& line) {
    const GlyphId space = s_.stack[0]->find_glyph(U' ');
    if (last_ != kNone) widen_last(style_.tracking, line);
    PlacedGlyph placed;
    placed.glyph = space;
    placed.text_start = s_.analysis.starts[piece.first];
    placed.text_end = s_.analysis.starts[piece.end];
    placed.pen = {pen_, 0};
    placed.advance = piece.tab_advance;
    placed.level = piece.level;
    pen_ += placed.advance;
    if (piece.first >= line.content_end) hanging_ += placed.advance;
    last_ = kNone;
    out_.glyphs.push_back(placed);
  }

  void add_hyphen(const LineRange& line) {
    const FontStack::Found found = measure_.find_hyphen(line.content_end);
    if (found.glyph == kMissingGlyph) return;
    float units = 0;
    s_.stack[found.face]->advances(std::span(&found.glyph, 1), std::span(&units, 1));
    if (last_ != kNone) widen_last(style_.tracking, line);
    PlacedGlyph placed;
    placed.face = static_cast<std::uint16_t>(found.face);
    placed.glyph = found.glyph;
    placed.text_start = s_.analysis.starts[line.content_end - 1];
    placed.text_end = s_.analysis.starts[line.content_end];
    placed.pen = {pen_, 0};
    placed.offset = {0, -style_.baseline_shift};
    placed.advance = units * style_.size * s_.stack[found.face].scale / s_.stack[found.face]->units_per_em();
    pen_ += placed.advance;
    last_ = line.content_end - 1;
    out_.glyphs.push_back(placed);
  }

  void align(const std::vector<LineRange>& lines) {
    float widest = 0;
    for (std::size_t i = 0; i < lines.size(); ++i) {
      widest = std::max(widest, out_.lines[i].width + lines[i].indent);
    }
    widest = std::max(widest, reserved_);
    const float box = style_.wrap ? *style_.wrap : widest;
    for (std::size_t i = 0; i < lines.size(); ++i) {
      Line& line = out_.lines[i];
      const float room = box - line.width - lines[i].indent;
      const bool rtl = line.right_to_left;
      TextAlign align = style_.align;
      if (align == TextAlign::start || align == TextAlign::justify)
        align = rtl ? TextAlign::right : TextAlign::left;
      if (align == TextAlign::end) align = rtl ? TextAlign::left : TextAlign::right;
      // The indent is on the side where the line begins.
      float left = rtl ? 0 : lines[i].indent;
      if (align == TextAlign::center) left += room / 2;
      if (align == TextAlign::right) left += room;
      const float shift = left + line.left;  // `left` holds what hangs on the left
      line.left = left;
      for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) out_.glyphs[g].pen.x += shift;
    }
    box_width_ = box;
  }

  /// Baselines, and where the whole stands in a box with a height.
  void stack_lines(const std::vector<LineRange>& lines) {
    const LineMetrics m = s_.stack[0]->line_metrics();
    const float scale = style_.size / s_.stack[0]->units_per_em();
    out_.size = style_.size;
    out_.ascent = m.ascent * scale;
    out_.descent = m.descent * scale;
    out_.line_height = (m.ascent + m.descent + m.line_gap) * scale;
    const float step = style_.leading ? *style_.leading : out_.line_height * style_.line_spacing;
    float spacing = 0;  // between paragraphs so far
    for (std::size_t i = 0; i < lines.size(); ++i) {
      out_.lines[i].baseline = out_.ascent + static_cast<float>(i) * step + spacing;
      out_.lines[i].height = out_.ascent + out_.descent;
      if (lines[i].ends_part) spacing += style_.paragraph_spacing;
    }
    const float top = top_of_lines();
    Rect around{out_.lines[0].left, 0, out_.lines[0].left + out_.lines[0].width, 0};
    for (Line& line : out_.lines) {
      line.baseline += top;
      line.top = line.baseline - out_.ascent;
      for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) out_.glyphs[g].pen.y = line.baseline;
      around.left = std::min(around.left, line.left);
      around.right = std::max(around.right, line.left + line.width);
    }
    around.right = std::max(around.right, around.left + reserved_);
    around.top = out_.lines.front().top;
    around.bottom = out_.lines.back().baseline + out_.descent;
    out_.advance_box = around;
    out_.box = {0, 0, style_.wrap ? *style_.wrap : std::max(box_width_, reserved_),
                style_.box_height ? *style_.box_height : around.bottom};
  }

  float top_of_lines() const {
    if (style_.vertical_align == VerticalAlign::baseline) return -out_.ascent;
    if (!style_.box_height) return 0;
    const float first = out_.lines.front().baseline, last = out_.lines.back().baseline;
    switch (style_.vertical_align) {
      case VerticalAlign::middle:
        return (*style_.box_height - (last + out_.descent)) / 2;
      case VerticalAlign::bottom:
        return *style_.box_height - (last + out_.descent);
      case VerticalAlign::cap_middle: {
        const float capitals = cap_height();
        return (*style_.box_height - (last - first + capitals)) / 2 - (first - capitals);
      }
      default:
        return 0;
    }
  }
  float cap_height() const {
    const GlyphMetrics& face = *s_.stack[0].metrics;
    const float scale = style_.size / face.units_per_em();
    const float units = face.face() != nullptr ? face.face()->facts().cap_height
                                               : face.glyph_box(face.find_glyph(U'H')).y_max;
    return units > 0 ? units * scale : out_.ascent;
  }

  static constexpr std::uint32_t kNone = ~std::uint32_t{0};
  LineMeasure& measure_;
  const ShapedText::State& s_;
  const TextStyle& style_;
  Paragraph& out_;
  std::vector<LinePiece>& pieces_;
  float pen_ = 0, hanging_ = 0, reserved_ = 0, box_width_ = 0;
  float space_extra_ = 0, cluster_extra_ = 0, justified_ = 0;
  std::uint32_t last_ = kNone;
};

}  // namespace

void place_lines(LineMeasure& measure, std::vector<LineRange>& lines, Paragraph& out) {
  Placer(measure, out).run(lines);
}

void arrange_lines(LineMeasure& measure, const std::vector<LineRange>& lines, Paragraph& out) {
  Placer(measure, out).arrange(lines);
}

}  // namespace grafema::detail
