// SPDX-License-Identifier: MIT
// Sets and classes of glyphs, device tables and value records (OpenType, chapter 2).
#include <algorithm>
#include <bit>

#include "font/layout/layout_bytes.hpp"

namespace grafema {

using detail::find_first;
using detail::TableView;
using detail::view;

namespace {

constexpr std::size_t kRangeBytes = 6;
constexpr std::size_t kMaxGlyphs = 0x10000;

/// The index of the six-byte range (first, last, value) that holds the glyph.
std::optional<std::size_t> find_range(const TableView& table, std::size_t count, std::uint32_t glyph) {
  const std::size_t i =
      find_first(count, [&](std::size_t r) { return table.u16(4 + r * kRangeBytes + 2) < glyph; });
  if (i == count || table.u16(4 + i * kRangeBytes) > glyph) return std::nullopt;
  return i;
}

}  // namespace

std::optional<std::uint32_t> GlyphSet::find(GlyphId id) const {
  const TableView table = view(bytes_);
  const std::uint32_t glyph = index_of(id);
  const std::uint16_t format = table.u16(0);
  if (glyph >= kMaxGlyphs) return std::nullopt;
  if (format == 2) {
    const std::optional<std::size_t> range = find_range(table, table.u16(2), glyph);
    if (!range) return std::nullopt;
    const std::size_t at = 4 + *range * kRangeBytes;
    return table.u16(at + 4) + (glyph - table.u16(at));
  }
  if (format != 1) return std::nullopt;
  const std::size_t count = table.u16(2);
  const std::size_t i = find_first(count, [&](std::size_t g) { return table.u16(4 + g * 2) < glyph; });
  if (i == count || !table.holds(4 + i * 2, 2) || table.u16(4 + i * 2) != glyph) return std::nullopt;
  return static_cast<std::uint32_t>(i);
}

std::vector<GlyphId> GlyphSet::glyphs() const {
  const TableView table = view(bytes_);
  const std::size_t count = table.u16(2);
  std::vector<GlyphId> out;
  for (std::size_t i = 0; table.u16(0) == 1 && i < count && table.holds(4 + i * 2, 2); ++i) {
    out.push_back(GlyphId{table.u16(4 + i * 2)});
  }
  for (std::size_t i = 0; table.u16(0) == 2 && i < count && table.holds(4 + i * kRangeBytes, kRangeBytes);
       ++i) {
    const std::uint32_t first = table.u16(4 + i * kRangeBytes), last = table.u16(4 + i * kRangeBytes + 2);
    for (std::uint32_t g = first; g <= last && out.size() < kMaxGlyphs; ++g) out.push_back(GlyphId{g});
  }
  return out;
}

std::uint16_t GlyphClasses::class_of(GlyphId id) const {
  const TableView table = view(bytes_);
  const std::uint32_t glyph = index_of(id);
  const std::uint16_t format = table.u16(0);
  if (glyph >= kMaxGlyphs) return 0;
  if (format == 1) {
    const std::uint32_t first = table.u16(2), count = table.u16(4);
    return glyph >= first && glyph - first < count ? table.u16(6 + std::size_t{glyph - first} * 2)
                                                   : std::uint16_t{0};
  }
  if (format != 2) return 0;
  const std::optional<std::size_t> range = find_range(table, table.u16(2), glyph);
  return range ? table.u16(4 + *range * kRangeBytes + 4) : std::uint16_t{0};
}

std::vector<GlyphId> GlyphClasses::glyphs() const {
  const TableView table = view(bytes_);
  std::vector<GlyphId> out;
  const auto add = [&out](std::uint32_t first, std::uint32_t last) {
    for (std::uint32_t g = first; g <= last && out.size() < kMaxGlyphs; ++g) out.push_back(GlyphId{g});
  };
  if (table.u16(0) == 1 && table.u16(4) > 0) {
    add(table.u16(2), std::min<std::uint32_t>(0xFFFF, table.u16(2) + table.u16(4) - 1U));
  }
  for (std::size_t i = 0;
       table.u16(0) == 2 && i < table.u16(2) && table.holds(4 + i * kRangeBytes, kRangeBytes); ++i) {
    add(table.u16(4 + i * kRangeBytes), table.u16(4 + i * kRangeBytes + 2));
  }
  return out;
}

bool GlyphMatcher::matches(GlyphId glyph) const {
  if (const auto* own = std::get_if<GlyphId>(&what)) return *own == glyph;
  if (const auto* by_class = std::get_if<std::pair<GlyphClasses, std::uint16_t>>(&what)) {
    return by_class->first.class_of(glyph) == by_class->second;
  }
  const auto* set = std::get_if<GlyphSet>(&what);
  return set != nullptr && set->holds(glyph);
}

namespace detail {

DeviceDelta read_device(TableBytes bytes, const ItemVariations* variations, std::uint16_t pixels_per_em) {
  const TableView device = view(bytes);
  const std::uint16_t first = device.u16(0), last = device.u16(2), format = device.u16(4);
  constexpr std::uint16_t kVariationIndex = 0x8000;
  if (format == kVariationIndex) return {variations == nullptr ? 0 : variations->delta({first, last}), 0};
  if (format < 1 || format > 3 || pixels_per_em < first || pixels_per_em > last) return {};
  // Signed numbers of 2, 4 or 8 bits, one a size, packed into words from the highest bit on.
  const unsigned bits = 1U << format, a_word = 16 / bits, i = static_cast<unsigned>(pixels_per_em - first);
  const unsigned word = device.u16(6 + std::size_t{i / a_word} * 2);
  const int value = static_cast<int>(word >> (16 - bits * (i % a_word + 1)) & ((1U << bits) - 1));
  const int wrap = 1 << bits;
  return {0, static_cast<float>(value >= wrap / 2 ? value - wrap : value)};
}

std::size_t value_bytes(std::uint16_t format) {
  return static_cast<std::size_t>(std::popcount(unsigned{format} & 0xFFU)) * 2;
}

Adjustment read_value(const ValueContext& context, std::size_t at, std::uint16_t format) {
  Adjustment out;
  float* const fields[] = {&out.x_placement, &out.y_placement, &out.x_advance, &out.y_advance};
  for (unsigned bit = 0; bit < 8; ++bit) {
    if ((format >> bit & 1U) == 0) continue;
    if (bit < 4) {
      *fields[bit] = context.parent.s16(at);
    } else {
      const DeviceDelta delta =
          read_device(sub_table(context.parent, at), context.variations, context.pixels_per_em);
      *fields[bit - 4] += delta.units + delta.pixels * context.units_per_pixel;
    }
    at += 2;
  }
  return out;
}

}  // namespace detail
}  // namespace grafema
