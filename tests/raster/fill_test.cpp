// SPDX-License-Identifier: MIT
// Fills and blending in linear light.
#include "grafema/raster/fill.hpp"

#include <catch2/catch.hpp>
#include <cmath>

using namespace grafema;

namespace {

constexpr Rect kUnit{0, 0, 1, 1};

}  // namespace

TEST_CASE("a four-corner fill has its corners and an even middle", "[fill]") {
  const Fill fill{
      {*read_color("#ff0000"), *read_color("#00ff00"), *read_color("#0000ff"), *read_color("#ffffff00")}};
  CHECK(to_string(color_at(fill, {0, 0}, kUnit)) == "#ff0000");
  CHECK(to_string(color_at(fill, {1, 0}, kUnit)) == "#00ff00");
  CHECK(to_string(color_at(fill, {5, 5}, kUnit)) == "#0000ff");
  CHECK(color_at(fill, {0, 1}, kUnit).alpha == 0);
  CHECK(to_string(color_at(fill, {0.5F, 0}, kUnit)) == "#808000");
  const Color faint = color_at(fill, {0, 0.5F}, kUnit);  // premultiplied mixing keeps red red as it fades
  CHECK(faint.red == Approx(1));
  CHECK(faint.alpha == Approx(0.5F));
}

TEST_CASE("half of white over black is the middle of the light, not of the numbers", "[fill]") {
  Image image = *Image::make(1, 1, PixelFormat::rgba8);
  image.row(0)[3] = 255;
  const float half = 0.5F;
  blend(image, {0, 0, 1, 1}, std::span(&half, 1), Fill::solid({1, 1, 1, 1}), {0, 0, 1, 1});
  CHECK(image.value(0, 0, 0) == 188);  // sRGB of 0.5 in linear light
  CHECK(image.value(0, 0, 3) == 255);
}

TEST_CASE("blending agrees with arithmetic in floats", "[fill][property]") {
  for (int background = 0; background < 256; background += 15) {
    for (int alpha = 0; alpha <= 255; alpha += 51) {
      for (const float strength : {0.1F, 0.5F, 1.0F}) {
        Image image = *Image::make(1, 1, PixelFormat::rgba8);
        for (int c = 0; c < 3; ++c) image.row(0)[c] = static_cast<std::uint8_t>(background);
        image.row(0)[3] = static_cast<std::uint8_t>(alpha);
        blend(image, {0, 0, 1, 1}, std::span(&strength, 1), Fill::solid({0.8F, 0.2F, 0.4F, 0.7F}),
              {0, 0, 1, 1});
        const float over = 0.7F * strength, under = static_cast<float>(alpha) / 255 * (1 - over);
        const float mixed =
            (to_linear(0.8F) * over + to_linear(static_cast<float>(background) / 255) * under) /
            (over + under);
        CHECK(std::abs(image.value(0, 0, 0) - to_srgb(mixed) * 255) <= 0.6F);
        CHECK(std::abs(image.value(0, 0, 3) - (over + under) * 255) <= 0.6F);
      }
    }
  }
}

TEST_CASE("full strength of an opaque color gives that color to the bit", "[fill][property]") {
  const float full = 1;
  for (int v = 0; v < 256; ++v) {
    Image image = *Image::make(1, 1, PixelFormat::rgba8);
    const float channel = static_cast<float>(v) / 255;
    blend(image, {0, 0, 1, 1}, std::span(&full, 1), Fill::solid({channel, channel, channel, 1}),
          {0, 0, 1, 1});
    CHECK(image.value(0, 0, 1) == v);
  }
}

TEST_CASE("a cell that leaves the picture is cut", "[fill]") {
  Image image = *Image::make(4, 4, PixelFormat::rgba8);
  const std::vector<float> full(36, 1.0F);
  for (const PixelRect cell : {PixelRect{-3, -3, 6, 6}, {2, 2, 6, 6}, {100, 100, 6, 6}, {-100, 0, 6, 6}}) {
    blend(image, cell, full, Fill::solid({1, 1, 1, 1}), {0, 0, 4, 4});
  }
  CHECK(image.value(0, 0) == 255);
  CHECK(image.value(3, 3) == 255);
  CHECK(image.value(0, 3) == 0);
}
