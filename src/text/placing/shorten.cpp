// SPDX-License-Identifier: MIT
// Cuts text down to what its box holds, cluster by cluster, with or without an ellipsis.
#include <algorithm>
#include <cmath>

#include "grafema/base/utf8.hpp"
#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

constexpr float kShortenSlack = 1.0F / 256;

/// A text made shorter, and where its bytes stand in the whole one.
struct Shortened {
  std::string text;
  std::uint32_t cut = 0, dots = 0,
                resume = 0;  ///< bytes: kept before, of the ellipsis, where the whole goes on

  std::uint32_t in_whole(std::uint32_t byte) const {
    if (byte <= cut) return byte;
    return byte < cut + dots ? cut : byte - cut - dots + resume;
  }
  std::uint32_t in_shortened(std::uint32_t byte) const {
    if (byte < cut || (byte == cut && dots == 0)) return byte;
    return byte <= resume ? cut + dots : byte - resume + cut + dots;
  }
};

class Shortener {
 public:
  Shortener(ShapedText::State& state, const TextStyle& style, ShapeCache& cache, Paragraph& out)
      : state_(state), style_(style), cache_(cache), out_(out) {}

  /// Lines that fit stay; each that does not is cut; the last one stands for all that follows it.
  void run(std::vector<LineRange>& lines) {
    std::swap(whole_paragraph_, out_);
    const std::size_t room = room_for_lines();
    const TextStyle plain = plain_style();
    const auto count = static_cast<std::uint32_t>(state_.analysis.characters.size());
    out_.glyphs.clear(), out_.lines.clear();
    for (std::size_t i = 0; i < room; ++i) {
      const bool cut = i + 1 == room && room < lines.size();
      const Line& line = whole_paragraph_.lines[i];
      if (!cut && (!style_.wrap || line.width + lines[i].indent <= *style_.wrap + kShortenSlack)) {
        keep_line(line);
      } else {
        // At the end of a line an ellipsis stands for what follows, whatever paragraph that is of.
        const std::uint32_t part_end = state_.analysis.parts[lines[i].part].end;
        const std::uint32_t rest = style_.ellipsis == EllipsisPlace::end ? part_end : count;
        add_line(lines[i], cut ? rest : lines[i].end, cut, plain);
        if (cut) out_.lines.back().end = static_cast<std::uint32_t>(state_.text.size());
      }
    }
    lines.resize(room);
    LineMeasure measure(state_, style_, cache_);
    arrange_lines(measure, lines, out_);
  }

 private:
  /// How many lines the box has room for, at least one.
  std::size_t room_for_lines() const {
    const std::vector<Line>& all = whole_paragraph_.lines;
    const std::size_t room = style_.max_lines != 0 ? std::min(all.size(), style_.max_lines) : all.size();
    if (!style_.box_height) return room;
    std::size_t fitting = 0;
    const float bottom = all.front().top + *style_.box_height + kShortenSlack;
    while (fitting < room && all[fitting].top + all[fitting].height <= bottom) {
      ++fitting;
    }
    return std::max<std::size_t>(fitting, 1);
  }
  TextStyle plain_style() const {
    TextStyle plain = style_;
    plain.wrap.reset(), plain.box_height.reset(), plain.reserve.clear();
    plain.max_lines = 0, plain.overflow = Overflow::show;
    plain.align = TextAlign::left;
    plain.vertical_align = VerticalAlign::top;
    plain.first_indent = plain.indent = 0;
    return plain;
  }

  void keep_line(Line line) {
    const auto base = static_cast<std::uint32_t>(out_.glyphs.size());
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      out_.glyphs.push_back(whole_paragraph_.glyphs[g]);
      out_.glyphs.back().pen.x -= line.left;
    }
    line.first_glyph = base;
    line.end_glyph = static_cast<std::uint32_t>(out_.glyphs.size());
    line.left = 0;
    out_.lines.push_back(line);
  }

  void add_line(const LineRange& line, std::uint32_t end, bool cut, TextStyle plain) {
    const std::uint32_t first = line.first;
    const float width = style_.wrap ? *style_.wrap - line.indent : 1e9F;
    plain.direction = state_.analysis.parts[line.part].level % 2 != 0 ? TextDirection::right_to_left
                                                                      : TextDirection::left_to_right;
    const std::uint32_t start = state_.analysis.starts[first];
    line_start_ = start;
    for (FeatureSetting& setting : plain.features) {  // ranges count from the line's first byte
      setting.start -= std::min(setting.start, start);
      if (setting.end != FeatureSetting::kToTheEnd) setting.end -= std::min(setting.end, start);
    }
    std::uint32_t content = end;
    while (content > first && (state_.analysis.flags[content - 1] & TextAnalysis::kBreak) != 0) --content;
    whole_ = std::string_view(state_.text).substr(start, state_.analysis.starts[content] - start);
    find_clusters(first, content);
    const std::size_t all = clusters_.size() - 1;
    const bool dots = style_.overflow == Overflow::ellipsis;
    std::size_t kept = all;
    if (cut || !place(all, false, plain, width)) {
      // The most clusters that fit beside the ellipsis.
      std::size_t low = 0, high = std::min(all, estimate(width, first, content));
      while (low < high) {
        const std::size_t middle = (low + high + 1) / 2;
        (place(middle, dots, plain, width) ? low = middle : high = middle - 1);
      }
      kept = low;
      place(kept, dots && (kept < all || cut), plain, width);
    }
    append(start, state_.analysis.starts[end]);
  }

  void find_clusters(std::uint32_t first, std::uint32_t end) {
    clusters_.clear();
    const std::uint32_t start = state_.analysis.starts[first];
    for (std::uint32_t i = first; i < end; ++i) {
      if (state_.analysis.is(i, TextAnalysis::kCluster))
        clusters_.push_back(state_.analysis.starts[i] - start);
    }
    clusters_.push_back(static_cast<std::uint32_t>(whole_.size()));
  }
  /// More clusters than can fit: those that are as wide as the room, and some.
  std::size_t estimate(float width, std::uint32_t first, std::uint32_t end) const {
    if (style_.tracking < 0) return clusters_.size();
    const double ems = static_cast<double>(width / style_.size);
    const auto most = std::upper_bound(state_.sums.begin() + first, state_.sums.begin() + end + 1,
                                       state_.sums[first] + ems);
    if (style_.ellipsis != EllipsisPlace::end) return clusters_.size();
    return static_cast<std::size_t>(most - state_.sums.begin()) - first + 16;
  }

  /// Lays out `kept` clusters, with the ellipsis where they were cut. Whether that fits.
  bool place(std::size_t kept, bool dots, const TextStyle& plain, float width) {
    const std::size_t all = clusters_.size() - 1;
    std::size_t before = kept, after = 0;
    if (dots && style_.ellipsis == EllipsisPlace::middle) before = (kept + 1) / 2, after = kept - before;
    if (dots && style_.ellipsis == EllipsisPlace::start) before = 0, after = kept;
    shortened_.text.clear();
    std::size_t cut = clusters_[before];
    if (dots && style_.ellipsis != EllipsisPlace::start) {  // no space before the ellipsis
      while (cut > 0 && whole_[cut - 1] == ' ') --cut;
    }
    shortened_.text.append(whole_.substr(0, cut));
    shortened_.cut = static_cast<std::uint32_t>(cut);
    shortened_.dots = 0;
    shortened_.resume = clusters_[all - after];
    if (dots) {
      const std::string_view sign = state_.base.find(0x2026).glyph != kMissingGlyph ? "\xE2\x80\xA6" : "...";
      shortened_.text += sign;
      shortened_.dots = static_cast<std::uint32_t>(sign.size());
    }
    shortened_.text.append(whole_.substr(shortened_.resume));
    if (!dots) shortened_.resume = shortened_.cut;
    for (char& c : shortened_.text) c = c == '\n' || c == '\r' ? ' ' : c;  // what follows stands on one line
    std::unique_ptr<ShapedText>& text = cache_.memory().other;
    if (!text) text = std::make_unique<ShapedText>();
    text->state().is_part = true;
    if (!set_shortened(*text, plain)) return false;
    if (!text->lay_out(plain, cache_, paragraph_)) return false;
    return paragraph_.lines[0].width <= width + kShortenSlack;
  }

  /// The spans of the whole text hold where it was kept; the ellipsis looks like what it follows.
  bool set_shortened(ShapedText& text, const TextStyle& plain) {
    if (!state_.styles.rich) return text.set(state_.base, shortened_.text, plain, cache_).has_value();
    ShapedText::State& other = text.state();
    other.base = state_.base;
    other.text = shortened_.text;
    other.language = state_.language;
    other.styles = state_.styles;
    other.take_writing(plain);
    other.styles.segments.clear();
    const auto size = static_cast<std::uint32_t>(shortened_.text.size());
    for (StyleSegment segment : state_.styles.segments) {
      const std::uint32_t in_line = segment.start - std::min(segment.start, line_start_);
      segment.start = std::min(size, shortened_.in_shortened(in_line));
      std::vector<StyleSegment>& out = other.styles.segments;
      if (!out.empty() && out.back().start == segment.start) out.pop_back();
      out.push_back(segment);
    }
    other.styles.segments.front().start = 0;  // an ellipsis at the start looks like what follows it
    other.set(plain.direction, cache_, nullptr);
    return true;
  }

  void append(std::uint32_t start, std::uint32_t end) {
    Line line = paragraph_.lines[0];
    line.start = start, line.end = end;
    line.left = 0;
    const auto base = static_cast<std::uint32_t>(out_.glyphs.size());
    for (PlacedGlyph glyph : paragraph_.glyphs) {
      glyph.text_start = start + shortened_.in_whole(glyph.text_start);
      glyph.text_end = start + shortened_.in_whole(glyph.text_end);
      glyph.text_end = std::max(glyph.text_end, glyph.text_start);
      out_.glyphs.push_back(glyph);
    }
    line.first_glyph = base;
    line.end_glyph = static_cast<std::uint32_t>(out_.glyphs.size());
    out_.lines.push_back(line);
  }

  ShapedText::State& state_;
  const TextStyle& style_;
  ShapeCache& cache_;
  Paragraph& out_;
  Paragraph whole_paragraph_, paragraph_;
  Shortened shortened_;
  std::string_view whole_;
  std::uint32_t line_start_ = 0;  // byte of the whole text
  std::vector<std::uint32_t> clusters_;
};

}  // namespace

void shorten(ShapedText::State& state, const TextStyle& style, ShapeCache& cache,
             std::vector<LineRange>& lines, Paragraph& out) {
  Shortener(state, style, cache, out).run(lines);
}

}  // namespace grafema::detail
