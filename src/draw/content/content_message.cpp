// SPDX-License-Identifier: MIT
// Labels that show messages and take named styles, and follow when either changes.
#include <algorithm>
#include <cmath>
#include <utility>

#include "draw/content/label_content.hpp"
#include "grafema/font/font_book.hpp"

namespace grafema {

bool LabelContent::set_message(std::string_view id) {
  if (message && message->id == id) return false;
  if (!message) {
    message = std::make_unique<Shown>();
    message->own_language = !style.language.empty();
  }
  message->id = id;
  message->book_revision = 0;
  return true;
}

bool LabelContent::has_news() const {
  const std::uint64_t styles_now = context->styles().revision();
  if (!style_name.empty() && styles_revision != styles_now) return true;
  if (!message) return false;
  const MessageBook& book = context->messages();
  return message->book_revision != book.revision() ||
         message->values_revision != message->values.revision() || message->styles_revision != styles_now ||
         book.clock() >= message->next_change;
}

void LabelContent::follow_message() {
  Shown& m = *message;
  MessageBook& book = context->messages();
  const std::uint64_t styles_now = context->styles().revision();
  const bool same = m.book_revision == book.revision() && m.values_revision == m.values.revision() &&
                    m.styles_revision == styles_now && book.clock() < m.next_change;
  if (same) return;
  m.book_revision = book.revision(), m.values_revision = m.values.revision(), m.styles_revision = styles_now;
  Notes& found = memory->notes;
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

Result<void> LabelContent::use_style(std::string_view wanted) {
  const Result<const NamedStyle*> found = context->styles().read(wanted);
  if (!found) return fail(found.error());
  std::string before = std::exchange(style_name, std::string(wanted));
  Result<void> taken = follow_style();
  if (!taken) style_name = std::move(before);
  return taken;
}

Result<void> LabelContent::follow_style() {
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
