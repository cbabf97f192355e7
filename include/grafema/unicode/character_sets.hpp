// SPDX-License-Identifier: MIT
// Sets of characters to bake or to look for, by name and by range.
#pragma once

#include <string_view>
#include <vector>

#include "grafema/base/error.hpp"

namespace grafema {

/// The characters of a named set, ascending: ascii, upper, lower, digits, punctuation (all of these within
/// ASCII), latin1, latin-extended, greek, cyrillic. Fails with `bad_value` and the names there are.
GRAFEMA_API Result<std::vector<char32_t>> read_character_set(std::string_view name);

/// The characters of hexadecimal ranges such as `20-7E,A0-FF,20AC`; `U+` may stand before a number. Fails
/// with `bad_value` for anything else, and for ranges that run backward or leave Unicode.
GRAFEMA_API Result<std::vector<char32_t>> read_character_ranges(std::string_view text);

/// Appends every character of the text.
GRAFEMA_API void add_characters(std::string_view text, std::vector<char32_t>& out);

}  // namespace grafema
