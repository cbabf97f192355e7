// SPDX-License-Identifier: MIT
// Every fill and every kind of layer: OpenGL paints what software paints, and both what outlines give.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kLooksAgreementSmall{.width = 320, .height = 200};
constexpr Color kLooksAgreementBackdrop{0.44F, 0.56F, 0.69F, 1};

/// Stripes and a half transparent corner, of sides that are no powers of two.
std::shared_ptr<const FillImage> painted_tile() {
  Image image = *Image::make(23, 14, PixelFormat::rgba8);
  for (int y = 0; y < 14; ++y) {
    for (int x = 0; x < 23; ++x) {
      std::uint8_t* p = image.row(y) + x * 4;
      p[0] = static_cast<std::uint8_t>(x * 11), p[1] = static_cast<std::uint8_t>(y * 18);
      p[2] = (x / 4 + y / 4) % 2 == 0 ? 240 : 30;
      p[3] = x < 6 && y < 6 ? 120 : 255;
    }
  }
  return *FillImage::make(image);
}

/// Normals of waves along both sides.
std::shared_ptr<const FillImage> waves() {
  Image image = *Image::make(32, 32, PixelFormat::rgb8);
  for (int y = 0; y < 32; ++y) {
    for (int x = 0; x < 32; ++x) {
      const float a = static_cast<float>(x) * 6.2831853F / 32, b = static_cast<float>(y) * 6.2831853F / 32;
      const std::array<float, 3> n = {0.4F * std::sin(a), 0.4F * std::sin(b), 0.9F};
      for (std::size_t c = 0; c < 3; ++c) {
        image.row(y)[x * 3 + static_cast<int>(c)] =
            static_cast<std::uint8_t>(std::lround((n[c] + 1) / 2 * 255));
      }
    }
  }
  return *FillImage::make(image);
}

/// Day above, a reddish ground below.
std::shared_ptr<const FillImage> sky() {
  Image image = *Image::make(96, 96, PixelFormat::rgb8);
  for (int y = 0; y < 96; ++y) {
    for (int x = 0; x < 96; ++x) {
      std::uint8_t* p = image.row(y) + x * 3;
      p[0] = static_cast<std::uint8_t>(y * 2), p[1] = static_cast<std::uint8_t>(90 + x),
      p[2] = static_cast<std::uint8_t>(250 - y * 2);
    }
  }
  return *FillImage::make(image);
}

Fill fill_named(const std::string& name) {
  static const auto tile = painted_tile();
  const auto css = [](const char* text) { return *read_fill(text); };
  if (name == "linear") return css("linear-gradient(30deg, #d9514a, gold 30%, #1b235080)");
  if (name == "oklab") return css("linear-gradient(in oklab to right, blue, yellow)");
  if (name == "light")
    return css("linear-gradient(in srgb-linear to bottom left, #102040, #fff 60% 70%, #20c080)");
  if (name == "circle")
    return css("radial-gradient(circle closest-side at 30% 40%, white, #d9514a 80%, #1b2350)");
  if (name == "ellipse") return css("radial-gradient(in oklab farthest-corner at 20% 70%, gold, #1b2350)");
  Fill fill = Fill::of_image(tile);
  if (name == "tile") fill.fit = ImageFit::none, fill.scale = {0.7F, 0.9F}, fill.scroll = {13, -5};
  if (name == "poster") fill.fit = ImageFit::contain, fill.repeats = false, fill.offset = {20, 2};
  if (name == "line box") fill = css("linear-gradient(to right, red, lime, blue)"), fill.box = FillBox::line;
  if (name == "glyph box") fill = css("linear-gradient(red, blue)"), fill.box = FillBox::glyph;
  if (name == "glyph image") fill.box = FillBox::glyph, fill.fit = ImageFit::fill;
  if (name == "line corners") {
    fill = Fill::four({1, 0, 0, 1}, {1, 1, 0, 1}, {0, 1, 0, 0.5F}, {0, 0, 1, 1}), fill.box = FillBox::line;
  }
  return fill;
}

Look agreement_look(const std::string& name) {
  const Fill amber = Fill::solid(*read_color("#f2b33d")), night = Fill::solid(*read_color("#1b2350"));
  Look look;
  if (name == "sweep") look.add({.shift = {1, 1}, .grow = 0.5F, .sweep = {18, 11}, .fill = night});
  if (name == "soft sweep") look.add({.grow = 1, .blur = 1.5F, .sweep = {-12, 9}, .fill = night});
  if (name == "outside") look.add(outline_layer(2, OutlinePlace::outside, night));
  if (name == "sharp") look.add({.grow = 2.5F, .sharp = true, .fill = night});
  if (name == "band") look.add({.grow = 3, .blur = 0.8F, .line = 1.5F, .fill = night});
  if (name == "joined shadow")
    look.add({.shift = {3, 2}, .grow = 1, .blur = 2.5F, .join = true, .fill = night});
  if (name == "joined sweep")
    look.add({.grow = 0.5F, .sweep = {14, 9}, .join = true, .fill = fill_named("linear")});
  if (name == "joined hollow") {
    look.add({.shift = {2, -2},
              .grow = 1.5F,
              .blur = 0.7F,
              .hollow = true,
              .join = true,
              .fill = fill_named("tile")});
  }
  look.add({.fill = amber});
  const Surface round{.width = 3, .height = 2.5F, .round = 0.8F, .specular = 0.9F, .exponent = 12};
  if (name == "bevel") look.layers[look.count - 1].surface = round;
  if (name == "grain" || name == "mirror" || name == "joined grain") {
    static const auto normals = waves(), around = sky();
    Surface& surface = look.layers[look.count - 1].surface;
    surface = {.width = 3, .height = 1.5F, .round = 1};
    if (name != "mirror") surface.grain = normals, surface.grain_scale = 0.8F, surface.grain_strength = 1.5F;
    if (name != "grain") surface.mirror = around, surface.mirror_strength = 0.7F;
    look.layers[look.count - 1].join = name == "joined grain";
  }
  if (name == "groove") {
    look.add({.grow = 1.5F,
              .fill = fill_named("oklab"),
              .surface = {.width = 2, .height = -1.5F, .diffuse = 0.8F}});
  }
  if (name == "joined band") {
    look.add({.grow = 3.5F, .line = 1.5F, .join = true, .fill = fill_named("ellipse")});
  }
  if (name == "joined inset")
    look.add({.shift = {2, 2}, .blur = 1, .inset = true, .join = true, .fill = night});
  if (name == "joined light")
    look.layers[look.count - 1].surface = round, look.layers[look.count - 1].join = true;
  if (name == "centered") look.add(outline_layer(2, OutlinePlace::centered, night));
  if (name == "inside") look.add(outline_layer(1.5F, OutlinePlace::inside, night));
  if (name == "inset") look.add({.shift = {1.5F, 2}, .blur = 1, .inset = true, .fill = night});
  if (name == "inner glow") look.add({.grow = 0.6F, .blur = 1.2F, .inset = true, .fill = night});
  return look;
}

constexpr const char* kFills[] = {"linear", "oklab",    "light",     "circle",      "ellipse",     "tile",
                                  "poster", "line box", "glyph box", "glyph image", "line corners"};
constexpr const char* kLayers[] = {
    "sweep",       "soft sweep",   "outside",      "sharp",  "band",          "centered",     "inside",
    "inset",       "inner glow",   "bevel",        "groove", "joined shadow", "joined sweep", "joined hollow",
    "joined band", "joined inset", "joined light", "grain",  "mirror",        "joined grain"};

Look some_look(const std::string& name) {
  const bool is_layer = std::find(std::begin(kLayers), std::end(kLayers), name) != std::end(kLayers);
  if (is_layer) return agreement_look(name);
  Look look = agreement_look("outside");
  look.layers[1].fill = fill_named(name);
  return look;
}

std::vector<std::string> all_names() {
  std::vector<std::string> names(std::begin(kFills), std::end(kFills));
  names.insert(names.end(), std::begin(kLayers), std::end(kLayers));
  return names;
}

/// One from afar, a colored one that stands before the words.
Lighting lamps() {
  Lighting lighting;
  lighting.count = 2;
  lighting.lights[0].azimuth = 240, lighting.lights[0].elevation = 40;
  lighting.lights[1] = {.kind = LightKind::point, .at = {150, 90}, .z = 60, .color = {1, 0.6F, 0.2F, 1}};
  lighting.ambient = {0.3F, 0.3F, 0.4F, 1};
  return lighting;
}

/// A pixel in a hundred may lie on an edge that rounds the other way.
void check_alike(const Image& software, const Image& opengl, double share) {
  INFO(test::first_difference(software, opengl, 3));
  CHECK(test::share_that_differs(software, opengl, 3) <= share);
  CHECK(test::share_that_differs(software, test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop), 8) >
        0.001);
}

}  // namespace

TEST_CASE("every fill and layer agrees at every size", "[render][opengl][look][property]") {
  const std::string name = GENERATE(from_range(all_names()));
  const float size = GENERATE(9.0F, 34.0F, 110.0F);
  CAPTURE(name, size);
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 40);
  test::Scene scene(atlas);
  Label label = scene.words.add(size > 100 ? "Ag" : "Salt glass\nQuay");
  label.set_size(size);
  label.set_look(*scene.context.looks().set(name, some_look(name)));
  label.begin_motion(-1.7);
  REQUIRE(scene.words.set_lighting(lamps()).has_value());
  label.set_placement({.at = {30.3F, 100.6F}, .anchor = {0, 0.5F}, .rotate = size > 30 ? -9.0F : 0.0F});
  const auto flavor = size > 30 ? OpenGLFlavor::es_30 : OpenGLFlavor::core_33;
  const auto blending = size > 100 ? Blending::gamma : Blending::linear;
  check_alike(test::in_software(scene.words, kLooksAgreementSmall, blending, kLooksAgreementBackdrop),
              test::in_opengl(scene.words, kLooksAgreementSmall, blending, kLooksAgreementBackdrop, flavor),
              0.001);
}

TEST_CASE("sets of every fill and layer agree, flat, tilted and small",
          "[render][opengl][set][look][property]") {
  const std::string name = GENERATE(from_range(all_names()));
  const std::string place = GENERATE("flat", "tilted", "small");
  CAPTURE(name, place);
  // One device for all, as a game has: its programs are built once.
  static auto offscreen = OpenGLOffscreen::make(320, 200, OpenGLFlavor::core_33, Blending::linear);
  REQUIRE(offscreen.has_value());
  static auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  const LookId look = *context.looks().set(name, some_look(name));
  TextScene set(context);
  Label words = set.add("Pale\nOrchard"), number = set.add("1205");
  words.set_look(look), number.set_look(look);
  words.set_size(44);
  View view = kLooksAgreementSmall;
  Placement there{.at = {20, 20}, .rotate = 6};
  if (place == "tilted") {
    view.projection = test::perspective(60, 1.6F, 0.1F, 100);
    there = {.anchor = {0.5F, 0.5F},
             .kind = PlaceKind::world,
             .world = test::multiplied(test::moved(0, 0, -2.2F), test::turned_about_y(48))};
  }
  if (place == "small") there.scale_x = there.scale_y = 0.13F;
  words.set_placement(there);
  number.set_placement({.at = {200, 120}});
  for (const double seconds : {0.0, 2.3}) {
    Lighting lighting = lamps();
    lighting.lights[1].at.x += static_cast<float>(seconds) * 30;
    REQUIRE(set.set_lighting(lighting).has_value());
    REQUIRE(set.update(view, seconds).has_value());
    Image software = test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop);
    REQUIRE(draw_in_software(set.memory(), Blending::linear, software).has_value());
    offscreen->put(test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop));
    REQUIRE(renderer->draw(set.memory(), Blending::linear).has_value());
    check_alike(software, offscreen->read(), 0.002);
    CHECK(offscreen->complaints().empty());
    number.set_number(77);
  }
}

TEST_CASE("pictures show every fill and layer as outlines give it", "[render][look][property]") {
  const std::string name = GENERATE(from_range(all_names()));
  if (name == "joined grain")
    return;  // it begins at the corner of the composite, which is none of the outline
  CAPTURE(name);
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 64);
  test::Scene scene(atlas);
  Label label = scene.words.add("Weir 28");
  label.set_look(*scene.context.looks().set(name, some_look(name)));
  label.set_size(64);
  label.set_placement({.at = {24, 60}});
  const Image pictures =
      test::in_software(scene.words, kLooksAgreementSmall, Blending::linear, kLooksAgreementBackdrop);
  Image outlines = test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop);
  const FontStack stack{test::dejavu()};
  REQUIRE(paint(outlines, stack, label.paragraph(), some_look(name), {24, 60}).has_value());
  // Edges of pictures are those of straight lines: a few pixels beside corners differ.
  INFO(test::first_difference(pictures, outlines, 40));
  CHECK(test::share_that_differs(pictures, outlines, 40) <= 0.004);
  CHECK(test::share_that_differs(outlines, test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop), 8) >
        0.02);
}

TEST_CASE("a label that is hidden keeps the image that its glyphs were written with", "[set][look]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene set(context);
  Label seen = set.add("Weir"), hidden = set.add("Quay");
  std::weak_ptr<const FillImage> first;
  {
    Look look = plain_look({1, 1, 1, 1});
    look.layers[0].fill = Fill::of_image(painted_tile());
    first = look.layers[0].fill.image;
    const LookId id = *context.looks().set("tile", look);
    seen.set_look(id), hidden.set_look(id);
  }
  REQUIRE(set.update(kLooksAgreementSmall, 0).has_value());
  hidden.set_visible(false);
  REQUIRE(set.update(kLooksAgreementSmall, 0).has_value());
  Look other = plain_look({1, 1, 1, 1});  // another image, and more layers than there is room for
  other.layers[0].fill = Fill::of_image(painted_tile());
  other.add(other.layers[0]);
  REQUIRE(context.looks().set("tile", other).has_value());
  seen.set_order(1);
  REQUIRE(set.update(kLooksAgreementSmall, 0).has_value());
  const auto held = first.lock();
  for (const SceneBatch& batch : set.memory().batches()) {  // no batch says an image that is gone
    const bool is_there = batch.images.fill == nullptr ||
                          batch.images.fill == other.layers[0].fill.image.get() ||
                          (held && batch.images.fill == held.get());
    CHECK(is_there);
  }
  Image image = test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop);
  CHECK(draw_in_software(set.memory(), Blending::linear, image).has_value());
  hidden.set_visible(true);
  REQUIRE(set.update(kLooksAgreementSmall, 0).has_value());
  CHECK(draw_in_software(set.memory(), Blending::linear, image).has_value());
  CHECK(test::share_that_differs(image, test::filled(kLooksAgreementSmall, kLooksAgreementBackdrop), 8) >
        0.003);
}
