// SPDX-License-Identifier: MIT
// Pictures written as PNG and read back.
#include <zlib.h>

#include <catch2/catch.hpp>
#include <cstring>

#include "grafema/files/files.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Image noise(int width, int height, PixelFormat format) {
  Image image = *Image::make(width, height, format);
  std::mt19937 random(3);
  for (int y = 0; y < height; ++y) {
    for (std::size_t i = 0; i < image.row_bytes(); ++i) image.row(y)[i] = static_cast<std::uint8_t>(random());
  }
  return image;
}

}  // namespace

TEST_CASE("pictures of every format are written and read back the same", "[png][property]") {
  const auto format = GENERATE(PixelFormat::r8, PixelFormat::rgb8, PixelFormat::rgba8, PixelFormat::r16,
                               PixelFormat::rgb16, PixelFormat::rgba16);
  const Image image = noise(13, 7, format);
  const Result<Image> read = read_png(*make_png(image));
  REQUIRE(read.has_value());
  CHECK(read->format() == format);
  CHECK(read->bytes() == image.bytes());
}

TEST_CASE("a PNG cut at any byte or changed at random is an error or a picture", "[png][property]") {
  const std::vector<std::byte> whole = *make_png(noise(9, 9, PixelFormat::rgba8));
  for (std::size_t length = 0; length + 12 < whole.size(); ++length) {
    const std::vector<std::byte> cut(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length));
    const Result<Image> read = read_png(cut);
    REQUIRE_FALSE(read.has_value());
    CHECK((read.error().kind == ErrorKind::not_an_image || read.error().kind == ErrorKind::damaged));
  }
  std::mt19937 random(8);
  for (int round = 0; round < 300; ++round) {
    std::vector<std::byte> changed = whole;
    for (int i = 0; i < 4; ++i) changed[random() % changed.size()] = static_cast<std::byte>(random());
    (void)read_png(changed);
  }
}

TEST_CASE("what is no PNG is told so", "[png]") {
  CHECK(read_png({}).error().kind == ErrorKind::not_an_image);
  const std::string text = "a text of some length";
  CHECK(read_png(std::as_bytes(std::span(text))).error().kind == ErrorKind::not_an_image);
}

TEST_CASE("a picture larger than its file can hold is damage before memory is taken", "[png]") {
  std::vector<std::byte> bytes = *make_png(*Image::make(1, 1, PixelFormat::rgba8));
  // Width and height of IHDR stand at 16 and 20; its checksum at 29 is made anew.
  for (const std::size_t at : {16, 20}) {
    bytes[at + 2] = std::byte{0x75}, bytes[at + 3] = std::byte{0x30};  // 30,000
  }
  const auto checksum =
      static_cast<std::uint32_t>(crc32(0, reinterpret_cast<const Bytef*>(bytes.data() + 12), 17));
  for (std::size_t i = 0; i < 4; ++i) bytes[29 + i] = static_cast<std::byte>(checksum >> (24 - 8 * i));
  const auto read = read_png(bytes);
  REQUIRE_FALSE(read.has_value());
  CHECK(read.error().kind == ErrorKind::damaged);
  CHECK_THAT(describe(read.error()), Catch::Contains("30000x30000"));
  // What compresses as well as anything can is read.
  const Image plain = *Image::make(4000, 4000, PixelFormat::rgba8);
  CHECK(read_png(*make_png(plain)).has_value());
}
