// SPDX-License-Identifier: MIT
// Reads kerning pairs and class kerning of old fonts.
#include "font/layout/kern.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr std::size_t kPairBytes = 6, kPairHeader = 8;
constexpr std::size_t kOldHeader = 6, kAppleHeader = 8;
/// More subtables than this make every pair slow and occur in no font.
constexpr std::size_t kMaxSubtables = 24;

enum Coverage : std::uint16_t { horizontal = 1, minimum = 2, cross_stream = 4, override_sum = 8 };
enum AppleCoverage : std::uint16_t { vertical = 0x8000, apple_cross_stream = 0x4000, variation = 0x2000 };

}  // namespace

KernTable KernTable::read(const TableView& kern) {
  KernTable table;
  const bool apple = kern.u16(0) == 1;
  if (!apple && kern.u16(0) != 0) return table;
  const std::size_t header = apple ? kAppleHeader : kOldHeader,
                    count = std::min<std::size_t>(apple ? kern.u32(4) : kern.u16(2), kMaxSubtables);
  std::size_t at = apple ? 8 : 4;
  for (std::size_t i = 0; i < count && kern.holds(at, header + kPairHeader); ++i) {
    const std::size_t length = apple ? kern.u32(at) : kern.u16(at + 2);
    const std::uint16_t coverage = kern.u16(at + 4);
    const bool plain = apple ? (coverage & (vertical | apple_cross_stream | variation)) == 0
                             : (coverage & horizontal) != 0 && (coverage & (minimum | cross_stream)) == 0;
    const unsigned format = apple ? coverage & 0xFFU : unsigned{coverage} >> 8;
    if (plain) table.add(kern.from(at), header, format, !apple && (coverage & override_sum) != 0);
    // An old length has 16 bits; where the pairs take more, the count alone tells, and nothing can follow.
    if (length < header) break;
    at += length;
  }
  return table;
}

void KernTable::add(const TableView& data, std::size_t header, unsigned format, bool overrides) {
  Subtable subtable;
  subtable.data = data;
  subtable.header = header;
  subtable.overrides = overrides;
  subtable.classes = format == 2;
  contextual_ = contextual_ || format == 1;
  if (format > 2 || format == 1 || (format == 0 && !read_pairs(subtable))) return;
  subtables_.push_back(std::move(subtable));
}

bool KernTable::read_pairs(Subtable& subtable) {
  const TableView pairs = subtable.data.from(subtable.header + kPairHeader);
  subtable.count = std::min<std::size_t>(subtable.data.u16(subtable.header), pairs.bytes.size() / kPairBytes);
  bool ascends = true;
  for (std::size_t i = 1; i < subtable.count && ascends; ++i) {
    ascends = be32(pairs.bytes, (i - 1) * kPairBytes) < be32(pairs.bytes, i * kPairBytes);
  }
  for (std::size_t i = 0; i < subtable.count && !ascends; ++i) {
    subtable.sorted.emplace_back(be32(pairs.bytes, i * kPairBytes), be16s(pairs.bytes, i * kPairBytes + 4));
  }
  // Of a pair that stands twice the first counts.
  std::stable_sort(subtable.sorted.begin(), subtable.sorted.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  return subtable.count > 0;
}

std::int16_t KernTable::find_pair(const Subtable& subtable, std::uint32_t key, bool& found) {
  const std::span<const std::byte> bytes = subtable.data.bytes.subspan(subtable.header + kPairHeader);
  if (!subtable.sorted.empty()) {
    const auto at = std::lower_bound(subtable.sorted.begin(), subtable.sorted.end(), key,
                                     [](const auto& pair, std::uint32_t k) { return pair.first < k; });
    found = at != subtable.sorted.end() && at->first == key;
    return found ? at->second : std::int16_t{0};
  }
  std::size_t low = 0, high = subtable.count;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (be32(bytes, middle * kPairBytes) < key) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  found = low < subtable.count && be32(bytes, low * kPairBytes) == key;
  return found ? be16s(bytes, low * kPairBytes + 4) : std::int16_t{0};
}

/// Format 2: the left glyph's class is where its row begins, the right one's what is to be added to that.
std::int16_t KernTable::find_class(const Subtable& subtable, std::uint32_t left, std::uint32_t right) {
  const TableView& data = subtable.data;
  const auto class_of = [&](std::size_t offset, std::uint32_t glyph, std::uint16_t& out) {
    const std::uint32_t first = data.u16(offset), count = data.u16(offset + 2);
    if (glyph < first || glyph - first >= count) return false;
    out = data.u16(offset + 4 + std::size_t{glyph - first} * 2);
    return true;
  };
  const std::size_t array = data.u16(subtable.header + 6);
  std::uint16_t row = static_cast<std::uint16_t>(array), column = 0;
  (void)class_of(data.u16(subtable.header + 2), left, row);
  (void)class_of(data.u16(subtable.header + 4), right, column);
  return row < array ? std::int16_t{0} : data.s16(std::size_t{row} + column);
}

float KernTable::find(std::uint32_t left, std::uint32_t right) const {
  if (left > 0xFFFF || right > 0xFFFF) return 0;
  int sum = 0;
  for (const Subtable& subtable : subtables_) {
    bool found = subtable.classes;
    const std::int16_t value =
        subtable.classes ? find_class(subtable, left, right) : find_pair(subtable, left << 16 | right, found);
    if (found && subtable.overrides) sum = 0;
    sum += value;
  }
  return static_cast<float>(sum);
}

void KernTable::mark_lefts(std::vector<bool>& glyphs) const {
  for (const Subtable& subtable : subtables_) {
    if (subtable.classes) {  // glyphs outside its arrays have a row too
      glyphs.assign(glyphs.size(), true);
      return;
    }
    for (std::size_t i = 0; i < subtable.count; ++i) {
      const std::size_t left = subtable.data.u16(subtable.header + kPairHeader + i * kPairBytes);
      if (left < glyphs.size()) glyphs[left] = true;
    }
  }
}

}  // namespace grafema::detail
