// SPDX-License-Identifier: MIT
// Palettes, layers of COLR version 0, and embedded pictures.
#include "font/color/color_tables.hpp"

#include <algorithm>

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

constexpr std::size_t kSizeBytes = 48, kSizesAt = 8;
/// Fonts have a handful of sizes; and records that one search may look at, far above what a real font makes
/// it.
constexpr std::size_t kMaxSizes = 256, kMaxRecords = 4'000'000;

std::size_t size_count(const TableView& cblc) {
  return cblc.bytes.size() < kSizesAt
             ? 0
             : std::min({std::size_t{cblc.u32(4)}, (cblc.bytes.size() - kSizesAt) / kSizeBytes, kMaxSizes});
}

std::uint8_t u8(const TableView& table, std::size_t at) {
  return table.holds(at, 1) ? static_cast<std::uint8_t>(table.bytes[at]) : std::uint8_t{0};
}
std::int8_t s8(const TableView& table, std::size_t at) { return static_cast<std::int8_t>(u8(table, at)); }

/// Where a glyph's picture stands in CBDT, and the metrics that CBLC has for all glyphs of a subtable.
struct Location {
  std::size_t offset = 0, size = 0;
  std::uint16_t format = 0;
  std::size_t metrics_at = 0;  ///< in CBLC; 0: with the picture
};

std::optional<Location> locate(const TableView& cblc, std::size_t subtable, std::uint32_t glyph,
                               std::uint32_t first, std::size_t& left) {
  const std::uint16_t index_format = cblc.u16(subtable);
  Location place{cblc.u32(subtable + 4), 0, cblc.u16(subtable + 2), 0};
  const std::size_t body = subtable + 8, i = glyph - first;
  const auto between = [&place](std::size_t begin, std::size_t end) {
    place.offset += begin;
    place.size = end > begin ? end - begin : 0;
  };
  switch (index_format) {
    case 1:
      between(cblc.u32(body + i * 4), cblc.u32(body + i * 4 + 4));
      break;
    case 3:
      between(cblc.u16(body + i * 2), cblc.u16(body + i * 2 + 2));
      break;
    case 2:
      place.size = cblc.u32(body);
      place.offset += place.size * i;
      place.metrics_at = body + 4;
      break;
    case 4:
      for (std::size_t g = 0; g < cblc.u32(body) && cblc.holds(body + 4 + g * 4, 8) && left > 0;
           ++g, --left) {
        if (cblc.u16(body + 4 + g * 4) == glyph) {
          between(cblc.u16(body + 6 + g * 4), cblc.u16(body + 10 + g * 4));
        }
      }
      break;
    case 5:
      for (std::size_t g = 0; g < cblc.u32(body + 12) && cblc.holds(body + 16 + g * 2, 2) && left > 0;
           ++g, --left) {
        if (cblc.u16(body + 16 + g * 2) != glyph) continue;
        place.size = cblc.u32(body);
        place.offset += place.size * g;
      }
      place.metrics_at = body + 4;
      break;
    default:
      break;
  }
  return place.size == 0 ? std::nullopt : std::optional(place);
}

void read_metrics(const TableView& table, std::size_t at, GlyphBitmap& out) {
  out.height = u8(table, at);
  out.width = u8(table, at + 1);
  out.offset = {static_cast<float>(s8(table, at + 2)), -static_cast<float>(s8(table, at + 3))};
  out.advance = u8(table, at + 4);
}

std::optional<GlyphBitmap> read_cbdt(const TableView& cblc, const TableView& cbdt, const Location& place,
                                     std::uint16_t size) {
  const std::size_t header = place.format == 17 ? 5 : place.format == 18 ? 8 : 0;
  if (place.format < 17 || place.format > 19 || !cbdt.holds(place.offset, header + 4)) return std::nullopt;
  GlyphBitmap bitmap;
  bitmap.pixels_per_em = size;
  if (header != 0) {
    read_metrics(cbdt, place.offset, bitmap);
  } else {
    read_metrics(cblc, place.metrics_at, bitmap);
  }
  const std::size_t length = cbdt.u32(place.offset + header);
  if (!cbdt.holds(place.offset + header + 4, length)) return std::nullopt;
  bitmap.bytes = cbdt.bytes.subspan(place.offset + header + 4, length);
  return bitmap;
}

std::optional<GlyphBitmap> find_cbdt(const Directory& directory, std::uint32_t glyph, std::uint16_t size) {
  const TableView cblc = directory.find(tag("CBLC")), cbdt = directory.find(tag("CBDT"));
  std::size_t left = kMaxRecords;
  for (std::size_t s = 0; s < size_count(cblc); ++s) {
    const std::size_t record = kSizesAt + s * kSizeBytes;
    if (u8(cblc, record + 45) != size || glyph < cblc.u16(record + 40) || glyph > cblc.u16(record + 42)) {
      continue;
    }
    const std::size_t array = cblc.u32(record), count = cblc.u32(record + 8);
    for (std::size_t i = 0; i < count && cblc.holds(array + i * 8, 8) && left > 0; ++i, --left) {
      const std::uint32_t first = cblc.u16(array + i * 8), last = cblc.u16(array + i * 8 + 2);
      if (glyph < first || glyph > last) continue;
      const std::optional<Location> place =
          locate(cblc, array + cblc.u32(array + i * 8 + 4), glyph, first, left);
      if (place) return read_cbdt(cblc, cbdt, *place, size);
    }
  }
  return std::nullopt;
}

BitmapFormat format_of(Tag type) {
  if (type == tag("png ")) return BitmapFormat::png;
  if (type == tag("jpg ")) return BitmapFormat::jpeg;
  return type == tag("tiff") ? BitmapFormat::tiff : BitmapFormat::unknown;
}

std::optional<GlyphBitmap> find_sbix(const TableView& sbix, std::uint32_t glyph, std::uint32_t glyph_count,
                                     std::uint16_t size) {
  for (std::size_t s = 0; s < std::min<std::size_t>(sbix.u32(4), kMaxSizes) && sbix.holds(8 + s * 4, 4);
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
  std::vector<std::uint16_t> sizes;
  const TableView cblc = directory.find(tag("CBLC")), sbix = directory.find(tag("sbix"));
  for (std::size_t s = 0; s < size_count(cblc); ++s) {
    sizes.push_back(u8(cblc, kSizesAt + s * kSizeBytes + 45));
  }
  for (std::size_t s = 0; s < std::min<std::size_t>(sbix.u32(4), kMaxSizes) && sbix.holds(8 + s * 4, 4);
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
