// SPDX-License-Identifier: MIT
// Averages blocks of texels: what the letter covers, not only how far it is, so that thin strokes stay.
#include "atlas/mipmaps.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/light.hpp"
#include "grafema/base/color.hpp"

namespace grafema {

ImageView GlyphSource::mipmap_pixels(std::uint16_t) const { return {}; }

std::array<std::uint16_t, 4> mipmap_cell(const std::array<std::uint16_t, 4>& cell, int level) {
  constexpr int kRoom = 6;  // texels of a cell beside whose quarter there is room for its sixteenth
  const auto part = [](int v, int by) { return static_cast<std::uint16_t>((v + by - 1) / by); };
  std::array<std::uint16_t, 4> out = {static_cast<std::uint16_t>(cell[0] / 2),
                                      static_cast<std::uint16_t>(cell[1] / 2), part(cell[2], 4),
                                      part(cell[3], 4)};
  if (level == 1) return out;
  if (cell[2] >= kRoom) {
    out[0] = static_cast<std::uint16_t>(out[0] + out[2]);
  } else if (cell[3] >= kRoom) {
    out[1] = static_cast<std::uint16_t>(out[1] + out[3]);
  } else {
    return {};
  }
  out[2] = part(cell[2], 16), out[3] = part(cell[3], 16);
  return out;
}

namespace detail {
namespace {

using Block = std::array<float, 4>;

/// The channels of a texel, 0..1; those that the format has not are the last that it has.
class Texels {
 public:
  explicit Texels(const ImageView& page)
      : page_(page),
        channels_(static_cast<std::size_t>(channel_count(page.format))),
        bytes_(bytes_per_pixel(page.format)),
        wide_(bits_per_channel(page.format) == 16) {}

  Block at(int x, int y) const {
    const std::uint8_t* texel = page_.row(y) + static_cast<std::size_t>(x) * bytes_;
    Block out = {};
    for (std::size_t c = 0; c < 4; ++c) {
      const std::size_t from = std::min(c, channels_ - 1);
      std::uint16_t wide = texel[from];
      if (wide_) std::memcpy(&wide, texel + from * 2, 2);
      out[c] = static_cast<float>(wide) / (wide_ ? 65535.0F : 255.0F);
    }
    return out;
  }

 private:
  const ImageView& page_;
  std::size_t channels_, bytes_;
  bool wide_;
};

float median(const Block& v) { return std::max(std::min(v[0], v[1]), std::min(std::max(v[0], v[1]), v[2])); }

/// What a texel adds to its block. The letter's own edge is the median, the true distance the fourth channel.
Block part_of(const Block& texel, PictureKind kind, float reach) {
  if (kind == PictureKind::coverage) return texel;
  if (kind == PictureKind::color) {
    const float alpha = texel[3];
    return {to_linear(texel[0]) * alpha, to_linear(texel[1]) * alpha, to_linear(texel[2]) * alpha, alpha};
  }
  const auto inside = [reach](float reading) { return (reading - 0.5F) * 2 * reach; };
  const float edge = inside(median(texel)),
              distance = kind == PictureKind::distance_rgba ? inside(texel[3]) : edge;
  return {std::clamp(edge + 0.5F, 0.0F, 1.0F), distance, distance * distance, 0};
}

/// Over which width, in blocks, the distances of a block spread evenly: so that it is covered as it is, where
/// that tells, else as they scatter.
float width_of(const Block& mean, float unit) {
  constexpr float kLeast = 0.125F, kMax = 2;
  const float distance = mean[1] * unit, beside = mean[0] - 0.5F;
  const bool tells = mean[0] > 0.02F && mean[0] < 0.98F && std::abs(beside) > 0.1F;
  const float scatter = std::sqrt(std::max(mean[2] - mean[1] * mean[1], 0.0F)) * unit;
  return std::clamp(tells ? distance / beside : scatter * std::sqrt(12.0F), kLeast, kMax);
}

Block texel_of(const Block& mean, PictureKind kind, float reach, float unit) {
  if (kind == PictureKind::coverage) return mean;
  if (kind == PictureKind::color) {
    const float by = mean[3] > 0 ? 1 / mean[3] : 0;
    return {to_srgb(mean[0] * by), to_srgb(mean[1] * by), to_srgb(mean[2] * by), mean[3]};
  }
  return {mean[0], 0.5F + mean[1] / (2 * reach), width_of(mean, unit) / 2, 1};
}

PixelFormat mipmap_format(PictureKind kind) {
  return kind == PictureKind::coverage ? PixelFormat::r8 : PixelFormat::rgba8;
}

void put(Image& image, int x, int y, const Block& texel) {
  if (x >= image.width() || y >= image.height()) return;
  std::uint8_t* out = image.row(y) + static_cast<std::size_t>(x) * bytes_per_pixel(image.format());
  for (std::size_t c = 0; c < bytes_per_pixel(image.format()); ++c) out[c] = to_byte(texel[c]);
}

Block operator+(const Block& a, const Block& b) {
  return {a[0] + b[0], a[1] + b[1], a[2] + b[2], a[3] + b[3]};
}
Block operator*(const Block& a, float by) { return {a[0] * by, a[1] * by, a[2] * by, a[3] * by}; }

/// The mean of 4 by 4 items from `at` on, where those beyond `width` and `height` are `outside`.
template <class Item>
Block mean_of_sixteen(int x, int y, int width, int height, const Block& outside, Item item) {
  Block sum = {};
  for (int row = y; row < y + 4; ++row) {
    for (int column = x; column < x + 4; ++column) {
      sum = sum + (column < width && row < height ? item(column, row) : outside);
    }
  }
  return sum * (1.0F / 16);
}

}  // namespace

bool Mipmaps::is_behind(const GlyphSource& source, std::uint16_t number) {
  if (number >= pages_.size()) pages_.resize(std::size_t{number} + 1);
  return pages_[number].revision != source.pages()[number].revision;
}

void Mipmaps::find_changes(const GlyphSource& source, std::uint16_t number) {
  constexpr std::size_t kMax = 64;
  Page& page = pages_[number];
  const PageInfo& info = source.pages()[number];
  changes_.resize(kMax);
  changes_.resize(source.changes_since(number, page.revision, changes_));
  page.revision = info.revision;
  const int width = (info.width + 1) / 2, height = (info.height + 1) / 2;
  const bool is_whole = std::any_of(changes_.begin(), changes_.end(), [&info](const PixelRect& rect) {
    return rect.width == info.width && rect.height == info.height;
  });
  if (!is_whole && page.image.width() == width && page.image.height() == height) return;
  changes_.assign(1, {0, 0, info.width, info.height});
  page.image = {};
  if (width == 0 || height == 0) return;
  if (Result<Image> fresh = Image::make(width, height, mipmap_format(info.kind)))
    page.image = *std::move(fresh);
}

bool Mipmaps::has_changed(const std::array<std::uint16_t, 4>& cell) const {
  return std::any_of(changes_.begin(), changes_.end(), [&cell](const PixelRect& rect) {
    return cell[0] < rect.x + rect.width && cell[0] + cell[2] > rect.x && cell[1] < rect.y + rect.height &&
           cell[1] + cell[3] > rect.y;
  });
}

void Mipmaps::write(const ImageView& page, PictureKind kind, const std::array<std::uint16_t, 4>& cell,
                    float reach, Image& far) {
  const bool is_there = cell[0] + cell[2] <= page.width && cell[1] + cell[3] <= page.height;
  if (!is_there || far.width() == 0 || (is_distance(kind) && !(reach > 0))) return;
  const Texels texels(page);
  const Block outside = is_distance(kind) ? Block{0, -reach, reach * reach, 0} : Block{};
  const std::array<std::uint16_t, 4> quarter = mipmap_cell(cell, 1), sixteenth = mipmap_cell(cell, 2);
  const int width = quarter[2], height = quarter[3];
  blocks_.clear();
  for (int y = 0; y < height; ++y) {
    for (int x = 0; x < width; ++x) {
      blocks_.push_back(mean_of_sixteen(x * 4, y * 4, cell[2], cell[3], outside, [&](int column, int row) {
        return part_of(texels.at(cell[0] + column, cell[1] + row), kind, reach);
      }));
      put(far, quarter[0] + x, quarter[1] + y, texel_of(blocks_.back(), kind, reach, 1.0F / 4));
    }
  }
  for (int y = 0; y < sixteenth[3]; ++y) {
    for (int x = 0; x < sixteenth[2]; ++x) {
      const Block mean = mean_of_sixteen(x * 4, y * 4, width, height, outside, [&](int column, int row) {
        return blocks_[static_cast<std::size_t>(row * width + column)];
      });
      put(far, sixteenth[0] + x, sixteenth[1] + y, texel_of(mean, kind, reach, 1.0F / 16));
    }
  }
}

}  // namespace detail
}  // namespace grafema
