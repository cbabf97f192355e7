// SPDX-License-Identifier: MIT
// Pictures in memory.
#include "grafema/base/image.hpp"

#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("a picture has the size asked for and absurd sizes are refused", "[image]") {
  const auto format = GENERATE(PixelFormat::r8, PixelFormat::rgb8, PixelFormat::rgba8, PixelFormat::r16,
                               PixelFormat::rgb16, PixelFormat::rgba16);
  const Result<Image> image = Image::make(7, 3, format);
  REQUIRE(image.has_value());
  CHECK(image->bytes().size() == 21 * bytes_per_pixel(format));
  CHECK(image->value(6, 2, channel_count(format) - 1) == 0);
  for (const auto& [w, h] : {std::pair{0, 1}, {1, 0}, {-4, 4}, {40000, 1}, {32768, 32768}}) {
    CHECK_FALSE(Image::make(w, h, format).has_value());
  }
}

TEST_CASE("a clone is equal and separate", "[image]") {
  Image image = *Image::make(2, 2, PixelFormat::rgba8);
  image.row(1)[5] = 200;
  Image copy = image.clone();
  CHECK(pixel_hash(copy) == pixel_hash(image));
  copy.row(1)[5] = 201;
  CHECK(image.value(1, 1, 1) == 200);
  CHECK(pixel_hash(copy) != pixel_hash(image));
}

TEST_CASE("the hash is FNV-1a over the pixels, wide channels high byte first", "[image]") {
  Image image = *Image::make(1, 1, PixelFormat::r8);
  image.row(0)[0] = 'a';
  CHECK(pixel_hash(image) == 0xAF63DC4C8601EC8CU);  // the published value for "a"
  Image wide = *Image::make(1, 1, PixelFormat::r16);
  const std::uint16_t value = 0x6162;
  std::copy_n(reinterpret_cast<const std::uint8_t*>(&value), 2, wide.row(0));
  Image narrow = *Image::make(2, 1, PixelFormat::r8);
  narrow.row(0)[0] = 0x61;
  narrow.row(0)[1] = 0x62;
  CHECK(pixel_hash(wide) == pixel_hash(narrow));
}
