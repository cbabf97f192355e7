// SPDX-License-Identifier: MIT
// Big-endian bytes of a table in the making.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string_view>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/export.hpp"

namespace grafema::detail {

class TableWriter {
 public:
  void u8(std::uint32_t v) { bytes_.push_back(static_cast<std::byte>(v & 0xFF)); }
  void u16(std::uint32_t v) { u8(v >> 8), u8(v); }
  void s16(int v) { u16(static_cast<std::uint32_t>(v)); }
  void u32(std::uint32_t v) { u16(v >> 16), u16(v); }
  void u64(std::uint64_t v) { u32(static_cast<std::uint32_t>(v >> 32)), u32(static_cast<std::uint32_t>(v)); }
  void append(const std::vector<std::byte>& more) { bytes_.insert(bytes_.end(), more.begin(), more.end()); }
  void align(std::size_t to) {
    while (bytes_.size() % to != 0) u8(0);
  }
  /// Writes over two or four bytes that are there already.
  void put_u16(std::size_t at, std::uint32_t v) {
    bytes_[at] = static_cast<std::byte>(v >> 8 & 0xFF);
    bytes_[at + 1] = static_cast<std::byte>(v & 0xFF);
  }
  void put_u32(std::size_t at, std::uint32_t v) {
    put_u16(at, v >> 16);
    put_u16(at + 2, v & 0xFFFF);
  }
  std::size_t size() const { return bytes_.size(); }
  std::vector<std::byte>& bytes() { return bytes_; }
  const std::vector<std::byte>& bytes() const { return bytes_; }

 private:
  std::vector<std::byte> bytes_;
};

/// A finished table.
struct WrittenTable {
  Tag tag{};
  std::vector<std::byte> bytes;
};

/// The sum of a table's 32-bit words, the last one filled with zeros (OpenType, "Calculating checksums").
std::uint32_t checksum(const std::vector<std::byte>& bytes);

/// Assembles a font file from tables in any order and sets `head.checksumAdjustment`. `cff`: outlines are in
/// `CFF ` or `CFF2`.
GRAFEMA_API std::vector<std::byte> assemble(std::vector<WrittenTable> tables, bool cff = false);

}  // namespace grafema::detail
