// SPDX-License-Identifier: MIT
// Text that a player edits in a scene: lines, caret, selection and what is being composed.
#pragma once

#include "grafema/draw/label.hpp"
#include "grafema/text/text_editor.hpp"

namespace grafema {

/// Looks of the context's book. Boxes with the plain look of 0 are black.
struct FieldLooks {
  LookId text{}, placeholder{};
  LookId caret{}, selection{};
  std::optional<Panel> panel = {};  ///< behind the field's box, padding and all
  float caret_width = 2;            ///< layout pixels, above 0
  bool operator==(const FieldLooks&) const = default;
};

/// A handle of a field of a TextScene, as Label is of a label. `editor` takes what the player types; the next
/// update shows it, cut off at the box and scrolled so that the caret is seen. Lines that did not change are
/// not laid out again.
class GRAFEMA_API TextField {
 public:
  TextField() = default;
  bool valid() const;
  void remove();
  bool operator==(const TextField&) const = default;
  /// Takes keys, text, the clipboard and what an input method composes. Of a field that is gone: one that is
  /// shown nowhere.
  TextEditor& editor();
  /// Where the text stands, in layout pixels, upright. Before this call nothing is seen. Where a number is
  /// not finite or the box is empty, that is noted and changes nothing.
  void set_box(const Rect& box);
  Rect box() const;
  /// Fails with `bad_value` as check_panel does, and for a caret without width.
  Result<void> set_looks(const FieldLooks& looks);
  void set_placeholder(std::string_view text);  ///< shown while there is no text
  /// Only a focused field shows its caret, which blinks by the seconds of TextScene::update: on for half of
  /// each second after it was moved.
  void set_focused(bool focused);
  bool focused() const;
  /// As `TextEditor::press` and `drag`, at a device pixel of the last update's view.
  void press(PixelPoint device, int clicks = 1, bool extends_selection = false);
  void drag(PixelPoint device);
  /// Where an input method may show its list: the box of the caret, layout pixels.
  Rect caret_box() const;
  void set_group(GroupId group);
  void set_order(std::int32_t order);  ///< as Label::set_order

 private:
  friend class TextScene;
  friend struct detail::SceneState;
  TextField(detail::SceneState& scene, std::uint32_t index, std::uint32_t generation)
      : scene_(&scene), index_(index), generation_(generation) {}
  detail::SceneState* use(const char* call) const;
  detail::SceneState* scene_ = nullptr;
  std::uint32_t index_ = 0, generation_ = 0;
};

}  // namespace grafema
