// SPDX-License-Identifier: MIT
// Draws the departure board, the title and the other demo scenes.
#include "demo_scenes.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "common.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/atlas/repaint.hpp"
#include "grafema/sheet/sheet.hpp"
#include "grafema/render/software_renderer.hpp"
#ifdef GRAFEMA_HAS_OPENGL
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/emit.hpp"
#include "night_labels.hpp"

namespace grafema::detail {
// Made by the build from data/demo/looks.json.
extern const unsigned char demo_looks[];
extern const std::size_t demo_looks_size;
}  // namespace grafema::detail
#endif

namespace grafema::tool {
namespace {

constexpr int kWidth = 1280, kHeight = 800;

Color color(const char* text) { return to_color(text, "demo"); }

/// A picture that text is put on, a line at a time.
class Scene {
 public:
  Scene(const char* backdrop, int width = kWidth, int height = kHeight)
      : image_(value_or_give_up(Image::make(width, height, PixelFormat::rgba8))) {
    fill_image(image_, color(backdrop));
  }

  /// Puts the point `anchor` of the text's box at `at`; gives the box.
  Rect put(const std::shared_ptr<const Face>& face, std::string_view text, float size, const Look& look, const Placement& placement) {
    const FontStack stack{face, built_in_face()};
    Paragraph paragraph;
    value_or_give_up(lay_out(stack, text, {.size = size}, cache_, paragraph));
    const PixelPoint origin = label_origin(paragraph.advance_box, placement);
    value_or_give_up(paint(image_, stack, paragraph, look, origin));
    return paragraph.advance_box.moved(origin);
  }

  void bar(const Rect& rect, const char* fill) { paint_rect(image_, rect, color(fill)); }
  Image& image() { return image_; }
  Image take() { return std::move(image_); }

 private:
  Image image_;
  ShapeCache cache_;
};

struct Departure {
  const char *line, *stop, *remark, *time;
};

// Nine stops, four lines; the times ascend as on a board.
constexpr Departure kDepartures[] = {
    {"4", "Foxglove Cross", "on time", "23:04"},     {"7", "Tinker’s Weir", "3 min late", "23:06"},
    {"12", "Marrow Hill", "on time", "23:11"},       {"4", "Saltglass Quay", "on time", "23:15"},
    {"N1", "Ninth Lantern", "on time", "23:20"},     {"7", "Hemp & Pitch Yard", "1 min late", "23:24"},
    {"12", "Örnhild Steps", "on time", "23:31"},     {"N1", "Café Orvélie", "last tram", "0:02"},
    {"4", "Pale Orchard", "no service", "–"},
};

void draw_departure(Scene& scene, const Departure& row, float y) {
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

std::shared_ptr<const Face> demo_face(bool bold) { return demo_face(bold ? "DejaVuSans-Bold.ttf" : "DejaVuSans.ttf"); }

std::shared_ptr<const Face> demo_face(const char* file) {
  const std::string path = fmt::format("/usr/share/fonts/truetype/dejavu/{}", file);
  const Result<FontData> data = FontData::read(path);
  if (!data) return built_in_face();
  return Face::open(*data).value_or(built_in_face());
}

Image draw_board() {
  Scene scene("#0b0a08");
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
  Scene scene("#101b33");
  for (int i = 0; i < kHeight; i += 4) {  // dusk over the canals, in bands
    const float t = static_cast<float>(i) / kHeight;
    const Fill dusk{{color("#0b1226"), color("#14213d"), color("#3d2c4e"), color("#5b3a3f")}};
    Color band = color_at(dusk, t, t);
    band.alpha = 1;
    paint_rect(scene.image(), {0, static_cast<float>(i), kWidth, static_cast<float>(i + 4)}, band);
  }
  Look look;
  look.add({.shift = {6, 10}, .grow = 7, .blur = 12, .fill = Fill::solid(color("#000000c0"))});
  look.add({.grow = 7, .fill = Fill::solid(color("#1b1030"))});
  look.add({.grow = 3, .fill = Fill::solid(color("#fff1c9"))});
  look.add({.fill = {{color("#ffe08a"), color("#ffd166"), color("#ef476f"), color("#f78c3b")}}});
  const auto bold = demo_face(true);
  scene.put(bold, "Last Tram", 190, look, {{640, 300}, {0.5F, 0.5F}});
  scene.put(bold, "to Quillmere", 150, look, {{640, 490}, {0.5F, 0.5F}});
  Look small = plain_look(color("#e8dcc0"));
  scene.put(demo_face(false), "Press any lantern to begin", 30, small, {{640, 690}, {0.5F, 0.5F}});
  return scene.take();
}

Image draw_sizes() {
  Scene scene("#f6f4ed");
  scene.bar({kWidth / 2, 0, kWidth, kHeight}, "#6f8fb0");
  const auto face = demo_face(false);
  Look outlined;
  outlined.add({.grow = 1.5F, .fill = Fill::solid(color("#0b1226"))});
  outlined.add({.fill = Fill::solid(color("#ffd166"))});
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

namespace {

/// A label's picture from an atlas of the demo face by the software renderer.
struct LabelScene {
  std::shared_ptr<AtlasSource> source;
  std::unique_ptr<TextContext> context;
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> labels;
  std::vector<GlyphQuad> quads = std::vector<GlyphQuad>(1024);
  std::vector<Batch> batches = std::vector<Batch>(8);
  std::vector<LayerRecord> layers = std::vector<LayerRecord>(256);
  QuadList list;

  LabelScene(float size, float reach, PictureKind kind = PictureKind::distance_rgba) : LabelScene(bake_sans(size, reach, kind)) {}
  explicit LabelScene(const std::shared_ptr<const Atlas>& atlas) : source(std::make_shared<AtlasSource>(atlas)) {
    context = std::make_unique<TextContext>(atlas_stack(atlas), source);
  }

  static std::shared_ptr<const Atlas> bake_sans(float size, float reach, PictureKind kind) {
    AtlasRecipe recipe;
    recipe.faces = {demo_face(reach > 4)};
    recipe.characters = value_or_give_up(read_character_set("ascii"));
    recipe.kind = kind;
    recipe.size = size;
    recipe.reach = reach;
    return std::make_shared<const Atlas>(value_or_give_up(bake(recipe)));
  }

  Label& add(const char* text, float size, const Look& look, const Placement& placement) {
    owned.push_back(std::make_unique<Label>(*context, text));
    Label& label = *owned.back();
    value_or_give_up(label.set_size(size));
    value_or_give_up(label.set_placement(placement));
    label.set_look(context->looks().set(fmt::format("look {}", owned.size()), look));
    labels.push_back(&label);
    return label;
  }

  void emit(const View& view) {
    list = {quads, batches, layers};
    value_or_give_up(emit_quads(*context, labels, view, list));
    if (list.complete()) return;
    quads.resize(list.quads_needed), batches.resize(list.batches_needed), layers.resize(list.layers_needed);
    emit(view);
  }
};

View view_of(const Image& image) { return {.width = static_cast<float>(image.width()), .height = static_cast<float>(image.height())}; }

}  // namespace

Image draw_magnified() {
  constexpr float kSize = 32, kTimes = 8;
  Scene scene("#14213d");
  const std::pair<PictureKind, const char*> rows[] = {{PictureKind::coverage, "coverage: soft"}, {PictureKind::distance, "distance: sharp, corners round"},
                                                      {PictureKind::distance_rgba, "distance_rgba: sharp, corners too"}};
  float y = 8;
  for (const auto& [kind, caption] : rows) {
    LabelScene labels(kSize, 4, kind);
    labels.add("4 Market", kSize, plain_look(color("#ffd166")), {.at = {24, y - 24}, .scale_x = kTimes, .scale_y = kTimes});
    const View view = view_of(scene.image());
    labels.emit(view);
    value_or_give_up(draw_in_software(labels.list, *labels.source, view, Blending::linear, scene.image()));
    draw_caption(scene.image(), fmt::format("{}, made for {} px, magnified {} times", caption, kSize, kTimes), {24, y + 16}, color("#9fb4cc"));
    y += 264;
  }
  return scene.take();
}

namespace {

/// What an artist might do: letters turn from amber to rose with height, a dark rim is drawn around them and a light strikes
/// their upper left.
Image paint_by_hand(const Atlas& atlas) {
  const Image& page = atlas.pages[0].image;
  Image out = value_or_give_up(Image::make(page.width(), page.height(), PixelFormat::rgba8));
  const auto ink = [&page](int x, int y) { return x >= 0 && y >= 0 && x < page.width() && y < page.height() ? page.value(x, y) : 0; };
  for (const AtlasGlyph& glyph : atlas.glyphs) {
    if (!glyph.page) continue;
    for (int y = glyph.cell.y; y < glyph.cell.y + glyph.cell.height; ++y) {
      for (int x = glyph.cell.x; x < glyph.cell.x + glyph.cell.width; ++x) {
        int rim = 0;
        for (int d = 0; d < 9; ++d) rim = std::max(rim, ink(x + (d % 3 - 1) * 2, y + (d / 3 - 1) * 2));
        const float down = std::clamp((static_cast<float>(y - glyph.cell.y) + glyph.offset.y + 26) / 30, 0.0F, 1.0F), light = ink(x - 2, y - 2) == 0 && ink(x, y) > 0 ? 0.5F : 0.0F;
        const float in = static_cast<float>(ink(x, y)) / 255;
        std::uint8_t* to = out.row(y) + x * 4;
        const float letter[3] = {255, 209 - 138 * down, 102 + 9 * down}, dark[3] = {20, 33, 61};
        for (std::size_t c = 0; c < 3; ++c) to[c] = static_cast<std::uint8_t>((letter[c] + (255 - letter[c]) * light) * in + dark[c] * (1 - in));
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
  Scene scene("#26354f");
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
  labels.emit(view);
  value_or_give_up(draw_in_software(labels.list, *labels.source, view, Blending::linear, scene.image()));
  return scene.take();
}

namespace {

void add_side(LabelScene& scene) {
  Look look;
  look.add({.shift = {3, 4}, .grow = 2, .blur = 3, .fill = Fill::solid(color("#000000b0"))});
  look.add({.grow = 2, .fill = Fill::solid(color("#14213d"))});
  look.add({.fill = {{color("#fff6d6"), color("#ffd166"), color("#ffb703"), color("#ef476f")}}});
  scene.add("Foxglove Cross", 40, look, {.at = {200, 90}, .anchor = {0.5F, 0.5F}});
  scene.add("Ninth Lantern", 28, look, {.at = {200, 190}, .anchor = {0.5F, 0.5F}, .rotate = -18, .shear = 12});
  scene.add("Saltglass Quay 0123456789", 13, plain_look(color("#f4efe1")), {.at = {200, 270}, .anchor = {0.5F, 0.5F}});
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
      for (int c = 0; c < 3; ++c) out.row(y)[x * 4 + c] = static_cast<std::uint8_t>(std::min(255, std::abs(a.value(x, y, c) - b.value(x, y, c)) * kTimes));
      out.row(y)[x * 4 + 3] = 255;
    }
  }
  return out;
}

}  // namespace

Image draw_side_by_side() {
  Scene scene("#1a1c22", 1280, 480);
  Image software = value_or_give_up(Image::make(400, 400, PixelFormat::rgba8));
  fill_image(software, color("#6f8fb0"));
  [[maybe_unused]] const Image backdrop = software.clone();
  LabelScene labels(40, 8);
  add_side(labels);
  View view = view_of(software);
  view.projection = {{1.7F, 0, 0, 0, 0, 1.7F, 0, 0, 0, 0, -1.002F, -1, 0, -1.9F, -0.2002F, 0}};
  labels.emit(view);
  value_or_give_up(draw_in_software(labels.list, *labels.source, view, Blending::linear, software));
  const auto place = [&scene](const Image& image, int column, const char* caption) {
    paint_image(scene.image(), image, 20 + column * 420, 30);
    draw_caption(scene.image(), caption, {static_cast<float>(20 + column * 420), 444}, color("#e8dcc0"), 1);
  };
  place(software, 0, "software renderer");
#ifdef GRAFEMA_HAS_OPENGL
  if (auto offscreen = OpenGLOffscreen::make(400, 400)) {
    OpenGLRenderer renderer = value_or_give_up(OpenGLRenderer::make());
    value_or_give_up(renderer.sync(*labels.source));
    offscreen->put(backdrop);
    renderer.draw(labels.list, Blending::linear);
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
  value_or_give_up(renderer.sync(context.source()));
  NightScene scene(context, {reinterpret_cast<const char*>(detail::demo_looks), detail::demo_looks_size});
  constexpr double kSeconds = 0.4;
  scene.move(kSeconds);
  scene.draw(renderer, {.width = kWidth, .height = kHeight, .safe = {24, 20, 24, 20}});
  scene.report();
  return offscreen->read();
}
#else
std::optional<Image> draw_night() { return std::nullopt; }
#endif

Image draw_page(const Atlas& atlas, const std::string& caption) {
  constexpr int kMargin = 24, kCheck = 16;
  const Image& page = atlas.pages.front().image;
  const int scale = std::clamp(1200 / std::max(page.width(), page.height()), 1, 8);
  Scene scene("#1a1c22", page.width() * scale + 2 * kMargin, page.height() * scale + 2 * kMargin + 32);
  for (int y = 0; y < page.height() * scale; y += kCheck) {
    for (int x = (y / kCheck % 2) * kCheck; x < page.width() * scale; x += 2 * kCheck) {
      const auto left = static_cast<float>(kMargin + x), top = static_cast<float>(kMargin + y);
      scene.bar({left, top, left + kCheck, top + kCheck}, "#24262e");
    }
  }
  paint_image(scene.image(), page, kMargin, kMargin, scale);
  draw_caption(scene.image(), caption, {kMargin, static_cast<float>(page.height() * scale + 2 * kMargin)}, color("#e8dcc0"));
  return scene.take();
}

}  // namespace grafema::tool
