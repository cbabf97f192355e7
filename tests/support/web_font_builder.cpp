// SPDX-License-Identifier: MIT
// An encoder of WOFF and WOFF2 written from the specifications, with none of the library's code.
#include "support/web_font_builder.hpp"

#include <brotli/encode.h>
#include <zlib.h>

#include <map>
#include <string>

#include "support/bytes.hpp"

namespace grafema::test {
namespace {

using Table = std::vector<std::byte>;

long get(const Table& bytes, std::size_t at, std::size_t count) {
  long value = 0;
  for (std::size_t i = 0; i < count; ++i) value = value << 8 | static_cast<long>(bytes.at(at + i));
  return value;
}
long get_signed(const Table& bytes, std::size_t at) { return static_cast<std::int16_t>(get(bytes, at, 2)); }

std::vector<std::pair<std::string, Table>> tables_of(const Table& font) {
  std::vector<std::pair<std::string, Table>> tables;
  for (long i = 0; i < get(font, 4, 2); ++i) {
    const auto record = static_cast<std::size_t>(12 + i * 16);
    std::string tag;
    for (std::size_t c = 0; c < 4; ++c) tag += static_cast<char>(font[record + c]);
    const auto first = font.begin() + get(font, record + 8, 4);
    tables.emplace_back(tag, Table(first, first + get(font, record + 12, 4)));
  }
  return tables;
}

void base128(Bytes& out, std::size_t value) {
  int shift = 28;
  while (shift > 0 && value >> shift == 0) shift -= 7;
  for (; shift >= 0; shift -= 7) {
    out.u8(static_cast<long>((value >> shift & 0x7F) | (shift > 0 ? 0x80U : 0U)));
  }
}

void short255(Bytes& out, long value) {
  if (value < 253) {
    out.u8(value);
  } else if (value < 506) {
    out.u8(255).u8(value - 253);
  } else if (value < 762) {
    out.u8(254).u8(value - 506);
  } else {
    out.u8(253).u16(value);
  }
}

/// A point step as flag and bytes: the first form that holds it.
void put_step(Bytes& flags, Bytes& data, long dx, long dy, bool on) {
  const long off = on ? 0 : 128, ax = std::abs(dx), ay = std::abs(dy), sx = dx > 0 ? 1 : 0,
             sy = dy > 0 ? 1 : 0;
  if (dx == 0 && ay < 1280) {
    flags.u8(off + ((ay & 0xF00) >> 7) + sy);
    data.u8(ay & 0xFF);
  } else if (dy == 0 && ax < 1280) {
    flags.u8(off + 10 + ((ax & 0xF00) >> 7) + sx);
    data.u8(ax & 0xFF);
  } else if (ax > 0 && ay > 0 && ax < 65 && ay < 65) {
    flags.u8(off + 20 + ((ax - 1) & 0x30) + (((ay - 1) & 0x30) >> 2) + sx + 2 * sy);
    data.u8((((ax - 1) & 0xF) << 4) | ((ay - 1) & 0xF));
  } else if (ax > 0 && ay > 0 && ax < 769 && ay < 769) {
    flags.u8(off + 84 + 12 * (((ax - 1) & 0x300) >> 8) + (((ay - 1) & 0x300) >> 6) + sx + 2 * sy);
    data.u8((ax - 1) & 0xFF).u8((ay - 1) & 0xFF);
  } else if (ax < 4096 && ay < 4096) {
    flags.u8(off + 120 + sx + 2 * sy);
    data.u8(ax >> 4).u8(((ax & 0xF) << 4) | (ay >> 8)).u8(ay & 0xFF);
  } else {
    flags.u8(off + 124 + sx + 2 * sy);
    data.u16(ax).u16(ay);
  }
}

struct Streams {
  Bytes contours, counts, flags, glyphs, composites, boxes, instructions;
  std::vector<unsigned> box_bits;
};

void put_simple(const Table& glyf, std::size_t at, long contours, Streams& s, std::size_t glyph,
                bool keep_box) {
  std::size_t p = at + 10;
  long points = 0;
  for (long i = 0; i < contours; ++i, p += 2) {
    const long end = get(glyf, p, 2) + 1;
    short255(s.counts, end - points);
    points = end;
  }
  const long instruction_count = get(glyf, p, 2);
  const std::size_t instructions = p + 2;
  p = instructions + static_cast<std::size_t>(instruction_count);
  std::vector<long> flags;
  while (static_cast<long>(flags.size()) < points) {
    const long flag = get(glyf, p++, 1), times = (flag & 8) != 0 ? get(glyf, p++, 1) : 0;
    flags.insert(flags.end(), static_cast<std::size_t>(times + 1), flag);
  }
  std::vector<long> steps[2];
  for (int axis = 0; axis < 2; ++axis) {
    for (const long flag : flags) {
      const bool is_byte = (flag >> (1 + axis) & 1) != 0, bit = (flag >> (4 + axis) & 1) != 0;
      long step = 0;
      if (is_byte) step = bit ? get(glyf, p, 1) : -get(glyf, p, 1);
      if (!is_byte && !bit) step = get_signed(glyf, p);
      p += is_byte ? 1 : bit ? 0 : 2;
      steps[axis].push_back(step);
    }
  }
  for (std::size_t i = 0; i < flags.size(); ++i) {
    put_step(s.flags, s.glyphs, steps[0][i], steps[1][i], (flags[i] & 1) != 0);
  }
  short255(s.glyphs, instruction_count);
  for (long i = 0; i < instruction_count; ++i) {
    s.instructions.u8(get(glyf, instructions + static_cast<std::size_t>(i), 1));
  }
  if (!keep_box) return;
  s.box_bits[glyph / 8] |= 0x80U >> (glyph % 8);
  for (std::size_t i = 0; i < 4; ++i) s.boxes.u16(get(glyf, at + 2 + i * 2, 2));
}

void put_composite(const Table& glyf, std::size_t at, std::size_t end, Streams& s, std::size_t glyph) {
  s.box_bits[glyph / 8] |= 0x80U >> (glyph % 8);
  for (std::size_t i = 0; i < 4; ++i) s.boxes.u16(get(glyf, at + 2 + i * 2, 2));
  std::size_t p = at + 10;
  long flags = 0x20;
  bool has_instructions = false;
  while ((flags & 0x20) != 0) {
    flags = get(glyf, p, 2);
    has_instructions = has_instructions || (flags & 0x100) != 0;
    const std::size_t size = 4 + ((flags & 1) != 0 ? 4U : 2U) +
                             ((flags & 8) != 0      ? 2U
                              : (flags & 0x40) != 0 ? 4U
                              : (flags & 0x80) != 0 ? 8U
                                                    : 0U);
    for (std::size_t i = 0; i < size; ++i) s.composites.u8(get(glyf, p + i, 1));
    p += size;
  }
  if (!has_instructions) return;
  const long count = get(glyf, p, 2);
  short255(s.glyphs, count);
  for (long i = 0; i < count && p + 2 + static_cast<std::size_t>(i) < end; ++i) {
    s.instructions.u8(get(glyf, p + 2 + static_cast<std::size_t>(i), 1));
  }
}

Table transform_outlines(const Table& glyf, const Table& loca, bool long_offsets, long glyph_count) {
  Streams s;
  s.box_bits.assign(static_cast<std::size_t>((glyph_count + 31) / 32 * 4), 0);
  const auto offset = [&](long i) {
    return static_cast<std::size_t>(long_offsets ? get(loca, static_cast<std::size_t>(i) * 4, 4)
                                                 : get(loca, static_cast<std::size_t>(i) * 2, 2) * 2);
  };
  for (long g = 0; g < glyph_count; ++g) {
    const std::size_t at = offset(g), end = offset(g + 1), glyph = static_cast<std::size_t>(g);
    const long contours = at == end ? 0 : get_signed(glyf, at);
    s.contours.u16(contours);
    if (at == end) continue;
    if (contours < 0) {
      put_composite(glyf, at, end, s, glyph);
    } else {
      put_simple(glyf, at, contours, s, glyph, g % 2 == 0);  // stated and computed boxes by turns
    }
  }
  Bytes bits;
  for (const unsigned b : s.box_bits) bits.u8(b);
  Bytes out = Bytes().u16(0).u16(0).u16(glyph_count).u16(long_offsets ? 1 : 0);
  for (const std::size_t size : {s.contours.size(), s.counts.size(), s.flags.size(), s.glyphs.size(),
                                 s.composites.size(), bits.size() + s.boxes.size(), s.instructions.size()}) {
    out.u32(static_cast<long>(size));
  }
  return out.add(s.contours)
      .add(s.counts)
      .add(s.flags)
      .add(s.glyphs)
      .add(s.composites)
      .add(bits)
      .add(s.boxes)
      .add(s.instructions);
}

/// Only where all left side bearings are the glyphs' xMin, which the transform leaves out.
Table transform_metrics(const Table& hmtx, long long_count) {
  Bytes out = Bytes().u8(3);
  for (long i = 0; i < long_count; ++i) out.u16(get(hmtx, static_cast<std::size_t>(i) * 4, 2));
  return out;
}

}  // namespace

std::vector<std::byte> to_woff(const std::vector<std::byte>& font) {
  const auto tables = tables_of(font);
  Bytes directory, data;
  const std::size_t start = 44 + tables.size() * 20;
  for (const auto& [tag, table] : tables) {
    uLongf size = compressBound(static_cast<uLong>(table.size()));
    Table packed(size);
    compress2(reinterpret_cast<Bytef*>(packed.data()), &size, reinterpret_cast<const Bytef*>(table.data()),
              static_cast<uLong>(table.size()), 9);
    packed.resize(size);
    if (packed.size() >= table.size()) packed = table;
    directory.text(tag)
        .u32(static_cast<long>(start + data.size()))
        .u32(static_cast<long>(packed.size()))
        .u32(static_cast<long>(table.size()))
        .u32(0);
    data.add(packed);
    while (data.size() % 4 != 0) data.u8(0);
  }
  Bytes out = Bytes()
                  .text("wOFF")
                  .u32(get(font, 0, 4))
                  .u32(static_cast<long>(start + data.size()))
                  .u16(static_cast<long>(tables.size()))
                  .u16(0);
  return out.u32(static_cast<long>(font.size())).zeros(24).add(directory).add(data);
}

std::vector<std::byte> to_woff2(const std::vector<std::vector<std::byte>>& fonts, bool transformed) {
  Bytes entries, stream, faces;
  std::size_t count = 0;
  for (const auto& font : fonts) {
    auto tables = tables_of(font);
    std::map<std::string, Table> by_tag(tables.begin(), tables.end());
    const long glyph_count = get(by_tag["maxp"], 4, 2);
    short255(faces, static_cast<long>(tables.size()));
    faces.u32(get(font, 0, 4));
    for (const auto& [tag, table] : tables) {
      short255(faces, static_cast<long>(count++));
      const bool outline = tag == "glyf" || tag == "loca", metrics = tag == "hmtx" && transformed;
      Table stored = table;
      if (transformed && tag == "glyf") {
        stored = transform_outlines(table, by_tag["loca"], get(by_tag["head"], 50, 2) != 0, glyph_count);
      }
      if (transformed && tag == "loca") stored.clear();
      if (metrics) stored = transform_metrics(table, get(by_tag["hhea"], 34, 2));
      const long version = outline ? (transformed ? 0 : 3) : metrics ? 1 : 0;
      entries.u8(version * 64 + 63).text(tag);
      base128(entries, table.size());
      if ((outline && transformed) || metrics) base128(entries, stored.size());
      stream.add(stored);
    }
  }
  std::size_t size = BrotliEncoderMaxCompressedSize(stream.size());
  Table packed(size);
  BrotliEncoderCompress(5, 22, BROTLI_MODE_FONT, stream.size(),
                        reinterpret_cast<const std::uint8_t*>(stream.get().data()), &size,
                        reinterpret_cast<std::uint8_t*>(packed.data()));
  packed.resize(size);
  Bytes out = Bytes().text("wOF2");
  if (fonts.size() > 1) {
    out.text("ttcf");
  } else {
    out.u32(get(fonts[0], 0, 4));
  }
  out.u32(0)
      .u16(static_cast<long>(count))
      .u16(0)
      .u32(0)
      .u32(static_cast<long>(packed.size()))
      .zeros(24)
      .add(entries);
  if (fonts.size() > 1) {
    out.u32(0x00010000);
    short255(out, static_cast<long>(fonts.size()));
    out.add(faces);
  }
  return out.add(packed);
}

}  // namespace grafema::test
