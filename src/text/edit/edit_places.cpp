// SPDX-License-Identifier: MIT
// How the caret moves, what a click finds, and the boxes of selections.
#include <algorithm>
#include <cmath>

#include "text/edit/edit_state.hpp"

namespace grafema {
namespace {

constexpr float kNearPlaces = 0.25F;  // carets this close together are one, pixels

}  // namespace

/// To the next stop that is seen on that side; over the line's end in the order of the text.
void TextEditor::State::move_sideways(bool right) {
  const CaretStop now = caret_places().front();
  const Line line = layout_of(caret.line).lines[now.line];
  read_stops(caret.line);
  const CaretStop* next = nullptr;
  for (const CaretStop& stop : stops) {
    if (stop.line != now.line) continue;
    const bool beyond = right ? stop.x > now.x + kNearPlaces : stop.x < now.x - kNearPlaces;
    if (beyond && (next == nullptr || !right)) next = &stop;
  }
  at_line_end = false;
  if (next != nullptr) {
    seen_x = next->x;
    const std::size_t lines_there = layout_of(caret.line).lines.size();
    at_line_end = next->position == line.end && now.line + 1 < lines_there;
    caret = {caret.line, from_shown(caret.line, next->position)};
    return;
  }
  seen_x.reset();
  const bool ahead = right != line.right_to_left;
  const auto last = static_cast<std::uint32_t>(layout_of(caret.line).lines.size() - 1);
  if (ahead && now.line < last) {
    caret.byte = from_shown(caret.line, line.end);
  } else if (!ahead && now.line > 0) {
    caret.byte = from_shown(caret.line, line.start);
    at_line_end = true;
  } else {
    caret = ahead ? next_cluster({caret.line, lines[caret.line]->text.size()})
                  : previous_cluster({caret.line, 0});
  }
}

void TextEditor::State::move_by_lines(float by) {
  const CaretStop now = caret_places().front();
  const Line& line = layout_of(caret.line).lines[now.line];
  if (!wanted_x) wanted_x = now.x;
  const float top = top_of(caret.line) + line.top;
  const float y = by < 0 ? top + by : top + line.height + by;
  if (y < 0) {
    caret = {0, 0};
    return;
  }
  if (y >= static_cast<float>(heights.before(heights.size()))) {
    caret = {lines.size() - 1, lines.back()->text.size()};
    return;
  }
  float x = 0;
  caret = hit({*wanted_x, y}, at_line_end, x);
  seen_x = x;
}

/// Which end of the selection a move without extending goes to.
EditPlace TextEditor::State::selection_end(EditMove how) {
  const EditPlace low = std::min(caret, anchor), high = std::max(caret, anchor);
  if (how == EditMove::previous) return low;
  const bool rtl = layout_of(caret.line).lines[caret_line()].right_to_left;
  return how == EditMove::next || (how == EditMove::right) != rtl ? high : low;
}

void TextEditor::State::go(EditMove how) {
  const float step = style.size / 4, page = std::max(height - style.size, style.size);
  const auto place = [&](EditPlace p) { caret = p, at_line_end = false; };
  const auto line = [&]() { return layout_of(caret.line).lines[caret_line()]; };
  switch (how) {
    case EditMove::left:
    case EditMove::right:
      move_sideways(how == EditMove::right);
      break;
    case EditMove::up:
      move_by_lines(-step);
      break;
    case EditMove::down:
      move_by_lines(step);
      break;
    case EditMove::page_up:
      move_by_lines(-page);
      break;
    case EditMove::page_down:
      move_by_lines(page);
      break;
    case EditMove::previous:
      place(previous_cluster(caret));
      break;
    case EditMove::next:
      place(next_cluster(caret));
      break;
    case EditMove::previous_word:
      place(previous_word(caret));
      break;
    case EditMove::next_word:
      place(next_word(caret));
      break;
    case EditMove::line_start:
      place({caret.line, from_shown(caret.line, line().start)});
      break;
    case EditMove::line_end: {
      const Line here = line();
      caret.byte = from_shown(caret.line, here.end);
      at_line_end = caret.byte != lines[caret.line]->text.size();
      break;
    }
    case EditMove::text_start:
      place({});
      break;
    case EditMove::text_end:
      place({lines.size() - 1, lines.back()->text.size()});
      break;
  }
}

void TextEditor::move(EditMove how, bool extends) {
  State& s = *state_;
  compose({});
  const bool sideways =
      how == EditMove::left || how == EditMove::right || how == EditMove::previous || how == EditMove::next;
  const bool by_lines =
      how == EditMove::up || how == EditMove::down || how == EditMove::page_up || how == EditMove::page_down;
  if (!by_lines) s.wanted_x.reset();
  if (s.caret != s.anchor && !extends && sideways) {
    const EditPlace end = s.selection_end(how);
    s.seen_x.reset();
    s.at_line_end = false;
    return s.place_caret(end, false);
  }
  if (how != EditMove::left && how != EditMove::right) s.seen_x.reset();
  s.go(how);
  s.place_caret(s.caret, extends);
}

void TextEditor::select_word(EditPlace at) {
  State& s = *state_;
  if (!s.is_place(at)) return;
  const std::vector<std::uint32_t>& all = s.words_of(at.line);
  if (s.options.password || all.size() < 2) {
    (void)select({at.line, 0}, {at.line, s.lines[at.line]->text.size()});
    return;
  }
  auto next = std::upper_bound(all.begin(), all.end(), at.byte);
  if (next == all.end()) --next;
  (void)select({at.line, *(next - 1)}, {at.line, *next});
}

void TextEditor::set_box(float width, float height) {
  State& s = *state_;
  const bool sound = std::isfinite(width) && std::isfinite(height) && width >= 0 && height >= 0;
  if (!sound || (s.width == width && s.height == height)) return;
  s.width = width, s.height = height;
  if (s.style.wrap && *s.style.wrap != width) {
    s.style.wrap = width;
    for (const auto& line : s.lines) line->laid = false;
  }
  s.keep_caret_in_view();
}

PixelPoint TextEditor::scroll() const { return state_->scroll; }

void TextEditor::scroll_by(float x, float y) {
  State& s = *state_;
  if (!std::isfinite(x) || !std::isfinite(y)) return;
  const float most = std::max(0.0F, static_cast<float>(s.heights.before(s.heights.size())) - s.height);
  s.scroll = {std::max(0.0F, s.scroll.x + x), std::clamp(s.scroll.y + y, 0.0F, most)};
}

void TextEditor::carets(std::vector<Rect>& out) {
  out.clear();
  State& s = *state_;
  const float thick = std::max(1.0F, s.style.size / 16), y = s.top_of(s.caret.line);
  for (const CaretStop& stop : s.caret_places()) {
    const Line& line = s.layout_of(s.caret.line).lines[stop.line];
    out.push_back({stop.x - thick / 2, y + line.top, stop.x + thick / 2, y + line.top + line.height});
  }
}

void TextEditor::selection_boxes(std::vector<Rect>& out) {
  out.clear();
  State& s = *state_;
  if (s.caret == s.anchor) return;
  const EditPlace from = std::min(s.caret, s.anchor), to = std::max(s.caret, s.anchor);
  const auto [first, end] = visible_lines();
  for (std::size_t i = std::max(first, from.line); i < std::min(end, to.line + 1); ++i) {
    const Paragraph& p = s.layout_of(i);
    const std::uint32_t begin = s.to_shown(i, i == from.line ? from.byte : 0),
                        stop = s.to_shown(i, i == to.line ? to.byte : s.lines[i]->text.size());
    range_boxes(p, begin, stop, s.line_boxes);
    const float y = s.top_of(i);
    for (const Rect& box : s.line_boxes) out.push_back(box.moved({0, y}));
    if (i == to.line) continue;
    // The newline is selected too: a little behind the line shows that.
    const Line& last = p.lines.back();
    const float x = last.right_to_left ? last.left - s.style.size / 4 : last.left + last.width;
    out.push_back({x, y + last.top, x + s.style.size / 4, y + last.top + last.height});
  }
}

EditPlace TextEditor::hit(PixelPoint point) {
  bool at_end = false;
  float x = 0;
  return state_->hit(point, at_end, x);
}

void TextEditor::press(PixelPoint point, int clicks, bool extends) {
  State& s = *state_;
  compose({});
  s.wanted_x.reset();
  bool at_end = false;
  float x = 0;
  const EditPlace p = s.hit(point, at_end, x);
  if (clicks == 2) return select_word(p);
  if (clicks >= 3) {
    (void)select({p.line, 0}, {p.line, s.lines[p.line]->text.size()});
    return;
  }
  s.at_line_end = at_end;
  s.seen_x = x;
  s.place_caret(p, extends);
}

void TextEditor::drag(PixelPoint point) { press(point, 1, true); }

std::pair<std::size_t, std::size_t> TextEditor::visible_lines() {
  State& s = *state_;
  const std::size_t first = s.heights.find(static_cast<double>(s.scroll.y));
  std::size_t end = first;
  float y = s.top_of(first);
  const float bottom = s.scroll.y + s.height;
  while (end < s.lines.size() && (end == first || y < bottom)) {
    s.layout_of(end);
    y += s.heights.height(end);
    ++end;
  }
  return {first, end};
}

RichText TextEditor::shown_line(std::size_t index) const {
  const State& s = *state_;
  RichText out(s.shown_text(index));
  if (s.composed.empty() || index != s.caret.line) return out;
  const std::uint32_t end = s.to_shown(index, s.caret.byte);
  SpanStyle composed;
  composed.underline = true, composed.skip_descenders = false;
  out.spans.push_back({end - static_cast<std::uint32_t>(s.composed.size()), end, composed});
  return out;
}

float TextEditor::line_top(std::size_t index) { return state_->top_of(index); }
const Paragraph& TextEditor::line_layout(std::size_t index) & { return state_->layout_of(index); }
std::uint64_t TextEditor::line_revision(std::size_t index) const { return state_->lines[index]->revision; }
const TextStyle& TextEditor::style() const { return state_->style; }
const FontStack& TextEditor::fonts() const { return state_->fonts; }

}  // namespace grafema
