// SPDX-License-Identifier: MIT
// What a TextEditor holds: lines with their layouts, heights, the caret, and what can be undone.
#pragma once

#include <deque>
#include <optional>

#include "grafema/text/text_analysis.hpp"
#include "grafema/text/text_editor.hpp"
#include "text/edit/height_sums.hpp"

namespace grafema {

struct TextEditor::State {
  struct EditLine {
    std::string text;
    std::uint64_t revision = 0;
    bool laid = false, clustered = false;
    Paragraph layout;
    std::vector<std::uint32_t> clusters;  ///< bytes where clusters begin, and the length; where `clustered`
    std::vector<std::uint32_t> words;     ///< bytes where words, signs and spaces begin, and the length
  };
  /// One step: `removed` at `at` became `inserted`.
  struct Step {
    EditPlace at;
    std::string removed, inserted;
    EditPlace caret_before, anchor_before;
    bool typed = false;  ///< further letters may join it
  };

  FontStack fonts;
  TextStyle style;
  EditOptions options;
  ShapeCache cache;
  std::vector<std::unique_ptr<EditLine>> lines;
  detail::HeightSums heights;
  EditPlace caret, anchor;
  bool at_line_end = false;  ///< the caret stands at the end of a wrapped line, not at the start of the next
  std::optional<float> seen_x;    ///< where the caret is seen, where its place is seen twice
  std::optional<float> wanted_x;  ///< of moves up and down
  std::string composed;
  std::size_t composed_caret = 0;
  float width = 0, height = 0;
  PixelPoint scroll;
  std::deque<Step> done, undone;
  std::size_t characters = 0;
  std::uint64_t revisions = 0;
  std::vector<CaretStop> stops, found_stops;  // working memory
  std::vector<Rect> line_boxes;
  std::string shown;

  EditLine& at(std::size_t index) { return *lines[index]; }
  bool is_place(EditPlace p) const;
  void touch(EditLine& line);

  // Raw changes, which keep lines, heights and the count of characters right.
  EditPlace insert_raw(EditPlace at, std::string_view text);
  std::string erase_raw(EditPlace from, EditPlace to);
  std::string text_between(EditPlace from, EditPlace to) const;
  static EditPlace end_of(EditPlace at, std::string_view text);

  // Edits that can be undone.
  bool change(EditPlace from, EditPlace to, std::string_view text, bool typed = false);
  std::string filtered(std::string_view text, EditPlace from, EditPlace to) const;
  std::string narrowed(const std::string& text, EditPlace from, EditPlace to);
  void place_caret(EditPlace p, bool extends);

  // Clusters and words.
  const std::vector<std::uint32_t>& clusters_of(std::size_t index);
  const std::vector<std::uint32_t>& words_of(std::size_t index);
  EditPlace previous_cluster(EditPlace p);
  EditPlace next_cluster(EditPlace p);
  EditPlace previous_word(EditPlace p);
  EditPlace next_word(EditPlace p);

  // Layout.
  std::string shown_text(std::size_t index) const;
  std::uint32_t to_shown(std::size_t index, std::size_t byte) const;
  std::size_t from_shown(std::size_t index, std::uint32_t byte) const;
  const Paragraph& layout_of(std::size_t index);
  float top_of(std::size_t index);
  void read_stops(std::size_t index);
  /// The line of the layout on which the caret is seen.
  std::uint32_t caret_line();
  /// The stops of the caret, the one that typing goes on at first.
  std::span<const CaretStop> caret_places();
  EditPlace hit(PixelPoint point, bool& at_end, float& x);
  void keep_caret_in_view();
  EditPlace selection_end(EditMove how);
  void go(EditMove how);
  void move_sideways(bool right);
  void move_by_lines(float y);
};

}  // namespace grafema
