// SPDX-License-Identifier: MIT
// Reads the subtables of character maps: formats 0, 2, 4, 6, 8, 10, 12 and 13.
#include <fmt/format.h>

#include <algorithm>

#include "font/characters/cmap.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kSegmentHeader = 14, kGroupBytes = 12, kLeadBytes = 6;

}  // namespace

Result<CodeMap> CodeMap::read(const TableView& subtable) {
  CodeMap map;
  map.table_ = subtable;
  map.format_ = subtable.u16(0);
  if (subtable.bytes.size() < 2) return damaged(subtable, 0, "a subtable");
  if (const Result<void> checked = map.check(); !checked) return fail(checked.error());
  return map;
}

Result<void> CodeMap::check() {
  const std::size_t size = table_.bytes.size();
  switch (format_) {
    case 0:
      first_at_ = 6;
      count_ = std::min<std::size_t>(256, size - std::min<std::size_t>(size, first_at_));
      return {};
    case 2:
      if (!table_.holds(kLeadBytes, 512 + 8)) return damaged(table_, kLeadBytes, "256 keys and a subheader");
      return {};
    case 4:
      count_ = table_.u16(6) / 2U;
      if (size < 16 || count_ * 8 > size - 16) {
        return damaged(table_, 6, "a segment count that fits the table", fmt::format("{}", count_));
      }
      for (std::size_t i = 1; i < count_ && sorted_; ++i) {
        sorted_ =
            be16(table_.bytes, kSegmentHeader + (i - 1) * 2) < be16(table_.bytes, kSegmentHeader + i * 2);
      }
      return {};
    case 6:
      first_code_ = table_.u16(6);
      first_at_ = 10;
      count_ = std::min<std::size_t>(table_.u16(8), (size - std::min(size, first_at_)) / 2);
      return {};
    case 8:
      return check_groups(8204);
    case 10:
      first_code_ = table_.u32(12);
      first_at_ = 20;
      count_ = std::min<std::size_t>(table_.u32(16), (size - std::min(size, first_at_)) / 2);
      return {};
    case 12:
    case 13:
      return check_groups(12);
    default: {
      Error error = make_error(ErrorKind::unsupported, "a subtable of format 0, 2, 4, 6, 8, 10, 12 or 13",
                               fmt::format("format {}", format_));
      error.table = table_.tag;
      return fail(error);
    }
  }
}

Result<void> CodeMap::check_groups(std::size_t count_at) {
  first_at_ = count_at + 4;
  count_ = table_.u32(count_at);
  if (!table_.holds(first_at_, 0) || count_ > (table_.bytes.size() - first_at_) / kGroupBytes) {
    return damaged(table_, count_at, "a group count that fits the table", fmt::format("{}", count_));
  }
  for (std::size_t i = 1; i < count_ && sorted_; ++i) {
    sorted_ = be32(table_.bytes, first_at_ + (i - 1) * kGroupBytes + 4) <
              be32(table_.bytes, first_at_ + i * kGroupBytes + 4);
  }
  return {};
}

std::uint32_t CodeMap::find(std::uint32_t code) const {
  switch (format_) {
    case 0:
      return code < count_ ? static_cast<std::uint32_t>(table_.bytes[first_at_ + code]) : 0;
    case 2:
      return find_in_lead_bytes(code);
    case 4:
      return find_in_segments(code);
    case 6:
    case 10:
      return code >= first_code_ && code - first_code_ < count_
                 ? be16(table_.bytes, first_at_ + std::size_t{code - first_code_} * 2)
                 : 0;
    case 8:
    case 12:
    case 13:
      return find_in_groups(code);
    default:
      return 0;
  }
}

/// Format 2: the lead byte chooses a subheader, which maps a run of second bytes; subheader 0 is for single
/// bytes.
std::uint32_t CodeMap::find_in_lead_bytes(std::uint32_t code) const {
  if (code > 0xFFFF) return 0;
  const std::uint32_t lead = code >> 8, low = code & 0xFF;
  const std::size_t key = table_.u16(kLeadBytes + std::size_t{code < 0x100 ? low : lead} * 2);
  // A code of one byte must not be a lead byte, one of two must begin with one.
  if ((code < 0x100) != (key == 0)) return 0;
  const std::size_t header = kLeadBytes + 512 + key;
  const std::uint32_t first = table_.u16(header), count = table_.u16(header + 2);
  if (low < first || low - first >= count) return 0;
  const std::uint16_t glyph = table_.u16(header + 6 + table_.u16(header + 6) + std::size_t{low - first} * 2);
  return glyph == 0 ? 0 : (glyph + table_.u16(header + 4)) & 0xFFFFU;
}

/// Format 4: arrays of end codes, start codes, deltas and range offsets; the last of these count from their
/// own place.
std::uint32_t CodeMap::find_in_segments(std::uint32_t code) const {
  if (code > 0xFFFF) return 0;
  if (!sorted_) {
    for (std::size_t i = 0; i < count_; ++i) {
      const std::uint32_t glyph =
          be16(table_.bytes, kSegmentHeader + i * 2) >= code ? glyph_in_segment(i, code) : 0;
      if (glyph != 0) return glyph;
    }
    return 0;
  }
  std::size_t low = 0, high = count_;
  while (low < high) {  // the first segment whose end is not below the character
    const std::size_t middle = (low + high) / 2;
    if (be16(table_.bytes, kSegmentHeader + middle * 2) < code) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  return low == count_ ? 0 : glyph_in_segment(low, code);
}

/// `code` is not above the segment's end.
std::uint32_t CodeMap::glyph_in_segment(std::size_t segment, std::uint32_t code) const {
  const std::size_t starts = kSegmentHeader + 2 + count_ * 2, deltas = starts + count_ * 2,
                    offsets = deltas + count_ * 2;
  const std::uint16_t start = be16(table_.bytes, starts + segment * 2);
  if (start > code) return 0;
  const std::uint16_t delta = be16(table_.bytes, deltas + segment * 2),
                      offset = be16(table_.bytes, offsets + segment * 2);
  if (offset == 0) return (code + delta) & 0xFFFF;
  if (offset == 0xFFFF) return 0;  // what some old fonts write for "nothing"
  const std::uint16_t glyph = table_.u16(offsets + segment * 2 + offset + std::size_t{code - start} * 2);
  return glyph == 0 ? 0 : (glyph + delta) & 0xFFFFU;
}

std::uint32_t CodeMap::find_in_groups(std::uint32_t code) const {
  std::size_t low = 0, high = count_;
  const auto group_at = [this](std::size_t i) { return first_at_ + i * kGroupBytes; };
  if (!sorted_) {
    while (low < high &&
           (be32(table_.bytes, group_at(low)) > code || be32(table_.bytes, group_at(low) + 4) < code)) {
      ++low;
    }
    high = low;
  }
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (be32(table_.bytes, group_at(middle) + 4) < code) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  if (low == count_) return 0;
  const std::uint32_t start = be32(table_.bytes, group_at(low)),
                      glyph = be32(table_.bytes, group_at(low) + 8);
  if (start > code) return 0;
  return format_ == 13 ? glyph : glyph + (code - start);
}

CodeMap::Span CodeMap::span(std::size_t i) const {
  constexpr std::uint32_t kLast = 0x10FFFF;
  if (format_ == 4) {
    const std::size_t starts = kSegmentHeader + 2 + count_ * 2;
    return {be16(table_.bytes, starts + i * 2), be16(table_.bytes, kSegmentHeader + i * 2)};
  }
  if (format_ == 10) {
    return {first_code_, std::min<std::uint32_t>(kLast, first_code_ + static_cast<std::uint32_t>(count_))};
  }
  if (format_ < 8) return {0, format_ == 0 ? 0xFFU : 0xFFFFU};
  const std::size_t group = first_at_ + i * kGroupBytes;
  const std::uint32_t last = be32(table_.bytes, group + 4);
  // Codes of format 8 beyond the basic plane may be pairs of surrogates.
  return {be32(table_.bytes, group), format_ == 8 ? last : std::min(last, kLast)};
}

std::size_t CodeMap::span_count() const { return format_ == 4 || format_ == 8 || format_ >= 12 ? count_ : 1; }

std::uint32_t CodeMap::glyph_in_span(std::size_t i, std::uint32_t code) const {
  if (format_ == 4) return glyph_in_segment(i, code);
  if (format_ != 8 && format_ < 12) return find(code);
  const std::size_t group = first_at_ + i * kGroupBytes;
  const std::uint32_t glyph = be32(table_.bytes, group + 8);
  return format_ == 13 ? glyph : glyph + (code - be32(table_.bytes, group));
}

}  // namespace grafema::detail
