// SPDX-License-Identifier: MIT
// Web fonts turned into plain OpenType files (W3C, "WOFF File Format 1.0" and "WOFF File Format 2.0").
#pragma once

#include <algorithm>
#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

/// A table of a font that is put together anew.
struct NewTable {
  Tag tag{};
  std::vector<std::byte> bytes;
};

/// A face of a font that is put together anew: the numbers of its tables.
struct NewFace {
  std::uint32_t version = 0x00010000;
  std::vector<std::size_t> tables;
};

/// The most bytes that a packed file may unfold into: real fonts stay below four times their packed size.
inline std::size_t max_unpacked(std::size_t file_size) {
  return std::min<std::size_t>(file_size, std::size_t{1} << 28) * 3 + (std::size_t{6} << 20);
}

/// An OpenType file of these tables; a collection where there are several faces.
std::vector<std::byte> assemble_font(std::vector<NewTable>& tables, const std::vector<NewFace>& faces,
                                     bool collection);

Result<std::vector<std::byte>> unpack_woff(std::span<const std::byte> file);
Result<std::vector<std::byte>> unpack_woff2(std::span<const std::byte> file);

/// Big-endian writing.
inline void put16(std::vector<std::byte>& out, std::size_t value) {
  out.push_back(static_cast<std::byte>(value >> 8 & 0xFF));
  out.push_back(static_cast<std::byte>(value & 0xFF));
}
inline void put32(std::vector<std::byte>& out, std::size_t value) {
  put16(out, value >> 16 & 0xFFFF);
  put16(out, value & 0xFFFF);
}

}  // namespace grafema::detail
