// SPDX-License-Identifier: MIT
// Changes text: insertion, deletion, undo, filters, what is being composed.
#include "grafema/text/text_editor.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <cassert>
#include <cmath>

#include "grafema/base/utf8.hpp"
#include "text/edit/edit_state.hpp"

namespace grafema {
namespace {

bool begins_character(std::string_view text, std::size_t byte) {
  return byte == text.size() || (static_cast<unsigned char>(text[byte]) & 0xC0U) != 0x80;
}

std::size_t count_characters(std::string_view text) {
  return static_cast<std::size_t>(std::count_if(
      text.begin(), text.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80; }));
}

}  // namespace

bool TextEditor::State::is_place(EditPlace p) const {
  return p.line < lines.size() && p.byte <= lines[p.line]->text.size() &&
         begins_character(lines[p.line]->text, p.byte);
}

void TextEditor::State::touch(EditLine& line) {
  line.revision = ++revisions;
  line.laid = line.clustered = false;
}

EditPlace TextEditor::State::end_of(EditPlace at, std::string_view text) {
  const std::size_t last = text.rfind('\n');
  if (last == std::string_view::npos) return {at.line, at.byte + text.size()};
  const auto breaks = static_cast<std::size_t>(std::count(text.begin(), text.end(), '\n'));
  return {at.line + breaks, text.size() - last - 1};
}

EditPlace TextEditor::State::insert_raw(EditPlace at, std::string_view text) {
  characters += count_characters(text);
  EditLine& first = *lines[at.line];
  touch(first);
  const std::size_t breaks = static_cast<std::size_t>(std::count(text.begin(), text.end(), '\n'));
  if (breaks == 0) {
    first.text.insert(at.byte, text);
    return {at.line, at.byte + text.size()};
  }
  std::string rest = first.text.substr(at.byte);
  std::size_t from = text.find('\n');
  first.text.replace(at.byte, std::string::npos, text.substr(0, from));
  std::vector<std::unique_ptr<EditLine>> more;
  for (std::size_t i = 0; i < breaks; ++i) {
    const std::size_t next = std::min(text.find('\n', from + 1), text.size());
    more.push_back(std::make_unique<EditLine>());
    more.back()->text = text.substr(from + 1, next - from - 1);
    touch(*more.back());
    from = next;
  }
  const EditPlace end{at.line + breaks, more.back()->text.size()};
  more.back()->text += rest;
  lines.insert(lines.begin() + static_cast<std::ptrdiff_t>(at.line) + 1,
               std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  heights.insert(at.line + 1, breaks, heights.height(at.line));
  return end;
}

std::string TextEditor::State::text_between(EditPlace from, EditPlace to) const {
  if (from.line == to.line) return lines[from.line]->text.substr(from.byte, to.byte - from.byte);
  std::string out = lines[from.line]->text.substr(from.byte);
  for (std::size_t i = from.line + 1; i < to.line; ++i) (out += '\n') += lines[i]->text;
  (out += '\n') += std::string_view(lines[to.line]->text).substr(0, to.byte);
  return out;
}

std::string TextEditor::State::erase_raw(EditPlace from, EditPlace to) {
  std::string removed = text_between(from, to);
  characters -= count_characters(removed);
  EditLine& first = *lines[from.line];
  touch(first);
  if (from.line == to.line) {
    first.text.erase(from.byte, to.byte - from.byte);
    return removed;
  }
  first.text.replace(from.byte, std::string::npos, lines[to.line]->text.substr(to.byte));
  const auto at = lines.begin() + static_cast<std::ptrdiff_t>(from.line) + 1;
  lines.erase(at, at + static_cast<std::ptrdiff_t>(to.line - from.line));
  heights.erase(from.line + 1, to.line - from.line);
  return removed;
}

/// The text as it may stand in the place of a range.
std::string TextEditor::State::filtered(std::string_view text, EditPlace from, EditPlace to) const {
  std::string out;
  std::size_t room = ~std::size_t{0};
  if (options.max_characters != 0) {
    const std::size_t kept = characters - (from == to ? 0 : count_characters(text_between(from, to)));
    room = options.max_characters - std::min(options.max_characters, kept);
  }
  for (std::size_t i = 0; i < text.size() && room > 0;) {
    const DecodedCharacter next = decode_utf8(text, i);
    char32_t c = next.character;
    i += next.length;
    if (c == '\r') {
      if (i < text.size() && text[i] == '\n') continue;
      c = '\n';
    }
    if (c == 0x2028 || c == 0x2029 || c == 0x85) c = '\n';
    if (c == '\n' && options.newlines == NewlinePolicy::refuse) continue;
    if (c == '\n' && options.newlines == NewlinePolicy::as_space) c = ' ';
    const bool control = (c < 0x20 && c != '\n' && c != '\t') || (c >= 0x7F && c < 0xA0);
    if (control || (options.accepts && c != '\n' && !options.accepts(c))) continue;
    append_utf8(out, c);
    --room;
  }
  return out;
}

/// As much of the text as keeps its line within the most width, whole clusters.
std::string TextEditor::State::narrowed(const std::string& text, EditPlace from, EditPlace to) {
  if (options.max_width <= 0 || from.line != to.line || text.find('\n') != std::string::npos) return text;
  const std::string& line = lines[from.line]->text;
  TextStyle plain = style;
  plain.wrap.reset(), plain.box_height.reset();
  Paragraph p;
  const auto fits = [&](std::size_t bytes) {
    const std::string whole = line.substr(0, from.byte) + text.substr(0, bytes) + line.substr(to.byte);
    return lay_out(fonts, whole, plain, cache, p).has_value() && p.advance_box.width() <= options.max_width;
  };
  if (fits(text.size())) return text;
  TextAnalysis analysis;
  analyze(text, TextDirection::automatic, cache, analysis);
  std::vector<std::size_t> ends = {0};
  for (std::size_t i = 1; i < analysis.characters.size(); ++i) {
    if (analysis.is(i, TextAnalysis::kCluster)) ends.push_back(analysis.starts[i]);
  }
  std::size_t low = 0, high = ends.size() - 1;
  while (low < high) {
    const std::size_t middle = (low + high + 1) / 2;
    fits(ends[middle]) ? low = middle : high = middle - 1;
  }
  return text.substr(0, ends[low]);
}

bool TextEditor::State::change(EditPlace from, EditPlace to, std::string_view text, bool typed) {
  const std::string taken = narrowed(filtered(text, from, to), from, to);
  if (taken.empty() && from == to) return false;
  Step step{from, {}, taken, caret, anchor, typed};
  if (from != to) step.removed = erase_raw(from, to);
  caret = anchor = taken.empty() ? from : insert_raw(from, taken);
  at_line_end = false;
  seen_x.reset(), wanted_x.reset();
  undone.clear();
  const bool one_word = !done.empty() && !(done.back().inserted.ends_with(' ') && taken != " ");
  if (typed && !done.empty() && done.back().typed && step.removed.empty() && one_word &&
      taken.find('\n') == std::string::npos && end_of(done.back().at, done.back().inserted) == from) {
    done.back().inserted += taken;
  } else {
    done.push_back(std::move(step));
    if (done.size() > options.max_undo) done.pop_front();
  }
  keep_caret_in_view();
  return true;
}

void TextEditor::State::place_caret(EditPlace p, bool extends) {
  caret = p;
  if (!extends) anchor = p;
  if (!done.empty()) done.back().typed = false;
  keep_caret_in_view();
}

TextEditor::TextEditor(FontStack fonts, const TextStyle& style, EditOptions options)
    : state_(std::make_unique<State>()) {
  assert(check_style(style).has_value() && "an editor's style is one that lay_out takes");
  State& s = *state_;
  s.fonts = std::move(fonts);
  if (s.fonts.empty()) s.fonts.add(built_in_face());
  s.style = check_style(style) ? style : TextStyle{};
  s.style.overflow = Overflow::show;
  s.style.box_height.reset();
  s.style.writing = WritingMode::horizontal;
  s.style.max_lines = 0;
  s.options = std::move(options);
  set_text("");
}
TextEditor::~TextEditor() = default;
TextEditor::TextEditor(TextEditor&&) noexcept = default;
TextEditor& TextEditor::operator=(TextEditor&&) noexcept = default;

void TextEditor::set_text(std::string_view text) {
  State& s = *state_;
  s.lines.clear();
  s.lines.push_back(std::make_unique<State::EditLine>());
  s.touch(*s.lines[0]);
  s.characters = 0;
  const LineMetrics m = s.fonts[0]->line_metrics();
  s.heights.assign(1, (m.ascent + m.descent + m.line_gap) * s.style.size / s.fonts[0]->units_per_em());
  s.caret = s.anchor = {};
  s.scroll = {};
  s.composed.clear();
  s.change({}, {}, text);
  s.caret = s.anchor = {};
  s.scroll = {};
  s.done.clear(), s.undone.clear();
}

std::string TextEditor::text() const {
  const State& s = *state_;
  return s.text_between({}, {s.lines.size() - 1, s.lines.back()->text.size()});
}
std::size_t TextEditor::line_count() const { return state_->lines.size(); }
std::string_view TextEditor::line(std::size_t index) const& { return state_->lines[index]->text; }
EditPlace TextEditor::caret() const { return state_->caret; }
EditPlace TextEditor::anchor() const { return state_->anchor; }
bool TextEditor::has_selection() const { return state_->caret != state_->anchor; }
std::string TextEditor::selected_text() const {
  return state_->text_between(std::min(caret(), anchor()), std::max(caret(), anchor()));
}

Result<void> TextEditor::select(EditPlace anchor, EditPlace caret) {
  if (!state_->is_place(anchor) || !state_->is_place(caret)) {
    return bad_value("a place between characters of a line that is there");
  }
  state_->at_line_end = false;
  state_->seen_x.reset(), state_->wanted_x.reset();
  state_->place_caret(caret, true);
  state_->anchor = anchor;
  return {};
}

void TextEditor::select_all() {
  const State& s = *state_;
  (void)select({}, {s.lines.size() - 1, s.lines.back()->text.size()});
}

bool TextEditor::insert(std::string_view text) {
  State& s = *state_;
  compose({});
  const EditPlace from = std::min(s.caret, s.anchor), to = std::max(s.caret, s.anchor);
  return s.change(from, to, text, text.size() <= 16);
}

namespace {

/// Erases what is selected, else up to where `other` gives.
template <class Other>
bool erase(TextEditor::State& s, Other other) {
  EditPlace from = std::min(s.caret, s.anchor), to = std::max(s.caret, s.anchor);
  if (from == to) {
    const EditPlace end = other(s.caret);
    from = std::min(s.caret, end), to = std::max(s.caret, end);
  }
  return from != to && s.change(from, to, {});
}

}  // namespace

bool TextEditor::erase_back() {
  State& s = *state_;
  return erase(s, [&](EditPlace p) {
    const EditPlace cluster = s.previous_cluster(p);
    if (p.byte == 0 || cluster.line != p.line || s.options.password) return cluster;
    // A mark goes before its letter does; what joins (emoji, jamo, CR LF) goes as a whole.
    const std::string& text = s.lines[p.line]->text;
    std::size_t last = p.byte;
    do --last;
    while (last > cluster.byte && !begins_character(text, last));
    const auto c = static_cast<UChar32>(decode_utf8(text, last).character);
    const bool is_mark = last > cluster.byte && u_charType(c) == U_NON_SPACING_MARK &&
                         u_hasBinaryProperty(c, UCHAR_VARIATION_SELECTOR) == 0;
    return is_mark ? EditPlace{p.line, last} : cluster;
  });
}
bool TextEditor::erase_ahead() {
  return erase(*state_, [this](EditPlace p) { return state_->next_cluster(p); });
}
bool TextEditor::erase_word_back() {
  return erase(*state_, [this](EditPlace p) { return state_->previous_word(p); });
}
bool TextEditor::erase_word_ahead() {
  return erase(*state_, [this](EditPlace p) { return state_->next_word(p); });
}

Result<void> TextEditor::replace(EditPlace from, EditPlace to, std::string_view text) {
  State& s = *state_;
  if (!s.is_place(from) || !s.is_place(to) || to < from) {
    return bad_value("a range between characters of lines that are there");
  }
  s.change(from, to, text);
  return {};
}

bool TextEditor::undo() {
  State& s = *state_;
  if (s.done.empty()) return false;
  compose({});
  State::Step step = std::move(s.done.back());
  s.done.pop_back();
  s.erase_raw(step.at, State::end_of(step.at, step.inserted));
  s.insert_raw(step.at, step.removed);
  s.caret = step.caret_before, s.anchor = step.anchor_before;
  s.at_line_end = false;
  s.seen_x.reset(), s.wanted_x.reset();
  s.undone.push_back(std::move(step));
  s.keep_caret_in_view();
  return true;
}

bool TextEditor::redo() {
  State& s = *state_;
  if (s.undone.empty()) return false;
  State::Step step = std::move(s.undone.back());
  s.undone.pop_back();
  s.erase_raw(step.at, State::end_of(step.at, step.removed));
  s.caret = s.anchor = s.insert_raw(step.at, step.inserted);
  s.at_line_end = false;
  s.seen_x.reset(), s.wanted_x.reset();
  step.typed = false;
  s.done.push_back(std::move(step));
  s.keep_caret_in_view();
  return true;
}

void TextEditor::copy(const Clipboard& clipboard) const {
  if (clipboard.set && has_selection() && !state_->options.password) clipboard.set(selected_text());
}

void TextEditor::cut(const Clipboard& clipboard) {
  if (state_->options.password || !has_selection()) return;
  copy(clipboard);
  erase_back();
}

void TextEditor::paste(const Clipboard& clipboard) {
  if (clipboard.get) insert(clipboard.get());
}

void TextEditor::compose(std::string_view text, std::size_t caret) {
  State& s = *state_;
  std::string shown;
  for (std::size_t i = 0; i < text.size();) {
    const DecodedCharacter next = decode_utf8(text, i);
    append_utf8(shown, next.character);
    i += next.length;
  }
  if (shown == s.composed && caret == s.composed_caret) return;
  if (!shown.empty() && s.caret != s.anchor)
    s.change(std::min(s.caret, s.anchor), std::max(s.caret, s.anchor), {});
  s.composed = std::move(shown);
  s.composed_caret = std::min(caret, s.composed.size());
  while (!begins_character(s.composed, s.composed_caret)) --s.composed_caret;
  s.touch(s.at(s.caret.line));
  s.keep_caret_in_view();
}

bool TextEditor::composing() const { return !state_->composed.empty(); }

}  // namespace grafema
