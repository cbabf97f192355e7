// SPDX-License-Identifier: MIT
// Writes WOFF 2.0: directory, transformed outlines, one Brotli stream.
#include "grafema/files/web_font_file.hpp"

#include <brotli/encode.h>

#include <algorithm>
#include <iterator>

#include "files/fonts/outline_streams.hpp"

namespace grafema {
namespace {

using detail::be16;
using detail::be32;
using detail::TableView;
using detail::TableWriter;

/// Tags by number (WOFF 2.0, section 4.1, "Known Table Tags").
constexpr const char* kKnownTags[] = {
    "cmap", "head", "hhea", "hmtx", "maxp", "name", "OS/2", "post", "cvt ", "fpgm", "glyf", "loca", "prep",
    "CFF ", "VORG", "EBDT", "EBLC", "gasp", "hdmx", "kern", "LTSH", "PCLT", "VDMX", "vhea", "vmtx", "BASE",
    "GDEF", "GPOS", "GSUB", "EBSC", "JSTF", "MATH", "CBDT", "CBLC", "COLR", "CPAL", "SVG ", "sbix"};
constexpr std::uint32_t kOtherTag = 63, kAsItIs = 3;
constexpr int kQuality = 11, kWindow = 22;

struct Table {
  Tag tag{};
  std::vector<std::byte> bytes;
};

Result<std::vector<Table>> read_tables(const TableView& file) {
  if (!file.holds(0, 12)) return detail::damaged(file, 0, "a header of 12 bytes");
  std::vector<Table> tables;
  for (std::size_t i = 0; i < file.u16(4); ++i) {
    const std::size_t record = 12 + i * 16, at = file.u32(record + 8), size = file.u32(record + 12);
    if (!file.holds(record, 16) || !file.holds(at, size)) {
      return detail::damaged(file, record, "a table that lies inside the file");
    }
    if (Tag{file.u32(record)} == tag("DSIG")) continue;  // it signs other bytes
    const auto bytes = file.bytes.subspan(at, size);
    tables.push_back({Tag{file.u32(record)}, {bytes.begin(), bytes.end()}});
  }
  // loca stands behind glyf, from which it is made.
  std::stable_sort(tables.begin(), tables.end(), [](const Table& a, const Table& b) {
    const auto place = [](Tag name) { return name == tag("loca") ? tag("glyf") : name; };
    return place(a.tag) < place(b.tag);
  });
  return tables;
}

const Table* find(const std::vector<Table>& tables, const char* name) {
  const auto found = std::find_if(tables.begin(), tables.end(),
                                  [name](const Table& table) { return table.tag == tag(name); });
  return found == tables.end() ? nullptr : &*found;
}

void base128(TableWriter& out, std::size_t value) {
  unsigned shift = 28;
  while (shift > 0 && value >> shift == 0) shift -= 7;
  for (;; shift -= 7) {
    out.u8(static_cast<std::uint32_t>((value >> shift & 0x7FU) | (shift > 0 ? 0x80U : 0U)));
    if (shift == 0) break;
  }
}

}  // namespace

Result<std::vector<std::byte>> make_web_font(std::span<const std::byte> font) {
  const TableView file{Tag{}, font};
  Result<std::vector<Table>> tables = read_tables(file);
  if (!tables) return fail(tables.error());
  for (Table& table : *tables) {  // "losslessly packed" (OpenType, head, flags)
    if (table.tag == tag("head") && table.bytes.size() >= 18) table.bytes[16] |= std::byte{8};
  }
  const Table *glyf = find(*tables, "glyf"), *loca = find(*tables, "loca"), *head = find(*tables, "head"),
              *maxp = find(*tables, "maxp");
  std::vector<std::byte> outlines;
  if (glyf != nullptr && loca != nullptr && head != nullptr && maxp != nullptr && maxp->bytes.size() >= 6 &&
      head->bytes.size() >= 52) {
    outlines = detail::transform_outlines({glyf->tag, glyf->bytes}, {loca->tag, loca->bytes},
                                          be16(head->bytes, 50) != 0, be16(maxp->bytes, 4));
  }
  TableWriter entries, stream;
  std::size_t unpacked = 12 + tables->size() * 16;
  for (const Table& table : *tables) {
    const bool outline = table.tag == tag("glyf") || table.tag == tag("loca"),
               transformed = outline && !outlines.empty();
    const auto* known = std::find_if(std::begin(kKnownTags), std::end(kKnownTags),
                                     [&](const char* name) { return tag(name) == table.tag; });
    const std::uint32_t number = known == std::end(kKnownTags)
                                     ? kOtherTag
                                     : static_cast<std::uint32_t>(known - std::begin(kKnownTags));
    entries.u8((outline && !transformed ? kAsItIs << 6U : 0U) | number);
    if (number == kOtherTag) entries.u32(static_cast<std::uint32_t>(table.tag));
    base128(entries, table.bytes.size());
    const bool is_glyf = table.tag == tag("glyf");
    if (transformed) base128(entries, is_glyf ? outlines.size() : 0);
    if (!transformed) stream.append(table.bytes);
    if (transformed && is_glyf) stream.append(outlines);
    unpacked += (table.bytes.size() + 3) / 4 * 4;
  }
  std::size_t size = BrotliEncoderMaxCompressedSize(stream.size());
  std::vector<std::byte> packed(size);
  if (BrotliEncoderCompress(kQuality, kWindow, BROTLI_MODE_FONT, stream.size(),
                            reinterpret_cast<const std::uint8_t*>(stream.bytes().data()), &size,
                            reinterpret_cast<std::uint8_t*>(packed.data())) == BROTLI_FALSE) {
    return fail(make_error(ErrorKind::does_not_fit, "room for the packed tables"));
  }
  packed.resize(size);
  TableWriter out;
  constexpr std::size_t kHeader = 48;
  out.u32(static_cast<std::uint32_t>(tag("wOF2"))), out.u32(file.u32(0));
  out.u32(static_cast<std::uint32_t>((kHeader + entries.size() + packed.size() + 3) / 4 * 4));
  out.u16(static_cast<std::uint32_t>(tables->size())), out.u16(0);
  out.u32(static_cast<std::uint32_t>(unpacked)), out.u32(static_cast<std::uint32_t>(packed.size()));
  out.u16(1), out.u16(0);                  // version of the font's package
  for (int i = 0; i < 5; ++i) out.u32(0);  // no metadata, no private data
  out.append(entries.bytes()), out.append(packed);
  out.align(4);
  return std::move(out.bytes());
}

}  // namespace grafema
