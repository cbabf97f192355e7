// SPDX-License-Identifier: MIT
// The reference renderer: clean when small, sharp when large, safe at the edges.
#include "grafema/render/software_renderer.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/draw/paint.hpp"
#include "support/bytes.hpp"
#include "support/font_builder.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

/// The light that a white label adds to black, in pixels.
double software_light(const Image& image) {
  double sum = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) sum += to_linear(static_cast<float>(image.value(x, y)) / 255);
  }
  return sum;
}

}  // namespace

TEST_CASE("from one distance page the light of a word grows with the square of its scale",
          "[software][property]") {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance, 48);
  test::Scene scene(atlas);
  Label label = scene.words.add("Lantern");
  label.set_size(48);
  const float scale = GENERATE(0.2F, 0.35F, 0.7F, 1.0F, 3.0F, 8.0F);
  label.set_placement({.at = {10.3F, 10.7F}, .scale_x = scale, .scale_y = scale});
  const View view{.width = 20 + std::ceil(220 * scale), .height = 20 + std::ceil(60 * scale)};
  const Image image = test::in_software(scene.words, view, Blending::linear, {0, 0, 0, 1});
  Image exact = *Image::make(280, 90, PixelFormat::rgba8);
  fill_image(exact, {0, 0, 0, 1});
  const FontStack stack{test::dejavu()};
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, "Lantern", {.size = 48}, cache, p).has_value());
  REQUIRE(paint(exact, stack, p, plain_look({1, 1, 1, 1}), {10, 10}).has_value());
  CHECK(software_light(image) / (scale * scale) ==
        Approx(software_light(exact)).epsilon(scale < 0.5F ? 0.15 : 0.04));
}

TEST_CASE("magnified edges stay one pixel wide", "[software]") {
  static const auto atlas = test::atlas_of(built_in_face(), PictureKind::distance, 24);
  test::Scene scene(atlas);
  Label label = scene.words.add("l");
  label.set_size(24 * 16);
  label.set_placement({.at = {40.5F, 0}});
  const Image image =
      test::in_software(scene.words, {.width = 160, .height = 400}, Blending::linear, {0, 0, 0, 1});
  int between = 0, white = 0;
  for (int x = 0; x < 160; ++x) {
    const int v = image.value(x, 200);
    between += v > 20 && v < 235 ? 1 : 0;
    white += v >= 235 ? 1 : 0;
  }
  CHECK(white >= 30);
  CHECK(between <= 2);
}

TEST_CASE("targets of another size or format are refused", "[software]") {
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  (void)scene.words.add("a");
  REQUIRE(scene.words.update({.width = 20, .height = 20}, 0).has_value());
  Image wrong = *Image::make(21, 20, PixelFormat::rgba8), gray = *Image::make(20, 20, PixelFormat::r8),
        right = *Image::make(20, 20, PixelFormat::rgba8);
  CHECK_FALSE(draw_in_software(scene.words.memory(), Blending::linear, wrong).has_value());
  CHECK_FALSE(draw_in_software(scene.words.memory(), Blending::linear, gray).has_value());
  CHECK(draw_in_software(scene.words.memory(), Blending::linear, right).has_value());
}

TEST_CASE("on any number of workers every pixel is the same", "[software]") {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  test::Scene scene(atlas);
  Label sign = scene.words.add("Foxglove Cross"), small = scene.words.add("3 minutes late");
  Look look;
  look.add({.shift = {2, 3}, .grow = 1, .blur = 2, .fill = Fill::solid({0, 0, 0, 0.6F})});
  look.add({});
  sign.set_look(*scene.context.looks().set("sign", look));
  sign.set_size(70);
  sign.set_placement({.at = {10, 60}, .rotate = 8});
  small.set_size(9);
  const View view{.width = 500, .height = 201};
  REQUIRE(scene.words.update(view, 0).has_value());
  std::uint64_t alone = 0;
  for (const unsigned count : {0U, 1U, 3U}) {
    Image image = *Image::make(500, 201, PixelFormat::rgba8);
    fill_image(image, {0.4F, 0.5F, 0.6F, 1});
    std::optional<ThreadWorkers> workers;
    if (count > 0) workers.emplace(count);
    REQUIRE(draw_in_software(scene.words.memory(), Blending::linear, image, workers ? &*workers : nullptr)
                .has_value());
    if (count == 0) alone = pixel_hash(image);
    CHECK(pixel_hash(image) == alone);
  }
}

TEST_CASE("labels of no area, far away or through the camera's plane are safe", "[software]") {
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  Label label = scene.words.add("Foxglove");
  View view{.width = 60, .height = 40};
  view.projection = test::perspective(60, 1.5F, 0.1F, 100);
  for (const Placement& placement :
       {Placement{.scale_x = 0}, Placement{.at = {1e7F, -1e7F}}, Placement{.scale_x = 1e6F, .scale_y = 1e6F},
        Placement{.kind = PlaceKind::world, .world = test::turned_about_y(90)},
        Placement{.kind = PlaceKind::world, .world = test::moved(0, 0, 1)}}) {
    label.set_placement(placement);
    (void)test::in_software(scene.words, view, Blending::gamma, {0, 0, 0, 1});
  }
}

TEST_CASE("straight and premultiplied alpha turn into each other", "[software][property]") {
  const auto blending = GENERATE(Blending::linear, Blending::gamma);
  Image image = *Image::make(16, 16, PixelFormat::rgba8);
  for (int i = 0; i < 256; ++i) {
    std::uint8_t* p = image.row(i / 16) + i % 16 * 4;
    p[0] = static_cast<std::uint8_t>(i), p[1] = 200, p[3] = static_cast<std::uint8_t>(100 + i * 155 / 255);
  }
  Image turned = image.clone();
  to_premultiplied_alpha(turned, blending);
  to_straight_alpha(turned, blending);
  for (int i = 0; i < 256; ++i) {
    CHECK(std::abs(turned.value(i % 16, i / 16, 0) - image.value(i % 16, i / 16, 0)) <= 3);
    CHECK(turned.value(i % 16, i / 16, 3) == image.value(i % 16, i / 16, 3));
  }
}

TEST_CASE("the contrast curve gives letters the weight of linear light", "[software]") {
  CHECK(contrasted(0, 1) == 0);
  CHECK(contrasted(1, 0) == Approx(1));
  CHECK(contrasted(0.5F, 1) == Approx(to_srgb(0.5F)).margin(0.03));      // white on black
  CHECK(1 - contrasted(0.5F, 0) == Approx(to_srgb(0.5F)).margin(0.03));  // black on white
}

TEST_CASE("a label mixes glyphs in color with distance glyphs", "[software]") {
  using test::Bytes;
  test::FontBuilder builder;
  builder.table("COLR") =
      Bytes().u16(0).u16(1).u32(14).u32(20).u16(1).words(34, 0, 1).words(41, 0);  // A is a red H
  builder.table("CPAL") = Bytes().words(0, 1, 1, 1).u32(14).u16(0).u8(0).u8(0).u8(255).u8(255);
  const auto atlas = test::atlas_of(builder.face(), PictureKind::distance_rgba, 24);
  test::Scene scene(atlas);
  Label label = scene.words.add("BAB");
  label.set_size(48);
  label.set_look(*scene.context.looks().set("blue", plain_look({0, 0, 1, 1})));
  label.set_placement({.at = {8, 8}});
  const Image image =
      test::in_software(scene.words, {.width = 120, .height = 80}, Blending::linear, {1, 1, 1, 1});
  int red = 0, blue = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      red += image.value(x, y, 0) > 200 && image.value(x, y, 2) < 60 ? 1 : 0;
      blue += image.value(x, y, 2) > 200 && image.value(x, y, 0) < 60 ? 1 : 0;
    }
  }
  CHECK(red > 100);
  CHECK(blue > 2 * red);
}

TEST_CASE("labels from a live cache are those from a baked atlas", "[software][cache]") {
  const auto face = test::dejavu();
  GlyphCacheOptions options;
  options.size = 32, options.reach = 6;
  options.frame_time = std::chrono::seconds(10);
  auto made = GlyphCache::make(options);
  REQUIRE(made.has_value());
  const std::shared_ptr<GlyphCache> cache = *std::move(made);
  REQUIRE(cache->add(face).has_value());
  test::WhiteContext context(FontStack{face}, cache);
  test::Scene baked(test::atlas_of(face, PictureKind::distance_rgba, 32));
  Look look;
  look.add({.shift = {2, 2}, .grow = 1, .blur = 2, .fill = Fill::solid({0, 0, 0, 1})});
  look.add({.fill = Fill::solid({1, 0.7F, 0, 1})});
  const auto shown = [&look](TextContext& with) {
    TextScene words(with);
    Label label = words.add("Wren 4");
    label.set_size(40);
    label.set_look(*with.looks().set("l", look));
    label.set_placement({.at = {10.3F, 9}});
    return test::in_software(words, {.width = 180, .height = 70}, Blending::linear, {0.2F, 0.3F, 0.4F, 1});
  };
  cache->begin_frame();
  CHECK(test::share_that_differs(shown(context), shown(baked.context), 2) <
        0.001);  // pens differ by rounding
}

TEST_CASE("a line under letters paints its exact area, in every layer as wide as that grows",
          "[render][rich_text]") {
  const float thickness = GENERATE(0.4F, 1.0F, 1.7F, 6.3F), grow = GENERATE(0.0F, 1.5F);
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Look look;
  look.add({.grow = grow, .fill = Fill::solid({1, 1, 1, 1})});
  SpanStyle line;
  line.underline = true, line.skip_descenders = false;
  RichText text;
  text.append("        ", line);  // spaces paint nothing beside it
  TextScene words(context);
  Label label = words.add();
  label.set_rich(text);
  const FaceFacts facts = test::dejavu()->facts();
  label.set_size(thickness * 2048 / facts.underline_thickness);
  label.set_look(*context.looks().set("line", look));
  label.set_placement({.at = {20.3F, 10.6F}});
  const Paragraph& p = label.paragraph();
  REQUIRE(p.bars.size() == 1);
  const Rect bar = p.bars[0].box;
  CHECK(bar.height() == Approx(thickness).margin(0.001));
  const View view{.width = 900, .height = 400};
  const Image image = test::in_software(words, view, Blending::linear, {0, 0, 0, 1});
  double light = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      light += static_cast<double>(to_linear(static_cast<float>(image.value(x, y, 0)) / 255.0F));
    }
  }
  // Grown corners are round.
  const double w = bar.width() + 2 * grow, h = bar.height() + 2 * grow,
               corners = (4 - 3.14159265) * grow * grow;
  CHECK(light == Approx(w * h - corners).epsilon(0.03));
}
