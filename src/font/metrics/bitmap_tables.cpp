// SPDX-License-Identifier: MIT
// Searches EBLC and CBLC for the pictures of glyphs.
#include "font/metrics/bitmap_tables.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr std::size_t kSizeBytes = 48, kSizesAt = 8;
/// Fonts have a handful of sizes; and records that one search may look at, far above what a real font makes
/// it.
constexpr std::size_t kMaxSizes = 256, kMaxRecords = 140'000;

std::size_t size_count(const TableView& index) {
  return index.bytes.size() < kSizesAt
             ? 0
             : std::min({std::size_t{index.u32(4)}, (index.bytes.size() - kSizesAt) / kSizeBytes, kMaxSizes});
}

std::uint8_t u8(const TableView& table, std::size_t at) {
  return table.holds(at, 1) ? static_cast<std::uint8_t>(table.bytes[at]) : std::uint8_t{0};
}
std::int8_t s8(const TableView& table, std::size_t at) { return static_cast<std::int8_t>(u8(table, at)); }

std::optional<BitmapLocation> locate(const TableView& index, std::size_t subtable, std::uint32_t glyph,
                                     std::uint32_t first, std::size_t& left) {
  const std::uint16_t index_format = index.u16(subtable);
  BitmapLocation place{index.u32(subtable + 4), 0, index.u16(subtable + 2), 0, 1};
  const std::size_t body = subtable + 8, i = glyph - first;
  const auto between = [&place](std::size_t begin, std::size_t end) {
    place.offset += begin;
    place.size = end > begin ? end - begin : 0;
  };
  switch (index_format) {
    case 1:
      between(index.u32(body + i * 4), index.u32(body + i * 4 + 4));
      break;
    case 3:
      between(index.u16(body + i * 2), index.u16(body + i * 2 + 2));
      break;
    case 2:
      place.size = index.u32(body);
      place.offset += place.size * i;
      place.metrics_at = body + 4;
      break;
    case 4:
      for (std::size_t g = 0; g < index.u32(body) && index.holds(body + 4 + g * 4, 8) && left > 0;
           ++g, --left) {
        if (index.u16(body + 4 + g * 4) == glyph) {
          between(index.u16(body + 6 + g * 4), index.u16(body + 10 + g * 4));
        }
      }
      break;
    case 5:
      for (std::size_t g = 0; g < index.u32(body + 12) && index.holds(body + 16 + g * 2, 2) && left > 0;
           ++g, --left) {
        if (index.u16(body + 16 + g * 2) != glyph) continue;
        place.size = index.u32(body);
        place.offset += place.size * g;
      }
      place.metrics_at = body + 4;
      break;
    default:
      break;
  }
  return place.size == 0 ? std::nullopt : std::optional(place);
}

}  // namespace

std::optional<BitmapLocation> find_bitmap(const TableView& index, std::uint32_t glyph,
                                          std::uint16_t pixels_per_em) {
  std::size_t left = kMaxRecords;
  for (std::size_t s = 0; s < size_count(index); ++s) {
    const std::size_t record = kSizesAt + s * kSizeBytes;
    if (u8(index, record + 45) != pixels_per_em || glyph < index.u16(record + 40) ||
        glyph > index.u16(record + 42)) {
      continue;
    }
    const std::size_t array = index.u32(record), count = index.u32(record + 8);
    for (std::size_t i = 0; i < count && index.holds(array + i * 8, 8) && left > 0; ++i, --left) {
      const std::uint32_t first = index.u16(array + i * 8), last = index.u16(array + i * 8 + 2);
      if (glyph < first || glyph > last) continue;
      std::optional<BitmapLocation> place =
          locate(index, array + index.u32(array + i * 8 + 4), glyph, first, left);
      if (place) place->bits = u8(index, record + 46);
      if (place) return place;
    }
  }
  return std::nullopt;
}

bool has_strikes(const Directory& directory) {
  return !directory.find(tag("EBLC")).empty() && !directory.find(tag("EBDT")).empty();
}

std::vector<std::uint16_t> bitmap_sizes_of(const TableView& index) {
  std::vector<std::uint16_t> sizes;
  for (std::size_t s = 0; s < size_count(index); ++s)
    sizes.push_back(u8(index, kSizesAt + s * kSizeBytes + 45));
  return sizes;
}

BitmapMetrics read_bitmap_metrics(const TableView& table, std::size_t at) {
  return {u8(table, at), u8(table, at + 1), s8(table, at + 2), s8(table, at + 3), u8(table, at + 4)};
}

}  // namespace grafema::detail
