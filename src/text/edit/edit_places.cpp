// SPDX-License-Identifier: MIT
// Where carets, selections and clicks are, and how the caret moves.
#include <algorithm>
#include <cmath>

#include "text/edit/edit_state.hpp"

namespace grafema {
namespace {

constexpr std::string_view kDot = "\xE2\x80\xA2";  // U+2022
constexpr float kNear = 0.25F;                     // carets this close together are one, pixels

/// Where clusters or words of a text begin, and its length.
std::vector<std::uint32_t> starts_of(const TextAnalysis& a, std::size_t size, std::uint8_t flag) {
  std::vector<std::uint32_t> out;
  for (std::size_t i = 0; i < a.characters.size(); ++i) {
    if (i == 0 || a.is(i, flag)) out.push_back(a.starts[i]);
  }
  out.push_back(static_cast<std::uint32_t>(size));
  return out;
}

bool is_space(std::string_view text, std::size_t byte) {
  return byte < text.size() && (text[byte] == ' ' || text[byte] == '\t');
}

}  // namespace

const std::vector<std::uint32_t>& TextEditor::State::clusters_of(std::size_t index) {
  EditLine& line = *lines[index];
  if (line.clustered) return line.clusters;
  TextAnalysis analysis;
  analyze(line.text, TextDirection::automatic, cache, analysis);
  line.clusters = starts_of(analysis, line.text.size(), TextAnalysis::kCluster);
  find_words(line.text, cache, analysis);
  line.words = starts_of(analysis, line.text.size(), TextAnalysis::kWordStart);
  line.clustered = true;
  return line.clusters;
}
const std::vector<std::uint32_t>& TextEditor::State::words_of(std::size_t index) {
  clusters_of(index);
  return lines[index]->words;
}

EditPlace TextEditor::State::previous_cluster(EditPlace p) {
  if (p.byte == 0) return p.line == 0 ? p : EditPlace{p.line - 1, lines[p.line - 1]->text.size()};
  const std::vector<std::uint32_t>& all = clusters_of(p.line);
  return {p.line, *(std::lower_bound(all.begin(), all.end(), p.byte) - 1)};
}

EditPlace TextEditor::State::next_cluster(EditPlace p) {
  if (p.byte == lines[p.line]->text.size()) return p.line + 1 == lines.size() ? p : EditPlace{p.line + 1, 0};
  const std::vector<std::uint32_t>& all = clusters_of(p.line);
  return {p.line, *std::upper_bound(all.begin(), all.end(), p.byte)};
}

EditPlace TextEditor::State::previous_word(EditPlace p) {
  if (p.byte == 0 || options.password) return p.byte == 0 ? previous_cluster(p) : EditPlace{p.line, 0};
  const std::vector<std::uint32_t>& all = words_of(p.line);
  auto at = std::lower_bound(all.begin(), all.end(), p.byte) - 1;
  while (at != all.begin() && is_space(lines[p.line]->text, *at)) --at;
  return {p.line, *at};
}

EditPlace TextEditor::State::next_word(EditPlace p) {
  const std::string& text = lines[p.line]->text;
  if (p.byte == text.size() || options.password)
    return p.byte == text.size() ? next_cluster(p) : EditPlace{p.line, text.size()};
  const std::vector<std::uint32_t>& all = words_of(p.line);
  auto at = std::upper_bound(all.begin(), all.end(), p.byte);
  while (is_space(text, *at)) ++at;
  return {p.line, *at};
}

std::string TextEditor::State::shown_text(std::size_t index) const {
  const std::string& text = lines[index]->text;
  std::string out;
  if (options.password) {
    const std::size_t dots =
        const_cast<State*>(this)->clusters_of(index).size() - 1;  // NOLINT: fills a cache
    for (std::size_t i = 0; i < dots; ++i) out += kDot;
  } else {
    out = text;
  }
  if (!composed.empty() && index == caret.line) {
    // Not through to_shown, which counts it.
    std::size_t at = caret.byte;
    if (options.password) {
      const auto& all = const_cast<State*>(this)->clusters_of(index);  // NOLINT: as above
      at = static_cast<std::size_t>(std::lower_bound(all.begin(), all.end(), caret.byte) - all.begin()) *
           kDot.size();
    }
    out.insert(at, composed);
  }
  return out;
}

/// The byte of what is shown for one of the text: behind what is composed at the caret.
std::uint32_t TextEditor::State::to_shown(std::size_t index, std::size_t byte) const {
  std::size_t at = byte;
  if (options.password) {
    const auto& all = const_cast<State*>(this)->clusters_of(index);  // NOLINT: fills a cache
    at = static_cast<std::size_t>(std::lower_bound(all.begin(), all.end(), byte) - all.begin()) * kDot.size();
  }
  if (!composed.empty() && index == caret.line && byte >= caret.byte) at += composed.size();
  return static_cast<std::uint32_t>(at);
}

std::size_t TextEditor::State::from_shown(std::size_t index, std::uint32_t byte) const {
  std::size_t at = byte;
  if (!composed.empty() && index == caret.line) {
    const std::size_t begin = to_shown(index, caret.byte) - composed.size();
    at = at <= begin ? at : at <= begin + composed.size() ? begin : at - composed.size();
  }
  if (options.password) {
    const auto& all = const_cast<State*>(this)->clusters_of(index);  // NOLINT: fills a cache
    return all[std::min(at / kDot.size(), all.size() - 1)];
  }
  return std::min(at, lines[index]->text.size());
}

const Paragraph& TextEditor::State::layout_of(std::size_t index) {
  EditLine& line = *lines[index];
  if (line.laid) return line.layout;
  const bool plain = !options.password && (composed.empty() || index != caret.line);
  if (!plain) shown = shown_text(index);
  (void)lay_out(fonts, plain ? line.text : shown, style, cache, line.layout);  // the style was checked
  line.laid = true;
  const Line& last = line.layout.lines.back();
  const float gap = line.layout.line_height * style.line_spacing - (line.layout.ascent + line.layout.descent);
  heights.set(index, last.top + last.height + (style.leading ? *style.leading - last.height : gap) +
                         style.paragraph_spacing);
  return line.layout;
}

float TextEditor::State::top_of(std::size_t index) { return static_cast<float>(heights.before(index)); }

void TextEditor::State::read_stops(std::size_t index) {
  const Paragraph& p = layout_of(index);
  const bool plain = !options.password && (composed.empty() || index != caret.line);
  if (!plain) shown = shown_text(index);
  caret_stops(p, plain ? std::string_view(lines[index]->text) : std::string_view(shown), stops);
}

std::vector<CaretStop> TextEditor::State::caret_places() {
  read_stops(caret.line);
  std::uint32_t position = to_shown(caret.line, caret.byte);
  if (!composed.empty()) position -= static_cast<std::uint32_t>(composed.size() - composed_caret);
  std::vector<CaretStop> found;
  const auto take = [&](std::uint32_t wanted) {
    for (const CaretStop& stop : stops) {
      if (stop.position == wanted) found.push_back(stop);
    }
  };
  take(position);
  if (found.empty()) {  // within a cluster that has no stops of its own: before it
    std::uint32_t before = 0;
    for (const CaretStop& stop : stops) {
      if (stop.position < position) before = std::max(before, stop.position);
    }
    take(before);
  }
  if (found.empty()) found.push_back(stops.front());
  const auto [first, last] = std::minmax_element(
      found.begin(), found.end(), [](const CaretStop& a, const CaretStop& b) { return a.line < b.line; });
  const std::uint32_t line = at_line_end ? first->line : last->line;
  std::erase_if(found, [&](const CaretStop& stop) { return stop.line != line; });
  // Typing goes on in the direction of the line, unless the caret was put where the other direction is.
  const bool rtl = layout_of(caret.line).lines[line].right_to_left;
  std::stable_sort(found.begin(), found.end(), [&](const CaretStop& a, const CaretStop& b) {
    if (seen_x) return std::abs(a.x - *seen_x) < std::abs(b.x - *seen_x);
    return (a.right_to_left == rtl) > (b.right_to_left == rtl);
  });
  std::vector<CaretStop> out;
  for (const CaretStop& stop : found) {
    const bool again = std::any_of(out.begin(), out.end(),
                                   [&](const CaretStop& o) { return std::abs(o.x - stop.x) < kNear; });
    if (!again) out.push_back(stop);
  }
  return out;
}

std::uint32_t TextEditor::State::caret_line() { return caret_places().front().line; }

EditPlace TextEditor::State::hit(PixelPoint point, bool& at_end, float& x) {
  const std::size_t index = heights.find(static_cast<double>(std::max(0.0F, point.y)));
  const float y = point.y - top_of(index);
  read_stops(index);
  const Paragraph& p = layout_of(index);
  std::uint32_t line = 0;
  while (line + 1 < p.lines.size() && y >= p.lines[line + 1].top) ++line;
  const CaretStop* nearest = nullptr;
  for (const CaretStop& stop : stops) {
    if (stop.line != line) continue;
    if (nearest == nullptr || std::abs(stop.x - point.x) < std::abs(nearest->x - point.x)) nearest = &stop;
  }
  if (nearest == nullptr) nearest = &stops.front();
  at_end = nearest->position == p.lines[line].end && line + 1 < p.lines.size();
  x = nearest->x;
  return {index, from_shown(index, nearest->position)};
}

void TextEditor::State::keep_caret_in_view() {
  if (width <= 0 || height <= 0) return;
  const CaretStop stop = caret_places().front();
  const Line& line = layout_of(caret.line).lines[stop.line];
  const float top = top_of(caret.line) + line.top, bottom = top + line.height,
              room = std::min(style.size / 2, width / 4);
  scroll.y = std::max(std::min(scroll.y, top), bottom - height);
  scroll.y = std::max(0.0F, scroll.y);
  if (style.wrap) {
    scroll.x = 0;
    return;
  }
  // A little of what lies beyond stays in view; nothing beyond the line's end does.
  const float end = std::max(line.left + line.width, stop.x) + 1;
  if (stop.x < scroll.x + room) scroll.x = stop.x - room;
  if (stop.x > scroll.x + width - room) scroll.x = stop.x + room - width;
  scroll.x = std::clamp(scroll.x, std::min(0.0F, line.left), std::max(0.0F, end + 1 - width));
}

/// To the next stop that is seen on that side; over the line's end in the order of the text.
void TextEditor::State::move_sideways(bool right) {
  const CaretStop now = caret_places().front();
  const Line line = layout_of(caret.line).lines[now.line];
  read_stops(caret.line);
  const CaretStop* next = nullptr;
  for (const CaretStop& stop : stops) {
    if (stop.line != now.line) continue;
    const bool beyond = right ? stop.x > now.x + kNear : stop.x < now.x - kNear;
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

void TextEditor::move(EditMove how, bool extends) {
  State& s = *state_;
  compose({});
  const EditPlace low = std::min(s.caret, s.anchor), high = std::max(s.caret, s.anchor);
  const bool sideways =
      how == EditMove::left || how == EditMove::right || how == EditMove::previous || how == EditMove::next;
  const bool by_lines =
      how == EditMove::up || how == EditMove::down || how == EditMove::page_up || how == EditMove::page_down;
  if (!by_lines) s.wanted_x.reset();
  if (low != high && !extends && sideways) {  // a selection ends on the side that is moved to
    const bool to_high =
        how == EditMove::next ||
        (how == EditMove::right) != s.layout_of(s.caret.line).lines[s.caret_line()].right_to_left;
    s.seen_x.reset();
    s.at_line_end = false;
    return s.place_caret(how == EditMove::previous ? low : to_high ? high : low, false);
  }
  if (how != EditMove::left && how != EditMove::right) s.seen_x.reset();
  const float step = s.style.size / 4;
  const float page = std::max(s.height - s.style.size, s.style.size);
  const auto place = [&](EditPlace p) { s.caret = p, s.at_line_end = false; };
  const auto line = [&]() { return s.layout_of(s.caret.line).lines[s.caret_line()]; };
  switch (how) {
    case EditMove::left:
    case EditMove::right:
      s.move_sideways(how == EditMove::right);
      break;
    case EditMove::up:
      s.move_by_lines(-step);
      break;
    case EditMove::down:
      s.move_by_lines(step);
      break;
    case EditMove::page_up:
      s.move_by_lines(-page);
      break;
    case EditMove::page_down:
      s.move_by_lines(page);
      break;
    case EditMove::previous:
      place(s.previous_cluster(s.caret));
      break;
    case EditMove::next:
      place(s.next_cluster(s.caret));
      break;
    case EditMove::previous_word:
      place(s.previous_word(s.caret));
      break;
    case EditMove::next_word:
      place(s.next_word(s.caret));
      break;
    case EditMove::line_start:
      place({s.caret.line, s.from_shown(s.caret.line, line().start)});
      break;
    case EditMove::line_end: {
      const Line here = line();
      s.caret.byte = s.from_shown(s.caret.line, here.end);
      s.at_line_end = s.caret.byte != s.lines[s.caret.line]->text.size();
      break;
    }
    case EditMove::text_start:
      place({});
      break;
    case EditMove::text_end:
      place({s.lines.size() - 1, s.lines.back()->text.size()});
      break;
  }
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
  std::vector<Rect> boxes;
  for (std::size_t i = std::max(first, from.line); i < std::min(end, to.line + 1); ++i) {
    const Paragraph& p = s.layout_of(i);
    const std::uint32_t begin = s.to_shown(i, i == from.line ? from.byte : 0),
                        stop = s.to_shown(i, i == to.line ? to.byte : s.lines[i]->text.size());
    range_boxes(p, begin, stop, boxes);
    const float y = s.top_of(i);
    for (const Rect& box : boxes) out.push_back(box.moved({0, y}));
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
