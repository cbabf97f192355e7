// SPDX-License-Identifier: MIT
// Markup, messages, rich labels and editing, against copying, plain labels and laying one line out.
#include <string>

#include "bench.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/text/message_book.hpp"

namespace grafema::bench {
namespace {

/// 1 KB of markup as a game has it.
const std::string& markup() {
  static const std::string text = [] {
    std::string out;
    while (out.size() < 1000) {
      out +=
          "Last tram to <b>Pale Orchard</b>! <span class=\"shout\">Mind the gap,</span> Tomek &amp; take "
          "your "
          "<i>umbrella</i><wait s=\"0.5\"/>, it <u>never</u> stops raining. ";
    }
    return out.substr(0, out.rfind("Last tram"));
  }();
  return text;
}

void copy_markup(benchmark::State& state) {
  for (auto _ : state) {
    std::string copy = markup();
    benchmark::DoNotOptimize(copy.data());
  }
  state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations() * markup().size()));
}

void parse_markup(benchmark::State& state) {
  StyleBook styles;
  GRAFEMA_VERIFY(state, styles.set({.name = "shout"}).has_value());
  for (auto _ : state) {
    const auto read = read_markup(markup(), {&styles});
    GRAFEMA_VERIFY(state, read.has_value());
  }
  state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations() * markup().size()));
}

/// A frame of 100 labels of about 60 glyphs; rich ones have spans of three looks.
void frame(benchmark::State& state, bool rich) {
  TextContext context(FontStack{sans()}, nullptr);
  for (const char* name : {"a", "b"})
    GRAFEMA_VERIFY(state, context.looks().set(name, plain_look({1, 0, 0, 1})).has_value());
  RichText text;
  SpanStyle first, second;
  first.look = "a", second.look = "b";
  text.append("Last tram to ")
      .append("Pale Orchard", first)
      .append(" mind the gap, ")
      .append("Tomek", second)
      .append(" it never stops raining");
  TextScene words(context);
  std::vector<Label> labels;
  for (int i = 0; i < 100; ++i) {
    labels.push_back(words.add(text.text));
    if (rich) labels.back().set_rich(text);
  }
  const View view{.width = 1280, .height = 800};
  float x = 0;
  for (auto _ : state) {
    x = x > 100 ? 0 : x + 1;
    for (Label& label : labels) label.move_to({x, 20});
    GRAFEMA_VERIFY(state, words.update(view, 0).has_value());
  }
  state.SetItemsProcessed(state.iterations() * static_cast<std::int64_t>(100 * text.text.size()));
}
void plain_frame(benchmark::State& state) { frame(state, false); }
void rich_frame(benchmark::State& state) { frame(state, true); }

/// A message with two numbers, made anew and laid out; the floor is the same text handed over ready-made.
void message(benchmark::State& state, bool ready) {
  TextContext context(FontStack{sans()}, nullptr);
  context.messages().add(
      {"en", {{.id = "late", .pattern = "Line {line}: {n, plural, one {# minute} other {# minutes}} late"}}});
  TextScene words(context);
  Label label = words.add();
  std::string text;
  int n = 0;
  for (auto _ : state) {
    n = (n + 1) % 90;
    if (ready) {
      text.assign("Line ");
      text += std::to_string(n % 12);
      text += ": ";
      text += std::to_string(n);
      text += " minutes late";
      label.set_text(text);
    } else {
      label.set_message("late");
      label.set_value("line", n % 12), label.set_value("n", n);
    }
    benchmark::DoNotOptimize(label.paragraph().glyphs.size());
  }
  state.SetItemsProcessed(state.iterations());
}
void message_ready(benchmark::State& state) { message(state, true); }
void message_made(benchmark::State& state) { message(state, false); }

/// A letter typed into the middle of a text of so many lines, its label and carets brought up to date.
void keystroke(benchmark::State& state, std::size_t lines) {
  TextContext context(FontStack{sans()}, nullptr);
  TextScene words(context);
  TextField field = words.add_field({.size = 20}).value_or(TextField{});
  field.set_box({0, 0, 600, 400});
  field.set_focused(true);
  TextEditor& editor = field.editor();
  std::string text;
  for (std::size_t i = 0; i < lines; ++i) text += "23:04 Foxglove Cross, three aboard, rain.\n";
  editor.set_text(text);
  GRAFEMA_VERIFY(state, editor.select({lines / 2, 6}, {lines / 2, 6}).has_value());
  int letters = 0;
  for (auto _ : state) {
    if (++letters % 20 == 0) {
      for (int i = 0; i < 19; ++i) editor.erase_back();
    }
    editor.insert("a");
    GRAFEMA_VERIFY(state, words.update({.width = 640, .height = 480}, 0).has_value());
  }
  state.SetItemsProcessed(state.iterations());
}

void keystroke_in_ten(benchmark::State& state) { keystroke(state, 10); }
void keystroke_in_many(benchmark::State& state) { keystroke(state, 10000); }

BENCHMARK(copy_markup)->Name("read 1 KB of markup/floor");
BENCHMARK(parse_markup)->Name("read 1 KB of markup");
BENCHMARK(plain_frame)->Name("frame of rich labels/floor");
BENCHMARK(rich_frame)->Name("frame of rich labels");
BENCHMARK(message_ready)->Name("message made and laid out/floor");
BENCHMARK(message_made)->Name("message made and laid out");
BENCHMARK(keystroke_in_ten)->Name("keystroke in 10,000 lines/floor");
BENCHMARK(keystroke_in_many)->Name("keystroke in 10,000 lines");

}  // namespace
}  // namespace grafema::bench
