// SPDX-License-Identifier: MIT
// Finds where lines stand in their box: alignment, baselines, the largest heights of each line.
#include <algorithm>

#include "base/numbers.hpp"
#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

/// Finds where lines stand, by their widths.
class Arranger {
 public:
  Arranger(LineMeasure& measure, Paragraph& out)
      : s_(measure.state()), style_(measure.style()), reserved_(measure.reserved()), out_(out) {}

  void run(const std::vector<LineRange>& lines) {
    out_.faces.clear(), out_.tab_stops.clear();
    align(lines);
    stack_lines(lines);
    for (const StackFace& face : s_.stack()) {
      const SineCosine turn = sine_cosine(face.slant);
      out_.faces.push_back({face.scale, face.grow, static_cast<float>(turn.sine / turn.cosine)});
    }
    out_.styles = s_.styles.placed;
    if (s_.styles.rich) {
      out_.rich_fonts = std::make_shared<const FontStack>(s_.stack());
    } else {
      out_.rich_fonts.reset();
    }
    for (const TabStop& stop : style_.tabs) out_.tab_stops.push_back(stop.x);
  }

 private:
  void align(const std::vector<LineRange>& lines) {
    float widest = reserved_;
    for (std::size_t i = 0; i < lines.size(); ++i) {
      widest = std::max(widest, out_.lines[i].width + lines[i].indent);
    }
    box_width_ = style_.wrap ? *style_.wrap : widest;
    for (std::size_t i = 0; i < lines.size(); ++i) {
      Line& line = out_.lines[i];
      line.left = left_of(line.width, lines[i].indent, line.right_to_left);
    }
  }
  float left_of(float width, float indent, bool rtl) const {
    const float room = box_width_ - width - indent;
    TextAlign align = style_.align;
    if (align == TextAlign::start || align == TextAlign::justify) {
      align = rtl ? TextAlign::right : TextAlign::left;
    } else if (align == TextAlign::end) {
      align = rtl ? TextAlign::left : TextAlign::right;
    }
    const float left = rtl ? 0 : indent;  // the indent is on the side where the line begins
    if (align == TextAlign::center) return left + room / 2;
    return align == TextAlign::right ? left + room : left;
  }

  /// Baselines, and where the whole stands in a box with a height.
  void stack_lines(const std::vector<LineRange>& lines) {
    const LineMetrics own = s_.styles.shaping[0].line;
    out_.size = style_.size;
    out_.ascent = own.ascent * style_.size;
    out_.descent = own.descent * style_.size;
    out_.line_height = (own.ascent + own.descent + own.line_gap) * style_.size;
    float baseline = 0, below = 0;  // below the last line's baseline, as far as its share of the step goes
    for (std::size_t i = 0; i < lines.size(); ++i) {
      const LineMetrics m = metrics_of(lines[i]);
      const float ascent = m.ascent * style_.size, descent = m.descent * style_.size,
                  natural = (m.ascent + m.descent + m.line_gap) * style_.size;
      const float step = style_.leading ? *style_.leading : natural * style_.line_spacing;
      const float half =
          (step - ascent - descent) / 2;  // the line's room stands half above and half below it
      baseline = i == 0 ? ascent : baseline + (style_.leading ? step : below + half + ascent);
      below = descent + half;
      out_.lines[i].baseline = baseline;
      out_.lines[i].top = ascent;
      out_.lines[i].height = ascent + descent;
      if (lines[i].ends_part) baseline += style_.paragraph_spacing;
    }
    const float top = top_of_lines();
    Rect around{out_.lines[0].left, 0, out_.lines[0].left + out_.lines[0].width, 0};
    for (Line& line : out_.lines) {
      line.baseline += top;
      line.top = line.baseline - line.top;
      around.left = std::min(around.left, line.left);
      around.right = std::max(around.right, line.left + line.width);
    }
    if (reserved_ > 0) {
      const float left = left_of(reserved_, 0, out_.lines[0].right_to_left);
      around.left = std::min(around.left, left);
      around.right = std::max(around.right, left + reserved_);
    }
    around.top = out_.lines.front().top;
    around.bottom = out_.lines.back().top + out_.lines.back().height;
    out_.advance_box = around;
    out_.box = {0, 0, box_width_, style_.box_height ? *style_.box_height : around.bottom};
  }

  /// The largest of the styles on a line, in ems of the text's size.
  LineMetrics metrics_of(const LineRange& line) const {
    if (s_.styles.shaping.size() == 1 || s_.runs.empty()) return s_.styles.shaping[0].line;
    const std::size_t last = s_.runs.size() - 1;
    std::size_t r = std::min(s_.run_of(line.first), last);
    LineMetrics most = s_.style(s_.runs[r]).line;
    for (++r; r <= last && s_.runs[r].first < line.end; ++r) {
      const LineMetrics& m = s_.style(s_.runs[r]).line;
      most.ascent = std::max(most.ascent, m.ascent), most.descent = std::max(most.descent, m.descent);
      most.line_gap = std::max(most.line_gap, m.line_gap);
    }
    return most;
  }

  /// Where the lines' first ascent stands. Until the top is known `Line::top` is the line's ascent.
  float top_of_lines() const {
    const float first = out_.lines.front().baseline, last = out_.lines.back().baseline;
    if (style_.vertical_align == VerticalAlign::baseline) return -first;
    if (!style_.box_height) return 0;
    const float descent = out_.lines.back().height - out_.lines.back().top;
    switch (style_.vertical_align) {
      case VerticalAlign::middle:
        return (*style_.box_height - (last + descent)) / 2;
      case VerticalAlign::bottom:
        return *style_.box_height - (last + descent);
      case VerticalAlign::cap_middle: {
        const float capitals = cap_height();
        return (*style_.box_height - (last - first + capitals)) / 2 - (first - capitals);
      }
      default:
        return 0;
    }
  }
  float cap_height() const {
    const GlyphMetrics& face = *s_.stack()[0].metrics;
    const float scale = style_.size / face.units_per_em();
    const float units = face.face() != nullptr ? face.face()->facts().cap_height
                                               : face.glyph_box(face.find_glyph(U'H')).y_max;
    return units > 0 ? units * scale : out_.ascent;
  }

  const ShapedText::State& s_;
  const TextStyle& style_;
  float reserved_, box_width_ = 0;
  Paragraph& out_;
};

}  // namespace

void stack_lines(LineMeasure& measure, const std::vector<LineRange>& lines, Paragraph& out) {
  Arranger(measure, out).run(lines);
}

void arrange_lines(LineMeasure& measure, const std::vector<LineRange>& lines, Paragraph& out) {
  stack_lines(measure, lines, out);
  for (const Line& line : out.lines) {
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      out.glyphs[g].pen = {out.glyphs[g].pen.x + line.left, line.baseline};
    }
  }
}

}  // namespace grafema::detail
