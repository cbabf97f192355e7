// SPDX-License-Identifier: MIT
// A painted page on a wall, all of it labels, seen by somebody who walks past with a lantern.
#include <array>
#include <cmath>
#include <iostream>

#include "demo_face.hpp"
#include "grafema/draw/place_on.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"

using namespace grafema;

namespace {

constexpr float kPixels = 120;  // of a label to a world unit

/// A sheet of that size on the wall, its middle at x, y; `out` is how far it stands off the wall.
WorldQuad sheet(float width, float height, float x = 0, float y = 0, float out = 0) {
  return {{x - width / 2, y + height / 2, out}, {width, 0, 0}, {0, -height, 0}};
}

/// What the page says, from its top: the place is a fraction of the page.
struct Words {
  const char* text;
  PixelPoint at;
  float size;
  const char* look;
  float align = 0.5F;  ///< of its own width stands so much before that place
  float rotate = 0;
};
constexpr std::array<Words, 10> kLines = {{{"NIGHT TRAMS", {0.5F, 0.13F}, 58, "heading"},
                                           {"of Quillmere", {0.5F, 0.24F}, 34, "ink"},
                                           {"4  Lantern", {0.13F, 0.38F}, 30, "ink", 0},
                                           {"21:40", {0.87F, 0.38F}, 30, "red", 1},
                                           {"7  Salt & Glass", {0.13F, 0.48F}, 30, "ink", 0},
                                           {"22:05", {0.87F, 0.48F}, 30, "red", 1},
                                           {"12  Pale Orchard", {0.13F, 0.58F}, 30, "ink", 0},
                                           {"23:40", {0.87F, 0.58F}, 30, "red", 1},
                                           {"Lanterns ride free", {0.5F, 0.72F}, 28, "ink"},
                                           {"LAST TRAM", {0.66F, 0.87F}, 44, "stamp", 0.5F, -13}}};

/// The looks of the page; those of the wall come from the demo's file.
bool add_looks(LookBook& looks) {
  const Result<LookId> crate = looks.read("crate"), tin = looks.read("hammered-tin");
  if (!crate || !tin) return false;
  Look wall, paper, heading;
  Fill planks = looks.get(*crate).layers[1].fill;
  planks.fit = ImageFit::none, planks.scale = {2.2F, 2.2F};
  planks.corners[0] = {0.5F, 0.48F, 0.5F, 1};
  wall.add({.fill = planks});
  paper.add({.shift = {5, 9}, .blur = 12, .fill = Fill::solid({0, 0, 0, 0.55F})});
  paper.add({.fill = Fill::four({0.95F, 0.9F, 0.77F, 1}, {0.98F, 0.95F, 0.86F, 1}, {0.9F, 0.83F, 0.68F, 1},
                                {0.93F, 0.88F, 0.74F, 1})});
  paper.add({.blur = 26, .inset = true, .fill = Fill::solid({0.45F, 0.3F, 0.12F, 0.45F})});
  paper.add({.grow = -14, .line = 3, .fill = Fill::solid({0.5F, 0.16F, 0.12F, 1})});
  // Thick paint, uneven as the tin is, and one shadow for all of its letters.
  heading.add(
      {.shift = {2, 3}, .grow = 1, .blur = 2, .join = true, .fill = Fill::solid({0.2F, 0.08F, 0.02F, 0.5F})});
  Surface paint = looks.get(*tin).layers[2].surface;
  paint.width = 4, paint.height = 2, paint.grain_scale = 0.8F, paint.grain_strength = 0.4F;
  heading.add({.fill = *read_fill("linear-gradient(#c8402e, #7d1420)"), .surface = paint});
  Look stamp;
  stamp.add({.fill = Fill::solid({0.13F, 0.27F, 0.5F, 1})});
  Look ring;
  ring.add({.line = 4, .fill = Fill::solid({0.13F, 0.27F, 0.5F, 1})});
  const std::pair<const char*, Look> all[] = {{"wall", wall},
                                              {"paper", paper},
                                              {"heading", heading},
                                              {"stamp", stamp},
                                              {"ring", ring},
                                              {"ink", plain_look({0.14F, 0.12F, 0.16F, 0.92F})},
                                              {"red", plain_look({0.62F, 0.13F, 0.12F, 0.95F})}};
  for (const auto& [name, look] : all) {
    if (!looks.set(name, look)) return false;
  }
  return true;
}

/// A box as large as the quad.
bool add_box(TextScene& scene, const WorldQuad& quad, LookId look) {
  const Result<Placement> placement = on_quad(quad, kPixels, {0, 0});
  if (!placement) return false;
  Label box = scene.add_box({0, 0, quad.across.x * kPixels, -quad.down.y * kPixels}, look);
  box.set_placement(*placement);
  return box.valid();
}

/// A lantern in the hand of who walks past.
Lighting lantern(const View& view, float t) {
  Lighting lighting;
  lighting.ambient = {0.62F, 0.6F, 0.66F, 1};
  lighting.lights[0] = {.kind = LightKind::point, .z = 130, .color = {1, 0.85F, 0.6F, 1}};
  lighting.lights[0].at = {view.width / view.content_scale * (0.5F + 0.4F * std::sin(t)),
                           view.height / view.content_scale * 0.3F};
  return lighting;
}

}  // namespace

int main(int argc, char** argv) {
  TextWindow window("A page on the wall", argc, argv, {.backdrop = {0.06F, 0.06F, 0.09F, 1}});
  TextContext context(FontStack{demo_face(true)}, nullptr);
  const FileResult<void> loaded = load_looks(GRAFEMA_DEMO_DATA "/effects.json", context.looks());
  if (!loaded) return std::cerr << describe(loaded.error()) << '\n', 1;
  if (!add_looks(context.looks())) return 1;
  const auto look = [&](const char* name) { return context.looks().read(name).value_or(LookId{}); };
  TextScene scene(context);
  const WorldQuad page = sheet(4.6F, 5.2F, 0, 0, 0.02F);
  if (!add_box(scene, sheet(16, 9), look("wall")) || !add_box(scene, page, look("paper"))) return 1;
  for (const Words& line : kLines) {
    Label label = scene.add(line.text);
    label.set_look(look(line.look));
    Result<Placement> placement = on_quad(page, kPixels, line.at);
    label.set_size(line.size);
    if (!placement) return 1;
    placement->anchor = {line.align, 0.5F}, placement->rotate = line.rotate;
    if (line.rotate != 0) {  // a stamp in a ring, both as faint as each other
      Panel ring;
      ring.look = look("ring"), ring.padding = {4, 14, 4, 14}, ring.radii = {12, 12, 12, 12};
      if (!label.set_panel(ring)) return 1;
      label.set_opacity(0.7F);
    }
    label.set_placement(*placement);
  }
  while (window.next()) {
    View view = window.view();
    const auto t = static_cast<float>(window.seconds());
    const float walk = std::sin(0.4F * t - 0.9F);
    view.projection = perspective(45, view.width / view.height, 0.1F, 100);
    view.camera = look_at({4.6F * walk, 0.5F, 7.2F - 0.8F * walk * walk}, {0.5F * walk, -0.1F, 0});
    if (!scene.set_lighting(lantern(view, 0.8F * t))) return 1;
    if (!window.draw(scene, view)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  return 0;
}
