// SPDX-License-Identifier: MIT
// Draws what kinds of pictures and renderers give: magnified words, a painted page, the night scene.
#include <algorithm>

#include "demo/demo_canvas.hpp"
#include "grafema/atlas/repaint.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/sheet/captions.hpp"
#ifdef GRAFEMA_HAS_OPENGL
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "night_labels.hpp"

namespace grafema::detail {
// Made by the build from data/demo/looks.json.
extern const unsigned char demo_looks[];
extern const std::size_t demo_looks_size;
}  // namespace grafema::detail
#endif

namespace grafema::tool {

Image draw_magnified() {
  constexpr float kSize = 32, kTimes = 8;
  DemoScene scene("#1b2350");
  const std::pair<PictureKind, const char*> rows[] = {
      {PictureKind::coverage, "coverage: soft"},
      {PictureKind::distance, "distance: sharp, corners round"},
      {PictureKind::distance_rgba, "distance_rgba: sharp, corners too"}};
  float y = 8;
  for (const auto& [kind, caption] : rows) {
    LabelScene labels(kSize, 4, kind);
    labels.add("4 Market", kSize, plain_look(color("#efc45e")),
               {.at = {24, y - 24}, .scale_x = kTimes, .scale_y = kTimes});
    const View view = view_of(scene.image());
    value_or_give_up(draw_in_software(labels.at(view), Blending::linear, scene.image()));
    draw_caption(scene.image(), fmt::format("{}, made for {} px, magnified {} times", caption, kSize, kTimes),
                 {24, y + 16}, color("#9fb4cc"));
    y += 264;
  }
  return scene.take();
}

namespace {

/// What an artist might do: letters turn from amber to rose with height, a dark rim is drawn around them and
/// a light strikes their upper left.
Image paint_by_hand(const Atlas& atlas) {
  const Image& page = atlas.pages[0].image;
  Image out = value_or_give_up(Image::make(page.width(), page.height(), PixelFormat::rgba8));
  const auto ink = [&page](int x, int y) {
    return x >= 0 && y >= 0 && x < page.width() && y < page.height() ? page.value(x, y) : 0;
  };
  for (const AtlasGlyph& glyph : atlas.glyphs) {
    if (!glyph.page) continue;
    for (int y = glyph.cell.y; y < glyph.cell.y + glyph.cell.height; ++y) {
      for (int x = glyph.cell.x; x < glyph.cell.x + glyph.cell.width; ++x) {
        int rim = 0;
        for (int d = 0; d < 9; ++d) rim = std::max(rim, ink(x + (d % 3 - 1) * 2, y + (d / 3 - 1) * 2));
        const float down = std::clamp((static_cast<float>(y - glyph.cell.y) + glyph.offset.y + 26) / 30, 0.0F,
                                      1.0F),
                    light = ink(x - 2, y - 2) == 0 && ink(x, y) > 0 ? 0.5F : 0.0F;
        const float in = static_cast<float>(ink(x, y)) / 255;
        std::uint8_t* to = out.row(y) + x * 4;
        const float letter[3] = {255, 209 - 138 * down, 102 + 9 * down}, dark[3] = {20, 33, 61};
        for (std::size_t c = 0; c < 3; ++c) {
          to[c] =
              static_cast<std::uint8_t>((letter[c] + (255 - letter[c]) * light) * in + dark[c] * (1 - in));
        }
        to[3] = static_cast<std::uint8_t>(rim);
      }
    }
  }
  return out;
}

}  // namespace

Image draw_painted() {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  for (const char32_t c : std::u32string_view(U"FerryLantrn4:8Ditchqu DQ")) recipe.characters.push_back(c);
  recipe.kind = PictureKind::coverage;
  recipe.size = 36, recipe.padding = 3;
  const Atlas plain = value_or_give_up(bake(recipe));
  std::vector<PaintedPage> pages;
  pages.push_back({0, paint_by_hand(plain)});
  const Repainted painted = value_or_give_up(repaint(plain, std::move(pages)));
  DemoScene scene("#26354f");
  constexpr int kGuide = 3;  // whole texels of the page
  const Image guide = value_or_give_up(draw_page_guide(plain, 0, kGuide));
  draw_caption(scene.image(), "the guide of a page of coverage", {300, 28}, color("#9fb4cc"));
  paint_image(scene.image(), guide, 300, 40);
  draw_caption(scene.image(), "the page, painted", {760, 28}, color("#9fb4cc"));
  paint_image(scene.image(), painted.atlas.pages[0].image, 760, 40, kGuide);
  LabelScene labels(std::make_shared<const Atlas>(value_or_give_up(enlarged(painted.atlas, 2))));
  labels.add("Ferry Lantern", 72, plain_look(color("#ffffff")), {.at = {640, 620}, .anchor = {0.5F, 0.5F}});
  labels.add("4:48 Ditch Quay", 72, plain_look(color("#ffffff")), {.at = {640, 720}, .anchor = {0.5F, 0.5F}});
  const View view = view_of(scene.image());
  value_or_give_up(draw_in_software(labels.at(view), Blending::linear, scene.image()));
  return scene.take();
}

namespace {

void add_side(LabelScene& scene) {
  Look look;
  look.add({.shift = {3, 4}, .grow = 2, .blur = 3, .fill = Fill::solid(color("#000000b0"))});
  look.add({.grow = 2, .fill = Fill::solid(color("#1b2350"))});
  look.add({.fill = {{color("#fdf3d0"), color("#efc45e"), color("#f2b33d"), color("#c8536a")}}});
  scene.add("Foxglove Cross", 40, look, {.at = {200, 90}, .anchor = {0.5F, 0.5F}});
  scene.add("Ninth Lantern", 28, look,
            {.at = {200, 190}, .anchor = {0.5F, 0.5F}, .rotate = -18, .shear = 12});
  scene.add("Saltglass Quay 0123456789", 13, plain_look(color("#f4efe1")),
            {.at = {200, 270}, .anchor = {0.5F, 0.5F}});
  scene.add("Hemp & Pitch Yard", 9, plain_look(color("#f4efe1")), {.at = {200, 300}, .anchor = {0.5F, 0.5F}});
  Placement wall{.anchor = {0.5F, 0.5F}, .kind = PlaceKind::facing, .rotate = 4};
  wall.world.m[13] = -1.55F;
  wall.world.m[14] = -4;
  scene.add("Tinker's Weir", 44, look, wall);
}

Image amplified_difference(const Image& a, const Image& b) {
  constexpr int kTimes = 32;
  Image out = value_or_give_up(Image::make(a.width(), a.height(), PixelFormat::rgba8));
  for (int y = 0; y < a.height(); ++y) {
    for (int x = 0; x < a.width(); ++x) {
      for (int c = 0; c < 3; ++c) {
        out.row(y)[x * 4 + c] =
            static_cast<std::uint8_t>(std::min(255, std::abs(a.value(x, y, c) - b.value(x, y, c)) * kTimes));
      }
      out.row(y)[x * 4 + 3] = 255;
    }
  }
  return out;
}

}  // namespace

Image draw_side_by_side() {
  DemoScene scene("#1a1c22", 1280, 480);
  Image software = value_or_give_up(Image::make(400, 400, PixelFormat::rgba8));
  fill_image(software, color("#6f8fb0"));
  [[maybe_unused]] const Image backdrop = software.clone();
  LabelScene labels(40, 8);
  add_side(labels);
  View view = view_of(software);
  view.projection = {{1.7F, 0, 0, 0, 0, 1.7F, 0, 0, 0, 0, -1.002F, -1, 0, -1.9F, -0.2002F, 0}};
  value_or_give_up(draw_in_software(labels.at(view), Blending::linear, software));
  const auto place = [&scene](const Image& image, int column, const char* caption) {
    paint_image(scene.image(), image, 20 + column * 420, 30);
    draw_caption(scene.image(), caption, {static_cast<float>(20 + column * 420), 444}, color("#e8dcc0"), 1);
  };
  place(software, 0, "software renderer");
#ifdef GRAFEMA_HAS_OPENGL
  if (auto offscreen = OpenGLOffscreen::make(400, 400)) {
    OpenGLRenderer renderer = value_or_give_up(OpenGLRenderer::make());
    offscreen->put(backdrop);
    value_or_give_up(renderer.draw(labels.at(view), Blending::linear));
    const Image opengl = offscreen->read();
    place(opengl, 1, "OpenGL renderer");
    place(amplified_difference(software, opengl), 2, "their difference, 32 times");
    return scene.take();
  }
#endif
  draw_caption(scene.image(), "no OpenGL driver here", {440, 200}, color("#e8dcc0"), 2);
  return scene.take();
}

#ifdef GRAFEMA_HAS_OPENGL
std::optional<Image> draw_night() {
  auto offscreen = OpenGLOffscreen::make(kWidth, kHeight);
  if (!offscreen) return std::nullopt;
  offscreen->add_depth();
  FontStack fonts;
  const auto atlas = bake_letters(fonts);
  TextContext context(fonts, std::make_shared<AtlasSource>(atlas));
  OpenGLRenderer renderer = value_or_give_up(OpenGLRenderer::make());
  const auto looks = value_or_give_up(
      read_looks({reinterpret_cast<const char*>(detail::demo_looks), detail::demo_looks_size}));
  for (const NamedLook& look : looks) value_or_give_up(context.looks().set(look.name, look.look));
  NightScene scene(context);
  constexpr double kSeconds = 0.4;
  scene.move(kSeconds);
  scene.draw([&](const SceneMemory& memory) { value_or_give_up(renderer.draw(memory, Blending::linear)); },
             {.width = kWidth, .height = kHeight, .safe = {24, 20, 24, 20}});
  scene.report();
  return offscreen->read();
}
#else
std::optional<Image> draw_night() { return std::nullopt; }
#endif

}  // namespace grafema::tool
