// SPDX-License-Identifier: MIT
// The transforms that WOFF 2.0 applies to glyf, loca and hmtx, undone (WOFF 2.0, sections 5.1, 5.3 and 5.4).
#pragma once

#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

/// Reads a stream from front to back. Past the end all numbers are 0 and `good` says no.
class StreamReader {
 public:
  explicit StreamReader(TableView data = {}, std::size_t at = 0) : data_(data), at_(at) {}

  std::uint8_t u8() { return take(1) ? static_cast<std::uint8_t>(data_.bytes[at_ - 1]) : std::uint8_t{0}; }
  std::uint16_t u16() { return take(2) ? be16(data_.bytes, at_ - 2) : std::uint16_t{0}; }
  std::uint32_t u32() { return take(4) ? be32(data_.bytes, at_ - 4) : 0U; }
  std::span<const std::byte> bytes(std::size_t count) {
    return take(count) ? data_.bytes.subspan(at_ - count, count) : std::span<const std::byte>{};
  }
  void skip(std::size_t count) { (void)take(count); }
  /// UIntBase128: seven bits a byte, no leading zeros, five bytes at most.
  std::size_t base128();
  /// 255UInt16: one to three bytes.
  std::uint16_t short255();

  bool good() const { return good_; }
  std::size_t place() const { return at_; }

 private:
  bool take(std::size_t count) {
    if (!data_.holds(at_, count)) good_ = false;
    if (good_) at_ += count;
    return good_;
  }

  TableView data_;
  std::size_t at_ = 0;
  bool good_ = true;
};

struct RebuiltOutlines {
  std::vector<std::byte> glyf, loca;
  std::vector<std::int16_t> x_mins;  ///< of each glyph, 0 where it has no outline
};

/// `loca` has long offsets, whatever `head` said. `room` is the most bytes that the tables may take.
Result<RebuiltOutlines> rebuild_outlines(const TableView& transformed, std::size_t room);

Result<std::vector<std::byte>> rebuild_metrics(const TableView& transformed, std::size_t long_count,
                                               std::size_t glyph_count,
                                               const std::vector<std::int16_t>& x_mins);

}  // namespace grafema::detail
