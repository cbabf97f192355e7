// SPDX-License-Identifier: MIT
// The name that somebody who mistyped may have meant.
#pragma once

#include <cstddef>
#include <span>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema::detail {

/// How many letters must be added, left out or changed to turn one word into the other.
GRAFEMA_API std::size_t edit_distance(std::string_view a, std::string_view b);

/// The name with the smallest edit distance; empty where there are none.
GRAFEMA_API std::string_view nearest(std::string_view word, std::span<const std::string_view> names);

}  // namespace grafema::detail
