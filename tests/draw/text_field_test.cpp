// SPDX-License-Identifier: MIT
// Fields: what a player types is seen, cut off at the box, with caret and selection.
#include "grafema/draw/text_field.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kFieldView{.width = 320, .height = 160};
constexpr Color kPaper{0, 0, 0, 1};
constexpr Rect kFieldBox{40, 30, 280, 110};

struct FieldScene {
  test::WhiteContext context{FontStack{test::dejavu()}, nullptr};
  TextScene words{context};
  TextField field;

  explicit FieldScene(const TextStyle& style = {.size = 20}) {
    field = *words.add_field(style);
    FieldLooks looks;
    looks.caret = *context.looks().set("caret", plain_look({1, 0, 0, 1}));
    looks.selection = *context.looks().set("selection", plain_look({0, 0, 1, 1}));
    looks.placeholder = *context.looks().set("placeholder", plain_look({0, 1, 0, 1}));
    REQUIRE(field.set_looks(looks).has_value());
    field.set_box(kFieldBox);
  }
  Image at(double seconds = 0) {
    return test::in_software(words, kFieldView, Blending::linear, kPaper, seconds);
  }
};

/// How many pixels of a rectangle are strong in one channel and weak in the others.
int count_color(const Image& image, const PixelRect& where, int channel) {
  int count = 0;
  for (int y = where.y; y < where.y + where.height; ++y) {
    for (int x = where.x; x < where.x + where.width; ++x) {
      bool is_it = image.value(x, y, channel) > 200;
      for (int c = 0; c < 3; ++c) is_it = is_it && (c == channel || image.value(x, y, c) < 60);
      count += is_it ? 1 : 0;
    }
  }
  return count;
}

constexpr PixelRect kAll{0, 0, 320, 160};

int count_beyond_box(const Image& image) {
  int count = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      const bool inside = x >= 40 && x < 280 && y >= 30 && y < 110;
      count += !inside && (image.value(x, y) > 20 || image.value(x, y, 1) > 20) ? 1 : 0;
    }
  }
  return count;
}

}  // namespace

TEST_CASE("what is typed is seen, and nothing of it outside the box", "[field]") {
  FieldScene scene;
  CHECK(test::first_difference(scene.at(), test::filled(kFieldView, kPaper), 0).empty());
  scene.field.editor().insert("Foxglove Cross, three aboard, rain; nobody asked for an umbrella");
  const Image typed = scene.at();
  CHECK(test::share_that_differs(typed, test::filled(kFieldView, kPaper), 60) > 0.005);
  CHECK(count_beyond_box(typed) == 0);
  for (int i = 0; i < 12; ++i) scene.field.editor().insert("\nMarrow Hill");
  CHECK(count_beyond_box(scene.at()) == 0);
  scene.field.remove();
  CHECK(test::first_difference(scene.at(), test::filled(kFieldView, kPaper), 0).empty());
  CHECK(scene.words.size() == 0);
}

TEST_CASE("the placeholder is shown while there is no text", "[field]") {
  FieldScene scene;
  scene.field.set_placeholder("Type here");
  CHECK(count_color(scene.at(), kAll, 1) > 20);
  scene.field.editor().insert("x");
  CHECK(count_color(scene.at(), kAll, 1) == 0);
  scene.field.editor().erase_back();
  CHECK(count_color(scene.at(), kAll, 1) > 20);
}

TEST_CASE("the caret of a focused field blinks, from when it was moved", "[field]") {
  FieldScene scene;
  scene.field.editor().insert("Weir");
  CHECK(count_color(scene.at(0), kAll, 0) == 0);  // not focused
  scene.field.set_focused(true);
  CHECK(count_color(scene.at(10), kAll, 0) > 20);
  CHECK(count_color(scene.at(10.4), kAll, 0) > 20);
  CHECK(count_color(scene.at(10.6), kAll, 0) == 0);
  scene.field.editor().move(EditMove::left);
  const Image moved = scene.at(10.7);
  const Rect caret = scene.field.caret_box();
  CHECK(count_color(moved, {static_cast<int>(caret.left) - 1, 30, 4, 40}, 0) > 20);
  CHECK(count_color(scene.at(11.1), kAll, 0) > 20);
  CHECK(count_color(scene.at(11.3), kAll, 0) == 0);
}

TEST_CASE("the selection lies behind the letters, where they are selected", "[field]") {
  FieldScene scene;
  scene.field.editor().insert("Pale Orchard");
  REQUIRE(scene.field.editor().select({0, 0}, {0, 4}).has_value());
  const Image image = scene.at();
  CHECK(count_color(image, {41, 35, 30, 15}, 2) > 60);
  CHECK(count_color(image, {120, 30, 100, 40}, 2) == 0);
  int white = 0;
  for (int y = 30; y < 60; ++y) {
    for (int x = 41; x < 75; ++x) white += image.value(x, y) > 200 && image.value(x, y, 1) > 200 ? 1 : 0;
  }
  CHECK(white > 20);
}

TEST_CASE("presses and drags find the text through the view", "[field]") {
  FieldScene scene;
  scene.field.editor().insert("Pale Orchard\nWeir");
  View view = kFieldView;
  view.content_scale = 2;
  scene.field.press({1, 1});  // no view yet
  REQUIRE(scene.words.update(view, 0).has_value());
  scene.field.press({2 * 42, 2 * 63});
  CHECK(scene.field.editor().caret() == EditPlace{1, 0});
  scene.field.drag({2 * 200, 2 * 63});
  CHECK(scene.field.editor().selected_text() == "Weir");
  const GroupId moved = scene.words.add_group({.offset = {0, 20}});
  scene.field.set_group(moved);
  REQUIRE(scene.words.update(view, 0).has_value());
  scene.field.press({2 * 42, 2 * 45});
  CHECK(scene.field.editor().caret().line == 0);
}

TEST_CASE("a line that changes is laid out again, the others are not", "[field]") {
  FieldScene scene;
  std::string text;
  for (int i = 0; i < 1000; ++i) text += "line " + std::to_string(i) + "\n";
  scene.field.editor().set_text(text);
  REQUIRE(scene.words.update(kFieldView, 0).has_value());
  CHECK(scene.words.size() < 12);
  const std::uint64_t before = scene.words.work().layouts;
  REQUIRE(scene.words.update(kFieldView, 0).has_value());
  CHECK(scene.words.work().layouts == before);
  scene.field.editor().insert("x");
  REQUIRE(scene.words.update(kFieldView, 0).has_value());
  CHECK(scene.words.work().layouts == before + 1);
  scene.field.editor().scroll_by(0, 23);  // one line further
  REQUIRE(scene.words.update(kFieldView, 0).has_value());
  CHECK(scene.words.work().layouts <= before + 3);
}

TEST_CASE("a field stands behind and before other labels as its order says", "[field]") {
  FieldScene scene;
  FieldLooks looks;
  Panel board;
  board.look = *scene.context.looks().set("board", plain_look({0, 1, 0, 1}));
  looks.panel = board;
  REQUIRE(scene.field.set_looks(looks).has_value());
  scene.field.editor().insert("Weir");
  const Label over =
      scene.words.add_box({60, 40, 100, 60}, *scene.context.looks().set("over", plain_look({1, 0, 0, 1})));
  CHECK(over.valid());
  CHECK(count_color(scene.at(), {60, 40, 40, 20}, 0) == 800);
  scene.field.set_order(1);
  CHECK(count_color(scene.at(), {60, 40, 40, 20}, 0) == 0);
  CHECK(count_color(scene.at(), kAll, 1) > 15000);
}

TEST_CASE("fields take bad calls as any handle does", "[field]") {
  FieldScene scene;
  scene.field.set_box({0, 0, NAN, 10});
  scene.field.set_box({10, 10, 10, 20});
  CHECK(scene.field.box() == kFieldBox);
  FieldLooks looks;
  looks.caret_width = 0;
  CHECK_FALSE(scene.field.set_looks(looks).has_value());
  CHECK_FALSE(scene.words.add_field({.size = NAN}).has_value());
  scene.field.set_group(GroupId{77});
  const TextField gone = scene.field;
  TextField(scene.field).remove();
  TextField again = gone;
  again.editor().insert("nowhere");
  again.set_box({0, 0, 10, 10}), again.press({1, 1}), again.drag({1, 1}), again.set_focused(true);
  again.set_placeholder("x"), again.set_order(3), again.remove();
  CHECK(again.set_looks({}).has_value());
  CHECK(again.caret_box() == Rect{});
  CHECK_FALSE(again.focused());
  CHECK_FALSE(TextField().valid());
  Notes notes;
  REQUIRE(scene.words.update(kFieldView, 0, &notes).has_value());
  std::size_t kinds[3] = {};
  for (const Note& note : notes.all()) {
    kinds[0] += note.kind == NoteKind::refused_number ? 1U : 0U;
    kinds[1] += note.kind == NoteKind::unknown_name ? 1U : 0U;
    kinds[2] += note.kind == NoteKind::gone_handle ? 1U : 0U;
  }
  CHECK(kinds[0] == 1);
  CHECK(kinds[1] == 1);
  CHECK(kinds[2] >= 8);
  // Every field takes a clip; those of fields that are gone are given out again.
  std::vector<TextField> fields;
  for (int round = 0; round < 2; ++round) {
    for (;;) {
      const Result<TextField> field = scene.words.add_field({});
      if (!field) break;
      fields.push_back(*field);
    }
    CHECK(fields.size() == 255);
    for (TextField& field : fields) field.remove();
    fields.clear();
  }
}
