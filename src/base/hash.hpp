// SPDX-License-Identifier: MIT
// 64-bit FNV-1a, the hash that our files and ids use.
#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <string_view>

namespace grafema::detail {

class Fnv1a {
 public:
  void add_byte(std::uint8_t byte) { value_ = (value_ ^ byte) * 0x100000001B3U; }
  void add(std::span<const std::uint8_t> bytes) {
    for (const std::uint8_t byte : bytes) add_byte(byte);
  }
  void add(std::span<const std::byte> bytes) {
    for (const std::byte byte : bytes) add_byte(static_cast<std::uint8_t>(byte));
  }
  void add(std::string_view text) {
    for (const char c : text) add_byte(static_cast<std::uint8_t>(c));
  }
  /// Eight bytes, lowest first.
  void add_number(std::uint64_t number) {
    for (int shift = 0; shift < 64; shift += 8) add_byte(static_cast<std::uint8_t>(number >> shift));
  }
  std::uint64_t result() const { return value_; }

 private:
  std::uint64_t value_ = 0xCBF29CE484222325U;
};

}  // namespace grafema::detail
