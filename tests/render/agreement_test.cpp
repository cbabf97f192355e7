// SPDX-License-Identifier: MIT
// Software and OpenGL paint the same picture.
#include <catch2/catch.hpp>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kSmall{.width = 320, .height = 200};

/// Looks that use every part of the formula.
Look look_named(const std::string& name) {
  Look look;
  const Fill amber = Fill::solid(*read_color("#f2b33d")), night = Fill::solid(*read_color("#1b2350"));
  if (name == "shadow") {
    look.add({.shift = {2, 3}, .grow = 1, .blur = 2.5F, .fill = Fill::solid(*read_color("#000a"))});
  }
  if (name == "outline" || name == "shadow") look.add({.grow = 2, .fill = night});
  if (name == "hollow") look.add({.shift = {1, 1}, .grow = 2.5F, .hollow = true, .fill = night});
  if (name == "corners") {
    look.add({.fill = {{*read_color("red"), *read_color("yellow"), *read_color("#00ff0080"),
                        *read_color("blue")}}});
  } else if (name != "hollow") {
    look.add({.fill = amber});
  }
  look.opacity = name == "corners" ? 0.8F : 1;
  return look;
}

void check_agreement(TextScene& words, const View& view, Blending blending, OpenGLFlavor flavor) {
  const Color backdrop = *read_color("#6f8fb0");
  const Image software = test::in_software(words, view, blending, backdrop);
  const Image opengl = test::in_opengl(words, view, blending, backdrop, flavor);
  INFO(test::first_difference(software, opengl, 3));
  CHECK(test::share_that_differs(software, opengl, 3) <= 0.001);
  Image empty = software.clone();
  int painted = 0;
  for (int y = 0; y < empty.height(); ++y) {
    for (int x = 0; x < empty.width(); ++x) painted += empty.value(x, y, 0) != 0x6F ? 1 : 0;
  }
  CHECK(painted > 100);  // agreeing on nothing proves nothing
}

}  // namespace

TEST_CASE("every look agrees at small, large and plain sizes", "[render][opengl][property]") {
  const std::string look = GENERATE("plain", "outline", "shadow", "hollow", "corners");
  const float size = GENERATE(9.0F, 32.0F, 150.0F);
  const auto flavor = size == 32 ? OpenGLFlavor::es_30 : OpenGLFlavor::core_33;
  static const auto atlas = test::atlas_of(test::dejavu());
  test::Scene scene(atlas);
  Label label = scene.words.add(size > 100 ? "Ag" : "Saltglass");
  label.set_size(size);
  label.set_look(*scene.context.looks().set(look, look_named(look)));
  label.set_placement({.at = {20.3F, 100.6F}, .anchor = {0, 0.5F}});
  check_agreement(scene.words, kSmall, Blending::linear, flavor);
}

TEST_CASE("rotation, shear, opacity and motion agree in both ways of blending", "[render][opengl]") {
  const auto blending = GENERATE(Blending::linear, Blending::gamma);
  static const auto atlas = test::atlas_of(test::dejavu());
  test::Scene scene(atlas);
  Label label = scene.words.add("Marrow Hill"), light = scene.words.add("over it");
  label.set_size(40);
  label.set_look(*scene.context.looks().set("o", look_named("shadow")));
  label.set_motion(rattle(0.1F));
  label.begin_motion(-1.7);
  label.set_placement(
      {.at = {160, 100}, .anchor = {0.5F, 0.5F}, .rotate = -25, .scale_x = 1.2F, .shear = 15});
  light.set_opacity(0.6F);
  light.set_placement({.at = {10.5F, 20}});
  check_agreement(scene.words, kSmall, blending, OpenGLFlavor::core_33);
}

TEST_CASE("labels in perspective agree, near and far", "[render][opengl]") {
  static const auto atlas = test::atlas_of(test::dejavu());
  test::Scene scene(atlas);
  const float angle = GENERATE(0.0F, 55.0F, -75.0F), distance = GENERATE(2.0F, 9.0F);
  Label sign = scene.words.add("Pale Orchard"), tag = scene.words.add("Ilse Varga");
  sign.set_look(*scene.context.looks().set("sign", look_named("outline")));
  sign.set_placement({.anchor = {0.5F, 0.5F},
                      .kind = PlaceKind::world,
                      .world = test::multiplied(test::moved(0, 0, -distance), test::turned_about_y(angle))});
  tag.set_placement(
      {.anchor = {0.5F, 1}, .kind = PlaceKind::facing, .world = test::moved(0, 0.5F, -distance)});
  View view = kSmall;
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  check_agreement(scene.words, view, Blending::linear, OpenGLFlavor::core_33);
}

TEST_CASE("pages of every kind agree", "[render][opengl]") {
  const std::string which = GENERATE("coverage", "wide", "color", "three", "four", "wide three", "wide four");
  const auto blending = GENERATE(Blending::linear, Blending::gamma);
  const auto atlas =
      which == "color"        ? test::color_atlas()
      : which == "wide"       ? test::atlas_of(built_in_face(), PictureKind::distance, 24, 16)
      : which == "three"      ? test::atlas_of(test::dejavu(), PictureKind::distance_rgb, 32)
      : which == "four"       ? test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32)
      : which == "wide three" ? test::atlas_of(test::dejavu(), PictureKind::distance_rgb, 24, 16)
      : which == "wide four"  ? test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 24, 16)
                              : test::atlas_of(test::dejavu(), PictureKind::coverage, 31);
  test::Scene scene(atlas);
  Label label = scene.words.add("ABBA");
  label.set_size(which == "color" ? 40.0F : 31.0F);
  label.set_look(*scene.context.looks().set("s", look_named("shadow")));
  label.set_placement({.at = {30.2F, 60.4F}, .rotate = 12});
  INFO(which);
  check_agreement(scene.words, kSmall, blending,
                  which.starts_with("wide") ? OpenGLFlavor::es_30 : OpenGLFlavor::core_33);
}

TEST_CASE("drawn from a distance page at its own size, text is that of exact coverage", "[render]") {
  const auto face = test::dejavu();
  static const auto atlas = test::atlas_of(face, PictureKind::distance, 48);
  test::Scene scene(atlas);
  Label label = scene.words.add("Quay");
  label.set_size(48);
  label.set_look(*scene.context.looks().set("black", plain_look({0, 0, 0, 1})));
  label.set_placement({.at = {10, 10}});
  const Image drawn =
      test::in_software(scene.words, {.width = 160, .height = 80}, Blending::linear, {1, 1, 1, 1});
  Image exact = *Image::make(160, 80, PixelFormat::rgba8);
  fill_image(exact, {1, 1, 1, 1});
  const FontStack stack{face};
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, "Quay", {.size = 48}, cache, p).has_value());
  REQUIRE(paint(exact, stack, p, plain_look({0, 0, 0, 1}), {10, 10}).has_value());
  CHECK(test::share_that_differs(drawn, exact, 40) <
        0.01);  // corners of the distance are round within a pixel
}

TEST_CASE("a rich label agrees: looks, sizes, made styles and lines under letters",
          "[render][opengl][rich_text]") {
  const auto flavor = GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30);
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  for (const char* look : {"outline", "shadow", "hollow"}) {
    REQUIRE(context.looks().set(look, look_named(look)).has_value());
  }
  SpanStyle bold, italic, line;
  bold.font.weight = 700, bold.look = "outline";
  italic.font.slant = Slant::italic, italic.look = "shadow", italic.scale = 1.4F;
  line.underline = line.strike = true, line.look = "hollow";
  RichText text;
  text.append("Mind ")
      .append("the", bold)
      .append(" ")
      .append("gap", italic)
      .append("\n")
      .append("Weir", line);
  TextScene words(context);
  Label label = words.add();
  label.set_rich(text);
  label.set_placement({.at = {20.3F, 20.6F}, .rotate = 4});
  check_agreement(words, kSmall, Blending::linear, flavor);
}
