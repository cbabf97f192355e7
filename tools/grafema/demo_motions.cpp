// SPDX-License-Identifier: MIT
// Draws each ready-made motion as a strip: the same word at six moments.
#include "demo_canvas.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/sheet/captions.hpp"

namespace grafema::tool {

Image draw_motions() {
  constexpr int kMoments = 6;
  constexpr float kRow = 66, kColumn = 172, kLeft = 250, kSize = 32, kStep = 0.28F;
  Scene scene("#1b2350");
  LabelScene labels(kSize, 4);
  const Look look = plain_look(color("#efc45e"));
  std::vector<std::string> names(motion_names().begin() + 1, motion_names().end());  // all but still
  names.emplace_back("whole swell+shimmer");
  float y = 0;
  for (const std::string& name : names) {
    draw_caption(scene.image(), name, {16, y + 28}, color("#9fb4cc"), 2);
    for (int i = 0; i < kMoments; ++i) {
      Label& label =
          labels.add("Lantern", kSize, look, {.at = {kLeft + kColumn * static_cast<float>(i), y + 18}});
      label.set_motion(value_or_give_up(read_motion(name)));
      label.set_time(static_cast<double>(i) * kStep);
    }
    y += kRow;
  }
  const View view = view_of(scene.image());
  labels.emit(view);
  value_or_give_up(
      draw_in_software(labels.quads.list(), *labels.source, view, Blending::linear, scene.image()));
  return scene.take();
}

}  // namespace grafema::tool
