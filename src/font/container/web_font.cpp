// SPDX-License-Identifier: MIT
// Puts unpacked tables together and reads WOFF 1.0.
#include "font/container/web_font.hpp"

#include <fmt/format.h>
#include <zlib.h>

namespace grafema::detail {
namespace {

constexpr std::size_t kWoffHeaderBytes = 44, kWoffRecordBytes = 20;

std::size_t padded(std::size_t size) { return (size + 3) / 4 * 4; }

void put_directory(std::vector<std::byte>& out, const NewFace& face, const std::vector<NewTable>& tables,
                   const std::vector<std::size_t>& offsets) {
  put32(out, face.version);
  put16(out, face.tables.size());
  for (int i = 0; i < 3; ++i) put16(out, 0);  // search hints, which nobody needs
  for (const std::size_t i : face.tables) {
    put32(out, static_cast<std::uint32_t>(tables[i].tag));
    put32(out, 0);  // the checksum is not looked at
    put32(out, offsets[i]);
    put32(out, tables[i].bytes.size());
  }
}

/// One table of a WOFF file: deflated where that made it smaller.
Result<void> unpack_table(const TableView& packed, std::size_t size, std::vector<std::byte>& out) {
  if (packed.bytes.size() == size) {
    out.assign(packed.bytes.begin(), packed.bytes.end());
    return {};
  }
  out.resize(size);
  uLongf got = static_cast<uLongf>(size);
  const int status = ::uncompress(reinterpret_cast<Bytef*>(out.data()), &got,
                                  reinterpret_cast<const Bytef*>(packed.bytes.data()),
                                  static_cast<uLong>(packed.bytes.size()));
  if (status != Z_OK || got != size) {
    return damaged(packed, 0, "deflated data of the stated length", fmt::format("{} of {} bytes", got, size));
  }
  return {};
}

}  // namespace

std::vector<std::byte> assemble_font(std::vector<NewTable>& tables, const std::vector<NewFace>& faces,
                                     bool collection) {
  std::size_t at = collection ? 12 + faces.size() * 4 : 0;
  for (const NewFace& face : faces) at += 12 + face.tables.size() * 16;
  const std::size_t directories = at;
  std::vector<std::size_t> offsets;
  for (const NewTable& table : tables) {
    offsets.push_back(at);
    at += padded(table.bytes.size());
  }
  std::vector<std::byte> out;
  out.reserve(at);
  if (collection) {
    put32(out, static_cast<std::uint32_t>(tag("ttcf")));
    put32(out, 0x00010000);
    put32(out, faces.size());
    std::size_t start = 12 + faces.size() * 4;
    for (const NewFace& face : faces) {
      put32(out, start);
      start += 12 + face.tables.size() * 16;
    }
  }
  for (const NewFace& face : faces) put_directory(out, face, tables, offsets);
  out.resize(directories);
  for (NewTable& table : tables) {
    out.insert(out.end(), table.bytes.begin(), table.bytes.end());
    out.resize(padded(out.size()));
    table.bytes = {};  // never two whole copies in memory
  }
  return out;
}

Result<std::vector<std::byte>> unpack_woff(std::span<const std::byte> file) {
  const TableView whole{tag("wOFF"), file};
  if (!whole.holds(0, kWoffHeaderBytes)) return damaged(whole, file.size(), "a header of 44 bytes");
  const std::size_t count = be16(file, 12);
  if (count == 0 || !whole.holds(kWoffHeaderBytes, count * kWoffRecordBytes)) {
    return damaged(whole, 12, "a table count that fits the file", fmt::format("{}", count));
  }
  std::vector<NewTable> tables(count);
  NewFace face{be32(file, 4), {}};
  std::size_t room = max_unpacked(file.size());
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t record = kWoffHeaderBytes + i * kWoffRecordBytes;
    const std::size_t offset = be32(file, record + 4), packed = be32(file, record + 8),
                      size = be32(file, record + 12);
    if (!whole.holds(offset, packed)) {
      return damaged(whole, record + 4, "a table that lies inside the file",
                     fmt::format("{} bytes at {}", packed, offset));
    }
    if (packed > size) {
      return damaged(whole, record + 8, "a packed length of at most the unpacked one",
                     fmt::format("{} for {}", packed, size));
    }
    if (size > room) {
      return damaged(whole, record + 12, "tables that a file of this size can hold",
                     fmt::format("a table of {} bytes", size));
    }
    room -= size;
    tables[i].tag = Tag{be32(file, record)};
    face.tables.push_back(i);
    if (const Result<void> done =
            unpack_table({tables[i].tag, file.subspan(offset, packed)}, size, tables[i].bytes);
        !done) {
      return fail(done.error());
    }
  }
  return assemble_font(tables, {face}, false);
}

}  // namespace grafema::detail
