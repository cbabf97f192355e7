// SPDX-License-Identifier: MIT
// The name that somebody who mistyped may have meant.
#pragma once

#include <span>
#include <string>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema {

/// The name that takes the fewest letters added, left out or changed to be `word`; the first of several.
/// Empty where every name differs in more than half of its letters. Only the first 64 bytes of a word count.
GRAFEMA_API std::string_view nearest_name(std::string_view word, std::span<const std::string_view> names);

/// The end of a sentence about a word that is not known: "; did you mean 'sway'?", or nothing where no name
/// is near.
GRAFEMA_API std::string suggestion(std::string_view word, std::span<const std::string_view> names);

}  // namespace grafema
