// SPDX-License-Identifier: MIT
// Light on surfaces: the words of SVG's lighting filters, and what makes no sense.
#include "grafema/draw/lighting.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <functional>

#include "grafema/draw/paint.hpp"
#include "grafema/text/paragraph.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr Color kGray{0.5F, 0.5F, 0.5F, 1};
const Surface kSlope{.width = 4, .height = 4};  // 45 degrees

Lighting one(float azimuth, float elevation) {
  Lighting lighting;
  lighting.lights[0].azimuth = azimuth, lighting.lights[0].elevation = elevation;
  lighting.ambient = {0, 0, 0, 1};
  return lighting;
}

}  // namespace

TEST_CASE("a level surface takes the sine of the light's elevation", "[light]") {
  for (const float elevation : {90.0F, 60.0F, 30.0F, 0.0F}) {
    const Color seen = lit({1, 1, 1, 1}, kSlope, 9, {1, 0}, {0, 0}, one(225, elevation));
    CHECK(to_linear(seen.red) == Approx(std::sin(elevation * 3.14159265 / 180)).margin(0.002));
  }
}

TEST_CASE("slopes that face a light are bright, those that turn away are dark", "[light]") {
  // The surface rises to the right: its slope faces the left, where the light comes from.
  const Color faces = lit(kGray, kSlope, 2, {1, 0}, {0, 0}, one(180, 45));
  const Color level = lit(kGray, kSlope, 9, {1, 0}, {0, 0}, one(180, 45));
  const Color turned = lit(kGray, kSlope, 2, {-1, 0}, {0, 0}, one(180, 45));
  CHECK(to_linear(faces.red) == Approx(to_linear(0.5F)).margin(0.002));  // straight into the light
  CHECK(level.red < faces.red);
  CHECK(turned.red == Approx(0).margin(0.01));
  Surface hollow = kSlope;
  hollow.height = -4;
  CHECK(lit(kGray, hollow, 2, {-1, 0}, {0, 0}, one(180, 45)).red == Approx(faces.red));
  CHECK(lit(kGray, kSlope, 2, {1, 0}, {0, 0}, one(180, 45)).alpha == 1);
}

TEST_CASE("a point light shines from where it stands, and glints where it is mirrored", "[light]") {
  Lighting lighting = one(0, 0);
  lighting.lights[0] = {.kind = LightKind::point, .at = {100, 50}, .z = 20, .color = {1, 0, 0, 1}};
  const Surface shiny{.width = 1, .height = 0, .diffuse = 0, .specular = 1, .exponent = 30};
  const Color below = lit({0, 0, 0, 1}, shiny, 5, {}, {100, 50}, lighting);
  CHECK(below.red == Approx(1));  // mirrored straight to the eye
  CHECK(below.green == 0);
  CHECK(lit({0, 0, 0, 1}, shiny, 5, {}, {160, 50}, lighting).red < 0.4F);
  // Twice as many device pixels, twice as far on the device: the same light.
  const Color small = lit(kGray, kSlope, 2, {0, 1}, {80, 40}, lighting, 1),
              large = lit(kGray, kSlope, 2, {0, 1}, {160, 80}, lighting, 2);
  CHECK(small.red == Approx(large.red));
}

TEST_CASE("lights that make no sense are refused", "[light]") {
  Lighting lighting;
  CHECK(check_lighting(lighting).has_value());
  lighting.count = 9;
  CHECK_FALSE(check_lighting(lighting).has_value());
  lighting.count = 1, lighting.lights[0].elevation = NAN;
  CHECK_FALSE(check_lighting(lighting).has_value());
  lighting.lights[0] = {.kind = LightKind::point, .z = 0};  // within a surface
  CHECK_FALSE(check_lighting(lighting).has_value());
  lighting.count = 0;
  CHECK(check_lighting(lighting).has_value());
  const Color color = lit(kGray, {}, 0, {}, {}, lighting);
  CHECK(std::isfinite(color.red));
}

namespace {

/// A letter as large as the picture, lit by nothing but what is around.
Image painted_block(const Surface& surface) {
  Image image = *Image::make(120, 120, PixelFormat::rgba8);
  fill_image(image, {0, 0, 0, 1});
  const FontStack stack{test::dejavu()};
  Look look = plain_look({0.5F, 0.5F, 0.5F, 1});
  look.layers[0].surface = surface;
  Paragraph paragraph;
  ShapeCache shapes;
  REQUIRE(lay_out(stack, "\u2588", {.size = 300}, shapes, paragraph).has_value());
  const Rect ink = ink_box(stack, paragraph, look);
  REQUIRE(ink.width() > 60);
  REQUIRE(
      paint(image, stack, paragraph, look, {60 - (ink.left + ink.right) / 2, 60 - (ink.top + ink.bottom) / 2})
          .has_value());
  return image;
}

std::shared_ptr<const FillImage> picture_of(int side,
                                            const std::function<std::array<int, 3>(int, int)>& color) {
  Image image = *Image::make(side, side, PixelFormat::rgb8);
  for (int y = 0; y < side; ++y) {
    for (int x = 0; x < side; ++x) {
      const std::array<int, 3> c = color(x, y);
      for (std::size_t k = 0; k < 3; ++k)
        image.row(y)[x * 3 + static_cast<int>(k)] = static_cast<std::uint8_t>(c[k]);
    }
  }
  return *FillImage::make(image);
}

}  // namespace

TEST_CASE("grain that leans nowhere changes nothing, and one that leans to the light is brighter",
          "[light]") {
  Surface surface{.width = 2, .height = 0};
  const Image plain = painted_block(surface);
  surface.grain = picture_of(8, [](int, int) { return std::array<int, 3>{128, 128, 255}; });
  CHECK(test::share_that_differs(plain, painted_block(surface), 0) == 0);
  // The light comes from the upper left: normals that lean there see more of it.
  surface.grain = picture_of(8, [](int, int) { return std::array<int, 3>{60, 195, 230}; });
  const Image towards = painted_block(surface);
  surface.grain = picture_of(8, [](int, int) { return std::array<int, 3>{195, 60, 230}; });
  const Image away = painted_block(surface);
  CHECK(towards.value(60, 60, 0) > plain.value(60, 60, 0) + 10);
  CHECK(away.value(60, 60, 0) + 10 < plain.value(60, 60, 0));
  surface.grain_strength = 0;
  CHECK(test::share_that_differs(plain, painted_block(surface), 0) == 0);
}

TEST_CASE("a level surface mirrors what lies before it: the middle of the ball from the middle of the view",
          "[light]") {
  Surface surface{.width = 2, .height = 0};
  surface.mirror_strength = 1;
  surface.mirror = picture_of(64, [](int x, int y) { return std::array<int, 3>{x * 4, y * 4, 40}; });
  const Image image = painted_block(surface);
  CHECK(image.value(60, 60, 0) == Approx(128).margin(6));
  CHECK(image.value(60, 60, 1) == Approx(128).margin(6));
  CHECK(image.value(60, 60, 2) == Approx(40).margin(3));
  // To the right the eye is seen further to the left, and what is mirrored lies further to the right.
  CHECK(image.value(80, 60, 0) > image.value(60, 60, 0) + 8);
  CHECK(image.value(60, 80, 1) > image.value(60, 60, 1) + 8);
  surface.mirror_strength = 0;
  const Image none = painted_block(surface);
  surface.mirror = nullptr;
  CHECK(test::share_that_differs(none, painted_block(surface), 0) == 0);
}
