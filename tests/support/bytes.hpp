// SPDX-License-Identifier: MIT
// Writes tables for tests byte by byte.
#pragma once

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <string_view>
#include <vector>

namespace grafema::test {

/// Big-endian numbers one after the other.
class Bytes {
 public:
  Bytes& u8(long value) { return put(value, 1); }
  Bytes& u16(long value) { return put(value, 2); }
  Bytes& u24(long value) { return put(value, 3); }
  Bytes& u32(long value) { return put(value, 4); }
  Bytes& f2dot14(double value) { return put(std::lround(value * 16384), 2); }
  Bytes& fixed(double value) { return put(std::lround(value * 65536), 4); }
  Bytes& text(std::string_view letters) {
    for (const char c : letters) u8(static_cast<unsigned char>(c));
    return *this;
  }
  Bytes& add(const std::vector<std::byte>& more) {
    out_.insert(out_.end(), more.begin(), more.end());
    return *this;
  }
  Bytes& add(const Bytes& more) { return add(more.out_); }
  Bytes& zeros(std::size_t count) {
    out_.insert(out_.end(), count, std::byte{0});
    return *this;
  }
  template <class... Values>
  Bytes& words(Values... values) {
    (u16(static_cast<long>(values)), ...);
    return *this;
  }
  std::size_t size() const { return out_.size(); }
  const std::vector<std::byte>& get() const { return out_; }
  operator std::vector<std::byte>() const { return out_; }  // NOLINT: a table is its bytes

 private:
  Bytes& put(long value, int count) {
    for (int i = count; i-- > 0;) {
      out_.push_back(static_cast<std::byte>(static_cast<unsigned long>(value) >> (8 * i) & 0xFF));
    }
    return *this;
  }

  std::vector<std::byte> out_;
};

}  // namespace grafema::test
