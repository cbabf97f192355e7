// SPDX-License-Identifier: MIT
// Makes, copies and hashes pictures.
#include "grafema/base/image.hpp"

#include <bit>
#include <cstring>

#include "base/hash.hpp"

namespace grafema {

Result<Image> Image::make(int width, int height, PixelFormat format) {
  constexpr std::int64_t kMaxPixels = std::int64_t{1} << 28;
  const bool sides_good = width >= 1 && height >= 1 && width <= kMaxSide && height <= kMaxSide;
  if (!sides_good || std::int64_t{width} * height > kMaxPixels) {
    return fail(make_error(ErrorKind::bad_value,
                           "a picture of 1 to 32768 pixels a side and at most 2^28 in all",
                           std::to_string(width) + "x" + std::to_string(height)));
  }
  Image image;
  image.width_ = width;
  image.height_ = height;
  image.format_ = format;
  image.bytes_.resize(image.row_bytes() * static_cast<std::size_t>(height));
  return image;
}

Image Image::clone() const {
  Image copy;
  copy.bytes_ = bytes_;
  copy.width_ = width_;
  copy.height_ = height_;
  copy.format_ = format_;
  return copy;
}

int Image::value(int x, int y, int channel) const {
  const std::size_t index = static_cast<std::size_t>(x) * static_cast<std::size_t>(channel_count(format_)) +
                            static_cast<std::size_t>(channel);
  if (bits_per_channel(format_) == 8) return row(y)[index];
  std::uint16_t wide = 0;
  std::memcpy(&wide, row(y) + index * 2, 2);
  return wide;
}

std::uint64_t pixel_hash(const Image& image) {
  detail::Fnv1a hash;
  const std::vector<std::uint8_t>& bytes = image.bytes();
  if (bits_per_channel(image.format()) == 8 || std::endian::native == std::endian::big) {
    hash.add(std::span<const std::uint8_t>(bytes));
  } else {
    for (std::size_t i = 0; i + 1 < bytes.size(); i += 2) {
      hash.add_byte(bytes[i + 1]);
      hash.add_byte(bytes[i]);
    }
  }
  return hash.result();
}

}  // namespace grafema
