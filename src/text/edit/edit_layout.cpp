// SPDX-License-Identifier: MIT
// Clusters, words and layouts of an editor's lines, and where the caret stands in them.
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

std::span<const CaretStop> TextEditor::State::caret_places() {
  read_stops(caret.line);
  std::uint32_t position = to_shown(caret.line, caret.byte);
  if (!composed.empty()) position -= static_cast<std::uint32_t>(composed.size() - composed_caret);
  std::vector<CaretStop>& found = found_stops;
  found.clear();
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
  const auto is_before = [&](const CaretStop& a, const CaretStop& b) {
    if (seen_x) return std::abs(a.x - *seen_x) < std::abs(b.x - *seen_x);
    return (a.right_to_left == rtl) > (b.right_to_left == rtl);
  };
  // There are two or three, whose order stays where they are alike.
  for (auto at = found.begin(); at != found.end(); ++at) {
    std::rotate(std::upper_bound(found.begin(), at, *at, is_before), at, at + 1);
  }
  std::size_t kept = 0;
  for (const CaretStop& stop : found) {
    const auto is_again = [&](const CaretStop& o) { return std::abs(o.x - stop.x) < kNear; };
    const bool again =
        std::any_of(found.begin(), found.begin() + static_cast<std::ptrdiff_t>(kept), is_again);
    if (!again) found[kept++] = stop;
  }
  return std::span(found).first(kept);
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

}  // namespace grafema
