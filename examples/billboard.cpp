// SPDX-License-Identifier: MIT
// Crates with words on their sides, signs that turn to who looks, and names as large near and far.
#include <array>
#include <cmath>
#include <iostream>
#include <vector>

#include "demo_face.hpp"
#include "grafema/draw/place_on.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"

using namespace grafema;

namespace {

constexpr float kPixels = 100;  // of a label to a world unit

/// A label that is a side of a box: its panel is painted, its words lie on it.
struct Side {
  Label label;
  Placement placement;
};

Matrix4 turned(float degrees, const WorldPoint& at) {
  const float a = degrees * 3.14159265F / 180, c = std::cos(a), s = std::sin(a);
  Matrix4 m;
  m.m = {c, 0, -s, 0, 0, 1, 0, 0, s, 0, c, 0, at.x, at.y, at.z, 1};
  return m;
}

struct Crate {
  const char* text;
  WorldPoint at, half;
  float turn;
};
constexpr std::array<Crate, 3> kCrates = {{{"HEMP & PITCH", {-2.4F, 0.8F, -1}, {1.3F, 0.8F, 0.9F}, 20},
                                           {"LAMP OIL", {1.6F, 0.6F, 0.2F}, {1, 0.6F, 0.8F}, -25},
                                           {"SALT", {0.1F, 0.45F, 1.9F}, {0.6F, 0.45F, 0.6F}, 8}}};

}  // namespace

int main(int argc, char** argv) {
  TextWindow window("Crates on the quay", argc, argv, {.backdrop = {0.42F, 0.52F, 0.56F, 1}});
  TextContext context(FontStack{demo_face(true)}, nullptr);
  if (const FileResult<void> loaded = load_looks(GRAFEMA_DEMO_DATA "/effects.json", context.looks());
      !loaded) {
    return std::cerr << describe(loaded.error()) << '\n', 1;
  }
  LookBook& looks = context.looks();
  const Result<LookId> wood = looks.read("crate");
  if (!wood) return 1;
  Look side;
  Fill planks = looks.get(*wood).layers[1].fill;
  planks.fit = ImageFit::none, planks.scale = {1.4F, 1.4F};
  side.add({.grow = 0.8F, .fill = planks});  // sides overlap, so that nothing shows between them
  side.add({.grow = 0.8F, .line = 9, .fill = Fill::solid({0.2F, 0.11F, 0.05F, 1})});
  const LookId box = *looks.set("side", side),
               burned = *looks.set("burned", plain_look({0.13F, 0.06F, 0.02F, 0.92F}));
  const LookId paper = *looks.set("paper", plain_look({0.98F, 0.95F, 0.86F, 1})),
               ink = *looks.set("ink", plain_look({0.1F, 0.12F, 0.2F, 1})),
               name = *looks.set("name", outlined_look({1, 0.96F, 0.85F, 1}, {0.05F, 0.08F, 0.12F, 1}, 3));
  TextScene scene(context);
  std::vector<Side> sides;
  for (const Crate& crate : kCrates) {
    const Matrix4 world = turned(crate.turn, crate.at);
    for (const BoxSide of : {BoxSide::front, BoxSide::back, BoxSide::left, BoxSide::right, BoxSide::top}) {
      const bool is_deep = of == BoxSide::left || of == BoxSide::right, is_top = of == BoxSide::top;
      const float wide = 2 * kPixels * (is_deep ? crate.half.z : crate.half.x),
                  high = 2 * kPixels * (is_top ? crate.half.z : crate.half.y);
      Side made{scene.add(crate.text), {}};
      Panel panel;
      panel.look = box;
      panel.box = Rect{0, 0, wide, high};
      TextStyle style;
      style.size = 34, style.wrap = wide, style.box_height = high, style.align = TextAlign::center;
      style.vertical_align = VerticalAlign::middle, style.overflow = Overflow::smaller;
      const Result<Placement> placement = on_quad(side_of_box(world, crate.half, of), kPixels);
      made.label.set_look(burned);
      if (!placement || !made.label.set_style(style) || !made.label.set_panel(panel)) return 1;
      made.placement = *placement;
      made.label.set_placement(*placement);
      sides.push_back(made);
    }
  }
  Label sign = scene.add("Pale Orchard Quay"), near_name = scene.add("Ilse Varga"),
        far_name = scene.add("Old Tinker");
  sign.set_look(ink), near_name.set_look(name), far_name.set_look(name);
  Panel board;
  board.look = paper, board.padding = {10, 18, 10, 18}, board.radii = {8, 8, 8, 8};
  sign.set_size(36);
  near_name.set_size(24);
  far_name.set_size(24);
  if (!sign.set_panel(board)) return 1;
  if (!scene.update({.width = 1280, .height = 800}, 0))
    return 1;  // all sides are laid out while all are shown
  while (window.next()) {
    View view = window.view();
    const auto t = static_cast<float>(window.seconds());
    const WorldPoint eye{7 * std::sin(0.5F * t + 0.4F), 2.4F, 7 * std::cos(0.5F * t + 0.4F)};
    view.projection = perspective(45, view.width / view.height, 0.1F, 100);
    view.camera = look_at(eye, {0, 0.7F, 0});
    for (std::size_t i = 0; i < sides.size();
         ++i) {  // boxes that stand apart: what is seen of each is its front
      sides[i].label.set_visible(is_front_seen(sides[i].placement, view));
      const WorldPoint& at = kCrates[i / 5].at;
      sides[i].label.set_order(-static_cast<int>(100 * std::hypot(eye.x - at.x, eye.y - at.y, eye.z - at.z)));
    }
    sign.set_placement(upright_sign({-0.2F, 2.9F, -2.4F}, view, kPixels));
    sign.set_order(-2000);
    for (auto& [label, at] : {std::pair(&near_name, WorldPoint{2.6F, 1.6F, 2.6F}),
                              std::pair(&far_name, WorldPoint{-3.4F, 2, -3})}) {
      Placement facing{.anchor = {0.5F, 1}, .kind = PlaceKind::facing, .world = translation(at)};
      facing.world_per_pixel = size_on_screen(at, view).value_or(0.01F);
      label->set_placement(facing);
    }
    if (!window.draw(scene, view)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  return 0;
}
