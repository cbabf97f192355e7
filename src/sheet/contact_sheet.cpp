// SPDX-License-Identifier: MIT
// Shrinks pictures and lays them out in columns.
#include "grafema/sheet/contact_sheet.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "grafema/base/color.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/sheet/captions.hpp"

namespace grafema {
namespace {

/// One channel of the pixels from x0, y0 to x1, y1 averaged in linear light, weighted by alpha.
Color average(const Image& image, int x0, int y0, int x1, int y1) {
  float sum[4] = {};
  const bool gray = channel_count(image.format()) == 1, alpha = channel_count(image.format()) == 4;
  const auto max = static_cast<float>(detail::largest_value(image.format()));
  for (int y = y0; y < y1; ++y) {
    for (int x = x0; x < x1; ++x) {
      const float a = alpha ? static_cast<float>(image.value(x, y, 3)) / max : 1.0F;
      for (int c = 0; c < 3; ++c) {
        sum[c] += to_linear(static_cast<float>(image.value(x, y, gray ? 0 : c)) / max) * a;
      }
      sum[3] += a;
    }
  }
  const auto count = static_cast<float>((x1 - x0) * (y1 - y0));
  if (sum[3] <= 0) return {0, 0, 0, 0};
  return {to_srgb(sum[0] / sum[3]), to_srgb(sum[1] / sum[3]), to_srgb(sum[2] / sum[3]), sum[3] / count};
}

}  // namespace

Result<Image> shrunk(const Image& image, int max_width, int max_height) {
  const float factor = std::max({1.0F, static_cast<float>(image.width()) / static_cast<float>(max_width),
                                 static_cast<float>(image.height()) / static_cast<float>(max_height)});
  if (factor == 1.0F) return image.clone();
  const int width = std::max(1, static_cast<int>(static_cast<float>(image.width()) / factor));
  const int height = std::max(1, static_cast<int>(static_cast<float>(image.height()) / factor));
  Result<Image> small = Image::make(width, height, PixelFormat::rgba8);
  if (!small) return small;
  const auto edge = [](int i, int count, int size) {
    return static_cast<int>(static_cast<std::int64_t>(i) * size / count);
  };
  for (int y = 0; y < height; ++y) {
    for (int x = 0; x < width; ++x) {
      const int x0 = edge(x, width, image.width()), x1 = std::max(x0 + 1, edge(x + 1, width, image.width()));
      const int y0 = edge(y, height, image.height()),
                y1 = std::max(y0 + 1, edge(y + 1, height, image.height()));
      const Color color = average(image, x0, y0, x1, y1);
      std::uint8_t* pixel = small->row(y) + static_cast<std::size_t>(x) * 4;
      pixel[0] = detail::to_byte(color.red), pixel[1] = detail::to_byte(color.green);
      pixel[2] = detail::to_byte(color.blue), pixel[3] = detail::to_byte(color.alpha);
    }
  }
  return small;
}

Result<Image> draw_contact_sheet(std::span<const NamedImage> images, int columns, int column) {
  constexpr int kMargin = 20, kCaption = 24;
  std::vector<Image> small;
  for (const NamedImage& named : images) {
    Result<Image> copy = shrunk(*named.image, column, column * 3 / 4);
    if (!copy) return copy;
    small.push_back(*std::move(copy));
  }
  const auto per_row = static_cast<std::size_t>(std::max(1, columns));
  std::vector<int> tops = {kMargin};
  for (std::size_t first = 0; first < small.size(); first += per_row) {
    int tallest = 0;
    for (std::size_t i = first; i < std::min(small.size(), first + per_row); ++i) {
      tallest = std::max(tallest, small[i].height());
    }
    tops.push_back(tops.back() + tallest + kCaption + kMargin);
  }
  Result<Image> sheet =
      Image::make(kMargin + static_cast<int>(per_row) * (column + kMargin), tops.back(), PixelFormat::rgba8);
  if (!sheet) return sheet;
  fill_image(*sheet, {0.15F, 0.16F, 0.19F, 1});
  for (std::size_t i = 0; i < small.size(); ++i) {
    const int x = kMargin + static_cast<int>(i % per_row) * (column + kMargin), y = tops[i / per_row];
    paint_image(*sheet, small[i], x, y);
    draw_caption(*sheet, images[i].name,
                 {static_cast<float>(x), static_cast<float>(y + small[i].height() + 8)},
                 {0.9F, 0.88F, 0.8F, 1});
  }
  return sheet;
}

}  // namespace grafema
