// SPDX-License-Identifier: MIT
// A font table's bytes and checked big-endian reading of them.
#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <string>

#include "grafema/base/error.hpp"

namespace grafema::detail {

/// Reads with no check: who calls has checked the record that holds the field.
inline std::uint16_t be16(std::span<const std::byte> bytes, std::size_t at) {
  return static_cast<std::uint16_t>(static_cast<unsigned>(bytes[at]) << 8 |
                                    static_cast<unsigned>(bytes[at + 1]));
}
inline std::int16_t be16s(std::span<const std::byte> bytes, std::size_t at) {
  return static_cast<std::int16_t>(be16(bytes, at));
}
inline std::uint32_t be32(std::span<const std::byte> bytes, std::size_t at) {
  return static_cast<std::uint32_t>(be16(bytes, at)) << 16 | be16(bytes, at + 2);
}

/// One table: its tag and what there is of it in the file. Empty where the face has no such table.
struct TableView {
  Tag tag{};
  std::span<const std::byte> bytes;

  bool holds(std::size_t offset, std::size_t length) const {
    return offset <= bytes.size() && length <= bytes.size() - offset;
  }
  bool empty() const { return bytes.empty(); }
  /// Numbers past the end read as 0: for tables in which a wrong number costs a wrong kern, not a wrong
  /// access.
  std::uint8_t u8(std::size_t at) const {
    return at < bytes.size() ? static_cast<std::uint8_t>(bytes[at]) : std::uint8_t{0};
  }
  std::uint16_t u16(std::size_t at) const { return holds(at, 2) ? be16(bytes, at) : std::uint16_t{0}; }
  std::int16_t s16(std::size_t at) const { return static_cast<std::int16_t>(u16(at)); }
  std::uint32_t u32(std::size_t at) const { return holds(at, 4) ? be32(bytes, at) : 0U; }
  /// The rest of the table from `offset` on; empty where that lies outside.
  TableView from(std::size_t offset) const {
    return {tag, offset < bytes.size() ? bytes.subspan(offset) : std::span<const std::byte>{}};
  }
};

/// "table is damaged at `offset`: expected ..."
inline tl::unexpected<Error> damaged(const TableView& table, std::size_t offset, const char* expected,
                                     const std::string& found = {}) {
  Error error = make_error(ErrorKind::damaged, expected, found);
  error.table = table.tag;
  error.offset = offset;
  return fail(error);
}

}  // namespace grafema::detail
