// SPDX-License-Identifier: MIT
// Reads kerning pairs.
#include "font/kern.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr std::size_t kPairBytes = 6, kFormat0Header = 8;

enum Coverage : std::uint16_t { horizontal = 1, minimum = 2, cross_stream = 4, override_sum = 8 };

}  // namespace

KernTable KernTable::read(const TableView& kern) {
  KernTable table;
  if (kern.u16(0) != 0) return table;
  const std::size_t count = kern.u16(2);
  std::size_t at = 4;
  for (std::size_t i = 0; i < count && kern.holds(at, 6 + kFormat0Header); ++i) {
    const std::size_t length = kern.u16(at + 2);
    const std::uint16_t coverage = kern.u16(at + 4);
    const bool plain = (coverage >> 8) == 0 && (coverage & horizontal) != 0 && (coverage & (minimum | cross_stream)) == 0;
    if (plain) add_subtable(table.subtables_, kern.from(at + 6), (coverage & override_sum) != 0);
    // The length has 16 bits; where the pairs take more, the count alone tells, and nothing can follow.
    if (length < 6) break;
    at += length;
  }
  return table;
}

void KernTable::add_subtable(std::vector<Subtable>& list, const TableView& data, bool overrides) {
  Subtable subtable;
  subtable.pairs = data.from(kFormat0Header);
  subtable.count = std::min<std::size_t>(data.u16(0), subtable.pairs.bytes.size() / kPairBytes);
  if (subtable.count == 0) return;
  subtable.overrides = overrides;
  subtable.sorted = true;
  for (std::size_t i = 1; i < subtable.count && subtable.sorted; ++i) {
    subtable.sorted = be32(subtable.pairs.bytes, (i - 1) * kPairBytes) < be32(subtable.pairs.bytes, i * kPairBytes);
  }
  list.push_back(subtable);
}

std::int16_t KernTable::find_in(const Subtable& subtable, std::uint32_t key, bool& found) {
  const std::span<const std::byte> bytes = subtable.pairs.bytes;
  std::size_t low = 0, high = subtable.count;
  if (!subtable.sorted) {
    while (low < high && be32(bytes, low * kPairBytes) != key) ++low;
  }
  while (subtable.sorted && low < high) {
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

float KernTable::find(std::uint32_t left, std::uint32_t right) const {
  if (left > 0xFFFF || right > 0xFFFF) return 0;
  int sum = 0;
  for (const Subtable& subtable : subtables_) {
    bool found = false;
    const std::int16_t value = find_in(subtable, left << 16 | right, found);
    if (found && subtable.overrides) sum = 0;
    sum += value;
  }
  return static_cast<float>(sum);
}

}  // namespace grafema::detail
