// SPDX-License-Identifier: MIT
// Sorts what glyphs consist of into streams (WOFF 2.0, sections 5.1 and 5.2).
#include "files/fonts/outline_streams.hpp"

#include <algorithm>
#include <cstdlib>

namespace grafema::detail {
namespace {

void short255(TableWriter& out, unsigned value) {
  if (value < 253) {
    out.u8(value);
  } else if (value < 506) {
    out.u8(255), out.u8(value - 253);
  } else if (value < 762) {
    out.u8(254), out.u8(value - 506);
  } else {
    out.u8(253), out.u16(value);
  }
}

/// A step to the next point: the shortest form that holds it.
void put_step(TableWriter& flags, TableWriter& data, int dx, int dy, bool on) {
  const auto ax = static_cast<unsigned>(std::abs(dx)), ay = static_cast<unsigned>(std::abs(dy));
  const unsigned off = on ? 0 : 128, sx = dx > 0 ? 1 : 0, sy = dy > 0 ? 1 : 0;
  if (dx == 0 && ay < 1280) {
    flags.u8(off + ((ay & 0xF00U) >> 7U) + sy);
    data.u8(ay & 0xFFU);
  } else if (dy == 0 && ax < 1280) {
    flags.u8(off + 10 + ((ax & 0xF00U) >> 7U) + sx);
    data.u8(ax & 0xFFU);
  } else if (ax > 0 && ay > 0 && ax < 65 && ay < 65) {
    flags.u8(off + 20 + ((ax - 1) & 0x30U) + (((ay - 1) & 0x30U) >> 2U) + sx + 2 * sy);
    data.u8((((ax - 1) & 0xFU) << 4U) | ((ay - 1) & 0xFU));
  } else if (ax > 0 && ay > 0 && ax < 769 && ay < 769) {
    flags.u8(off + 84 + 12 * (((ax - 1) & 0x300U) >> 8U) + (((ay - 1) & 0x300U) >> 6U) + sx + 2 * sy);
    data.u8((ax - 1) & 0xFFU), data.u8((ay - 1) & 0xFFU);
  } else if (ax < 4096 && ay < 4096) {
    flags.u8(off + 120 + sx + 2 * sy);
    data.u8(ax >> 4U), data.u8(((ax & 0xFU) << 4U) | (ay >> 8U)), data.u8(ay & 0xFFU);
  } else {
    flags.u8(off + 124 + sx + 2 * sy);
    data.u16(ax), data.u16(ay);
  }
}

class Streams {
 public:
  explicit Streams(std::uint32_t glyph_count)
      : box_bits_((std::size_t{glyph_count} + 31) / 32 * 4, 0), overlap_bits_((glyph_count + 7) / 8, 0) {}

  bool add(const TableView& glyph, std::uint32_t number) {
    if (glyph.empty()) {
      contours_.u16(0);
      return true;
    }
    if (!glyph.holds(0, 10)) return false;
    const std::int16_t contours = glyph.s16(0);
    contours_.s16(contours < 0 ? -1 : contours);  // -1 alone stands for composites there
    if (contours == 0) return true;
    return contours < 0 ? add_composite(glyph, number)
                        : add_simple(glyph, static_cast<unsigned>(contours), number);
  }

  std::vector<std::byte> put_together(bool long_offsets, std::uint32_t glyph_count) {
    TableWriter bits, overlaps, out;
    for (const unsigned b : box_bits_) bits.u8(b);
    for (const unsigned b : overlap_bits_) overlaps.u8(b);
    bits.append(boxes_.bytes());
    out.u16(0), out.u16(overlap_ ? 1 : 0), out.u16(glyph_count), out.u16(long_offsets ? 1 : 0);
    const TableWriter* all[] = {&contours_, &counts_, &flags_, &glyphs_, &composites_, &bits, &instructions_};
    for (const TableWriter* stream : all) out.u32(static_cast<std::uint32_t>(stream->size()));
    for (const TableWriter* stream : all) out.append(stream->bytes());
    if (overlap_) out.append(overlaps.bytes());
    return std::move(out.bytes());
  }

 private:
  bool add_simple(const TableView& glyph, unsigned contours, std::uint32_t number) {
    std::size_t at = 10;
    unsigned points = 0;
    if (!glyph.holds(at, contours * std::size_t{2} + 2)) return false;
    for (unsigned i = 0; i < contours; ++i, at += 2) {
      const unsigned end = glyph.u16(at) + 1U;
      if (end < points) return false;
      short255(counts_, end - points);
      points = end;
    }
    if (points > 0xFFFF) return false;  // more than readers have to take
    const std::size_t count = glyph.u16(at), instructions = at + 2;
    if (!glyph.holds(instructions, count) || !read_points(glyph, instructions + count, points)) return false;
    if (points > 0 && (point_flags_[0] & 0x40U) != 0) {
      overlap_ = true;
      overlap_bits_[number / 8] |= 0x80U >> (number % 8);
    }
    for (std::size_t i = 0; i < points; ++i) {
      put_step(flags_, glyphs_, steps_[0][i], steps_[1][i], (point_flags_[i] & 1U) != 0);
    }
    add_instructions(glyph, instructions, count);
    if (!has_box_of_points(glyph)) add_box(glyph, number);
    return true;
  }

  void add_box(const TableView& glyph, std::uint32_t number) {
    box_bits_[number / 8] |= 0x80U >> (number % 8);
    for (std::size_t i = 0; i < 4; ++i) boxes_.u16(glyph.u16(2 + i * 2));
  }

  /// Whether the box in the header is the one that unpacking would work out.
  bool has_box_of_points(const TableView& glyph) const {
    int at[2] = {0, 0}, box[4] = {0, 0, 0, 0};
    for (std::size_t i = 0; i < steps_[0].size(); ++i) {
      for (std::size_t axis = 0; axis < 2; ++axis) {
        at[axis] += steps_[axis][i];
        box[axis] = i == 0 ? at[axis] : std::min(box[axis], at[axis]);
        box[axis + 2] = i == 0 ? at[axis] : std::max(box[axis + 2], at[axis]);
      }
    }
    for (std::size_t i = 0; i < 4; ++i) {
      if (box[i] != glyph.s16(2 + i * 2)) return false;
    }
    return true;
  }

  void add_instructions(const TableView& glyph, std::size_t at, std::size_t count) {
    short255(glyphs_, static_cast<unsigned>(count));
    for (std::size_t i = 0; i < count; ++i) {
      instructions_.u8(static_cast<std::uint32_t>(glyph.bytes[at + i]));
    }
  }

  /// Flags and steps of every point (OpenType, glyf, "Simple glyph description").
  bool read_points(const TableView& glyph, std::size_t at, std::size_t points) {
    point_flags_.clear();
    while (point_flags_.size() < points) {
      if (!glyph.holds(at, 1)) return false;
      const auto flag = static_cast<unsigned>(glyph.bytes[at++]);
      std::size_t times = 1;
      if ((flag & 8U) != 0) {
        if (!glyph.holds(at, 1)) return false;
        times += static_cast<std::size_t>(glyph.bytes[at++]);
      }
      point_flags_.insert(point_flags_.end(), times, flag);
    }
    for (unsigned axis = 0; axis < 2; ++axis) {
      steps_[axis].clear();
      for (std::size_t i = 0; i < points; ++i) {
        const bool is_byte = (point_flags_[i] >> (1 + axis) & 1U) != 0,
                   bit = (point_flags_[i] >> (4 + axis) & 1U) != 0;
        const std::size_t bytes = is_byte ? 1 : bit ? 0 : 2;
        if (!glyph.holds(at, bytes)) return false;
        const int value = is_byte ? static_cast<int>(glyph.bytes[at]) : 0;
        steps_[axis].push_back(is_byte ? (bit ? value : -value) : bit ? 0 : glyph.s16(at));
        at += bytes;
      }
    }
    return true;
  }

  bool add_composite(const TableView& glyph, std::uint32_t number) {
    constexpr unsigned kMore = 0x20, kInstructions = 0x100;
    std::size_t at = 10;
    add_box(glyph, number);
    unsigned flags = kMore;
    bool has_instructions = false;
    while ((flags & kMore) != 0) {
      flags = glyph.u16(at);
      has_instructions = has_instructions || (flags & kInstructions) != 0;
      const std::size_t scale = (flags & 8U) != 0      ? 2U
                                : (flags & 0x40U) != 0 ? 4U
                                : (flags & 0x80U) != 0 ? 8U
                                                       : 0U,
                        size = 4 + ((flags & 1U) != 0 ? 4U : 2U) + scale;
      if (!glyph.holds(at, size)) return false;
      for (std::size_t i = 0; i < size; ++i) composites_.u8(static_cast<std::uint32_t>(glyph.bytes[at + i]));
      at += size;
    }
    if (!has_instructions) return true;
    const std::size_t count = glyph.u16(at);
    if (!glyph.holds(at + 2, count)) return false;
    add_instructions(glyph, at + 2, count);
    return true;
  }

  TableWriter contours_, counts_, flags_, glyphs_, composites_, boxes_, instructions_;
  std::vector<unsigned> box_bits_, overlap_bits_, point_flags_;
  std::vector<int> steps_[2];
  bool overlap_ = false;
};

}  // namespace

std::vector<std::byte> transform_outlines(const TableView& glyf, const TableView& loca, bool long_offsets,
                                          std::uint32_t glyph_count) {
  Streams streams(glyph_count);
  const auto offset = [&](std::size_t i) {
    return long_offsets ? std::size_t{loca.u32(i * 4)} : std::size_t{loca.u16(i * 2)} * 2;
  };
  if (!loca.holds(0, (std::size_t{glyph_count} + 1) * (long_offsets ? 4 : 2))) return {};
  for (std::uint32_t i = 0; i < glyph_count; ++i) {
    const std::size_t begin = offset(i), end = offset(i + std::size_t{1});
    if (end < begin || !glyf.holds(begin, end - begin)) return {};
    if (!streams.add({glyf.tag, glyf.bytes.subspan(begin, end - begin)}, i)) return {};
  }
  return streams.put_together(long_offsets, glyph_count);
}

}  // namespace grafema::detail
