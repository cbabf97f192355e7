// SPDX-License-Identifier: MIT
// What fuzz targets share: an input of bounded size, and a stop where a result is wrong.
#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

#include "font/container/table.hpp"

namespace grafema::fuzz {

constexpr std::size_t kMaxBytes = 1 << 18;

inline std::span<const std::byte> bytes_of(const std::uint8_t* data, std::size_t size) {
  return std::as_bytes(std::span(data, size));
}
inline detail::TableView table_of(const char* name, std::span<const std::byte> bytes) {
  return {tag(name), bytes};
}

/// Fast and wrong is wrong: a broken promise counts as a crash.
inline void require(bool holds) {
  if (!holds) __builtin_trap();
}

inline const std::vector<float> kPlace = {0.5F, -0.25F};

}  // namespace grafema::fuzz
