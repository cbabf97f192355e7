// SPDX-License-Identifier: MIT
// Handles of labels: what they show, and how it looks.
#include "grafema/draw/label.hpp"

#include <cassert>
#include <cmath>

#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

bool Label::valid() const {
  return scene_ != nullptr && index_ < scene_->moving.size() &&
         scene_->moving[index_].generation == generation_;
}

/// The scene, where the label is there; else null, and `call` is noted.
SceneState* Label::use(const char* call) const {
  if (valid()) {
    assert(scene_->thread == std::this_thread::get_id() && "a scene is used on another thread than its own");
    return scene_;
  }
  if (scene_ != nullptr) scene_->note(NoteKind::gone_handle, call);
  return nullptr;
}

void Label::remove() {
  if (SceneState* s = use("remove")) s->remove(index_);
}

void Label::set_name(std::string_view name) {
  SceneState* s = use("set_name");
  if (s == nullptr) return;
  s->extra(index_).name.assign(name);
  if (LabelContent* own = s->content_of(index_)) own->set_name(name);
}

// --- What it shows.

void Label::set_text(std::string_view text) {
  if (SceneState* s = use("set_text")) s->set_text(index_, text);
}

void SceneState::set_text(std::uint32_t i, std::string_view text) {
  if (LabelContent* own = content_of(i)) {
    if (own->set_text(text)) touch_contents(i);
  } else if (still[i].text != text) {
    still[i].text.assign(text);
    touch_contents(i);
  }
}

void Label::set_number(double value, const NumberFormat& format) {
  SceneState* s = use("set_number");
  if (s == nullptr) return;
  NumberText made;
  const std::string_view text = write_number(value, format, made);
  if (s->content_of(index_) != nullptr || !s->write_number_of(index_, text)) s->set_text(index_, text);
}

void Label::set_rich(const RichText& text) {
  SceneState* s = use("set_rich");
  if (s != nullptr && s->keep_content(index_).set_rich(text)) s->touch_contents(index_);
}

void Label::set_message(std::string_view id) {
  SceneState* s = use("set_message");
  if (s == nullptr || !s->keep_content(index_).set_message(id)) return;
  s->follow_label(index_);
  s->touch_contents(index_);
}

void Label::set_value(std::string_view name, const MessageValue& value) {
  SceneState* s = use("set_value");
  LabelContent* own = s != nullptr ? s->content_of(index_) : nullptr;
  if (own == nullptr || !own->message) return;
  own->message->values.set(name, value);
  if (own->has_news()) s->touch_contents(index_);
}

double Label::next_change() const {
  SceneState* s = use("next_change");
  const LabelContent* own = s != nullptr ? s->followed(index_) : nullptr;
  return own != nullptr && own->message ? own->message->next_change : INFINITY;
}

std::string_view Label::text() const {
  SceneState* s = use("text");
  if (s == nullptr) return {};
  const LabelContent* own = s->followed(index_);
  return own != nullptr ? std::string_view(own->text) : std::string_view(s->still[index_].text);
}

const RichText& Label::rich() const {
  static const RichText none;
  SceneState* s = use("rich");
  const LabelContent* own = s != nullptr ? s->followed(index_) : nullptr;
  return own != nullptr && own->is_rich ? own->rich : none;
}

void Label::set_revealed(std::size_t clusters) {
  SceneState* s = use("set_revealed");
  if (s == nullptr || (clusters == kAll && s->content_of(index_) == nullptr)) return;
  LabelContent& own = s->keep_content(index_);
  if (own.revealed == clusters) return;
  own.revealed = clusters;
  own.quads_stale = true;
  s->touch_contents(index_);
}

std::size_t Label::revealed() const {
  SceneState* s = use("revealed");
  const LabelContent* own = s != nullptr ? s->content_of(index_) : nullptr;
  return own != nullptr ? own->revealed : kAll;
}

std::span<const std::uint32_t> Label::clusters() const {
  SceneState* s = use("clusters");
  if (s == nullptr || s->context_of(index_) == nullptr) return {};
  LabelContent& own = s->keep_content(index_);
  (void)s->laid_out(index_);
  own.find_clusters();
  return own.clusters;
}

// --- How it looks.

Result<void> Label::use_style(std::string_view name) {
  SceneState* s = use("use_style");
  if (s == nullptr || s->context_of(index_) == nullptr) return {};
  if (const auto found = s->context_of(index_)->styles().read(name); !found) return fail(found.error());
  if (const Result<void> taken = s->keep_content(index_).use_style(name); !taken) return taken;
  s->follow_label(index_);
  s->touch_contents(index_);
  return {};
}

Result<void> Label::set_style(const TextStyle& style) {
  SceneState* s = use("set_style");
  if (const Result<void> checked = check_style(style); !checked) return checked;
  if (s == nullptr) return {};
  if (LabelContent* own = s->content_of(index_)) {
    own->set_style(style);
    s->touch_contents(index_);
  } else {
    s->set_style(index_, style, s->still[index_].style->fonts);
  }
  return {};
}

const TextStyle& Label::style() const {
  static const TextStyle plain;
  SceneState* s = use("style");
  if (s == nullptr) return plain;
  const LabelContent* own = s->followed(index_);
  return own != nullptr ? own->style : s->still[index_].style->text;
}

void Label::set_size(float size) {
  SceneState* s = use("set_size");
  if (s == nullptr) return;
  if (!(size >= kMinSize && size <= kMaxSize)) return s->note(NoteKind::refused_number, "set_size", index_);
  if (style().size == size) return;
  if (LabelContent* own = s->content_of(index_)) {
    own->style.size = size, own->layout_stale = true;
    return s->touch_contents(index_);
  }
  TextStyle style = s->still[index_].style->text;
  style.size = size;
  s->set_style(index_, style, s->still[index_].style->fonts);
}

void Label::set_fonts(std::shared_ptr<const FontStack> fonts) {
  SceneState* s = use("set_fonts");
  if (s == nullptr) return;
  if (LabelContent* own = s->content_of(index_)) {
    own->own_fonts = std::move(fonts), own->layout_stale = true;
    return s->touch_contents(index_);
  }
  s->set_style(index_, s->still[index_].style->text, std::move(fonts));
}

void Label::set_look(LookId look) {
  SceneState* s = use("set_look");
  if (s == nullptr || this->look() == look) return;
  s->still[index_].look = look;
  if (LabelContent* own = s->content_of(index_)) {
    own->look = look;
    own->quads_stale = own->quads_stale || own->has_bars;  // bars reach as far as their look
  }
  s->touch_contents(index_);
}

LookId Label::look() const {
  SceneState* s = use("look");
  if (s == nullptr) return {};
  const LabelContent* own = s->followed(index_);
  return own != nullptr ? own->look : s->still[index_].look;
}

Result<void> Label::set_panel(const std::optional<Panel>& panel) {
  SceneState* s = use("set_panel");
  if (panel) {
    if (const Result<void> checked = check_panel(*panel); !checked) return checked;
  }
  if (s == nullptr) return {};
  detail::StillLabel::Extra& extra = s->extra(index_);
  if (extra.panel == panel) return {};
  extra.panel = panel;
  if (LabelContent* own = s->content_of(index_)) own->set_panel(panel);
  s->touch_contents(index_);
  return {};
}

Result<void> Label::set_path(const OnPath& path) {
  SceneState* s = use("set_path");
  if (!std::isfinite(path.align) || !std::isfinite(path.offset)) {
    return bad_value("a place on a path of finite numbers");
  }
  if (s == nullptr || (path == OnPath{} && s->content_of(index_) == nullptr)) return {};
  // It keeps its layout, which its glyphs are moved from.
  if (s->keep_content(index_).set_path(path)) s->touch_contents(index_);
  return {};
}

}  // namespace grafema
