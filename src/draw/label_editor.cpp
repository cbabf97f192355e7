// SPDX-License-Identifier: MIT
// Keeps labels for the lines of an editor that are seen.
#include "grafema/draw/label_editor.hpp"

#include <algorithm>

namespace grafema {

struct LabelEditor::State {
  struct Shown {
    std::unique_ptr<Label> label;
    std::uint64_t revision = 0;  ///< of the line; no two lines have had the same
    bool used = false;
  };

  TextContext* context;
  TextEditor editor;
  Rect box;
  LookId look{};
  std::unique_ptr<Label> placeholder;
  std::vector<Shown> shown;
  std::vector<Label*> labels;
  std::vector<Rect> boxes, cut_carets, cut_selection;

  /// From the text to layout pixels.
  PixelPoint origin() const { return {box.left - editor.scroll().x, box.top - editor.scroll().y}; }

  /// A label that shows the line already, else one that shows nothing that is seen.
  Shown& find(std::uint64_t revision) {
    Shown* free = nullptr;
    for (Shown& one : shown) {
      if (one.revision == revision && !one.used) return one;
      if (!one.used && free == nullptr) free = &one;
    }
    if (free != nullptr) return *free;
    shown.push_back({std::make_unique<Label>(*context), 0, false});
    return shown.back();
  }

  void cut(std::vector<Rect>& out) const {
    out.clear();
    for (const Rect& r : boxes) {
      const Rect moved = r.moved(origin());
      const Rect seen{std::max(moved.left, box.left), std::max(moved.top, box.top),
                      std::min(moved.right, box.right), std::min(moved.bottom, box.bottom)};
      if (!seen.empty()) out.push_back(seen);
    }
  }
};

LabelEditor::LabelEditor(TextContext& context, const TextStyle& style, EditOptions options)
    : state_(new State{&context,
                       TextEditor(context.fonts(), style, std::move(options)),
                       {},
                       {},
                       nullptr,
                       {},
                       {},
                       {},
                       {},
                       {}}) {}
LabelEditor::~LabelEditor() = default;
LabelEditor::LabelEditor(LabelEditor&&) noexcept = default;
LabelEditor& LabelEditor::operator=(LabelEditor&&) noexcept = default;

TextEditor& LabelEditor::editor() { return state_->editor; }

void LabelEditor::set_box(const Rect& box) {
  state_->box = box;
  state_->editor.set_box(box.width(), box.height());
}
const Rect& LabelEditor::box() const { return state_->box; }
void LabelEditor::set_look(LookId look) { state_->look = look; }

void LabelEditor::set_placeholder(std::string_view text, LookId look) {
  State& s = *state_;
  if (!s.placeholder) s.placeholder = std::make_unique<Label>(*s.context);
  s.placeholder->set_text(text);
  (void)s.placeholder->set_style(s.editor.style());  // was checked by the editor
  s.placeholder->set_look(look);
}

std::span<Label* const> LabelEditor::labels() {
  State& s = *state_;
  s.labels.clear();
  const bool empty = s.editor.line_count() == 1 && s.editor.line(0).empty() && !s.editor.composing();
  if (empty && s.placeholder) {
    (void)s.placeholder->move_to(s.origin());
    s.labels.push_back(s.placeholder.get());
    return s.labels;
  }
  for (State::Shown& one : s.shown) one.used = false;
  const auto [first, end] = s.editor.visible_lines();
  for (std::size_t i = first; i < end; ++i) {
    const std::uint64_t revision = s.editor.line_revision(i);
    State::Shown& one = s.find(revision);
    one.used = true;
    if (one.revision != revision || one.label->style().wrap != s.editor.style().wrap) {
      one.revision = revision;
      const RichText text = s.editor.shown_line(i);
      (void)one.label->set_style(s.editor.style());
      text.plain() ? one.label->set_text(text.text) : one.label->set_rich(text);
    }
    one.label->set_look(s.look);
    const PixelPoint origin = s.origin();
    (void)one.label->move_to({origin.x, origin.y + s.editor.line_top(i)});
    s.labels.push_back(one.label.get());
  }
  return s.labels;
}

const std::vector<Rect>& LabelEditor::carets() {
  state_->editor.carets(state_->boxes);
  state_->cut(state_->cut_carets);
  return state_->cut_carets;
}

const std::vector<Rect>& LabelEditor::selection() {
  state_->editor.selection_boxes(state_->boxes);
  state_->cut(state_->cut_selection);
  return state_->cut_selection;
}

void LabelEditor::press(PixelPoint at, int clicks, bool extends) {
  const PixelPoint origin = state_->origin();
  state_->editor.press({at.x - origin.x, at.y - origin.y}, clicks, extends);
}
void LabelEditor::drag(PixelPoint at) {
  const PixelPoint origin = state_->origin();
  state_->editor.drag({at.x - origin.x, at.y - origin.y});
}

}  // namespace grafema
