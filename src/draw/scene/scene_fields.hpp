// SPDX-License-Identifier: MIT
// A field of a scene: an editor, and the labels that show it.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "grafema/draw/text_field.hpp"

namespace grafema::detail {

struct SceneField {
  /// A label for each line that is seen.
  struct Line {
    Label label;
    std::uint64_t revision = 0;  ///< of the line; no two lines have had the same
    bool is_used = false;
  };
  /// What of the editor tells that a player did something.
  struct Seen {
    EditPlace caret, anchor;
    std::uint64_t line = 0;
    bool composing = false;
    bool operator==(const Seen&) const = default;
  };

  std::uint32_t generation = 0;  ///< of handles; even: there is no field
  std::unique_ptr<TextEditor> editor;
  std::optional<Rect> box;
  FieldLooks looks;
  std::string placeholder;
  bool focused = false;
  ClipId clip{};
  std::uint32_t group = 0, sequence = 0;
  std::int32_t order = 0;
  Seen seen;
  double moved = 0;  ///< when the caret was moved: seconds
  Label panel, placeholder_label;
  std::vector<Label> selection, carets;
  std::vector<Line> lines;
  std::vector<Rect> boxes;  ///< working memory
};

}  // namespace grafema::detail
