// SPDX-License-Identifier: MIT
// Places lines: visual order (UAX #9, L2), alignment, justification, and their places in the box.
#include <algorithm>

#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint32_t kNone = ~std::uint32_t{0};

bool is_ideographic(Tag script) {
  return script == tag("hani") || script == tag("kana") || script == tag("hira") || script == tag("bopo") ||
         script == tag("yi  ");
}

/// Whether justified text is widened behind the character.
bool widens_at(const TextAnalysis& a, std::uint32_t i, const LineRange& line) {
  if (i + 1 >= line.content_end || i < line.first) return false;
  if (a.is(i, TextAnalysis::kWordSpace)) return i > line.first;
  return a.is(i + 1, TextAnalysis::kCluster) && is_ideographic(a.scripts[i]) &&
         is_ideographic(a.scripts[i + 1]) && !a.is(i + 1, TextAnalysis::kWordSpace);
}

/// Writes the glyphs of one line after the other.
class LineWriter {
 public:
  LineWriter(LineMeasure& measure, Paragraph& out)
      : measure_(measure),
        s_(measure.state()),
        style_(measure.style()),
        out_(out),
        pieces_(measure.state().pieces) {
    out_.icons.clear();
  }

  std::uint32_t count() const { return count_; }
  /// `extra` is added at each gap of a justified line.
  void write(LineRange& range, Line& line, float extra) {
    extra_ = extra;
    measure_.take_pieces(range, pieces_);
    line.first_glyph = count_;
    order_pieces();
    pen_ = {line.left, line.baseline};
    hanging_ = 0;
    last_ = kNone;
    if (range.hyphen && line.right_to_left) add_hyphen(range);
    for (const LinePiece& piece : pieces_) add_piece(piece, range);
    if (range.hyphen && !line.right_to_left) add_hyphen(range);
    line.end_glyph = count_;
    if (const float by = measure_.trim(range.content_end); by != 0) trim(range, line, by);
    if (!line.right_to_left || hanging_ == 0) return;
    // In a line from right to left the spaces that hang stand on the left.
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) out_.glyphs[g].pen.x -= hanging_;
  }

 private:
  /// The last letter of the line's content gives up room; what hangs behind it follows.
  void trim(const LineRange& range, const Line& line, float by) {
    const std::uint32_t end = s_.analysis.starts[range.content_end];
    bool found = false;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      PlacedGlyph& glyph = out_.glyphs[g];
      if (found) glyph.pen.x -= by;
      if (!found && glyph.text_end == end && glyph.advance > by && glyph.level % 2 == 0) {
        glyph.advance -= by;
        found = true;
      }
    }
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
    if (run.tab) return add_tab(piece, line);
    const ShapedGlyph* glyphs = piece.fresh ? measure_.fresh().data() : s_.glyphs.data();
    if (run.level % 2 != 0) {
      std::uint32_t end = piece.end;  // of the cluster
      for (std::uint32_t g = piece.end_glyph; g-- > piece.first_glyph;) {
        if (g + 1 < piece.end_glyph && glyphs[g + 1].cluster != glyphs[g].cluster)
          end = glyphs[g + 1].cluster;
        add_glyph(run, glyphs[g], end, line);
      }
    } else if (style_.tracking == 0 && style_.word_spacing == 0 && extra_ == 0 && !s_.styles.has_tracking &&
               !run.icon && s_.writing == WritingMode::horizontal &&
               (piece.end <= line.content_end || s_.analysis.levels.empty())) {
      add_plain(run, piece, glyphs);
    } else {
      std::uint32_t next = piece.first_glyph;  // the first glyph of the next cluster
      for (std::uint32_t g = piece.first_glyph; g < piece.end_glyph; ++g) {
        while (next < piece.end_glyph && glyphs[next].cluster == glyphs[g].cluster) ++next;
        add_glyph(run, glyphs[g], next < piece.end_glyph ? glyphs[next].cluster : piece.end, line);
      }
    }
  }

  /// The placed style of a byte; most follow one that was asked for before.
  std::uint16_t style_at(std::uint32_t byte) {
    if (byte < style_from_ || byte >= style_to_) {
      const std::vector<StyleSegment>& all = s_.styles.segments;
      const std::size_t at = s_.styles.segment_at(byte);
      style_from_ = all[at].start;
      style_to_ = at + 1 < all.size() ? all[at + 1].start : ~std::uint32_t{0};
      placed_style_ = all[at].placed;
    }
    return placed_style_;
  }

  float raise_of(const ShapedRun& run) const {
    return style_.baseline_shift + s_.style(run).raise * style_.size;
  }

  void fill(const ShapedRun& run, const ShapedGlyph& glyph, float scale, std::uint32_t end,
            PlacedGlyph& placed) {
    placed.face = run.face;
    placed.glyph = glyph.glyph;
    placed.text_start = s_.analysis.starts[glyph.cluster];
    placed.text_end = s_.analysis.starts[end];
    placed.style = style_at(placed.text_start);
    placed.pen = pen_;
    placed.offset = {glyph.x * scale, 0 - glyph.y * scale - raise_of(run)};
    if (s_.writing != WritingMode::horizontal) stand(run, placed);
    placed.advance = glyph.advance * scale;
    placed.level = run.level;
    placed.parts = glyph.parts;
  }

  /// In vertical lines: what stands upright is raised to the right.
  void stand(const ShapedRun& run, PlacedGlyph& placed) const {
    placed.turned = !run.upright && !run.across && !run.icon;
    if (placed.turned) return;
    placed.offset.x += raise_of(run), placed.offset.y += raise_of(run);
  }

  /// Left to right, nothing added between.
  void add_plain(const ShapedRun& run, const LinePiece& piece, const ShapedGlyph* glyphs) {
    if (piece.first_glyph == piece.end_glyph) return;
    const float scale = measure_.scale(run), shift = raise_of(run), y = pen_.y;
    PlacedGlyph* to = add(piece.end_glyph - piece.first_glyph);
    const std::uint32_t* starts = s_.analysis.starts.data();
    const std::uint16_t face = run.face;
    const std::uint8_t level = run.level;
    float x = pen_.x;
    const ShapedGlyph* next = glyphs + piece.first_glyph;  // the first glyph of the next cluster
    for (const ShapedGlyph *g = next, *end = glyphs + piece.end_glyph; g != end; ++g, ++to) {
      const std::uint32_t cluster = g->cluster;
      while (next != end && next->cluster == cluster) ++next;
      to->face = face;
      to->glyph = g->glyph;
      to->text_start = starts[cluster];
      to->style = style_at(to->text_start);
      to->text_end = starts[next == end ? piece.end : next->cluster];
      to->pen = {x, y};
      to->offset = {g->x * scale, 0 - g->y * scale - shift};
      to->advance = g->advance * scale;
      to->level = level, to->parts = g->parts;
      x += to->advance;
    }
    pen_.x = x;
    last_ = glyphs[piece.end_glyph - 1].cluster;
  }

  void add_glyph(const ShapedRun& run, const ShapedGlyph& glyph, std::uint32_t end, const LineRange& line) {
    const std::uint32_t first = glyph.cluster;
    const bool hangs = first >= line.content_end;
    const bool begins = last_ == kNone || first != last_;
    const bool starts_hanging = hangs && line.content_end > line.first && last_ < line.content_end;
    if (begins && last_ != kNone && !starts_hanging && !s_.are_joined(last_, first))
      widen_last(style_.tracking + last_tracking_, line);
    last_tracking_ = s_.style(run).tracking * style_.size;
    PlacedGlyph placed;
    fill(run, glyph, measure_.scale(run), end, placed);
    if (begins && s_.analysis.is(first, TextAnalysis::kWordSpace)) placed.advance += style_.word_spacing;
    for (std::uint32_t i = first; begins && extra_ > 0 && !hangs && i < end; ++i) {
      placed.advance += widens_at(s_.analysis, i, line) ? extra_ : 0;
    }
    if (run.icon) add_icon(run, placed);
    put(placed, first, hangs);
  }

  void add_icon(const ShapedRun& run, const PlacedGlyph& placed) {
    const auto number = static_cast<std::size_t>(s_.style(run).icon);
    const Icon& icon = s_.styles.icons[number];
    const float bottom = placed.pen.y - style_.baseline_shift - icon.raise * style_.size;
    out_.icons.push_back({static_cast<std::uint32_t>(number),
                          {placed.pen.x, bottom - icon.height * style_.size,
                           placed.pen.x + icon.width * style_.size, bottom}});
  }

  void put(const PlacedGlyph& placed, std::uint32_t character, bool hangs) {
    pen_.x += placed.advance;
    if (hangs) hanging_ += placed.advance;
    last_ = character;
    *add(1) = placed;
  }

  /// Tracking stands behind the glyph before.
  void widen_last(float by, const LineRange& line) {
    if (by == 0) return;
    out_.glyphs[count_ - 1].advance += by;
    pen_.x += by;
    if (last_ >= line.content_end) hanging_ += by;
  }

  void add_tab(const LinePiece& piece, const LineRange& line) {
    PlacedGlyph placed;  // tracking stands between letters, not before or behind a tab
    placed.glyph = s_.stack()[0]->find_glyph(U' ');
    placed.text_start = s_.analysis.starts[piece.first];
    placed.text_end = s_.analysis.starts[piece.end];
    placed.style = style_at(placed.text_start);
    placed.pen = pen_;
    placed.advance = piece.tab_advance;
    placed.level = piece.level;
    put(placed, piece.first, piece.first >= line.content_end);
    last_ = kNone;
  }

  void add_hyphen(const LineRange& line) {
    const FontStack::Found found = measure_.find_hyphen(line.content_end);
    if (found.glyph == kMissingGlyph) return;
    float units = 0;
    const StackFace& face = s_.stack()[found.face];
    face->advances(std::span(&found.glyph, 1), std::span(&units, 1));
    if (last_ != kNone) widen_last(style_.tracking + last_tracking_, line);
    const ShapedRun& run = s_.runs[s_.run_of(line.content_end - 1)];
    PlacedGlyph placed;
    placed.face = static_cast<std::uint16_t>(found.face);
    placed.glyph = found.glyph;
    placed.text_start = s_.analysis.starts[line.content_end - 1];
    placed.text_end = s_.analysis.starts[line.content_end];
    placed.style = style_at(placed.text_start);
    placed.pen = pen_;
    placed.offset = {0, -raise_of(run)};
    placed.turned = s_.writing != WritingMode::horizontal;
    placed.advance = units * style_.size * s_.style(run).scale * face.scale / face->units_per_em();
    put(placed, line.content_end - 1, false);
  }

  /// Room for glyphs behind those that were written. What an earlier layout left there is written over:
  /// clearing it first would cost as much as the glyphs.
  PlacedGlyph* add(std::uint32_t glyphs) {
    const std::uint32_t first = count_;
    count_ += glyphs;
    if (out_.glyphs.size() < count_) {
      if (out_.glyphs.capacity() < count_)
        out_.glyphs.reserve(std::max({std::size_t{count_}, s_.glyphs.size(), out_.glyphs.capacity() * 2}));
      out_.glyphs.resize(count_);
    }
    return out_.glyphs.data() + first;
  }

  LineMeasure& measure_;
  const ShapedText::State& s_;
  const TextStyle& style_;
  Paragraph& out_;
  std::vector<LinePiece>& pieces_;
  std::uint32_t count_ = 0;
  PixelPoint pen_;
  float hanging_ = 0, extra_ = 0;
  float last_tracking_ = 0;  // of the span of the last cluster
  std::uint32_t last_ = kNone;
  std::uint32_t style_from_ = 0, style_to_ = 0;  // bytes of `placed_style_`
  std::uint16_t placed_style_ = 0;
};

/// How much wider a justified line gets at each of its gaps; 0 where it stays as it is.
float gap_of(const LineMeasure& measure, const LineRange& line) {
  const TextStyle& style = measure.style();
  if (style.align != TextAlign::justify || !style.wrap || (line.ends_part && !style.justify_last)) return 0;
  const float room = *style.wrap - line.indent - line.width;
  if (!(room > 0)) return 0;
  std::size_t gaps = 0;
  for (std::uint32_t i = line.first; i < line.content_end; ++i) {
    gaps += widens_at(measure.state().analysis, i, line) ? 1 : 0;
  }
  return gaps == 0 ? 0 : room / static_cast<float>(gaps);
}

}  // namespace

void place_lines(LineMeasure& measure, std::vector<LineRange>& lines, Paragraph& out) {
  out.lines.clear();
  const TextAnalysis& a = measure.state().analysis;
  for (LineRange& range : lines) {
    measure.set_width(range);
    range.gap = gap_of(measure, range);
    Line line;
    line.start = a.starts[range.first], line.end = a.starts[range.end];
    line.right_to_left = a.parts[range.part].level % 2 != 0;
    line.width = range.gap > 0 ? *measure.style().wrap - range.indent : range.width;
    out.lines.push_back(line);
  }
  stack_lines(measure, lines, out);
  LineWriter writer(measure, out);
  for (std::size_t i = 0; i < lines.size(); ++i) writer.write(lines[i], out.lines[i], lines[i].gap);
  out.glyphs.resize(writer.count());
}

}  // namespace grafema::detail
