// SPDX-License-Identifier: MIT
// Animated PNG: each frame is the picture it was, by a reader that knows still pictures alone.
#include "grafema/files/animated_png.hpp"

#include <zlib.h>

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

namespace {

using Bytes = std::vector<std::byte>;

struct Chunk {
  std::string type;
  Bytes data;
};

std::uint32_t read_32(const Bytes& bytes, std::size_t at) {
  std::uint32_t v = 0;
  for (std::size_t i = 0; i < 4; ++i) v = v << 8U | std::to_integer<std::uint32_t>(bytes[at + i]);
  return v;
}

void put_32(Bytes& to, std::uint32_t v) {
  for (const unsigned shift : {24U, 16U, 8U, 0U}) to.push_back(static_cast<std::byte>(v >> shift));
}

/// All chunks, whose sums are checked.
std::vector<Chunk> chunks_of(const Bytes& png) {
  std::vector<Chunk> out;
  for (std::size_t at = 8; at < png.size();) {
    const std::uint32_t size = read_32(png, at);
    REQUIRE(at + 12 + size <= png.size());
    const auto* begin = reinterpret_cast<const Bytef*>(png.data() + at + 4);
    CHECK(crc32(0, begin, size + 4) == read_32(png, at + 8 + size));
    out.push_back({std::string(reinterpret_cast<const char*>(begin), 4),
                   Bytes(png.begin() + static_cast<std::ptrdiff_t>(at) + 8,
                         png.begin() + static_cast<std::ptrdiff_t>(at + 8 + size))});
    at += 12 + size;
  }
  return out;
}

void add_chunk(Bytes& png, const std::string& type, const Bytes& data) {
  put_32(png, static_cast<std::uint32_t>(data.size()));
  Bytes body;
  for (const char c : type) body.push_back(static_cast<std::byte>(c));
  body.insert(body.end(), data.begin(), data.end());
  png.insert(png.end(), body.begin(), body.end());
  put_32(png, static_cast<std::uint32_t>(
                  crc32(0, reinterpret_cast<const Bytef*>(body.data()), static_cast<uInt>(body.size()))));
}

Image frame_of(int number) {
  Image image = *Image::make(37, 21, PixelFormat::rgba8);
  for (int y = 0; y < 21; ++y) {
    for (int x = 0; x < 37 * 4; ++x)
      image.row(y)[x] = static_cast<std::uint8_t>(x * 7 + y * 13 + number * 31);
  }
  return image;
}

}  // namespace

TEST_CASE("frames of an animated PNG are the pictures they were", "[files][png]") {
  std::vector<Image> frames;
  for (int i = 0; i < 5; ++i) frames.push_back(frame_of(i));
  const Bytes png = *make_animated_png(frames, 12.5);
  CHECK(read_png(png)->bytes() == frames[0].bytes());  // what knows no frames shows the first
  const std::vector<Chunk> chunks = chunks_of(png);
  CHECK(chunks[0].type == "IHDR");
  CHECK(chunks[1].type == "acTL");
  CHECK(read_32(chunks[1].data, 0) == 5);
  CHECK(read_32(chunks[1].data, 4) == 0);
  CHECK(chunks.back().type == "IEND");
  std::uint32_t sequence = 0;
  std::vector<Bytes> data;
  for (const Chunk& chunk : chunks) {
    if (chunk.type == "fcTL") {
      REQUIRE(chunk.data.size() == 26);
      CHECK(read_32(chunk.data, 0) == sequence++);
      CHECK(read_32(chunk.data, 4) == 37);
      CHECK(read_32(chunk.data, 8) == 21);
      CHECK(read_32(chunk.data, 20) == (100U << 16U | 1250U));  // hundredths of a frame a second
      data.emplace_back();
    } else if (chunk.type == "fdAT") {
      CHECK(read_32(chunk.data, 0) == sequence++);
      data.back().insert(data.back().end(), chunk.data.begin() + 4, chunk.data.end());
    } else if (chunk.type == "IDAT") {
      REQUIRE(data.size() == 1);
      data.back().insert(data.back().end(), chunk.data.begin(), chunk.data.end());
    }
  }
  REQUIRE(data.size() == 5);
  for (std::size_t i = 0; i < 5; ++i) {
    Bytes still(png.begin(), png.begin() + 8);
    add_chunk(still, "IHDR", chunks[0].data);
    add_chunk(still, "IDAT", data[i]);
    add_chunk(still, "IEND", {});
    const auto image = read_png(still);
    REQUIRE(image.has_value());
    CHECK(image->bytes() == frames[i].bytes());
  }
}

TEST_CASE("frames that no animation can have are refused", "[files][png]") {
  std::vector<Image> frames;
  CHECK_FALSE(make_animated_png(frames, 10).has_value());
  frames.push_back(frame_of(0));
  for (const double fps : {0.0, -1.0, 601.0, std::nan("")})
    CHECK_FALSE(make_animated_png(frames, fps).has_value());
  CHECK(make_animated_png(frames, 600).has_value());
  frames.push_back(*Image::make(37, 22, PixelFormat::rgba8));
  CHECK_FALSE(make_animated_png(frames, 10).has_value());
  frames.back() = *Image::make(37, 21, PixelFormat::r8);
  CHECK_FALSE(make_animated_png(frames, 10).has_value());
  CHECK_FALSE(save_animated_png("/nowhere/at/all.png", std::span(frames).first(1), 10).has_value());
}
