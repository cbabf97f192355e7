// SPDX-License-Identifier: MIT
// Pixel faces whose texels are shown as they are, in every placement.
#include <catch2/catch.hpp>

#include "grafema/draw/text_scene.hpp"
#include "grafema/font/face.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kPixelatedView{.width = 320, .height = 200};
constexpr Color kPixelatedBackdrop{0.44F, 0.56F, 0.69F, 1};

const std::shared_ptr<const Atlas>& pixel_atlas() {
  static const auto atlas = test::atlas_of(built_in_face(), PictureKind::coverage, 12);
  return atlas;
}

/// The label as a list and in a set, by both renderers; all of them must be alike. Gives that of the list.
Image drawn_everywhere(const Placement& placement, const View& view = kPixelatedView) {
  test::Scene scene(pixel_atlas());
  Label label = scene.words.add("Weir 28");
  label.set_size(12);
  label.set_look(*scene.context.looks().set("white", plain_look({1, 1, 1, 1})));
  label.set_placement(placement);
  Image list = test::in_software(scene.words, view, Blending::linear, kPixelatedBackdrop);
  const Image opengl =
      test::in_opengl(scene.words, view, Blending::linear, kPixelatedBackdrop, OpenGLFlavor::es_30);
  INFO(test::first_difference(list, opengl, 3));
  CHECK(test::share_that_differs(list, opengl, 3) <= 0.002);
  TextScene set(scene.context);
  Label same = set.add("Weir 28"), mixed = set.add("mixed");
  for (Label each : {same, mixed}) {
    each.set_size(12);
    each.set_look(label.look());
  }
  mixed.set_visible(false);
  same.set_placement(placement);
  REQUIRE(set.update(view, 0).has_value());
  Image in_set = test::filled(view, kPixelatedBackdrop);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, in_set).has_value());
  CHECK(test::share_that_differs(list, in_set, 3) <= 0.001);
  auto offscreen = OpenGLOffscreen::make(320, 200, OpenGLFlavor::core_33, Blending::linear);
  auto renderer = OpenGLRenderer::make();
  REQUIRE((offscreen.has_value() && renderer.has_value()));
  offscreen->put(test::filled(view, kPixelatedBackdrop));
  REQUIRE(renderer->draw(set.memory(), Blending::linear).has_value());
  CHECK(test::share_that_differs(in_set, offscreen->read(), 3) <= 0.002);
  CHECK(offscreen->complaints().empty());
  CHECK(test::share_that_differs(list, test::filled(view, kPixelatedBackdrop), 8) > 0.001);
  return list;
}

/// Pixels that are neither paper nor ink.
int mixed_pixels(const Image& image) {
  int mixed = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      const int red = image.value(x, y, 0);
      mixed += red > 116 && red < 252 ? 1 : 0;
    }
  }
  return mixed;
}

}  // namespace

TEST_CASE("pixelated labels on the screen stand on whole pixels, and texels are as many wide",
          "[render][pixelated]") {
  const auto [scale, content, whole] =
      GENERATE(table<float, float, int>({{4, 1, 4}, {2.6F, 1, 3}, {1.2F, 2, 2}, {0.2F, 1, 1}}));
  CAPTURE(scale, content);
  View view = kPixelatedView;
  view.content_scale = content;
  const Image image =
      drawn_everywhere({.at = {20.4F, 30.7F}, .scale_x = scale, .scale_y = scale, .pixelated = true}, view);
  CHECK(mixed_pixels(image) == 0);
  for (int y = 0; y < image.height(); ++y) {  // every stretch of ink is so many whole texels long
    int length = 0;
    for (int x = 0; x < image.width(); ++x) {
      if (image.value(x, y, 0) > 200) {
        ++length;
      } else {
        CHECK(length % whole == 0);
        length = 0;
      }
    }
  }
}

TEST_CASE("pixelated labels that are turned or lie in the world have hard edges too", "[render][pixelated]") {
  CHECK(mixed_pixels(drawn_everywhere(
            {.at = {40, 40}, .rotate = 21, .scale_x = 5, .scale_y = 5, .pixelated = true})) == 0);
  View view = kPixelatedView;
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  Placement there{
      .anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world_per_pixel = 0.04F, .pixelated = true};
  there.world = test::multiplied(test::moved(0, 0, -2.2F), test::turned_about_y(35));
  CHECK(mixed_pixels(drawn_everywhere(there, view)) == 0);
  there.pixelated = false;
  CHECK(mixed_pixels(drawn_everywhere(there, view)) > 100);
}

TEST_CASE("a batch is pixelated for all of its labels or none", "[set][pixelated]") {
  test::Scene scene(pixel_atlas());
  TextScene set(scene.context);
  Label crisp = set.add("Weir"), soft = set.add("Quay");
  crisp.set_placement({.at = {10, 10}, .scale_x = 3, .scale_y = 3, .pixelated = true});
  soft.set_placement({.at = {10, 90}, .scale_x = 3, .scale_y = 3});
  REQUIRE(set.update(kPixelatedView, 0).has_value());
  CHECK(set.memory().batches().size() == 2);
  soft.set_placement({.at = {10, 90}, .pixelated = true});
  REQUIRE(set.update(kPixelatedView, 0).has_value());
  REQUIRE(set.memory().batches().size() == 1);
  CHECK(has_any(set.memory().batches()[0].features, SceneFeature::pixelated));
}
