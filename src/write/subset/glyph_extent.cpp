// SPDX-License-Identifier: MIT
// Walks flags and counts without reading coordinates (OpenType, glyf and gvar).
#include "write/subset/glyph_extent.hpp"

#include <algorithm>
#include <cstdint>

namespace grafema::detail {
namespace {

constexpr std::size_t kHeader = 10;
constexpr std::size_t kShortX = 2, kShortY = 4, kRepeat = 8, kSameX = 16, kSameY = 32;
constexpr std::uint16_t kSharedPoints = 0x8000, kTupleCount = 0x0FFF, kOwnPeak = 0x8000, kBetween = 0x4000;

/// Bytes of one coordinate of a point.
std::size_t coordinate_size(std::size_t flags, std::size_t is_short, std::size_t is_same) {
  if ((flags & is_short) != 0) return 1;
  return (flags & is_same) != 0 ? 0 : 2;
}

/// Where packed point numbers that begin at `at` end.
std::optional<std::size_t> points_end(const TableView& data, std::size_t at) {
  if (!data.holds(at, 1)) return std::nullopt;
  std::size_t count = data.u8(at++);
  if ((count & 0x80U) != 0) {
    if (!data.holds(at, 1)) return std::nullopt;
    count = (count & 0x7FU) << 8U | data.u8(at++);
  }
  while (count > 0) {
    if (!data.holds(at, 1)) return std::nullopt;
    const std::size_t control = data.u8(at++), run = (control & 0x7FU) + 1;
    const std::size_t bytes = run * ((control & 0x80U) != 0 ? 2 : 1);
    if (run > count || !data.holds(at, bytes)) return std::nullopt;
    at += bytes, count -= run;
  }
  return at;
}

}  // namespace

std::optional<std::size_t> simple_glyph_extent(const TableView& glyph) {
  if (!glyph.holds(0, kHeader)) return std::nullopt;
  const std::size_t contours = glyph.u16(0);
  if (contours == 0) return kHeader;
  std::size_t at = kHeader + contours * 2;
  if (!glyph.holds(kHeader, contours * 2 + 2)) return std::nullopt;
  const std::size_t points = glyph.u16(at - 2) + std::size_t{1};
  at += 2 + std::size_t{glyph.u16(at)};
  std::size_t coordinates = 0;
  for (std::size_t read = 0; read < points;) {
    if (!glyph.holds(at, 1)) return std::nullopt;
    const std::size_t flags = glyph.u8(at++);
    std::size_t times = 1;
    if ((flags & kRepeat) != 0) {
      if (!glyph.holds(at, 1)) return std::nullopt;
      times = std::min(points - read, glyph.u8(at++) + std::size_t{1});
    }
    coordinates +=
        times * (coordinate_size(flags, kShortX, kSameX) + coordinate_size(flags, kShortY, kSameY));
    read += times;
  }
  if (!glyph.holds(at, coordinates)) return std::nullopt;
  return at + coordinates;
}

std::size_t composite_extent(const TableView& glyph, std::size_t parts_end, bool has_program) {
  if (!has_program || !glyph.holds(parts_end, 2)) return parts_end;
  const std::size_t end = parts_end + 2 + glyph.u16(parts_end);
  return end <= glyph.bytes.size() ? end : parts_end;
}

std::optional<std::size_t> glyph_deltas_extent(const TableView& deltas, std::size_t axes) {
  if (deltas.empty()) return 0;
  if (!deltas.holds(0, 4)) return std::nullopt;
  const std::uint16_t head = deltas.u16(0);
  std::size_t header = 4, at = deltas.u16(2);
  if ((head & kSharedPoints) != 0) {
    const auto end = points_end(deltas, at);
    if (!end) return std::nullopt;
    at = *end;
  }
  for (std::size_t tuples = head & kTupleCount; tuples > 0; --tuples) {
    if (!deltas.holds(header, 4)) return std::nullopt;
    const std::uint16_t index = deltas.u16(header + 2);
    at += deltas.u16(header);
    header += 4 + ((index & kOwnPeak) != 0 ? axes * 2 : 0) + ((index & kBetween) != 0 ? axes * 4 : 0);
  }
  const std::size_t end = std::max(at, header);
  if (!deltas.holds(0, end)) return std::nullopt;
  return end;
}

}  // namespace grafema::detail
