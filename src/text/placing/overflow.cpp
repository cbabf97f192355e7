// SPDX-License-Identifier: MIT
// What happens to text that its box does not hold: it shrinks, closes up, is cut, or stands out with a note.
#include <algorithm>
#include <cmath>

#include "text/lines/line_layout.hpp"

namespace grafema::detail {
namespace {

constexpr float kFitSlack = 1.0F / 256;

class Layout {
 public:
  Layout(ShapedText::State& state, ShapeCache& cache, Paragraph& out, std::vector<LineRange>& lines)
      : state_(state), cache_(cache), out_(out), lines_(lines) {}

  void place(const TextStyle& style, float reserved) {
    LineMeasure measure(state_, style, cache_);
    measure.reserve(reserved);
    break_lines(measure, lines_);
    place_lines(measure, lines_, out_);
  }

 private:
  ShapedText::State& state_;
  ShapeCache& cache_;
  Paragraph& out_;
  std::vector<LineRange>& lines_;
};

/// The widest of the samples, each as a line of its own.
float reserved_width(const ShapedText::State& state, const TextStyle& style, ShapeCache& cache) {
  if (style.reserve.empty()) return 0;
  float widest = 0;
  TextStyle plain = style;
  plain.reserve.clear(), plain.wrap.reset(), plain.box_height.reset();
  plain.overflow = Overflow::show;
  plain.max_lines = 0;
  std::unique_ptr<ShapedText>& sample = cache.memory().other;
  if (!sample) sample = std::make_unique<ShapedText>();
  sample->state().is_part = true;
  Paragraph paragraph;
  for (const std::string& text : style.reserve) {
    if (!sample->set(state.base, text, plain, cache)) continue;
    if (sample->lay_out(plain, cache, paragraph)) widest = std::max(widest, paragraph.advance_box.width());
  }
  return widest;
}

/// A text does not fit its box; the note names one that would do.
Note overflow_of(const TextStyle& style, const Paragraph& p) {
  const float right = std::max(p.advance_box.right, style.wrap.value_or(0)),
              left = std::min(0.0F, p.advance_box.left);
  return {.kind = NoteKind::text_overflow,
          .position = p.lines.size(),
          .wanted = right - left,
          .given = p.advance_box.height()};
}

void note_collision(const Paragraph& p, Notes* notes) {
  if (notes == nullptr) return;
  for (std::size_t i = 1; i < p.lines.size(); ++i) {
    const float gap = p.lines[i].top - (p.lines[i - 1].top + p.lines[i - 1].height);
    // Far down baselines are rounded.
    if (gap >= -(kFitSlack + std::abs(p.lines[i].baseline) * 1e-6F)) continue;
    notes->add({.kind = NoteKind::lines_collide, .position = i, .wanted = -gap});
    return;
  }
}

}  // namespace

bool fits(const TextStyle& style, const Paragraph& p) {
  if (style.max_lines != 0 && p.lines.size() > style.max_lines) return false;
  if (style.box_height && p.advance_box.height() > *style.box_height + kFitSlack) return false;
  if (!style.wrap) return true;
  return std::all_of(p.lines.begin(), p.lines.end(), [&](const Line& line) {
    return line.left >= -kFitSlack && line.left + line.width <= *style.wrap + kFitSlack;
  });
}

void lay_out_lines(ShapedText::State& state, const TextStyle& style, ShapeCache& cache, Paragraph& out,
                   Notes* notes) {
  if (style.wrap && (!state.analysis.has_breaks || state.breaking != style.breaking)) {
    find_line_breaks(state.text, style.breaking, state.language, cache, state.analysis);
    state.breaking = style.breaking;
  }
  std::vector<LineRange>& lines = state.lines;
  Layout layout(state, cache, out, lines);
  layout.place(style, reserved_width(state, style, cache));
  if (!fits(style, out)) {
    TextStyle other = style;
    switch (style.overflow) {
      case Overflow::show:
        break;
      case Overflow::smaller: {
        // Quarter pixels from the smallest size up; the largest that fits.
        int low = 0, high = static_cast<int>(std::floor((style.size - style.min_size) * 4));
        const auto try_size = [&](int step) {
          other.size = std::max(style.min_size + static_cast<float>(step) / 4, kMinSize);
          layout.place(other, reserved_width(state, other, cache));
          return fits(other, out);
        };
        while (low < high) {
          const int middle = (low + high + 1) / 2;
          (try_size(middle) ? low = middle : high = middle - 1);
        }
        try_size(low);
        break;
      }
      case Overflow::tighten: {
        constexpr int kSteps = 64;
        int low = 0, high = kSteps;
        const auto try_step = [&](int step) {
          other.tracking = style.min_tracking + (style.tracking - style.min_tracking) *
                                                    static_cast<float>(step) / static_cast<float>(kSteps);
          layout.place(other, reserved_width(state, other, cache));
          return fits(other, out);
        };
        while (low < high && style.min_tracking < style.tracking) {
          const int middle = (low + high + 1) / 2;
          (try_step(middle) ? low = middle : high = middle - 1);
        }
        try_step(low);
        break;
      }
      case Overflow::clip:
      case Overflow::ellipsis: {
        const Note whole = overflow_of(style, out);  // the box that the whole text needs
        shorten(state, style, cache, lines, out);
        const bool is_told = style.overflow == Overflow::ellipsis && fits(style, out);  // by the ellipsis
        if (notes != nullptr && !is_told) notes->add(whole);
        break;
      }
    }
    const bool is_cut = style.overflow == Overflow::clip || style.overflow == Overflow::ellipsis;
    if (notes != nullptr && !is_cut && !fits(other, out)) notes->add(overflow_of(other, out));
  }
  note_collision(out, notes);
  place_bars(state, style.baseline_shift, out);
  if (!state.is_part) turn_lines(state, out);
}

}  // namespace grafema::detail
