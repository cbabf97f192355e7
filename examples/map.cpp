// SPDX-License-Identifier: MIT
// The street map: lines and districts lie on it, stops stay upright, the clock keeps its corner.
#include <array>
#include <cmath>
#include <iostream>
#include <string>
#include <vector>

#include "demo_face.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"

using namespace grafema;

namespace {

struct Stop {
  const char* name;
  float x, y;  // hundreds of meters
};
constexpr std::array<Stop, 9> kStops = {{{"Foxglove Cross", -9, 4},
                                         {"Tinker's Weir", -5, 5},
                                         {"Pale Orchard", -1, 3},
                                         {"Saltglass Quay", 3, 4.5F},
                                         {"Marrow Hill", 7, 2},
                                         {"Ninth Lantern", 8, -3},
                                         {"Hemp & Pitch Yard", 3, -4.5F},
                                         {"\xC3\x96rnhild Steps", -3, -4},
                                         {"Caf\xC3\xA9 Orv\xC3\xA9lie", -7, -2}}};

/// A label that lies on the map: its anchor at a point, turned by degrees.
Placement on_map(float x, float y, float degrees, float unit) {
  Placement p;
  p.kind = PlaceKind::world;
  p.anchor = {0.5F, 0.5F};
  p.rotate = degrees;
  p.world = translation({x, y, 0});
  p.world_per_pixel = unit;
  return p;
}

/// The camera of a moment: it goes round, comes nearer and rolls.
View view_at(const View& window, double seconds, float* height) {
  View view = window;
  const auto t = static_cast<float>(seconds);
  *height = 16 + 6 * std::cos(t * 0.4F);
  const float x = 3 * std::sin(t * 0.3F), y = 2 * std::sin(t * 0.23F), roll = 0.25F * std::sin(t * 0.5F);
  view.projection = orthographic(*height, view.width / view.height);
  view.camera = look_at({x, y, 10}, {x, y, 0}, {std::sin(roll), std::cos(roll), 0});
  return view;
}

}  // namespace

int main(int argc, char** argv) {
  TextWindow window("Street map", argc, argv, {.backdrop = {0.07F, 0.1F, 0.13F, 1}});
  TextContext context(FontStack{demo_face()}, nullptr);
  const LookId rails = *context.looks().set("rails", plain_look({0.95F, 0.62F, 0.2F, 0.9F}));
  const LookId ground = *context.looks().set("ground", plain_look({0.35F, 0.5F, 0.55F, 0.5F}));
  const LookId stop =
      *context.looks().set("stop", outlined_look({1, 0.97F, 0.9F, 1}, {0.05F, 0.08F, 0.12F, 1}, 2.5F));
  TextScene map(context);
  const GroupId below = map.add_group({.order = -1}), above = map.add_group({.order = 1});
  for (std::size_t i = 0; i < kStops.size(); ++i) {  // dots from stop to stop: the 4 Lantern goes round
    const Stop &a = kStops[i], &b = kStops[(i + 1) % kStops.size()];
    constexpr int kDots = 24;
    for (int k = 0; k < kDots; ++k) {
      const float t = static_cast<float>(k) / kDots;
      Label dot = map.add(k == 0 ? "\xE2\x97\x89" : "\xE2\x80\xA2");
      dot.set_look(rails);
      dot.set_group(below);
      dot.set_placement(on_map(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t, 0, 0.014F));
    }
  }
  constexpr std::array<Stop, 3> kDistricts = {
      {{"THE CANALS", -4, 0.5F}, {"HARBOUR", 5, -1}, {"OLD LANTERNS", 1, 7}}};
  for (const Stop& d : kDistricts) {
    Label district = map.add(d.name);
    district.set_look(ground);
    district.set_group(below);
    if (!district.set_style({.size = 40, .tracking = 12})) return 1;
    district.set_placement(on_map(d.x, d.y, -8, 0.025F));
  }
  std::vector<Label> names;
  for (const Stop& s : kStops) {
    names.push_back(map.add(s.name));
    names.back().set_look(stop);
    names.back().set_size(22);
  }
  Label clock = map.add();
  clock.set_group(above);
  clock.set_look(stop);
  clock.set_size(40);
  clock.set_placement(pinned({1, 0}, {-24, 20}));
  while (window.next()) {
    float height = 1;
    const View view = view_at(window.view(), window.seconds(), &height);
    for (std::size_t i = 0; i < names.size(); ++i) {
      Placement p = on_map(kStops[i].x, kStops[i].y, 0, height * view.content_scale / view.height);
      p.kind = PlaceKind::facing;
      p.anchor = {0.5F, 1.35F};  // above its stop
      names[i].set_placement(p);
    }
    const int minute = 4 + static_cast<int>(window.seconds());
    clock.set_text((minute < 10 ? "23:0" : "23:") + std::to_string(minute % 60));
    if (!window.draw(map, view)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  return 0;
}
