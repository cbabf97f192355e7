// SPDX-License-Identifier: MIT
// Solid letters on a floor under moving lights, with shadows, from the program's own buffers.
#include <iostream>
#include <memory>

#include "demo_face.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"
#include "solid_scene.hpp"

using namespace grafema;

int main(int argc, char** argv) {
  TextWindow window("Salt & Glass", argc, argv, {.backdrop = {0.02F, 0.025F, 0.05F, 1}});
  const FontStack fonts{demo_face(true)};
  ShapeCache cache;
  Paragraph paragraph;
  const TextStyle style{.size = 100};
  if (const Result<void> laid = lay_out(fonts, "Salt & Glass", style, cache, paragraph); !laid)
    return std::cerr << describe(laid.error()) << '\n', 1;
  SolidText text;
  const SolidTextStyle solid{.depth = 0.28F, .bevel = 0.035F, .bevel_segments = 5, .tolerance = 0.0006F};
  if (const Result<void> made = make_solid_text(fonts, paragraph, solid, text); !made)
    return std::cerr << describe(made.error()) << '\n', 1;

  TextContext context(fonts, nullptr);
  TextScene captions(context);
  Label hint = captions.add("press any lantern to begin");
  hint.set_size(26);
  hint.set_placement(pinned({0.5F, 0.93F}));
  std::unique_ptr<SolidScene> scene;
  while (window.next()) {
    if (!scene) scene = std::make_unique<SolidScene>(text);  // the device is there with the first frame
    scene->draw(window.view(), window.seconds());
    if (!window.draw(captions)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  return 0;
}
