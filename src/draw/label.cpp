// SPDX-License-Identifier: MIT
// Labels: what changed is noted at once and done when it is needed.
#include "grafema/draw/label.hpp"
#include "grafema/draw/paint.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>

#include "draw/label_map.hpp"
#include "draw/label_state.hpp"
#include "grafema/base/utf8.hpp"
#include "text/placing/glyph_room.hpp"

namespace grafema {

Label::Label(TextContext& context, std::string_view text) : state_(std::make_unique<State>()) {
  state_->context = &context;
  state_->context_life = context.life();
  state_->text = text;
}
Label::~Label() = default;
Label::Label(Label&&) noexcept = default;
Label& Label::operator=(Label&&) noexcept = default;

Label::State& Label::state() const {
  assert(state_ != nullptr && "a label that was moved from is used");
  return *state_;
}

void Label::set_name(std::string_view name) {
  state().name = name;
  state().name_notes();
}

std::string_view Label::name() const& { return state().name; }

void Label::set_text(std::string_view text) {
  State& s = state();
  s.message.reset();
  if (!s.is_rich && s.text == text) return;
  s.text.assign(text);
  s.is_rich = false;
  s.layout_stale = true;
}

void Label::set_rich(const RichText& text) {
  State& s = state();
  s.message.reset();
  if (s.is_rich && s.rich == text) return;
  s.rich = text;
  s.text.assign(text.text);
  s.is_rich = true;
  s.layout_stale = true;
}

const RichText& Label::rich() const& { return state().rich; }

void Label::set_revealed(std::size_t clusters) {
  State& s = state();
  if (s.revealed == clusters) return;
  s.revealed = clusters;
  s.quads_stale = true;
}

std::size_t Label::revealed() const { return state().revealed; }

std::span<const std::uint32_t> Label::clusters() & {
  state().prepare_layout();
  state().find_clusters();
  return state().clusters;
}

void Label::link_boxes(std::string_view link, std::vector<Rect>& out) {
  out.clear();
  State& s = state();
  const Paragraph& laid = paragraph();
  if (!s.is_rich) return;
  std::vector<Rect> boxes;
  for (const Span& span : s.rich.spans) {
    if (span.style.link != link || link.empty()) continue;
    range_boxes(laid, span.start, span.end, boxes);
    out.insert(out.end(), boxes.begin(), boxes.end());
  }
}

std::string_view Label::link_at(PixelPoint device, const View& view) & {
  State& s = state();
  if (!s.is_rich || !s.visible) return {};
  (void)box();
  const Result<LabelMap> map = s.map(view);
  const std::optional<PixelPoint> p = map ? from_device(*map, device, view) : std::nullopt;
  if (!p) return {};
  for (const Line& line : s.paragraph.lines) {
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      const PlacedGlyph& glyph = s.paragraph.glyphs[g];
      const std::uint32_t link = s.paragraph.styles[glyph.style].link;
      const Rect room = detail::glyph_room(s.paragraph, line, glyph);
      const bool inside = p->x >= room.left && p->x < room.right && p->y >= room.top && p->y < room.bottom;
      if (inside && link != PlacedStyle::kNone) return s.rich.spans[link].style.link;
    }
  }
  return {};
}

void Label::set_number(double value, const NumberFormat& format) {
  NumberText text = {};
  set_text(write_number(value, format, text));
}

std::string_view Label::text() const& { return state().text; }

Result<void> Label::set_style(const TextStyle& style) {
  if (const Result<void> checked = check_style(style); !checked) return checked;
  state().style = style;
  state().style_name.clear();
  state().layout_stale = true;
  return {};
}

Result<void> Label::set_size(float size) {
  if (size == state().style.size) return {};
  if (!(size >= kMinSize && size <= kMaxSize)) {
    return fail(
        make_error(ErrorKind::bad_value, "a size of 0.25 to 8192 pixels per em", fmt::format("{}", size)));
  }
  state().style.size = size;
  state().layout_stale = true;
  return {};
}

const TextStyle& Label::style() const { return state().style; }

void Label::set_fonts(std::shared_ptr<const FontStack> fonts) {
  state().own_fonts = std::move(fonts);
  state().layout_stale = true;
}

void Label::set_look(LookId look) {
  State& s = state();
  s.quads_stale = s.quads_stale || (s.has_bars && s.look != look);  // bars reach as far as their look
  s.look = look;
}
LookId Label::look() const { return state().look; }

Result<void> Label::set_placement(const Placement& placement) {
  if (const Result<void> checked = detail::check_placement(placement); !checked) return checked;
  state().placement = placement;
  return {};
}

Result<void> Label::move_to(PixelPoint at) {
  if (!std::isfinite(at.x) || !std::isfinite(at.y)) {
    return bad_value("a place of finite numbers");
  }
  state().placement.at = at;
  return {};
}

const Placement& Label::placement() const { return state().placement; }
void Label::set_visible(bool visible) { state().visible = visible; }
bool Label::visible() const { return state().visible; }
void Label::set_opacity(float opacity) { state().opacity = opacity >= 0 ? std::min(opacity, 1.0F) : 0.0F; }
float Label::opacity() const { return state().opacity; }
void Label::set_motion(Motion motion) {
  State& s = state();
  s.motion = std::move(motion);
  s.moving = s.is_moving();
}

bool Label::State::is_moving() const {
  return motion || on_path.path || has_turned_letters() ||
         std::any_of(styles.begin(), styles.end(),
                     [](const DrawnStyle& drawn) { return bool{drawn.motion}; });
}

Result<void> Label::set_path(const OnPath& path) {
  if (!std::isfinite(path.align) || !std::isfinite(path.offset)) {
    return bad_value("a place on a path of finite numbers");
  }
  State& s = state();
  if (s.on_path == path) return {};
  s.on_path = path;
  s.moving = s.is_moving();
  s.quads_stale = true;
  return {};
}

Result<void> Label::set_panel(const std::optional<Panel>& panel) {
  if (panel) {
    if (const Result<void> checked = check_panel(*panel); !checked) return checked;
  }
  State& s = state();
  if (s.panel == panel) return {};
  s.panel = panel;
  s.quads_stale = true;
  return {};
}

void Label::set_time(double seconds) { state().seconds = seconds; }
const LabelWork& Label::work() const { return state().work; }

const Paragraph& Label::paragraph(Notes* notes) {
  State& s = state();
  s.prepare_layout();
  if (notes != nullptr) {
    for (const Note& note : s.layout_notes) notes->add(note);
  }
  return s.paragraph;
}

Rect Label::box() { return paragraph().box; }

Rect Label::ink_box() {
  const Paragraph& laid = paragraph();
  return grafema::ink_box(state().fonts(), laid, state().context->looks().get(state().look),
                          [this](std::size_t style) { return state().style_look(style); });
}

Rect Label::device_box(const View& view) {
  const Rect own = box();
  const Result<LabelMap> map = state().map(view);
  return map ? device_bounds(*map, own, view) : Rect{};
}

bool Label::hit(PixelPoint device, const View& view) {
  if (!state().visible) return false;
  const Rect own = box();
  const Result<LabelMap> map = state().map(view);
  const std::optional<PixelPoint> p = map ? from_device(*map, device, view) : std::nullopt;
  return p && p->x >= own.left && p->x < own.right && p->y >= own.top && p->y < own.bottom;
}

void Label::State::prepare_layout() {
  assert(!context_life.expired() && "a label is used whose context is gone");
  if (context_revision != context->revision()) {
    context_revision = context->revision();
    layout_stale = true;
  }
  if (!style_name.empty() && styles_revision != context->styles().revision()) (void)follow_style();
  if (message) follow_message();
  if (layout_stale) lay_out_text();
}

void Label::State::prepare_pictures() {
  prepare_layout();
  if (has_bars && looks_revision != context->looks().revision()) quads_stale = true;
  looks_revision = context->looks().revision();
  if (quads_stale || source_epoch != context->source().epoch()) resolve_glyphs();
}

void Label::State::prepare() {
  prepare_pictures();
  TextContext::Records& records = context->records();
  records.refresh(context->looks());
  // A full table starts over in the middle of asking: ask until one generation has all that this label needs.
  for (int rounds = 0; records_generation != records.generation || records_look != look; ++rounds) {
    if (rounds > 0) records.limit = std::max(records.limit, variants.size() * 2);
    records_generation = records.generation;
    records_look = look;
    layers = 0;
    for (Variant& variant : variants) {
      const LookId wanted = look_of(variant);
      variant.first_record = records.find(context->looks(), wanted, variant);
      if (!variant.panel) layers = std::max(layers, context->looks().get(wanted).count);
    }
  }
}

void Label::State::lay_out_text() {
  ++work.layouts;
  Notes& found = context->records().notes;
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

void Label::State::name_notes() {
  for (std::vector<Note>* list : {&layout_notes, &picture_notes}) {
    for (Note& note : *list) note.label = name;
  }
}

}  // namespace grafema
