// SPDX-License-Identifier: MIT
// Text that a player edits: caret, selection, undo, and where everything stands.
#pragma once

#include <compare>
#include <functional>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/text/paragraph.hpp"

namespace grafema {

/// A place between characters: `byte` counts from the beginning of line `line`, which ends at a newline.
struct EditPlace {
  std::size_t line = 0, byte = 0;
  auto operator<=>(const EditPlace&) const = default;
};

/// `left`, `right`, `up` and `down` go as the eye sees; the others go in the order of the text.
enum class EditMove : std::uint8_t {
  left,
  right,
  up,
  down,
  previous,  ///< by a grapheme cluster
  next,
  previous_word,
  next_word,
  line_start,  ///< of the line as it is wrapped
  line_end,
  page_up,
  page_down,
  text_start,
  text_end,
};

enum class NewlinePolicy : std::uint8_t { keep, as_space, refuse };

struct EditOptions {
  NewlinePolicy newlines = NewlinePolicy::keep;
  bool password = false;                       ///< clusters show as dots, and copying gives nothing
  std::size_t max_characters = 0;              ///< code points; 0: as many as there are
  float max_width = 0;                         ///< widest line without wrapping, pixels; 0: any width
  std::function<bool(char32_t)> accepts = {};  ///< characters that it says no to are left out
  std::size_t max_undo = 1000;                 ///< steps that can be undone
};

/// The game's clipboard.
struct Clipboard {
  std::function<std::string()> get = {};
  std::function<void(std::string_view)> set = {};
};

/// Belongs to one thread. Every line is laid out by itself, so that a change costs what its line does. Pixels
/// of the text: its first line's box begins at 0, 0; what is seen begins at `scroll`.
class GRAFEMA_API TextEditor {
 public:
  /// `style` as for `lay_out`; where it has a width lines are wrapped. Lines of an editor lie, whatever
  /// `writing` is. Must hold what `check_style` asks for: asserted, and the default style stands in.
  TextEditor(FontStack fonts, const TextStyle& style, EditOptions options = {});
  ~TextEditor();
  TextEditor(TextEditor&&) noexcept;
  TextEditor& operator=(TextEditor&&) noexcept;

  /// Replaces everything and forgets what could be undone. What filters leave out is left out.
  void set_text(std::string_view text);
  std::string text() const;
  std::size_t line_count() const;
  std::string_view line(std::size_t index) const&;

  EditPlace caret() const;
  EditPlace anchor() const;  ///< the other end of the selection
  bool has_selection() const;
  std::string selected_text() const;
  /// Fails with `bad_value` where a place is behind its line or within a character; nothing changes then.
  Result<void> select(EditPlace anchor, EditPlace caret);
  void select_all();
  void select_word(EditPlace at);  ///< or the spaces or the sign there
  void move(EditMove how, bool extends_selection = false);

  /// Puts text in the place of the selection; bytes that are not UTF-8 become U+FFFD, controls are left out.
  /// False where nothing of it was taken.
  bool insert(std::string_view text);
  /// Erases the selection, else a mark, else a cluster.
  bool erase_back();
  /// Erases the selection, else the cluster ahead.
  bool erase_ahead();
  bool erase_word_back();
  bool erase_word_ahead();
  /// Fails as `select` does. As one step to be undone.
  Result<void> replace(EditPlace from, EditPlace to, std::string_view text);
  bool undo();
  bool redo();
  void copy(const Clipboard& clipboard) const;
  void cut(const Clipboard& clipboard);
  void paste(const Clipboard& clipboard);
  /// What an input method is composing at the caret: shown and underlined, not part of the text. An empty
  /// text ends it. `caret` is a byte of it.
  void compose(std::string_view text, std::size_t caret = 0);
  bool composing() const;

  /// The box through which the text is seen; its width is that of wrapped lines.
  void set_box(float width, float height);
  PixelPoint scroll() const;  ///< moves so that the caret stays in the box
  void scroll_by(float x, float y);
  /// Carets, the one that typing goes on at first: two where directions meet.
  void carets(std::vector<Rect>& out);
  /// The boxes of what is selected and seen.
  void selection_boxes(std::vector<Rect>& out);
  EditPlace hit(PixelPoint point);
  /// A click: once places the caret, twice selects a word, three times a line.
  void press(PixelPoint point, int clicks = 1, bool extends_selection = false);
  void drag(PixelPoint point);  ///< the selection goes from the last press to here

  /// The lines that the box shows, first and one behind the last.
  std::pair<std::size_t, std::size_t> visible_lines();
  /// What a line shows: dots of a password, and what is being composed.
  RichText shown_line(std::size_t index) const;
  float line_top(std::size_t index);
  const Paragraph& line_layout(std::size_t index) &;
  /// A number that no other text of a line has had.
  std::uint64_t line_revision(std::size_t index) const;
  const TextStyle& style() const;
  const FontStack& fonts() const;

  struct State;

 private:
  std::unique_ptr<State> state_;
};

}  // namespace grafema
