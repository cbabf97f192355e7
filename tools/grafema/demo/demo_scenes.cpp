// SPDX-License-Identifier: MIT
// Draws the departure board, the title and the other demo scenes.
#include "demo/demo_scenes.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "demo/demo_canvas.hpp"
#include "grafema/sheet/captions.hpp"
namespace grafema::tool {
namespace {

struct Departure {
  const char *line, *stop, *remark, *time;
};

// Nine stops, four lines; the times ascend as on a board.
constexpr Departure kDepartures[] = {
    {"4", "Foxglove Cross", "on time", "23:04"}, {"7", "Tinker’s Weir", "3 min late", "23:06"},
    {"12", "Marrow Hill", "on time", "23:11"},   {"4", "Saltglass Quay", "on time", "23:15"},
    {"N1", "Ninth Lantern", "on time", "23:20"}, {"7", "Hemp & Pitch Yard", "1 min late", "23:24"},
    {"12", "Örnhild Steps", "on time", "23:31"}, {"N1", "Café Orvélie", "last tram", "0:02"},
    {"4", "Pale Orchard", "no service", "–"},
};

void draw_departure(DemoScene& scene, const Departure& row, float y) {
  constexpr float kText = 48;  // four dots a pixel of the face
  const auto dot = built_in_face();
  const bool on_time = std::string_view(row.remark) == "on time";
  const Look amber = plain_look(color("#ffb000")), dim = plain_look(color(on_time ? "#8a6a1f" : "#ff5d3a"));
  scene.put(dot, row.line, kText, amber, {{148, y}, {1, 0}});
  scene.put(dot, row.stop, kText, amber, {{188, y}, {0, 0}});
  scene.put(dot, row.remark, kText, dim, {{776, y}, {0, 0}});
  scene.put(dot, row.time, kText, amber, {{1224, y}, {1, 0}});
}

}  // namespace

std::shared_ptr<const Face> face_at(const std::string& path) {
  const Result<FontData> data = FontData::read(path);
  if (!data) return built_in_face();
  return Face::open(*data).value_or(built_in_face());
}

Image draw_board() {
  DemoScene scene("#0b0a08");
  const auto dot = built_in_face();
  scene.bar({40, 32, kWidth - 40, 112}, "#17130b");
  scene.put(dot, "NIGHT TRAMS", 60, plain_look(color("#ffd68a")), {{64, 42}, {0, 0}});
  scene.put(dot, "22:58", 60, plain_look(color("#ffd68a")), {{1224, 42}, {1, 0}});
  float y = 136;
  for (const Departure& row : kDepartures) {
    draw_departure(scene, row, y);
    scene.bar({40, y + 58, kWidth - 40, y + 60}, "#2a2111");
    y += 70;
  }
  return scene.take();
}

Image draw_title() {
  DemoScene scene("#101b33");
  for (int i = 0; i < kHeight; i += 4) {  // dusk over the canals, in bands
    const float t = static_cast<float>(i) / kHeight;
    const Fill dusk{{color("#0b1226"), color("#1b2350"), color("#3d2c4e"), color("#5b3a3f")}};
    Color band = color_at(dusk, {t, t}, {0, 0, 1, 1});
    band.alpha = 1;
    paint_rect(scene.image(), {0, static_cast<float>(i), kWidth, static_cast<float>(i + 4)}, band);
  }
  ImagesByName images;
  for (const char* name : {"planks.png", "frame.png", "hammered.png", "dusk.png"}) {
    const std::string bytes = demo_file(name);
    images[name] =
        value_or_give_up(FillImage::make(value_or_give_up(read_png(std::as_bytes(std::span(bytes))))));
  }
  LookBook looks;
  for (const NamedLook& named : value_or_give_up(read_looks(demo_file("effects.json"), nullptr, images))) {
    value_or_give_up(looks.set(named.name, named.look));
  }
  const auto named = [&looks](const char* name) { return looks.get(value_or_give_up(looks.read(name))); };
  const auto bold = demo_face(true);
  scene.put(bold, "Last Tram", 200, named("lamp-brass"), {{640, 130}, {0.5F, 0.5F}});
  scene.put(bold, "to Quillmere", 130, named("dusk-chrome"), {{640, 305}, {0.5F, 0.5F}});
  struct Sign {
    const char* text;
    const char* look;
    float x, y;
  };
  constexpr Sign kSigns[] = {{"Aurora Quay", "aurora", 330, 440},
                             {"Marrow Hill", "long-afternoon", 940, 430},
                             {"Old Weir", "crate", 330, 540},
                             {"Foxglove", "neon", 940, 540},
                             {"Harvest Fair", "harvest-moon", 330, 640},
                             {"Stone Row", "copper-plate", 940, 640}};
  for (const Sign& sign : kSigns)
    scene.put(bold, sign.text, 74, named(sign.look), {{sign.x, sign.y}, {0.5F, 0.5F}});
  Look small = plain_look(color("#e8dcc0"));
  scene.put(demo_face(false), "Press any lantern to begin", 30, small, {{640, 750}, {0.5F, 0.5F}});
  return scene.take();
}

Image draw_sizes() {
  DemoScene scene("#f6f4ed");
  scene.bar({kWidth / 2, 0, kWidth, kHeight}, "#6f8fb0");
  const auto face = demo_face(false);
  Look outlined;
  outlined.add({.grow = 1.5F, .fill = Fill::solid(color("#0b1226"))});
  outlined.add({.fill = Fill::solid(color("#efc45e"))});
  float y = 36;
  for (const float size : {10.0F, 12.0F, 14.0F, 16.0F, 20.0F, 24.0F, 32.0F, 40.0F, 56.0F, 72.0F}) {
    const std::string label = fmt::format("{} px", size);
    scene.put(built_in_face(), label, 12, plain_look(color("#8d8778")), {{72, y + size * 0.9F}, {1, 0.75F}});
    scene.put(face, "Saltglass Quay", size, plain_look(color("#1b1f2a")), {{80, y}, {0, 0}});
    scene.put(face, "Saltglass Quay", size, outlined, {{kWidth / 2 + 32, y}, {0, 0}});
    y += size * 1.4F + 30;
  }
  return scene.take();
}

Image draw_page(const Atlas& atlas, const std::string& caption) {
  constexpr int kMargin = 24, kCheck = 16;
  const Image& page = atlas.pages.front().image;
  const int scale = std::clamp(1200 / std::max(page.width(), page.height()), 1, 8);
  DemoScene scene("#1a1c22", page.width() * scale + 2 * kMargin, page.height() * scale + 2 * kMargin + 32);
  for (int y = 0; y < page.height() * scale; y += kCheck) {
    for (int x = (y / kCheck % 2) * kCheck; x < page.width() * scale; x += 2 * kCheck) {
      const auto left = static_cast<float>(kMargin + x), top = static_cast<float>(kMargin + y);
      scene.bar({left, top, left + kCheck, top + kCheck}, "#24262e");
    }
  }
  paint_image(scene.image(), page, kMargin, kMargin, scale);
  draw_caption(scene.image(), caption, {kMargin, static_cast<float>(page.height() * scale + 2 * kMargin)},
               color("#e8dcc0"));
  return scene.take();
}

}  // namespace grafema::tool
