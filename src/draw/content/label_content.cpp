// SPDX-License-Identifier: MIT
// Contents of labels: what changed is noted at once and done when it is needed.
#include "draw/content/label_content.hpp"

#include <algorithm>
#include <cmath>

#include "text/placing/glyph_room.hpp"

namespace grafema {

bool LabelContent::set_text(std::string_view now) {
  message.reset();
  if (!is_rich && text == now) return false;
  text.assign(now);
  is_rich = false;
  layout_stale = true;
  return true;
}

bool LabelContent::set_rich(const RichText& now) {
  message.reset();
  if (is_rich && rich == now) return false;
  rich = now;
  text.assign(now.text);
  is_rich = true;
  layout_stale = true;
  return true;
}

void LabelContent::set_style(const TextStyle& now) {
  style = now;
  style_name.clear();
  layout_stale = true;
}

void LabelContent::set_name(std::string_view now) {
  name = now;
  name_notes();
}

void LabelContent::set_motion(const Motion& now) {
  motion = now;
  moving = is_moving();
}

bool LabelContent::is_moving() const {
  return motion || on_path.path || has_turned_letters() ||
         std::any_of(styles.begin(), styles.end(),
                     [](const DrawnStyle& drawn) { return bool{drawn.motion}; });
}

bool LabelContent::set_path(const OnPath& path) {
  if (on_path == path) return false;
  on_path = path;
  moving = is_moving();
  quads_stale = true;
  return true;
}

void LabelContent::set_panel(const std::optional<Panel>& now) {
  panel = now;
  quads_stale = true;
}

void LabelContent::link_boxes(std::string_view link, std::vector<Rect>& out) const {
  out.clear();
  if (!is_rich || link.empty()) return;
  std::vector<Rect> boxes;
  for (const Span& span : rich.spans) {
    if (span.style.link != link) continue;
    range_boxes(paragraph, span.start, span.end, boxes);
    out.insert(out.end(), boxes.begin(), boxes.end());
  }
}

std::string_view LabelContent::link_at(PixelPoint p) const {
  if (!is_rich) return {};
  for (const Line& line : paragraph.lines) {
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      const PlacedGlyph& glyph = paragraph.glyphs[g];
      const std::uint32_t link = paragraph.styles[glyph.style].link;
      const Rect room = detail::glyph_room(paragraph, line, glyph);
      const bool inside = p.x >= room.left && p.x < room.right && p.y >= room.top && p.y < room.bottom;
      if (inside && link != PlacedStyle::kNone) return rich.spans[link].style.link;
    }
  }
  return {};
}

void LabelContent::prepare_layout() {
  if (context_revision != context->revision()) {
    context_revision = context->revision();
    layout_stale = true;
  }
  follow_books();
  if (layout_stale) lay_out_text();
}

void LabelContent::follow_books() {
  if (!style_name.empty() && styles_revision != context->styles().revision()) (void)follow_style();
  if (message) follow_message();
}

void LabelContent::prepare_pictures() {
  prepare_layout();
  if (has_bars && looks_revision != context->looks().revision()) quads_stale = true;
  looks_revision = context->looks().revision();
  if (quads_stale || source_epoch != context->source().epoch()) resolve_glyphs();
}

void LabelContent::lay_out_text() {
  ++memory->layouts;
  Notes& found = memory->notes;
  found.clear();
  // The style was checked when it was set; an empty stack of fonts leaves nothing to show.
  if (is_rich) {
    (void)lay_out(base_fonts(), rich, style, context->shapes(), paragraph, &found, &context->fonts_by_name());
  } else {
    (void)lay_out(base_fonts(), text, style, context->shapes(), paragraph, &found);
  }
  layout_notes.assign(found.all().begin(), found.all().end());
  if (message) layout_notes.insert(layout_notes.end(), message->notes.begin(), message->notes.end());
  find_styles();
  name_notes();
  clusters.clear();
  box = paragraph.box;
  layout_stale = false;
  quads_stale = true;
}

void LabelContent::name_notes() {
  for (std::vector<Note>* list : {&layout_notes, &picture_notes}) {
    for (Note& note : *list) note.label = name;
  }
}

}  // namespace grafema
