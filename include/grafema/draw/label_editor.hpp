// SPDX-License-Identifier: MIT
// Shows a TextEditor with labels.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "grafema/draw/label.hpp"
#include "grafema/text/text_editor.hpp"

namespace grafema {

/// Keeps a label for each line that is seen. Belongs to the thread of its context, which must outlive it.
/// What stands out of `box` is for the game to clip.
class GRAFEMA_API LabelEditor {
 public:
  /// Of the context's fonts.
  LabelEditor(TextContext& context, const TextStyle& style, EditOptions options = {});
  ~LabelEditor();
  LabelEditor(LabelEditor&&) noexcept;
  LabelEditor& operator=(LabelEditor&&) noexcept;

  TextEditor& editor();
  /// Where the box stands in layout pixels, upright.
  void set_box(const Rect& box);
  const Rect& box() const;
  void set_look(LookId look);
  /// Shown while there is no text.
  void set_placeholder(std::string_view text, LookId look);

  /// The labels of what is seen now, to be emitted; good until the next call. Lines that did not change are
  /// not laid out again.
  std::span<Label* const> labels();
  /// Layout pixels: carets (the first is the one to draw), and the boxes of the selection, cut at the box.
  const std::vector<Rect>& carets();
  const std::vector<Rect>& selection();
  /// In layout pixels, as `TextEditor::press` and `drag`.
  void press(PixelPoint at, int clicks = 1, bool extends_selection = false);
  void drag(PixelPoint at);

 private:
  struct State;
  std::unique_ptr<State> state_;
};

}  // namespace grafema
