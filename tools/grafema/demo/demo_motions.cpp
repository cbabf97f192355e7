// SPDX-License-Identifier: MIT
// Draws each ready-made motion as a strip: the same word at six moments.
#include <cmath>

#include "demo/demo_canvas.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/sheet/captions.hpp"

namespace grafema::tool {

namespace {

/// A row of the picture: a word, and what moves it.
struct Strip {
  std::string name;
  Motion motion;
};

std::vector<Strip> all_strips() {
  std::vector<Strip> strips;
  for (const std::string_view name : motion_names().subspan(1)) {  // all but still
    strips.push_back({std::string(name), value_or_give_up(read_motion(name))});
  }
  strips.push_back({"whole swell+shimmer", value_or_give_up(read_motion("whole swell+shimmer"))});
  const MotionKey keys[] = {{scatter(1.6F, 0.5), 0.8}, {hop(0.3F, 0.8), 4}};
  strips.push_back({"keyed: scatter, hop", value_or_give_up(keyed(keys))});
  strips.push_back({"tally", {}});
  return strips;
}

}  // namespace

Image draw_motions() {
  constexpr int kMoments = 6;
  constexpr float kRow = 57, kColumn = 172, kLeft = 250, kSize = 28, kStep = 0.28F;
  DemoScene scene("#1b2350");
  LabelScene labels(kSize, 4);
  const Look look = plain_look(color("#efc45e"));
  float y = 0;
  for (const Strip& strip : all_strips()) {
    draw_caption(scene.image(), strip.name, {16, y + 24}, color("#9fb4cc"), 2);
    for (int i = 0; i < kMoments; ++i) {
      const double seconds = static_cast<double>(i) * kStep;
      Label label =
          labels.add("Lantern", kSize, look, {.at = {kLeft + kColumn * static_cast<float>(i), y + 16}});
      label.set_motion(strip.motion);
      label.begin_motion(-seconds);
      if (strip.name == "tally") label.set_number(std::round(tally(0, 1240, seconds, 1.3)), {.group = ','});
    }
    y += kRow;
  }
  const View view = view_of(scene.image());
  value_or_give_up(draw_in_software(labels.at(view), Blending::linear, scene.image()));
  return scene.take();
}

}  // namespace grafema::tool
