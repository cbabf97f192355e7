// SPDX-License-Identifier: MIT
// Reads character maps of formats 4 (segments of the basic plane) and 12 (groups of any plane).
#include "font/cmap.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr std::size_t kSegmentHeader = 14, kGroupHeader = 16, kGroupBytes = 12;

/// How much a subtable is worth: full Unicode before the basic plane, the rest last. 0: not read.
int rank(std::uint16_t platform, std::uint16_t encoding, std::uint16_t format) {
  if (format != 4 && format != 12) return 0;
  if (platform == 3 && encoding == 10) return 6;
  if (platform == 0 && (encoding == 4 || encoding == 6)) return 5;
  if (platform == 3 && encoding == 1) return 4;
  if (platform == 0 && encoding != 5) return 3;
  if (platform == 3 && encoding == 0) return 2;
  return 1;
}

}  // namespace

Result<CharacterMap> CharacterMap::read(const TableView& cmap, std::uint32_t glyph_count) {
  CharacterMap map;
  if (cmap.empty()) return map;
  if (!cmap.holds(0, 4)) return damaged(cmap, 0, "a header of 4 bytes");
  const std::size_t count = be16(cmap.bytes, 2);
  if (!cmap.holds(4, count * 8)) return damaged(cmap, 2, "a subtable count that fits the table");
  int best = 0;
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t record = 4 + i * 8;
    const TableView subtable = cmap.from(be32(cmap.bytes, record + 4));
    const int value = rank(be16(cmap.bytes, record), be16(cmap.bytes, record + 2), subtable.u16(0));
    if (value <= best) continue;
    best = value;
    map.table_ = subtable;
    map.format_ = subtable.u16(0);
  }
  if (best == 0) return map;
  map.glyph_count_ = glyph_count;
  const std::size_t size = map.table_.bytes.size();
  if (map.format_ == 4) {
    map.count_ = map.table_.u16(6) / 2U;
    if (size < 16 || std::size_t{map.count_} * 8 > size - 16) return damaged(map.table_, 6, "a segment count that fits the table");
  } else {
    map.count_ = map.table_.u32(12);
    if (size < kGroupHeader || map.count_ > (size - kGroupHeader) / kGroupBytes) {
      return damaged(map.table_, 12, "a group count that fits the table");
    }
  }
  return map;
}

GlyphId CharacterMap::find(char32_t character) const {
  const std::uint32_t glyph = format_ == 4 ? find_in_segments(character) : format_ == 12 ? find_in_groups(character) : 0;
  return glyph < glyph_count_ ? GlyphId{glyph} : kMissingGlyph;
}

/// Format 4: arrays of end codes, start codes, deltas and range offsets; the last of these count from their own place.
std::uint32_t CharacterMap::find_in_segments(char32_t character) const {
  if (character > 0xFFFF) return 0;
  std::size_t low = 0, high = count_;
  while (low < high) {  // the first segment whose end is not below the character
    const std::size_t middle = (low + high) / 2;
    if (be16(table_.bytes, kSegmentHeader + middle * 2) < character) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  if (low == count_) return 0;
  const std::size_t starts = kSegmentHeader + 2 + std::size_t{count_} * 2;
  const std::size_t deltas = starts + std::size_t{count_} * 2, offsets = deltas + std::size_t{count_} * 2;
  const std::uint16_t start = be16(table_.bytes, starts + low * 2);
  if (start > character) return 0;
  const std::uint16_t delta = be16(table_.bytes, deltas + low * 2);
  const std::uint16_t offset = be16(table_.bytes, offsets + low * 2);
  if (offset == 0) return (character + delta) & 0xFFFF;
  if (offset == 0xFFFF) return 0;  // what some old fonts write for "nothing"
  const std::uint16_t glyph = table_.u16(offsets + low * 2 + offset + (character - start) * 2);
  return glyph == 0 ? 0 : (glyph + delta) & 0xFFFF;
}

std::uint32_t CharacterMap::find_in_groups(char32_t character) const {
  std::size_t low = 0, high = count_;
  while (low < high) {
    const std::size_t middle = (low + high) / 2, group = kGroupHeader + middle * kGroupBytes;
    if (be32(table_.bytes, group + 4) < character) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  if (low == count_) return 0;
  const std::size_t group = kGroupHeader + low * kGroupBytes;
  const std::uint32_t start = be32(table_.bytes, group);
  return start > character ? 0 : be32(table_.bytes, group + 8) + (character - start);
}

std::vector<std::pair<char32_t, GlyphId>> CharacterMap::all() const {
  std::vector<std::pair<char32_t, GlyphId>> out;
  if (format_ == 4) add_segments(out);
  if (format_ == 12) add_groups(out);
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.first == b.first; }), out.end());
  return out;
}

void CharacterMap::add_segments(std::vector<std::pair<char32_t, GlyphId>>& out) const {
  const std::size_t starts = kSegmentHeader + 2 + std::size_t{count_} * 2;
  char32_t next = 0;  // segments ascend; where they don't, no character is visited twice
  for (std::size_t i = 0; i < count_; ++i) {
    const char32_t end = be16(table_.bytes, kSegmentHeader + i * 2);
    for (char32_t c = std::max<char32_t>(next, be16(table_.bytes, starts + i * 2)); c <= end; ++c) {
      if (const GlyphId glyph = find(c); glyph != kMissingGlyph) out.emplace_back(c, glyph);
      next = c + 1;
    }
  }
}

void CharacterMap::add_groups(std::vector<std::pair<char32_t, GlyphId>>& out) const {
  char32_t next = 0;
  for (std::size_t i = 0; i < count_; ++i) {
    const std::size_t group = kGroupHeader + i * kGroupBytes;
    const std::uint32_t start = be32(table_.bytes, group), first = be32(table_.bytes, group + 8);
    const std::uint32_t end = std::min<std::uint32_t>(be32(table_.bytes, group + 4), 0x10FFFF);
    for (char32_t c = std::max<char32_t>(next, start); c <= end; ++c) {
      const std::uint32_t glyph = first + (c - start);
      if (glyph != 0 && glyph < glyph_count_) out.emplace_back(c, GlyphId{glyph});
      next = c + 1;
    }
  }
}

}  // namespace grafema::detail
