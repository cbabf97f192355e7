// SPDX-License-Identifier: MIT
// A title: light goes over the letters, a picture drifts through them, the words stand on an arc.
#include <cmath>
#include <iostream>

#include "demo_face.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"

using namespace grafema;

namespace {

/// A lantern that is carried past the words, and the moon behind it.
Lighting light_of(const View& view, double seconds) {
  const auto t = static_cast<float>(seconds);
  const float width = view.width / view.content_scale, height = view.height / view.content_scale;
  Lighting lighting;
  lighting.ambient = {0.42F, 0.44F, 0.55F, 1};
  lighting.count = 3;
  lighting.lights[0].azimuth = 250, lighting.lights[0].elevation = 35,
  lighting.lights[0].color = {0.55F, 0.62F, 0.8F, 1};
  lighting.lights[1] = {.kind = LightKind::point,
                        .at = {width * (0.5F + 0.45F * std::sin(t * 0.7F)), height * 0.36F},
                        .z = 110,
                        .color = {1, 0.72F, 0.35F, 1}};
  lighting.lights[2] = {.kind = LightKind::point,
                        .at = {width * (0.5F - 0.4F * std::sin(t * 0.5F + 1)), height * 0.6F},
                        .z = 90,
                        .color = {0.3F, 0.75F, 0.7F, 1}};
  return lighting;
}

}  // namespace

int main(int argc, char** argv) {
  TextWindow window("Last Tram to Quillmere", argc, argv, {.backdrop = {0.05F, 0.06F, 0.11F, 1}});
  TextContext context(FontStack{demo_face(true)}, nullptr);
  if (const FileResult<void> looks = load_looks(GRAFEMA_DEMO_DATA "/effects.json", context.looks()); !looks) {
    return std::cerr << describe(looks.error()) << '\n', 1;
  }
  const Result<LookId> brass = context.looks().read("lamp-brass"), crate = context.looks().read("crate"),
                       sign = context.looks().read("team-sign");
  if (!brass || !crate || !sign) return 1;
  Look drifting = context.looks().get(*crate);
  drifting.layers[1].fill.scroll = {0.12F, 0};  // ems a second
  TextScene scene(context);
  Label first = scene.add("Last Tram"), second = scene.add("to Quillmere"),
        begin = scene.add("press any lantern to begin");
  first.set_look(*brass);
  second.set_look(*context.looks().set("drifting", drifting));
  begin.set_look(*sign);
  first.set_size(180);
  second.set_size(110);
  begin.set_size(34);
  first.set_placement(pinned({0.5F, 0.36F}));
  second.set_placement(pinned({0.5F, 0.6F}));
  const TextPath::Made arc = TextPath::arc({300, 460}, 460, 180, 360);
  if (!arc || !begin.set_path({.path = *arc, .align = 0.5F})) return 1;
  begin.set_placement({.at = {-300, -80}, .kind = PlaceKind::pinned, .pin = {0.5F, 0.9F}});
  while (window.next()) {
    const auto pulse = static_cast<float>(0.5 + 0.5 * std::sin(window.seconds() * 3));
    if (!context.looks().set_parameter("team", {0.95F, 0.55F + 0.3F * pulse, 0.3F, 1})) return 1;
    if (!scene.set_lighting(light_of(window.view(), window.seconds()))) return 1;
    if (!window.draw(scene)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  return 0;
}
