// SPDX-License-Identifier: MIT
// What a game shows at its edges: growing badges, a speech bubble, rows and names, on any device.
#include <array>
#include <cmath>
#include <cstdio>
#include <iostream>

#include "demo_face.hpp"
#include "grafema/draw/grid.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"

using namespace grafema;

namespace {

Look box_look(const char* fill, const char* border) {
  Look look;
  look.add({.shift = {0, 4}, .grow = 1, .blur = 6, .fill = Fill::solid({0, 0, 0, 0.45F})});
  look.add({.fill = read_fill(fill).value_or(Fill::solid({0.1F, 0.1F, 0.2F, 1}))});
  look.add({.line = 3, .fill = read_fill(border).value_or(Fill::solid({1, 1, 1, 1}))});
  return look;
}

Panel panel_of(LookId look, float radius, std::array<float, 4> padding) {
  Panel panel;
  panel.look = look, panel.padding = padding;
  panel.radii.fill(radius);
  return panel;
}

struct Task {
  char32_t icon;  ///< of a face that has such
  const char* text;
};
constexpr std::array<Task, 3> kTasks = {{{U'\uE006', "Light the ninth lantern"},
                                         {U'\uE026', "Find Ilse Varga at the weir"},
                                         {U'\uE01A', "Be back before the last tram"}}};

/// The task behind its icon.
RichText with_icon(const Task& task, const std::shared_ptr<const Face>& icons) {
  RichText text;
  text.append({.face = icons, .glyph = icons->find_glyph(task.icon), .width = 1.1F, .height = 0.9F});
  return text.append("  ").append(task.text);
}

}  // namespace

int main(int argc, char** argv) {
  TextWindow window("Edges of the screen", argc, argv, {.backdrop = {0.27F, 0.42F, 0.45F, 1}});
  TextContext context(FontStack{demo_face()}, nullptr);
  LookBook& looks = context.looks();
  const LookId pale = *looks.set("pale", plain_look({1, 0.97F, 0.9F, 1})),
               dark = *looks.set("dark", plain_look({0.16F, 0.1F, 0.06F, 1}));
  const LookId night = *looks.set("night", box_look("linear-gradient(#26345c, #161d3f)", "#f2b33d")),
               paper = *looks.set("paper", box_look("linear-gradient(#fffaf0, #ecd9b4)", "#4a2c17")),
               alarm = *looks.set("alarm", box_look("radial-gradient(#ff8a5b, #b3261e)", "#ffe2d1"));
  TextScene hud(context);
  Label coins = hud.add(), alerts = hud.add(),
        speech = hud.add("Mind the step!\nThe last tram leaves at 0:02."), who = hud.add("Ilse Varga");
  coins.set_look(pale), alerts.set_look(pale), speech.set_look(dark), who.set_look(pale);
  coins.set_size(34);
  alerts.set_size(22);
  speech.set_size(26);
  who.set_size(24);
  if (!coins.set_panel(panel_of(night, 24, {8, 22, 8, 22})) ||
      !alerts.set_panel(panel_of(alarm, 15, {2, 10, 2, 10})))
    return 1;
  coins.set_placement(pinned({1, 0}, {-50, 34}));
  std::array<Label, kTasks.size()> tasks;
  const std::shared_ptr<const Face> icons = demo_signs();
  for (std::size_t i = 0; i < tasks.size(); ++i) {
    tasks[i] = hud.add();
    tasks[i].set_rich(with_icon(kTasks[i], icons));
    tasks[i].set_look(pale);
    tasks[i].set_size(22);
    if (!tasks[i].set_panel(panel_of(night, 8, {7, 16, 7, 16}))) return 1;
  }
  // One below the other, pinned as one.
  Result<Grid> list = hud.add_grid({.gap = {0, 30}});
  if (!list) return std::cerr << describe(list.error()) << '\n', 1;
  for (const Label& task : tasks) {
    if (!list->add(task)) return 1;
  }
  list->set_placement(pinned({0, 1}, {42, -40}));
  Panel bubble = panel_of(paper, 16, {14, 20, 14, 20});
  bubble.pointer_width = 30, bubble.pointer_length = 56;
  while (window.next()) {
    const double seconds = window.seconds();
    const View& view = window.view();
    const PixelPoint middle{view.width / view.content_scale / 2, view.height / view.content_scale / 2};
    const PixelPoint walker{middle.x + 220 * static_cast<float>(std::sin(seconds * 0.8)), middle.y + 90};
    coins.set_number(980 + std::floor(seconds * 40), {.group = ','});
    alerts.set_number(7 + std::floor(seconds * 3));
    // The badge sits on the corner of the box before it, whatever that says.
    const Rect beside = coins.device_box();
    alerts.set_placement(
        {.at = {beside.right / view.content_scale, beside.top / view.content_scale}, .anchor = {0.5F, 0.5F}});
    const PixelPoint corner{middle.x - 240, middle.y - 150};
    bubble.points_to = PixelPoint{walker.x - corner.x, walker.y - 16 - corner.y};
    speech.set_placement({.at = corner});
    if (!speech.set_panel(bubble)) return 1;
    who.set_placement({.at = walker, .anchor = {0.5F, 0}});
    if (!window.draw(hud)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  return 0;
}
