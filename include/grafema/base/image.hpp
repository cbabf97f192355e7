// SPDX-License-Identifier: MIT
// Pixels in memory: one owner, and views of it.
#pragma once

#include <cstddef>
#include <cstdint>
#include <vector>

#include "grafema/base/error.hpp"

namespace grafema {

/// Channels and their width. 16-bit channels are in the machine's byte order.
/// rgb and rgba are sRGB with straight alpha where they hold color, plain numbers where they hold distances.
enum class PixelFormat : std::uint8_t { r8, rgb8, rgba8, r16, rgb16, rgba16 };

constexpr int channel_count(PixelFormat f) {
  return f == PixelFormat::r8 || f == PixelFormat::r16       ? 1
         : f == PixelFormat::rgb8 || f == PixelFormat::rgb16 ? 3
                                                             : 4;
}
constexpr int bits_per_channel(PixelFormat f) { return f >= PixelFormat::r16 ? 16 : 8; }
constexpr std::size_t bytes_per_pixel(PixelFormat f) {
  return static_cast<std::size_t>(channel_count(f) * bits_per_channel(f) / 8);
}

/// Rows of pixels that somebody else owns, top row first, without gaps between rows.
struct ImageView {
  const std::uint8_t* data = nullptr;
  int width = 0, height = 0;
  PixelFormat format = PixelFormat::r8;

  std::size_t row_bytes() const { return static_cast<std::size_t>(width) * bytes_per_pixel(format); }
  const std::uint8_t* row(int y) const { return data + static_cast<std::size_t>(y) * row_bytes(); }
};

/// A picture that owns its pixels. Moved freely, copied only by `clone`.
class GRAFEMA_API Image {
 public:
  /// No side of a picture is longer.
  static constexpr int kMaxSide = 32768;

  Image() = default;
  Image(Image&&) = default;
  Image& operator=(Image&&) = default;
  Image(const Image&) = delete;
  Image& operator=(const Image&) = delete;

  /// A picture of zeros. Fails with `bad_value` for sides outside 1..kMaxSide or above 2^28 pixels in all.
  static Result<Image> make(int width, int height, PixelFormat format);

  Image clone() const;
  int width() const { return width_; }
  int height() const { return height_; }
  PixelFormat format() const { return format_; }
  std::size_t row_bytes() const { return static_cast<std::size_t>(width_) * bytes_per_pixel(format_); }
  std::uint8_t* row(int y) { return bytes_.data() + static_cast<std::size_t>(y) * row_bytes(); }
  const std::uint8_t* row(int y) const { return bytes_.data() + static_cast<std::size_t>(y) * row_bytes(); }
  /// Channel `channel` of the pixel at x, y, which must be inside: 0..255, or 0..65535 for 16-bit formats.
  int value(int x, int y, int channel = 0) const;
  const std::vector<std::uint8_t>& bytes() const { return bytes_; }
  /// Good while this picture lives and is not assigned to.
  ImageView view() const& { return {bytes_.data(), width_, height_, format_}; }
  ImageView view() && = delete;

 private:
  std::vector<std::uint8_t> bytes_;
  int width_ = 0, height_ = 0;
  PixelFormat format_ = PixelFormat::r8;
};

/// 64-bit FNV-1a of the pixels: rows top to bottom, 16-bit channels high byte first, so that it is the same
/// on every machine.
GRAFEMA_API std::uint64_t pixel_hash(const Image& image);

}  // namespace grafema
