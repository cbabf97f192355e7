// SPDX-License-Identifier: MIT
// Unpacks the pixels of EBDT (OpenType, EBDT) and follows their edges.
#include "font/outline/strike_outlines.hpp"

#include <algorithm>
#include <cmath>

#include "font/metrics/bitmap_tables.hpp"
#include "outline/trace.hpp"

namespace grafema::detail {
namespace {

/// Image formats: how long the metrics before the picture are, and whether rows begin at whole bytes.
struct ImageFormat {
  std::size_t metrics_bytes = 0;
  bool in_bytes = false, known = false;
};

ImageFormat image_format(std::uint16_t format) {
  switch (format) {
    case 1:
      return {5, true, true};
    case 2:
      return {5, false, true};
    case 5:
      return {0, false, true};
    case 6:
      return {8, true, true};
    case 7:
      return {8, false, true};
    default:  // 8 and 9 are put together from other glyphs
      return {};
  }
}

}  // namespace

std::vector<std::uint16_t> read_strike_sizes(const Directory& directory) {
  std::vector<std::uint16_t> sizes = bitmap_sizes_of(directory.find(tag("EBLC")));
  std::sort(sizes.begin(), sizes.end());
  sizes.erase(std::unique(sizes.begin(), sizes.end()), sizes.end());
  std::erase(sizes, std::uint16_t{0});
  return sizes;
}

std::uint16_t choose_strike(std::span<const std::uint16_t> sizes, float pixels_per_em) {
  if (!(pixels_per_em > 0)) return sizes.back();
  for (std::size_t i = sizes.size(); i-- > 0;) {
    const float times = pixels_per_em / static_cast<float>(sizes[i]);
    if (times >= 1 && times == std::floor(times)) return sizes[i];
  }
  const auto above = std::find_if(sizes.begin(), sizes.end(), [&](std::uint16_t size) {
    return static_cast<float>(size) > pixels_per_em;
  });
  return above == sizes.end() ? sizes.back() : *above;
}

Result<void> read_strike_outline(const Directory& directory, std::uint32_t glyph, std::uint16_t strike,
                                 float units_per_em, Contours& out) {
  out.clear();
  const TableView index = directory.find(tag("EBLC")), data = directory.find(tag("EBDT"));
  const std::optional<BitmapLocation> place = find_bitmap(index, glyph, strike);
  const ImageFormat format = place ? image_format(place->format) : ImageFormat{};
  if (!format.known || place->bits > 8) return {};
  if (!data.holds(place->offset, format.metrics_bytes)) {
    return damaged(data, place->offset, "metrics of a picture that lie inside the table");
  }
  const BitmapMetrics metrics = format.metrics_bytes > 0 ? read_bitmap_metrics(data, place->offset)
                                                         : read_bitmap_metrics(index, place->metrics_at);
  const std::size_t width = static_cast<std::size_t>(metrics.width), bits = place->bits,
                    row_bits = format.in_bytes ? (width * bits + 7) / 8 * 8 : width * bits,
                    bytes = (row_bits * static_cast<std::size_t>(metrics.height) + 7) / 8,
                    begin = place->offset + format.metrics_bytes;
  if (!data.holds(begin, bytes)) return damaged(data, begin, "a picture that lies inside the table");
  Bitmap bitmap{metrics.width, metrics.height,
                std::vector<bool>(width * static_cast<std::size_t>(metrics.height))};
  for (std::size_t i = 0; i < bitmap.ink.size(); ++i) {
    const std::size_t bit = i / width * row_bits + i % width * bits;
    // The first bit is the highest of a pixel: half of the ink or more.
    bitmap.ink[i] = (std::to_integer<unsigned>(data.bytes[begin + bit / 8]) >> (7 - bit % 8) & 1U) != 0;
  }
  trace(bitmap, metrics.top, 1, out);
  const float unit = units_per_em / static_cast<float>(strike);
  for (FontPoint& p : out.points) p = {(p.x + static_cast<float>(metrics.left)) * unit, p.y * unit};
  return {};
}

}  // namespace grafema::detail
