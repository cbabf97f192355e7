// SPDX-License-Identifier: MIT
// Fields of a scene: what the editor says becomes labels, cut off at the field's box.
#include "draw/scene/scene_fields.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>

#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneField;
using detail::SceneState;

namespace {

/// The order of a field's labels, back to front.
constexpr std::uint8_t kPanelRank = 0, kSelectionRank = 1, kTextRank = 2, kCaretRank = 3;

}  // namespace

Result<TextField> TextScene::add_field(const TextStyle& style, const EditOptions& options) {
  SceneState& s = *state_;
  if (const Result<void> checked = check_style(style); !checked) return fail(checked.error());
  const detail::SceneContext& first = s.contexts[0];
  if (first.context == nullptr || first.life.expired()) return bad_value("a scene whose context is there");
  const Result<ClipId> clip = add_clip({.box = {0, 0, 1, 1}, .space = LabelClip::Space::panel});
  if (!clip) return fail(clip.error());
  const auto dead = std::find_if(s.fields.begin(), s.fields.end(),
                                 [](const SceneField& f) { return f.generation % 2 == 0; });
  const auto at = static_cast<std::uint32_t>(dead - s.fields.begin());
  if (dead == s.fields.end()) s.fields.emplace_back();
  SceneField& field = s.fields[at];
  const std::uint32_t generation = field.generation + 1;
  field = {};
  field.generation = generation;
  field.editor = std::make_unique<TextEditor>(first.context->fonts(), style, options);
  field.clip = *clip;
  field.sequence = s.next_sequence++;
  field.moved = s.clock;
  return TextField(s, at, generation);
}

bool TextField::valid() const {
  return scene_ != nullptr && index_ < scene_->fields.size() &&
         scene_->fields[index_].generation == generation_;
}

/// The scene, where the field is there; else null, and `call` is noted.
SceneState* TextField::use(const char* call) const {
  if (valid()) {
    assert(scene_->thread == std::this_thread::get_id() && "a scene is used on another thread than its own");
    return scene_;
  }
  if (scene_ != nullptr) scene_->note(NoteKind::gone_handle, call);
  return nullptr;
}

void TextField::remove() {
  if (SceneState* s = use("remove")) s->remove_field(index_);
}

void SceneState::remove_field(std::uint32_t at) {
  SceneField& field = fields[at];
  if (field.generation % 2 == 0) return;
  const auto drop = [](Label& label) {
    if (label.valid()) label.remove();
  };
  drop(field.panel), drop(field.placeholder_label);
  for (std::vector<Label>* labels : {&field.selection, &field.carets}) {
    std::for_each(labels->begin(), labels->end(), drop);
  }
  for (SceneField::Line& line : field.lines) drop(line.label);
  clips.give_back(*index_of(field.clip));
  const std::uint32_t generation = field.generation + 1;
  field = {};
  field.generation = generation;
}

TextEditor& TextField::editor() {
  thread_local TextEditor nowhere{FontStack(), TextStyle()};
  SceneState* s = use("editor");
  return s != nullptr ? *s->fields[index_].editor : nowhere;
}

void TextField::set_box(const Rect& box) {
  SceneState* s = use("set_box");
  if (s == nullptr) return;
  const bool good = std::isfinite(box.left) && std::isfinite(box.top) && std::isfinite(box.right) &&
                    std::isfinite(box.bottom) && !box.empty();
  if (!good) return s->note(NoteKind::refused_number, "set_box");
  s->fields[index_].box = box;
  s->fields[index_].editor->set_box(box.width(), box.height());
}

Rect TextField::box() const {
  SceneState* s = use("box");
  return s != nullptr ? s->fields[index_].box.value_or(Rect{}) : Rect{};
}

Result<void> TextField::set_looks(const FieldLooks& looks) {
  SceneState* s = use("set_looks");
  if (looks.panel) {
    if (const Result<void> checked = check_panel(*looks.panel); !checked) return checked;
  }
  if (!(looks.caret_width > 0 && looks.caret_width <= kMaxSize))
    return bad_value("a caret that is wider than 0");
  if (s != nullptr) s->fields[index_].looks = looks;
  return {};
}

void TextField::set_placeholder(std::string_view text) {
  if (SceneState* s = use("set_placeholder")) s->fields[index_].placeholder = text;
}

void TextField::set_focused(bool focused) {
  SceneState* s = use("set_focused");
  if (s == nullptr) return;
  SceneField& field = s->fields[index_];
  if (focused && !field.focused) field.moved = s->clock;
  field.focused = focused;
}

bool TextField::focused() const {
  SceneState* s = use("focused");
  return s != nullptr && s->fields[index_].focused;
}

/// Where the text begins, in layout pixels: its pixels are the editor's.
PixelPoint SceneState::origin_of(const SceneField& field) const {
  const PixelPoint scroll = field.editor->scroll(), offset = groups[field.group].offset;
  const Rect box = field.box.value_or(Rect{});
  return {box.left - scroll.x + offset.x, box.top - scroll.y + offset.y};
}

void TextField::press(PixelPoint device, int clicks, bool extends_selection) {
  SceneState* s = use("press");
  if (s == nullptr || !s->view) return;
  SceneField& field = s->fields[index_];
  const PixelPoint origin = s->origin_of(field);
  const float scale = s->view->content_scale;
  field.editor->press({device.x / scale - origin.x, device.y / scale - origin.y}, clicks, extends_selection);
}

void TextField::drag(PixelPoint device) {
  SceneState* s = use("drag");
  if (s == nullptr || !s->view) return;
  SceneField& field = s->fields[index_];
  const PixelPoint origin = s->origin_of(field);
  const float scale = s->view->content_scale;
  field.editor->drag({device.x / scale - origin.x, device.y / scale - origin.y});
}

Rect TextField::caret_box() const {
  SceneState* s = use("caret_box");
  if (s == nullptr) return {};
  SceneField& field = s->fields[index_];
  field.editor->carets(field.boxes);
  return field.boxes.empty() ? Rect{} : field.boxes[0].moved(s->origin_of(field));
}

void TextField::set_group(GroupId id) {
  SceneState* s = use("set_group");
  if (s == nullptr) return;
  const std::optional<std::uint32_t> group = s->index_of(id);
  if (!group) return s->note(NoteKind::unknown_name, "group of set_group");
  s->fields[index_].group = *group;
  s->touch_field(s->fields[index_]);
}

void TextField::set_order(std::int32_t order) {
  SceneState* s = use("set_order");
  if (s == nullptr) return;
  s->fields[index_].order = order;
  s->touch_field(s->fields[index_]);
}

/// All of a field's labels take its group and order.
void SceneState::touch_field(SceneField& field) {
  const auto touch = [&](const Label& label) {
    if (!label.valid()) return;
    still[label.index_].group = field.group, still[label.index_].order = field.order;
    find_shown(label.index_);
  };
  touch(field.panel), touch(field.placeholder_label);
  for (const std::vector<Label>* labels : {&field.selection, &field.carets}) {
    std::for_each(labels->begin(), labels->end(), touch);
  }
  for (const SceneField::Line& line : field.lines) touch(line.label);
  order_stale = true;
}

/// A label that stands in the field's place in the order; not valid where the scene is full.
Label SceneState::add_part(SceneField& field, std::uint8_t rank) {
  if (label_count >= TextScene::kMaxLabels) return {};
  const std::uint32_t i = add(*contexts[0].context, {});
  StillLabel& s = still[i];
  s.sequence = field.sequence, s.rank = rank, s.group = field.group, s.order = field.order;
  if (rank != kPanelRank) s.clip = static_cast<std::uint8_t>(*index_of(field.clip));
  find_shown(i);
  return Label(*this, i, moving[i].generation);
}

void SceneState::show_fields() {
  if (contexts[0].context == nullptr) return;
  for (SceneField& field : fields) {
    if (field.generation % 2 != 0 && field.box) show_field(field);
  }
}

void SceneState::show_field(SceneField& field) {
  TextEditor& editor = *field.editor;
  (void)editor.visible_lines();  // scrolls to where the caret is
  const SceneField::Seen seen{editor.caret(), editor.anchor(), editor.line_revision(editor.caret().line),
                              editor.composing()};
  if (seen != field.seen) field.seen = seen, field.moved = clock;
  const PixelPoint origin = origin_of(field);
  cut_off(field);
  if (field.looks.panel) {
    Panel panel = *field.looks.panel;
    panel.box = field.box;
    if (!field.panel.valid()) field.panel = add_part(field, kPanelRank);
    (void)field.panel.set_panel(panel);  // it was checked
  }
  if (field.panel.valid()) field.panel.set_visible(field.looks.panel.has_value());
  show_lines(field, origin);
  show_boxes(field, origin);
}

/// The clip follows the box and the group.
void SceneState::cut_off(SceneField& field) {
  const std::uint32_t at = *index_of(field.clip);
  const PixelPoint offset = groups[field.group].offset;
  LabelClip wanted{.box = *field.box, .space = LabelClip::Space::panel};
  wanted.placement.at = {field.box->left + offset.x, field.box->top + offset.y};
  if (clips[at] == wanted) return;
  clips[at] = wanted;
  write_clip(at);
  touch_field(field);
}

void SceneState::show_lines(SceneField& field, PixelPoint origin) {
  TextEditor& editor = *field.editor;
  // Labels are moved by their group already.
  const PixelPoint offset = groups[field.group].offset, from{origin.x - offset.x, origin.y - offset.y};
  const bool is_empty = editor.line_count() == 1 && editor.line(0).empty() && !editor.composing();
  const bool has_placeholder = is_empty && !field.placeholder.empty();
  if (has_placeholder) {
    Label& label = field.placeholder_label;
    if (!label.valid()) label = add_part(field, kTextRank);
    label.set_text(field.placeholder);
    (void)label.set_style(editor.style());  // was checked by the editor
    label.set_look(field.looks.placeholder);
    label.move_to(from);
  }
  if (field.placeholder_label.valid()) field.placeholder_label.set_visible(has_placeholder);
  for (SceneField::Line& line : field.lines) line.is_used = false;
  const auto seen = editor.visible_lines();
  const std::size_t end = seen.second;
  for (std::size_t i = seen.first; i < end; ++i) {
    const std::uint64_t revision = editor.line_revision(i);
    auto at = std::find_if(field.lines.begin(), field.lines.end(), [&](const SceneField::Line& line) {
      return line.revision == revision && !line.is_used;
    });
    const bool is_known = at != field.lines.end();
    // Else one that shows nothing that is seen; a line further down may still want what it shows.
    if (!is_known) {
      at = std::find_if(field.lines.begin(), field.lines.end(), [&](const SceneField::Line& line) {
        const auto is_its = [&](std::size_t k) { return editor.line_revision(k) == line.revision; };
        bool is_wanted = false;
        for (std::size_t k = i + 1; k < end && !is_wanted; ++k) is_wanted = is_its(k);
        return !line.is_used && !is_wanted;
      });
    }
    if (at == field.lines.end()) at = field.lines.insert(at, {add_part(field, kTextRank), 0, false});
    at->is_used = true;
    if (!is_known || at->label.style().wrap != editor.style().wrap) {
      at->revision = revision;
      const RichText text = editor.shown_line(i);
      (void)at->label.set_style(editor.style());
      text.plain() ? at->label.set_text(text.text) : at->label.set_rich(text);
    }
    at->label.set_look(field.looks.text);
    at->label.move_to({from.x, from.y + editor.line_top(i)});
  }
  for (const SceneField::Line& line : field.lines) {
    if (line.label.valid()) Label(line.label).set_visible(line.is_used);
  }
}

void SceneState::show_box(SceneField& field, Label& label, std::uint8_t rank, const Rect& box, LookId look) {
  if (!label.valid()) label = add_part(field, rank);
  (void)label.set_panel(Panel{.look = look, .box = Rect{0, 0, box.width(), box.height()}});  // finite
  label.move_to({box.left, box.top});
}

/// Selection and carets.
void SceneState::show_boxes(SceneField& field, PixelPoint origin) {
  const PixelPoint offset = groups[field.group].offset, from{origin.x - offset.x, origin.y - offset.y};
  const bool is_on = field.focused && std::fmod(clock - field.moved, 1.0) < 0.5;
  const auto show = [&](std::vector<Label>& labels, std::uint8_t rank, LookId look, bool is_seen) {
    labels.resize(std::max(labels.size(), field.boxes.size()));
    for (std::size_t k = 0; k < labels.size(); ++k) {
      const bool is_there = is_seen && k < field.boxes.size();
      Rect box = k < field.boxes.size() ? field.boxes[k].moved(from) : Rect{};
      if (rank == kCaretRank) box.right = box.left + field.looks.caret_width;
      if (is_there) show_box(field, labels[k], rank, box, look);
      if (labels[k].valid()) labels[k].set_visible(is_there);
    }
  };
  field.editor->selection_boxes(field.boxes);
  show(field.selection, kSelectionRank, field.looks.selection, true);
  field.editor->carets(field.boxes);
  show(field.carets, kCaretRank, field.looks.caret, is_on);
}

}  // namespace grafema
