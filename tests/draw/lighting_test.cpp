// SPDX-License-Identifier: MIT
// Light on surfaces: the words of SVG's lighting filters, and what makes no sense.
#include "grafema/draw/lighting.hpp"

#include <catch2/catch.hpp>
#include <cmath>

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
