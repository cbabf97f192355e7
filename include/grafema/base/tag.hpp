// SPDX-License-Identifier: MIT
// Four-letter names of tables, scripts, features and axes (OpenType, "Data types").
#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema {

/// A four-byte OpenType tag, first letter in the highest byte. 0 stands for none.
enum class Tag : std::uint32_t {};

/// `tag("GPOS")`. Shorter names are filled with spaces, as the OpenType specification has it.
constexpr Tag tag(std::string_view name) {
  std::uint32_t value = 0;
  for (std::size_t i = 0; i < 4; ++i) {
    value = (value << 8) | static_cast<std::uint8_t>(i < name.size() ? name[i] : ' ');
  }
  return Tag{value};
}

/// The tag's four letters; bytes that are not printable ASCII become '?'.
GRAFEMA_API std::string to_string(Tag tag);

}  // namespace grafema
