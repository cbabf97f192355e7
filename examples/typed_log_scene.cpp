// SPDX-License-Identifier: MIT
// A log that the player types into: caret, selection, undo, mixed directions.
#include <cstdio>

#include "grafema/base/utf8.hpp"
#include "stage.hpp"

using namespace grafema;

namespace {

constexpr Rect kPage{170, 120, 1110, 700};
constexpr const char* kBegun =
    "Night of the N1, driver Aoife Lindqvist\n\n"
    "23:04  Foxglove Cross, three aboard, rain.\n"
    "23:11  \u05D7\u05DE\u05D9\u05E9\u05D4 \u05E0\u05D5\u05E1\u05E2\u05D9\u05DD at Tinker\u2019s Weir, one "
    "umbrella.\n"
    "23:19  Caf\u00E9 Orv\u00E9lie is closed; the baker waved.\n"
    "23:27  ";

class TypedLogScene final : public Scene {
 public:
  explicit TypedLogScene(const DemoReader& read)
      : context_(demo_context(read)), scene_(*context_), title_(scene_.add("Driver's log")) {
    if (auto field = scene_.add_field(style())) field_ = *field;
    title_.set_look(context_->looks().read("clock").value_or(LookId{}));
    title_.set_size(40), title_.move_to({kPage.left, 50});
    FieldLooks looks;
    looks.text = look("ink", {0.16F, 0.12F, 0.1F, 1});
    looks.placeholder = look("faint", {0.6F, 0.55F, 0.5F, 1});
    looks.selection = look("marker", {0.97F, 0.78F, 0.40F, 1});
    looks.caret = look("red pencil", {0.7F, 0.16F, 0.12F, 1});
    if (!field_.set_looks(looks)) std::fprintf(stderr, "the looks were refused\n");
    field_.set_placeholder("Nothing happened yet");
    field_.set_box({kPage.left + 40, kPage.top + 36, kPage.right - 40, kPage.bottom - 36});
    field_.set_focused(true);
    field_.editor().set_text(kBegun);
    field_.editor().move(EditMove::text_end);
  }

  void step(double seconds) override { now_ = seconds; }

  void draw(Stage& stage) override {
    stage.fill({0, 0, 1280, 800}, {0.10F, 0.09F, 0.13F, 1});
    stage.fill(kPage, {0.93F, 0.89F, 0.80F, 1});
    stage.fill({kPage.left + 24, kPage.top, kPage.left + 26, kPage.bottom}, {0.80F, 0.52F, 0.46F, 1});
    stage.words(scene_, now_);
  }

  void type(char32_t character) override {
    std::string text;
    append_utf8(text, character);
    field_.editor().insert(text);
  }

  void press(Key key, bool word, bool extends) override {
    TextEditor& e = field_.editor();
    const Clipboard clipboard{[this] { return board_; }, [this](std::string_view text) { board_ = text; }};
    switch (key) {
      case Key::left:
        return e.move(word ? EditMove::previous_word : EditMove::left, extends);
      case Key::right:
        return e.move(word ? EditMove::next_word : EditMove::right, extends);
      case Key::up:
        return e.move(EditMove::up, extends);
      case Key::down:
        return e.move(EditMove::down, extends);
      case Key::home:
        return e.move(word ? EditMove::text_start : EditMove::line_start, extends);
      case Key::end:
        return e.move(word ? EditMove::text_end : EditMove::line_end, extends);
      case Key::page_up:
        return e.move(EditMove::page_up, extends);
      case Key::page_down:
        return e.move(EditMove::page_down, extends);
      case Key::backspace:
        return (void)(word ? e.erase_word_back() : e.erase_back());
      case Key::erase:
        return (void)(word ? e.erase_word_ahead() : e.erase_ahead());
      case Key::enter:
        return (void)e.insert("\n");
      case Key::undo:
        return (void)e.undo();
      case Key::redo:
        return (void)e.redo();
      case Key::copy:
        return e.copy(clipboard);
      case Key::cut:
        return e.cut(clipboard);
      case Key::paste:
        return e.paste(clipboard);
      case Key::all:
        return e.select_all();
      case Key::other:
        return;
    }
  }

  void click(PixelPoint at, int clicks, bool extends) override { field_.press(at, clicks, extends); }
  void drag(PixelPoint at) override { field_.drag(at); }

  std::string report() const override { return TextField(field_).editor().text(); }

 private:
  LookId look(const char* name, const Color& color) {
    return context_->looks().set(name, plain_look(color)).value_or(LookId{});
  }
  static TextStyle style() {
    TextStyle out{.size = 28, .line_spacing = 1.25F};
    out.wrap = kPage.width() - 80;
    return out;
  }

  std::unique_ptr<TextContext> context_;
  TextScene scene_;
  Label title_;
  TextField field_;
  std::string board_;
  double now_ = 0;
};

}  // namespace

std::unique_ptr<Scene> make_typed_log(const DemoReader& read) {
  return std::make_unique<TypedLogScene>(read);
}
