// SPDX-License-Identifier: MIT
// Labels that show messages and take named styles, and follow when either changes.
#include <algorithm>
#include <cmath>

#include "draw/label_state.hpp"
#include "grafema/font/font_book.hpp"

namespace grafema {

Label::State::Shown& Label::State::shown() {
  if (!message) {
    message = std::make_unique<Shown>();
    message->own_language = !style.language.empty();
  }
  return *message;
}

void Label::set_message(std::string_view id) {
  State::Shown& shown = state().shown();
  if (shown.id == id) return;
  shown.id = id;
  shown.book_revision = 0;
}

void Label::set_value(std::string_view name, const MessageValue& value) {
  state().shown().values.set(name, value);
}

double Label::next_change() {
  state().prepare_layout();
  return state().message ? state().message->next_change : INFINITY;
}

void Label::State::follow_message() {
  Shown& m = *message;
  MessageBook& book = context->messages();
  const std::uint64_t styles_now = context->styles().revision();
  const bool same = m.book_revision == book.revision() && m.values_revision == m.values.revision() &&
                    m.styles_revision == styles_now && book.clock() < m.next_change;
  if (same) return;
  m.book_revision = book.revision(), m.values_revision = m.values.revision(), m.styles_revision = styles_now;
  Notes& found = context->records().notes;
  found.clear();
  m.next_change = book.format(m.id, m.values, m.made, {&context->styles(), &context->icons()}, &found);
  m.notes.assign(found.all().begin(), found.all().end());
  if (!m.own_language && style.language != book.language()) {
    style.language = book.language();
    layout_stale = true;
  }
  if (m.made.plain()) {
    layout_stale = layout_stale || is_rich || text != m.made.text;
    is_rich = false;
  } else {
    layout_stale = layout_stale || !is_rich || rich != m.made;
    is_rich = true;
    rich = m.made;
  }
  text.assign(m.made.text);
}

Result<void> Label::use_style(std::string_view name) {
  const Result<const NamedStyle*> found = state().context->styles().read(name);
  if (!found) return fail(found.error());
  state().style_name = name;
  return state().follow_style();
}

Result<void> Label::State::follow_style() {
  styles_revision = context->styles().revision();
  const NamedStyle* found = context->styles().find(style_name);
  if (found == nullptr) return {};
  TextStyle taken = found->text;
  if (message && !message->own_language && taken.language.empty()) taken.language = style.language;
  const SpanStyle& span = found->span;
  if (!span.font.empty()) {
    own_fonts =
        std::make_shared<const FontStack>(restyle(context->fonts(), span.font, &context->fonts_by_name()));
  }
  if (span.cap_height) {
    const Result<float> size = read_size(*base_fonts()[0].metrics, SizeBy::cap_height, *span.cap_height);
    if (!size) return fail(size.error());
    taken.size = *size;
  }
  if (!span.look.empty()) {
    const Result<LookId> wanted = context->looks().read(span.look);
    if (!wanted) return fail(wanted.error());
    quads_stale = quads_stale || (has_bars && look != *wanted);
    look = *wanted;
  }
  style = std::move(taken);
  layout_stale = true;
  return {};
}

}  // namespace grafema
