// SPDX-License-Identifier: MIT
// Scripts of edits, held against a plain string; every step can be undone.
#include "grafema/text/text_editor.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  using fuzz::require;
  if (size < 2 || size > 400) return 0;
  static const FontStack fonts{built_in_face()};
  EditOptions options;
  options.password = data[0] % 8 == 7;
  TextStyle style{.size = 12};
  if (data[0] % 2 == 0) style.wrap = 60.0F;
  TextEditor editor(fonts, style, options);
  editor.set_box(60, 30);
  std::string model;
  const auto offset = [&](EditPlace p) {
    std::size_t at = p.byte;
    for (std::size_t i = 0; i < p.line; ++i) at += editor.line(i).size() + 1;
    return at;
  };
  static const char* const kPieces[] = {
      "a", "\n", "tram ", "e\xCC\x81", "\xD7\x90\xD7\x91", "\xF0\x9F\x9A\x8B", "x\ny", "\xE2\x80\x8F"};
  std::vector<Rect> boxes;
  for (std::size_t i = 1; i < size; ++i) {
    const std::uint8_t op = data[i];
    const std::size_t a = offset(editor.caret()), b = offset(editor.anchor());
    const std::size_t low = std::min(a, b), high = std::max(a, b), before = editor.text().size();
    if (op < 64) {
      const std::string piece = kPieces[op % 8];
      editor.insert(piece);
      model.replace(low, high - low, piece);
    } else if (op < 96) {
      op % 2 == 0 ? editor.erase_back() : editor.erase_word_back();
      if (low != high)
        model.erase(low, high - low);
      else
        model.erase(offset(editor.caret()), before - editor.text().size());
    } else if (op < 120) {
      op % 2 == 0 ? editor.erase_ahead() : editor.erase_word_ahead();
      model.erase(low, low != high ? high - low : before - editor.text().size());
    } else if (op < 200) {
      editor.move(static_cast<EditMove>(op % 14), op % 3 == 0);
    } else if (op < 220) {
      editor.press({static_cast<float>(op % 7) * 9, static_cast<float>(op % 5) * 11}, op % 4, op % 3 == 0);
    } else if (op < 230) {
      editor.compose(kPieces[op % 8], 1);  // takes the place of what is selected
      model.erase(low, high - low);
    } else if (op < 240 && editor.undo()) {
      require(editor.redo());
    } else {
      (void)editor.select({op % 3U, op % 5U}, {0, op % 4U});
    }
    require(editor.text() == model);
    editor.carets(boxes);
    require(!boxes.empty() && boxes.size() <= 3);
    editor.selection_boxes(boxes);
    require(editor.scroll().y >= 0);
  }
  while (editor.undo()) {
  }
  require(editor.text().empty());
  while (editor.redo()) {
  }
  require(editor.text() == model);
  return 0;
}
