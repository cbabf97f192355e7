// SPDX-License-Identifier: MIT
// Palettes, layers of COLR version 0, and embedded pictures.
#include "font/color/color_tables.hpp"

#include <algorithm>

#include "font/metrics/bitmap_tables.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kMaxPalettes = 1024;

}  // namespace

ColorKinds read_color_kinds(const Directory& directory) {
  const TableView colr = directory.find(tag("COLR"));
  ColorKinds kinds;
  kinds.layers = colr.u16(2) > 0;
  kinds.paints = colr.u16(0) >= 1 && colr.u32(14) != 0;
  kinds.cbdt = !directory.find(tag("CBDT")).empty() && !directory.find(tag("CBLC")).empty();
  kinds.sbix = !directory.find(tag("sbix")).empty();
  kinds.bitmaps = kinds.cbdt || kinds.sbix;
  kinds.documents = !directory.find(tag("SVG ")).empty();
  return kinds;
}

std::vector<Palette> read_palettes(const TableView& cpal) {
  std::vector<Palette> palettes;
  const std::size_t entries = cpal.u16(2), count = std::min<std::size_t>(cpal.u16(4), kMaxPalettes),
                    colors_at = cpal.u32(8);
  const std::uint32_t types_at = cpal.u16(0) >= 1 ? cpal.u32(12 + std::size_t{cpal.u16(4)} * 2) : 0;
  for (std::size_t p = 0; p < count && cpal.holds(12 + p * 2, 2); ++p) {
    const std::size_t first = colors_at + cpal.u16(12 + p * 2) * std::size_t{4};
    if (!cpal.holds(first, entries * 4)) break;
    Palette palette;
    for (std::size_t i = 0; i < entries; ++i) {
      const auto channel = [&](std::size_t c) {
        return static_cast<float>(static_cast<unsigned>(cpal.bytes[first + i * 4 + c])) / 255.0F;
      };
      palette.colors.push_back(
          {channel(2), channel(1), channel(0), channel(3)});  // stored as blue, green, red, alpha
    }
    const std::uint32_t type = types_at == 0 ? 0 : cpal.u32(types_at + p * 4);
    palette.for_light_backgrounds = (type & 1) != 0;
    palette.for_dark_backgrounds = (type & 2) != 0;
    palettes.push_back(std::move(palette));
  }
  return palettes;
}

std::vector<ColorLayer> read_color_layers(const TableView& colr, std::uint32_t glyph) {
  std::vector<ColorLayer> layers;
  const std::size_t bases_at = colr.u32(4), layers_at = colr.u32(8), layer_count = colr.u16(12);
  std::size_t low = 0, high = colr.u16(2);
  const std::size_t base_count = high;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (colr.u16(bases_at + middle * 6) < glyph) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  const std::size_t base = bases_at + low * 6;
  if (low == base_count || !colr.holds(base, 6) || colr.u16(base) != glyph) return layers;
  const std::size_t first = colr.u16(base + 2), count = colr.u16(base + 4);
  for (std::size_t i = first; i < first + count && i < layer_count && colr.holds(layers_at + i * 4, 4); ++i) {
    layers.push_back({GlyphId{colr.u16(layers_at + i * 4)}, {colr.u16(layers_at + i * 4 + 2), 1}});
  }
  return layers;
}

namespace {

/// Fonts have a handful of sizes.
constexpr std::size_t kMaxStrikes = 256;

std::optional<GlyphBitmap> read_cbdt(const TableView& cblc, const TableView& cbdt,
                                     const BitmapLocation& place, std::uint16_t size) {
  const std::size_t header = place.format == 17 ? 5 : place.format == 18 ? 8 : 0;
  if (place.format < 17 || place.format > 19 || !cbdt.holds(place.offset, header + 4)) return std::nullopt;
  GlyphBitmap bitmap;
  bitmap.pixels_per_em = size;
  const BitmapMetrics metrics =
      header != 0 ? read_bitmap_metrics(cbdt, place.offset) : read_bitmap_metrics(cblc, place.metrics_at);
  bitmap.width = static_cast<std::uint16_t>(metrics.width);
  bitmap.height = static_cast<std::uint16_t>(metrics.height);
  bitmap.offset = {static_cast<float>(metrics.left), -static_cast<float>(metrics.top)};
  bitmap.advance = static_cast<float>(metrics.advance);
  const std::size_t length = cbdt.u32(place.offset + header);
  if (!cbdt.holds(place.offset + header + 4, length)) return std::nullopt;
  bitmap.bytes = cbdt.bytes.subspan(place.offset + header + 4, length);
  return bitmap;
}

std::optional<GlyphBitmap> find_cbdt(const Directory& directory, std::uint32_t glyph, std::uint16_t size) {
  const TableView cblc = directory.find(tag("CBLC")), cbdt = directory.find(tag("CBDT"));
  const std::optional<BitmapLocation> place = find_bitmap(cblc, glyph, size);
  return place ? read_cbdt(cblc, cbdt, *place, size) : std::nullopt;
}

BitmapFormat format_of(Tag type) {
  if (type == tag("png ")) return BitmapFormat::png;
  if (type == tag("jpg ")) return BitmapFormat::jpeg;
  return type == tag("tiff") ? BitmapFormat::tiff : BitmapFormat::unknown;
}

std::optional<GlyphBitmap> find_sbix(const TableView& sbix, std::uint32_t glyph, std::uint32_t glyph_count,
                                     std::uint16_t size) {
  for (std::size_t s = 0; s < std::min<std::size_t>(sbix.u32(4), kMaxStrikes) && sbix.holds(8 + s * 4, 4);
       ++s) {
    const TableView strike = sbix.from(sbix.u32(8 + s * 4));
    if (strike.u16(0) != size || glyph >= glyph_count) continue;
    for (int hops = 0; hops < 2; ++hops) {  // a glyph may say that it looks as another
      const std::size_t begin = strike.u32(4 + std::size_t{glyph} * 4),
                        end = strike.u32(8 + std::size_t{glyph} * 4);
      if (end < begin + 8 || !strike.holds(begin, end - begin)) return std::nullopt;
      const Tag type{strike.u32(begin + 4)};
      if (type == tag("dupe")) {
        glyph = strike.u16(begin + 8);
        if (glyph >= glyph_count) return std::nullopt;
        continue;
      }
      GlyphBitmap bitmap;
      bitmap.format = format_of(type);
      bitmap.bytes = strike.bytes.subspan(begin + 8, end - begin - 8);
      bitmap.pixels_per_em = size;
      bitmap.offset = {static_cast<float>(strike.s16(begin)), -static_cast<float>(strike.s16(begin + 2))};
      bitmap.from_bottom = true;
      return bitmap;
    }
  }
  return std::nullopt;
}

}  // namespace

std::vector<std::uint16_t> read_bitmap_sizes(const Directory& directory) {
  std::vector<std::uint16_t> sizes = bitmap_sizes_of(directory.find(tag("CBLC")));
  const TableView sbix = directory.find(tag("sbix"));
  for (std::size_t s = 0; s < std::min<std::size_t>(sbix.u32(4), kMaxStrikes) && sbix.holds(8 + s * 4, 4);
       ++s) {
    sizes.push_back(sbix.from(sbix.u32(8 + s * 4)).u16(0));
  }
  std::sort(sizes.begin(), sizes.end());
  sizes.erase(std::unique(sizes.begin(), sizes.end()), sizes.end());
  return sizes;
}

std::optional<GlyphBitmap> read_bitmap(const Directory& directory, std::uint32_t glyph,
                                       std::uint16_t pixels_per_em) {
  if (auto found = find_cbdt(directory, glyph, pixels_per_em)) return found;
  return find_sbix(directory.find(tag("sbix")), glyph, directory.find(tag("maxp")).u16(4), pixels_per_em);
}

}  // namespace grafema::detail
