// SPDX-License-Identifier: MIT
// Chooses where lines end: as many words as fit, then balanced, or with no lone last word.
#include <algorithm>

#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

constexpr float kSlack = 1.0F / 1024;  // rounding must not send a word to the next line
constexpr float kTooWide = 3e38F;
constexpr char32_t kSoftHyphen = 0xAD;

class LineBreaker {
 public:
  LineBreaker(LineMeasure& measure, std::vector<LineRange>& out)
      : measure_(measure), a_(measure.state().analysis), style_(measure.style()), out_(out) {}

  void run() {
    out_.clear();
    for (std::size_t p = 0; p < a_.parts.size(); ++p) {
      const std::size_t first = out_.size();
      const float width = style_.wrap ? *style_.wrap : 0;
      break_part(p, width);
      if (style_.wrap && style_.balance) balance(p, first);
      if (style_.wrap && style_.keep_last_words) keep_last_words(first);
      for (std::size_t i = first; i < out_.size(); ++i) {
        out_[i].begins_part = i == first;
        out_[i].ends_part = i + 1 == out_.size();
      }
    }
  }

 private:
  float indent(bool first_of_part) const { return first_of_part ? style_.first_indent : style_.indent; }

  LineRange make(std::uint32_t first, std::uint32_t end, std::size_t part, bool first_of_part) {
    LineRange line;
    line.first = first, line.end = end;
    line.part = static_cast<std::uint32_t>(part);
    line.indent = indent(first_of_part);
    const bool ends_part = end == a_.parts[part].end;
    // At a hard break, or at the end, spaces count unless the text is wrapped; the break itself never does.
    line.content_end = measure_.content_end(first, end);
    if (ends_part && !style_.wrap) {
      line.content_end = end;
      while (line.content_end > first && a_.is(line.content_end - 1, TextAnalysis::kBreak))
        --line.content_end;
      if (line.content_end > first && line.content_end < end && a_.characters[line.content_end - 1] == '\r') {
        --line.content_end;
      }
    }
    line.hyphen =
        !ends_part && line.content_end > first && a_.characters[line.content_end - 1] == kSoftHyphen;
    return line;
  }

  /// The width of the line's content, with a hyphen where one shows.
  float width_of(std::uint32_t first, std::uint32_t end, std::size_t part) {
    LineRange line = make(first, end, part, false);
    return measure_.width(first, line.content_end) +
           (line.hyphen ? measure_.hyphen_width(line.content_end) : 0);
  }

  void break_part(std::size_t p, float wrap) {
    const TextPart& part = a_.parts[p];
    if (!style_.wrap || part.first == part.end) {
      out_.push_back(make(part.first, part.end, p, true));
      return;
    }
    for (std::uint32_t first = part.first; first < part.end;) {
      const bool begins = first == part.first;
      const float room = wrap - indent(begins) + kSlack;
      const std::uint32_t end = find_end(first, p, room);
      out_.push_back(make(first, end, p, begins));
      first = end;
    }
  }

  /// The end of the longest line that fits, of the shortest one where none does.
  std::uint32_t find_end(std::uint32_t first, std::size_t p, float room) {
    const std::uint32_t part_end = a_.parts[p].end;
    std::uint32_t best = first, at = first, tab_from = first, content = first;
    float tab_x = 0, content_x = 0;  // with tabs
    if (const std::uint32_t guess = guess_end(first, part_end, room);
        guess > first && width_of(first, guess, p) <= room) {
      best = at = guess;  // the words before it fit too
    }
    while (at < part_end) {
      const std::uint32_t next = next_start(at, part_end);
      float width = 0;
      if (measure_.has_tabs()) {
        // Where all that was added is space the line's content ends where it did.
        const std::uint32_t added = measure_.content_end(at, next);
        if (added > at) content = added;
        const auto take_tabs = [&](std::uint32_t from, std::uint32_t to) {
          for (std::uint32_t i = from; i < to; ++i) {
            if (a_.characters[i] != '\t') continue;
            tab_x += measure_.width(tab_from, i);
            tab_x += measure_.tab_advance(tab_x, i + 1, std::max(i + 1, content));
            tab_from = i + 1;
          }
        };
        take_tabs(at, added);
        if (added > at) content_x = tab_x + measure_.width(tab_from, content);
        take_tabs(added, next);
        width = content_x;
      } else {
        width = is_far_too_wide(first, next, room) ? kTooWide : width_of(first, next, p);
      }
      if (!(width <= room)) {
        if (best > first) return best;
        return style_.breaking == LineBreaking::anywhere ? split_word(first, next, p, room) : next;
      }
      best = at = next;
    }
    return part_end;
  }

  /// Where the next line may begin. What was looked through is remembered: a word may be as long as the text.
  std::uint32_t next_start(std::uint32_t at, std::uint32_t part_end) {
    if (at >= looked_from_ && at < looked_to_) return looked_to_;
    std::uint32_t next = at + 1;
    while (next < part_end && !a_.is(next, TextAnalysis::kLineStart)) ++next;
    looked_from_ = at, looked_to_ = next;
    return next;
  }

  /// Where the line may end by the sums alone, which are right but for what a cut changes at its ends.
  std::uint32_t guess_end(std::uint32_t first, std::uint32_t part_end, float room) const {
    if (measure_.has_tabs() || style_.tracking != 0 || style_.word_spacing != 0) return first;
    const std::vector<double>& sums = measure_.state().sums;
    const double limit = sums[first] + static_cast<double>(room / style_.size);
    std::uint32_t low = first, high = first + 32;  // `low` lies within the room
    while (high < part_end && sums[high] <= limit)
      low = high, high = std::min(part_end, high + (high - first));
    high = std::min(high, part_end);
    while (low + 1 < high) {
      const std::uint32_t middle = low + (high - low) / 2;
      (sums[middle] <= limit ? low : high) = middle;
    }
    while (low > first && !a_.is(low, TextAnalysis::kLineStart)) --low;
    return low;
  }

  /// Whether a very long word need not be measured to a hair: its ends would be shaped anew for nothing.
  bool is_far_too_wide(std::uint32_t first, std::uint32_t end, float room) const {
    constexpr std::uint32_t kLong = 256;
    const ShapedText::State& s = measure_.state();
    return end - first > kLong && (s.sums[end] - s.sums[first]) * static_cast<double>(style_.size) >
                                      4 * static_cast<double>(room) + 1000;
  }

  /// The most clusters of a word that fit, at least one.
  std::uint32_t split_word(std::uint32_t first, std::uint32_t end, std::size_t p, float room) {
    const auto cluster_at_or_before = [&](std::uint32_t i) {
      while (i > first && i < end && !a_.is(i, TextAnalysis::kCluster)) --i;
      return i;
    };
    const auto cluster_after = [&](std::uint32_t i) {
      do ++i;
      while (i < end && !a_.is(i, TextAnalysis::kCluster));
      return i;
    };
    std::uint32_t low = cluster_after(first), high = end;         // `low` is taken whether it fits or not
    for (std::uint32_t step = 16; low + step < end; step *= 2) {  // far less than a very long word
      const std::uint32_t tried = cluster_at_or_before(low + step);
      if (!(width_of(first, tried, p) <= room)) {
        high = tried;
        break;
      }
      low = std::max(low, tried);
    }
    while (low < high) {
      std::uint32_t middle = cluster_at_or_before(low + (high - low + 1) / 2);
      if (middle <= low) middle = cluster_after(low);
      if (width_of(first, middle, p) <= room) {
        low = middle;
      } else {
        high = cluster_at_or_before(middle - 1);
      }
    }
    return low;
  }

  /// The narrowest width that needs no more lines.
  void balance(std::size_t p, std::size_t first) {
    const std::size_t lines = out_.size() - first;
    if (lines < 2) return;
    float low = *style_.wrap / static_cast<float>(lines + 1), high = *style_.wrap;
    constexpr float kClose = 0.5F;
    while (high - low > kClose) {
      const float middle = (low + high) / 2;
      out_.resize(first);
      break_part(p, middle);
      const bool good = out_.size() - first <= lines && widest(first) <= middle + kSlack * 2;
      (good ? high : low) = middle;
    }
    out_.resize(first);
    break_part(p, high);
  }
  float widest(std::size_t first) {
    float most = 0;
    for (std::size_t i = first; i < out_.size(); ++i) {
      most = std::max(most, out_[i].indent + width_of(out_[i].first, out_[i].end, out_[i].part));
    }
    return most;
  }

  /// Takes a word from the line before where the last line has one alone.
  void keep_last_words(std::size_t first) {
    if (out_.size() - first < 2) return;
    LineRange &before = out_[out_.size() - 2], &last = out_.back();
    const auto begins_line = [&](std::uint32_t i) { return a_.is(i, TextAnalysis::kLineStart); };
    for (std::uint32_t i = last.first + 1; i < last.content_end; ++i) {
      if (begins_line(i)) return;
    }
    std::uint32_t start = last.first;
    do --start;
    while (start > before.first && !begins_line(start));
    if (start <= before.first) return;
    if (!(width_of(start, last.end, last.part) <= *style_.wrap - last.indent + kSlack)) return;
    const std::size_t part = before.part;
    const bool begins = out_.size() - first == 2;
    before = make(before.first, start, part, begins);
    last = make(start, last.end, part, false);
  }

  LineMeasure& measure_;
  const TextAnalysis& a_;
  const TextStyle& style_;
  std::vector<LineRange>& out_;
  std::uint32_t looked_from_ = 0, looked_to_ = 0;
};

}  // namespace

void break_lines(LineMeasure& measure, std::vector<LineRange>& out) { LineBreaker(measure, out).run(); }

}  // namespace grafema::detail
