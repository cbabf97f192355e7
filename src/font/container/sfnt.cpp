// SPDX-License-Identifier: MIT
// Reads table directories and collection headers.
#include "font/container/sfnt.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "base/hash.hpp"
#include "font/container/web_font.hpp"
#include "grafema/font/font_data.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint32_t kTrueType = 0x00010000;
constexpr std::size_t kSfntHeaderBytes = 12, kSfntRecordBytes = 16;

bool is_collection(std::span<const std::byte> file) {
  return file.size() >= 12 && Tag{be32(file, 0)} == tag("ttcf");
}

bool is_sfnt_version(std::uint32_t version) {
  return version == kTrueType || Tag{version} == tag("OTTO") || Tag{version} == tag("true") ||
         Tag{version} == tag("typ1");
}

std::string first_bytes(std::span<const std::byte> file) {
  if (file.empty()) return "an empty file";
  std::string text = "bytes";
  for (std::size_t i = 0; i < std::min<std::size_t>(4, file.size()); ++i) {
    text += fmt::format(" {:02X}", static_cast<unsigned>(file[i]));
  }
  return text;
}

/// Where the face's directory begins.
Result<std::size_t> read_start(std::span<const std::byte> file, std::size_t index) {
  if (!is_collection(file)) {
    if (index == 0) return std::size_t{0};
    return fail(
        make_error(ErrorKind::bad_value, "face 0, the only one in the file", fmt::format("{}", index)));
  }
  const Result<std::size_t> count = read_face_count(file);
  if (!count) return fail(count.error());
  if (index >= *count) {
    return fail(make_error(ErrorKind::bad_value, "the number of a face that the collection holds",
                           fmt::format("face {} of {}", index, *count)));
  }
  return std::size_t{be32(file, 12 + 4 * index)};
}

}  // namespace

Result<std::size_t> read_face_count(std::span<const std::byte> file) {
  if (!is_collection(file)) return std::size_t{1};
  const TableView header{tag("ttcf"), file};
  const std::size_t count = be32(file, 8);
  if (count == 0 || count > (file.size() - 12) / 4) {
    return damaged(header, 8, "a face count that fits the file");
  }
  return count;
}

Result<Directory> Directory::read(std::span<const std::byte> file, std::size_t index) {
  const Result<std::size_t> start = read_start(file, index);
  if (!start) return fail(start.error());
  const TableView whole{Tag{}, file};
  if (!whole.holds(*start, 4) || !is_sfnt_version(be32(file, *start))) {
    return fail(make_error(ErrorKind::not_a_font, "a TrueType or OpenType file", first_bytes(file)));
  }
  if (!whole.holds(*start, kSfntHeaderBytes)) return damaged(whole, *start, "a table directory");
  const std::size_t count = be16(file, *start + 4);
  if (!whole.holds(*start + kSfntHeaderBytes, count * kSfntRecordBytes)) {
    return damaged(whole, *start + 4, "a table count that fits the file", fmt::format("{} tables", count));
  }
  Directory directory;
  Fnv1a hash;
  hash.add(file.subspan(*start, kSfntHeaderBytes + count * kSfntRecordBytes));
  hash.add_number(index);
  directory.hash_ = hash.result();
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t record = *start + kSfntHeaderBytes + i * kSfntRecordBytes;
    const std::size_t offset = be32(file, record + 8), length = be32(file, record + 12);
    if (offset >= file.size()) continue;
    const std::size_t there = std::min(length, file.size() - offset);
    directory.tables_.push_back({Tag{be32(file, record)}, file.subspan(offset, there)});
  }
  return directory;
}

TableView Directory::find(Tag tag) const {
  for (const TableView& table : tables_) {
    if (table.tag == tag) return table;
  }
  return {tag, {}};
}

std::vector<Tag> Directory::tags() const {
  std::vector<Tag> out;
  for (const TableView& table : tables_) out.push_back(table.tag);
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  return out;
}

}  // namespace grafema::detail

namespace grafema {

std::optional<Container> find_container(std::span<const std::byte> bytes) {
  if (bytes.size() < 4) return std::nullopt;
  const std::uint32_t first = detail::be32(bytes, 0);
  if (Tag{first} == tag("ttcf")) return Container::collection;
  if (Tag{first} == tag("wOFF")) return Container::woff;
  if (Tag{first} == tag("wOF2")) return Container::woff2;
  return detail::is_sfnt_version(first) ? std::optional(Container::sfnt) : std::nullopt;
}

Result<FontData> unpack(FontData data) {
  const std::optional<Container> container = find_container(data.bytes());
  if (container != Container::woff && container != Container::woff2) return data;
  Result<std::vector<std::byte>> bytes =
      container == Container::woff ? detail::unpack_woff(data.bytes()) : detail::unpack_woff2(data.bytes());
  if (!bytes) return fail(bytes.error());
  return FontData::own(*std::move(bytes));
}

}  // namespace grafema
