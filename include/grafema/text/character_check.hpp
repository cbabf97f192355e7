// SPDX-License-Identifier: MIT
// Whether faces have the characters that a game will show, found out before it ships.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/font/font_stack.hpp"

namespace grafema {

enum class CharacterFate : std::uint8_t {
  supplied,       ///< a face has it
  missing,        ///< no face has it
  empty,          ///< it is mapped to a glyph that paints nothing, though it should
  missing_shape,  ///< it is mapped to a glyph that looks as the missing-glyph shape does
  capital_shape,  ///< a small letter that looks as its capital does
};

struct CheckedCharacter {
  char32_t character = 0;
  CharacterFate fate{};
  std::size_t face = 0;  ///< that supplies it; 0 where none does
  bool operator==(const CheckedCharacter&) const = default;
};

/// The fate of each character, in the order given. Characters that show nothing by themselves (controls,
/// joiners, variation selectors) are left out unless a face has them.
GRAFEMA_API std::vector<CheckedCharacter> check_characters(const FontStack& stack,
                                                           std::span<const char32_t> characters);

/// A grapheme cluster as fallback shows it: by one face as a whole.
struct CheckedCluster {
  std::vector<char32_t> characters = {};
  std::size_t face = 0;                ///< the one that shows it
  std::vector<char32_t> missing = {};  ///< what that face lacks, though another one may have it
  bool operator==(const CheckedCluster&) const = default;
};

/// The clusters of two characters and more that a text holds, each once, in the order in which they come.
/// What shows nothing by itself is left out of `characters`.
GRAFEMA_API std::vector<CheckedCluster> check_clusters(const FontStack& stack, std::string_view text);

/// The character's name in Unicode, such as "GREEK SMALL LETTER ALPHA"; empty where it has none.
GRAFEMA_API std::string character_name(char32_t character);

}  // namespace grafema
