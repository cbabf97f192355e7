// SPDX-License-Identifier: MIT
// Fills in CSS notation, and where their colors lie.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/raster/fill.hpp"

using namespace grafema;

namespace {

constexpr Rect kBox{10, 20, 110, 70};  // twice as wide as high

Color at(const std::string& css, float x, float y) {
  const Result<Fill> fill = read_fill(css);
  REQUIRE(fill.has_value());
  return color_at(*fill, {x, y}, kBox);
}

bool is_near(const Color& a, const Color& b) {
  return std::abs(a.red - b.red) < 0.005F && std::abs(a.green - b.green) < 0.005F &&
         std::abs(a.blue - b.blue) < 0.005F && std::abs(a.alpha - b.alpha) < 0.005F;
}

}  // namespace

TEST_CASE("angles and words of linear gradients go where CSS says", "[fill]") {
  const Color red{1, 0, 0, 1}, blue{0, 0, 1, 1}, half{0.5F, 0, 0.5F, 1};
  CHECK(is_near(at("linear-gradient(red, blue)", 60, 20), red));
  CHECK(is_near(at("linear-gradient(red, blue)", 15, 70), blue));
  CHECK(is_near(at("linear-gradient(to right, red, blue)", 10, 33), red));
  CHECK(is_near(at("linear-gradient(0.25turn, red, blue)", 110, 33), blue));
  CHECK(is_near(at("linear-gradient(270deg, red, blue)", 10, 33), blue));
  CHECK(is_near(at("linear-gradient(45deg, red, blue)", 10, 70), red));  // the corner at its beginning
  CHECK(is_near(at("linear-gradient(45deg, red, blue)", 110, 20), blue));
  CHECK(is_near(at("linear-gradient(1rad, red, blue)", 60, 45), half));  // the middle is the middle
}

TEST_CASE("a gradient to a corner has its middle color in both neighbors", "[fill]") {
  const Color half{0.5F, 0, 0.5F, 1};
  for (const char* css :
       {"linear-gradient(to top right, red, blue)", "linear-gradient(to bottom left, red, blue)"}) {
    CHECK(is_near(at(css, 10, 20), half));
    CHECK(is_near(at(css, 110, 70), half));
  }
  CHECK(is_near(at("linear-gradient(to left top, red, blue)", 110, 20), half));
  CHECK(is_near(at("linear-gradient(to left top, red, blue)", 10, 20), {0, 0, 1, 1}));
}

TEST_CASE("stops without a place stand evenly, none before another", "[fill]") {
  const Fill fill = *read_fill("linear-gradient(red, lime 60%, yellow, blue, white 40%)");
  REQUIRE(fill.stop_count == 5);
  CHECK(fill.stops[0].at == 0);
  CHECK(fill.stops[1].at == 0.6F);
  CHECK(fill.stops[4].at == 0.6F);  // not before the one before it
  CHECK(fill.stops[2].at == Approx(0.6F));
  // Two places make two stops: a hard edge.
  CHECK(is_near(at("linear-gradient(to right, red 0% 50%, blue 50% 100%)", 59.5F, 30), {1, 0, 0, 1}));
  CHECK(is_near(at("linear-gradient(to right, red 0% 50%, blue 50% 100%)", 60.5F, 30), {0, 0, 1, 1}));
}

TEST_CASE("colors are mixed in the space that is said, premultiplied", "[fill]") {
  const Color srgb = at("linear-gradient(to right, red, lime)", 60, 30);
  CHECK(srgb.red == Approx(0.5F).margin(0.01));
  const Color light = at("linear-gradient(in srgb-linear to right, red, lime)", 60, 30);
  CHECK(light.red == Approx(to_srgb(0.5F)).margin(0.01));
  // Oklab of blue and yellow in equal parts: L 0.7100, a -0.0520, b -0.0565.
  const Color oklab = at("linear-gradient(to right in oklab, blue, yellow)", 60, 30);
  const Color middle = *read_color("oklch(0.71 0.0768 227.4)");
  CHECK(oklab.red == Approx(middle.red).margin(0.02));
  CHECK(oklab.green == Approx(middle.green).margin(0.02));
  CHECK(oklab.blue == Approx(middle.blue).margin(0.02));
  const Color faint = at("linear-gradient(to right, #ff000000, blue)", 60, 30);
  CHECK(is_near(faint, {0, 0, 1, 0.5F}));  // nothing of a color that is not there
}

TEST_CASE("radial gradients end at the sides and corners that are named", "[fill]") {
  const Color blue{0, 0, 1, 1};
  CHECK(is_near(at("radial-gradient(red, blue)", 60, 45), {1, 0, 0, 1}));
  CHECK(is_near(at("radial-gradient(red, blue)", 110, 70), blue));  // the farthest corner
  CHECK(is_near(at("radial-gradient(ellipse closest-side, red, blue)", 110, 45), blue));
  CHECK(is_near(at("radial-gradient(circle closest-side, red, blue)", 60, 70), blue));
  CHECK(is_near(at("radial-gradient(circle closest-side, red, blue)", 85, 45), blue));
  CHECK(is_near(at("radial-gradient(circle farthest-side at left top, red, blue)", 110, 20), blue));
  CHECK(is_near(at("radial-gradient(circle closest-side at 25% 50%, red, blue)", 47.5F, 45),
                {0.5F, 0, 0.5F, 1}));
  CHECK(is_near(at("radial-gradient(50% 100%, red, blue)", 110, 45), blue));
}

TEST_CASE("what is no gradient is refused, and what is wrong is named", "[fill]") {
  const auto [css, named] = GENERATE(
      table<std::string, std::string>({{"linear-gradient(red)", "two colors"},
                                       {"linear-gradient(red, )", "a color in each stop"},
                                       {"linear-gradient(red, blue", "')'"},
                                       {"linear-gradient(30, red, blue)", "an angle"},
                                       {"linear-gradient(to, red, blue)", "behind 'to'"},
                                       {"linear-gradient(to up, red, blue)", "found up"},
                                       {"linear-gradient(in lab, red, blue)", "found lab"},
                                       {"linear-gradient(red 3px, blue)", "3px"},
                                       {"linear-gradient(red, 1, 2, 3)", "each stop"},
                                       {"radial-gradient(square, red, blue)", "found square"},
                                       {"radial-gradient(circle 5% 5%, red, blue)", "circle"},
                                       {"linear-gradient(red,red,red,red,red,red,red,red,red)", "8 stops"},
                                       {"conic-gradient(red, blue)", "linear-gradient()"},
                                       {"linear-gradient($team, red)", "each stop"},
                                       {"", "nothing"},
                                       {"linear-gradient(red nan%, red)", "each stop"}}));
  CAPTURE(css);
  const Result<Fill> fill = read_fill(css);
  REQUIRE_FALSE(fill.has_value());
  CHECK_THAT(describe(fill.error()), Catch::Contains(named));
}

TEST_CASE("an image lies on its box as it is told to", "[fill]") {
  Image image = *Image::make(4, 2, PixelFormat::rgb8);  // red on the left, blue on the right
  for (int y = 0; y < 2; ++y) {
    for (int x = 0; x < 4; ++x) image.row(y)[x * 3 + (x < 2 ? 0 : 2)] = 255;
  }
  Fill fill = Fill::of_image(*FillImage::make(image));
  CHECK(fill.image->levels().size() == 3);
  fill.fit = ImageFit::fill;
  CHECK(color_at(fill, {30, 40}, kBox).red > 0.99F);
  CHECK(color_at(fill, {90, 40}, kBox).blue > 0.99F);
  fill.offset = {50, 0};  // half of it
  CHECK(color_at(fill, {30, 40}, kBox).blue > 0.99F);
  fill.offset = {}, fill.scroll = {25, 0};
  CHECK(color_at(fill, {30, 40}, kBox, 2).blue > 0.99F);
  fill.scroll = {}, fill.fit = ImageFit::none, fill.scale = {10, 10}, fill.repeats = false;
  CHECK(color_at(fill, {45, 35}, kBox).blue > 0.99F);
  CHECK(color_at(fill, {60, 35}, kBox).alpha == 0);  // beside the one copy
  // Seen from afar it is its mean in linear light.
  fill.repeats = true, fill.scale = {0.01F, 0.01F};
  CHECK(color_at(fill, {60, 35}, kBox).red == Approx(to_srgb(0.5F)).margin(0.01));
  CHECK(mean_color(fill).blue == Approx(to_srgb(0.5F)).margin(0.01));
  CHECK_FALSE(FillImage::make(Image()).has_value());
}

TEST_CASE("fills with numbers that are none, and empty boxes, give a color all the same", "[fill]") {
  const Color two[] = {{1, 0, 0, 1}, {0, 0, 1, 1}};
  for (const Fill& fill : {Fill::linear(two, 30), Fill::radial(two), Fill::solid(two[0])}) {
    for (const Rect& box : {Rect{}, Rect{5, 5, 5, 9}, Rect{0, 0, 1e-9F, 1e9F}}) {
      const Color color = color_at(fill, {3, 4}, box);
      CHECK(std::isfinite(color.red + color.green + color.blue + color.alpha));
    }
  }
  Fill bad = Fill::linear(two);
  bad.angle = INFINITY;
  CHECK_FALSE(check_fill(bad).has_value());
}

TEST_CASE("an image on a box of no size, and far from it, gives a color all the same", "[fill]") {
  const Image image = *Image::make(4096, 3, PixelFormat::r8);
  Fill fill = Fill::of_image(*FillImage::make(image));
  for (const ImageFit fit : {ImageFit::none, ImageFit::fill, ImageFit::cover, ImageFit::contain}) {
    for (const bool repeats : {true, false}) {
      fill.fit = fit, fill.repeats = repeats;
      for (const Rect& box : {Rect{}, Rect{0, 0, 1e-9F, 1e9F}, Rect{-1e9F, 0, 1e9F, 1e-9F}}) {
        const Color color = color_at(fill, {3e8F, -4e8F}, box);
        CHECK(std::isfinite(color.red + color.alpha));
      }
    }
  }
}

TEST_CASE("four colors are those of the corners", "[fill]") {
  const auto fill = read_fill("#f00, rgb(0, 255, 0),#00f, white");
  REQUIRE(fill.has_value());
  CHECK(*fill == Fill::four({1, 0, 0, 1}, {0, 1, 0, 1}, {0, 0, 1, 1}, {1, 1, 1, 1}));
  for (const char* wrong : {"red,blue", "red,blue,red", "a,b,c,d", "red,red,red,red,red", ",,,"}) {
    INFO(wrong);
    CHECK_FALSE(read_fill(wrong).has_value());
  }
}
