// SPDX-License-Identifier: MIT
// Editing, as sentences: caret, selection, deletion, undo, filters, what is being composed.
#include "grafema/text/text_editor.hpp"

#include <catch2/catch.hpp>
#include <random>

#include "support/support.hpp"

using namespace grafema;

namespace {

const std::string kHebrew = "\xD7\x90\xD7\x91\xD7\x92";  // alef bet gimel

TextEditor editor(std::string_view text = {}, EditOptions options = {}, TextStyle style = {.size = 20}) {
  TextEditor out(FontStack{test::dejavu()}, style, std::move(options));
  out.set_text(text);
  out.set_box(400, 200);
  return out;
}

TextEditor at(std::string_view text, std::size_t byte, std::size_t line = 0) {
  TextEditor out = editor(text);
  REQUIRE(out.select({line, byte}, {line, byte}).has_value());
  return out;
}

std::vector<Rect> carets(TextEditor& e) {
  std::vector<Rect> out;
  e.carets(out);
  return out;
}

}  // namespace

TEST_CASE("typing puts letters at the caret and takes the selection's place", "[editor]") {
  TextEditor e = at("Pale Orchard", 5);
  CHECK(e.insert("old "));
  CHECK(e.text() == "Pale old Orchard");
  CHECK(e.caret() == EditPlace{0, 9});
  REQUIRE(e.select({0, 0}, {0, 4}).has_value());
  e.insert("New");
  CHECK(e.text() == "New old Orchard");
}

TEST_CASE("lines of an editor lie whatever the style says", "[editor]") {
  TextStyle style{.size = 20, .writing = WritingMode::vertical_rl};
  TextEditor lying = editor("Pale"), standing = editor("Pale", {}, style);
  for (TextEditor* e : {&lying, &standing}) REQUIRE(e->select({0, 3}, {0, 3}).has_value());
  CHECK(carets(standing) == carets(lying));
  CHECK(standing.style().writing == WritingMode::horizontal);
}

TEST_CASE("a newline parts a line, and erasing it joins two", "[editor]") {
  TextEditor e = at("one two", 3);
  e.insert("\nand\n");
  CHECK(e.line_count() == 3);
  CHECK(e.caret() == EditPlace{2, 0});
  CHECK(e.text() == "one\nand\n two");
  e.erase_back();
  CHECK(e.text() == "one\nand two");
  CHECK(e.caret() == EditPlace{1, 3});
  e.move(EditMove::text_start);
  e.move(EditMove::line_end);
  e.erase_ahead();
  CHECK(e.text() == "oneand two");
}

TEST_CASE("backspace takes a mark, delete takes the cluster", "[editor]") {
  TextEditor e = at("xe\xCC\x81y", 4);  // e with a combining acute
  e.erase_back();
  CHECK(e.text() == "xey");
  e = at("xe\xCC\x81y", 1);
  e.erase_ahead();
  CHECK(e.text() == "xy");
  e = at("x\xF0\x9F\x91\xA9\xE2\x80\x8D\xF0\x9F\x9A\x80", 12);  // an emoji joined of two
  e.erase_back();
  CHECK(e.text() == "x");
}

TEST_CASE("erasing at either end of a text does nothing", "[editor][hostile]") {
  TextEditor e = editor();
  CHECK_FALSE(e.erase_back());
  CHECK_FALSE(e.erase_word_back());
  CHECK_FALSE(e.erase_ahead());
  CHECK_FALSE(e.erase_word_ahead());
  CHECK_FALSE(e.undo());
}

TEST_CASE("the caret moves by clusters and by words", "[editor]") {
  TextEditor e = at("e\xCC\x81t, Pale  Orchard", 0);
  e.move(EditMove::next);
  CHECK(e.caret().byte == 3);
  e.move(EditMove::next_word);
  CHECK(e.caret().byte == 4);
  e.move(EditMove::next_word);
  CHECK(e.caret().byte == 6);
  e.move(EditMove::next_word);
  CHECK(e.caret().byte == 12);
  e.move(EditMove::previous_word);
  CHECK(e.caret().byte == 6);
  e.erase_word_ahead();
  CHECK(e.text() == "e\xCC\x81t, Orchard");
}

TEST_CASE("left and right go as the eye sees, through words of either direction", "[editor][property]") {
  const std::string text = "ab " + kHebrew + " cd";
  TextEditor e = at(text, 0);
  std::vector<float> xs = {carets(e)[0].left};
  for (int i = 0; i < 9; ++i) {
    e.move(EditMove::right);
    xs.push_back(carets(e)[0].left);
    CHECK(xs[xs.size() - 1] > xs[xs.size() - 2]);
  }
  CHECK(e.caret().byte == text.size());
  for (int i = 8; i >= 0; --i) {
    e.move(EditMove::left);
    CHECK(carets(e)[0].left == Approx(xs[static_cast<std::size_t>(i)]).margin(0.01));
  }
}

TEST_CASE("where directions meet there are two carets, and typing goes on at the first", "[editor]") {
  TextEditor e = at("ab " + kHebrew, 3);
  CHECK(carets(e).size() == 2);
  const Rect first = carets(e)[0], second = carets(e)[1];
  CHECK(first.left < second.left);  // Latin ends left of the Hebrew word, which begins at its right
  e = at("ab " + kHebrew, 5);
  CHECK(carets(e).size() == 1);
}

TEST_CASE("up and down keep to a column, and home and end to the line that is seen", "[editor]") {
  TextEditor e = editor("a long first line\nx\nand a long third line", {}, {.size = 20});
  REQUIRE(e.select({0, 10}, {0, 10}).has_value());
  e.move(EditMove::down);
  CHECK(e.caret() == EditPlace{1, 1});
  e.move(EditMove::down);
  CHECK(e.caret().line == 2);
  CHECK(e.caret().byte >= 9);
  e.move(EditMove::up), e.move(EditMove::up);
  CHECK(e.caret() == EditPlace{0, 10});
  TextEditor wrapped = editor("Passengers for Pale Orchard", {}, {.size = 20, .wrap = 150});
  wrapped.set_box(150, 200);
  wrapped.move(EditMove::line_end);
  const std::size_t end = wrapped.caret().byte;
  CHECK(end < 27);
  CHECK(carets(wrapped)[0].top == 0);
  wrapped.move(EditMove::down);
  CHECK(carets(wrapped)[0].top > 0);
  wrapped.move(EditMove::line_start);
  CHECK(wrapped.caret().byte == end);
  CHECK(carets(wrapped)[0].top > 0);
}

TEST_CASE("a click finds the nearest place between clusters, wherever the caret would stand",
          "[editor][property]") {
  const std::string text = GENERATE_COPY(as<std::string>{}, "Pale Orchard", "ab " + kHebrew + " cd", kHebrew);
  TextEditor e = editor(text + "\nsecond");
  for (std::size_t byte = 0; byte <= text.size(); ++byte) {
    if (!e.select({0, byte}, {0, byte})) continue;
    for (const Rect& caret : carets(e)) {
      e.press({(caret.left + caret.right) / 2, (caret.top + caret.bottom) / 2});
      CHECK(e.caret().line == 0);
      const Rect again = carets(e)[0];
      CHECK(again.left == Approx(caret.left).margin(0.3));
    }
  }
  CHECK(e.hit({-50, -50}) <= EditPlace{0, text.size()});
  CHECK(e.hit({1e6F, 1e6F}) == EditPlace{1, 6});
}

TEST_CASE("two clicks select a word, three a line, and a drag goes from the press", "[editor]") {
  TextEditor e = editor("Pale Orchard, late");
  REQUIRE(e.select({0, 7}, {0, 7}).has_value());
  const Rect caret = carets(e)[0];
  e.press({caret.left, caret.top + 4}, 2);
  CHECK(e.selected_text() == "Orchard");
  e.press({caret.left, caret.top + 4}, 3);
  CHECK(e.selected_text() == "Pale Orchard, late");
  e.press({0, 4});
  e.drag({caret.left, caret.top + 4});
  CHECK(e.selected_text() == "Pale Or");
}

TEST_CASE("the boxes of a selection are as wide as what is selected, in every direction",
          "[editor][property]") {
  const std::string text = "ab " + kHebrew + " cd";
  TextEditor e = editor(text);
  const Paragraph whole = e.line_layout(0);
  for (std::size_t from = 0; from <= text.size(); ++from) {
    for (std::size_t to = from; to <= text.size(); ++to) {
      if (!e.select({0, from}, {0, to})) continue;
      std::vector<Rect> boxes;
      e.selection_boxes(boxes);
      float wide = 0, glyphs = 0;
      for (const Rect& box : boxes) wide += box.width();
      for (const PlacedGlyph& g : whole.glyphs) {
        if (g.text_start >= from && g.text_start < to) glyphs += g.advance;
      }
      CHECK(wide == Approx(glyphs).margin(0.1));
      CHECK(boxes.size() <= 3);
    }
  }
}

TEST_CASE("undo takes back word by word and redo does it again", "[editor]") {
  TextEditor e = editor();
  for (const char c : std::string("Pale Orchard")) e.insert(std::string(1, c));
  CHECK(e.undo());
  CHECK(e.text() == "Pale ");
  CHECK(e.undo());
  CHECK(e.text().empty());
  CHECK_FALSE(e.undo());
  CHECK(e.redo());
  CHECK(e.redo());
  CHECK(e.text() == "Pale Orchard");
  CHECK_FALSE(e.redo());
  e.select_all();
  e.insert("x");
  e.undo();
  CHECK(e.text() == "Pale Orchard");
  CHECK(e.selected_text() == "Pale Orchard");
}

TEST_CASE("the clipboard is the game's, and a password gives it nothing", "[editor]") {
  std::string board;
  const Clipboard clipboard{[&] { return board; }, [&](std::string_view text) { board = text; }};
  TextEditor e = editor("Pale Orchard");
  REQUIRE(e.select({0, 0}, {0, 5}).has_value());
  e.cut(clipboard);
  CHECK(board == "Pale ");
  CHECK(e.text() == "Orchard");
  e.move(EditMove::line_end);
  e.paste(clipboard);
  CHECK(e.text() == "OrchardPale ");
  EditOptions secret;
  secret.password = true;
  TextEditor hidden = editor("secret", secret);
  hidden.select_all();
  board = "kept";
  hidden.copy(clipboard), hidden.cut(clipboard);
  CHECK(board == "kept");
  CHECK(hidden.text() == "secret");
  CHECK(hidden.shown_line(0).text ==
        "\xE2\x80\xA2\xE2\x80\xA2\xE2\x80\xA2\xE2\x80\xA2\xE2\x80\xA2\xE2\x80\xA2");
}

TEST_CASE("filters leave out what they do not take", "[editor]") {
  EditOptions digits;
  digits.accepts = [](char32_t c) { return c >= '0' && c <= '9'; };
  digits.max_characters = 4;
  digits.newlines = NewlinePolicy::refuse;
  TextEditor e = editor("", digits);
  CHECK(e.insert("1a2\n3"));
  CHECK(e.text() == "123");
  CHECK(e.insert("4567"));
  CHECK(e.text() == "1234");
  CHECK_FALSE(e.insert("8"));
  EditOptions spaces;
  spaces.newlines = NewlinePolicy::as_space;
  TextEditor one = editor("", spaces);
  one.insert("a\r\nb\x01");
  CHECK(one.text() == "a b");
  EditOptions narrow;
  narrow.max_width = 60;
  TextEditor n = editor("", narrow);
  n.insert("Foxglove Cross");
  CHECK(n.text().size() > 2);
  CHECK(n.line_layout(0).advance_box.width() <= 60);
  const std::string full = n.text();
  CHECK_FALSE(n.insert("W"));
  CHECK(n.text() == full);
}

TEST_CASE("what is being composed is shown and underlined, and is not in the text", "[editor]") {
  TextEditor e = at("ab", 1);
  e.compose("ka", 1);
  CHECK(e.composing());
  CHECK(e.text() == "ab");
  const RichText shown = e.shown_line(0);
  CHECK(shown.text == "akab");
  REQUIRE(shown.spans.size() == 1);
  CHECK(shown.spans[0].start == 1);
  CHECK(shown.spans[0].end == 3);
  CHECK(shown.spans[0].style.underline);
  TextEditor plain = at("akab", 2);
  CHECK(carets(e)[0].left == Approx(carets(plain)[0].left).margin(0.01));
  e.insert("\xE3\x81\x8B");
  CHECK_FALSE(e.composing());
  CHECK(e.text() ==
        "a\xE3\x81\x8B"
        "b");
}

TEST_CASE("the view scrolls as far as the caret needs", "[editor][property]") {
  std::string text;
  for (int i = 0; i < 100; ++i) text += "line " + std::to_string(i) + "\n";
  TextEditor e = editor(text);
  e.move(EditMove::text_end);
  const Rect end = carets(e)[0];
  CHECK(e.scroll().y == Approx(end.bottom - 200).margin(0.5));
  e.move(EditMove::page_up);
  CHECK(carets(e)[0].top >= e.scroll().y - 0.01F);
  e.move(EditMove::text_start);
  CHECK(e.scroll().y == 0);
  TextEditor wide = editor(std::string(200, 'm'));
  wide.move(EditMove::line_end);
  CHECK(carets(wide)[0].right <= wide.scroll().x + 401);
  CHECK(wide.scroll().x > 0);
}

TEST_CASE("places within characters and behind lines are refused and change nothing", "[editor][hostile]") {
  TextEditor e = editor("Caf\xC3\xA9");
  const EditPlace bad = GENERATE(EditPlace{0, 4}, EditPlace{0, 6}, EditPlace{1, 0}, EditPlace{9, 9});
  CHECK_FALSE(e.select(bad, bad).has_value());
  CHECK_FALSE(e.replace({0, 0}, bad, "x").has_value());
  CHECK_FALSE(e.replace({0, 3}, {0, 1}, "x").has_value());
  CHECK(e.text() == "Caf\xC3\xA9");
  e.insert("\xFF\xC3");
  CHECK(e.text() ==
        "\xEF\xBF\xBD\xEF\xBF\xBD"
        "Caf\xC3\xA9");
}

TEST_CASE("random edits do what they do to a plain string, and undo takes all back", "[editor][property]") {
  const unsigned seed = GENERATE(range(1U, 13U));
  INFO("seed " << seed);
  std::mt19937 random(seed);
  const std::vector<std::string> pieces = {"a",       "tram ", "\n", "e\xCC\x81", kHebrew, "\xF0\x9F\x9A\x8B",
                                           "x\ny\nz", "  "};
  TextEditor e = editor("Foxglove Cross\nPale Orchard", {}, {.size = 12, .wrap = 90});
  const std::string begun = e.text();
  std::string model = begun;
  const auto offset = [&](EditPlace p) {
    std::size_t at = p.byte;
    for (std::size_t i = 0; i < p.line; ++i) at += e.line(i).size() + 1;
    return at;
  };
  for (int step = 0; step < 150; ++step) {
    const std::size_t low = std::min(offset(e.caret()), offset(e.anchor())),
                      high = std::max(offset(e.caret()), offset(e.anchor()));
    switch (random() % 6) {
      case 0:
      case 1: {
        const std::string& piece = pieces[random() % pieces.size()];
        e.insert(piece);
        model.replace(low, high - low, piece);
        break;
      }
      case 2: {
        const std::size_t before = offset(e.caret());
        e.erase_back();
        const std::size_t after = offset(e.caret());
        low != high ? model.erase(low, high - low) : model.erase(after, before - after);
        break;
      }
      case 3: {
        const std::size_t before = e.text().size();
        e.erase_ahead();
        model.erase(low, low != high ? high - low : before - e.text().size());
        break;
      }
      default:
        e.move(static_cast<EditMove>(random() % 14), random() % 3 == 0);
    }
    REQUIRE(e.text() == model);
    REQUIRE_FALSE(carets(e).empty());
    std::vector<Rect> boxes;
    e.selection_boxes(boxes);
  }
  while (e.undo()) {
  }
  CHECK(e.text() == begun);
  while (e.redo()) {
  }
  CHECK(e.text() == model);
}
