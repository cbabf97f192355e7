// SPDX-License-Identifier: MIT
// Looks facts of characters up in tables made from Unicode's data, so that the core needs no Unicode library.
#include "grafema/unicode/characters.hpp"

#include <array>

#include "unicode/ranges.hpp"

namespace grafema {
namespace {

struct ScriptRange {
  char32_t first, last;
  Tag script;
};

constexpr ScriptRange kScripts[] = {
#include "unicode/scripts.inc"
};

constexpr detail::CharacterRange kInvisible[] = {
#include "unicode/invisible.inc"
};

Tag search_script(char32_t character) {
  const ScriptRange* range = detail::find_range<ScriptRange>(kScripts, character);
  return range != nullptr ? range->script : Tag{};
}

/// Most text stands below this: Latin, Greek and Cyrillic are found by one look.
constexpr std::size_t kQuickCharacters = 0x530;

const std::array<Tag, kQuickCharacters>& quick_scripts() {
  static const std::array<Tag, kQuickCharacters> table = [] {
    std::array<Tag, kQuickCharacters> made = {};
    for (std::size_t i = 0; i < kQuickCharacters; ++i) made[i] = search_script(static_cast<char32_t>(i));
    return made;
  }();
  return table;
}

}  // namespace

Tag script_of(char32_t character) {
  return character < kQuickCharacters ? quick_scripts()[character] : search_script(character);
}

bool is_invisible(char32_t character) {
  // Most letters that games show lie in two stretches without any such character.
  if ((character >= 0x61D && character < 0x115F) || (character >= 0x3165 && character < 0xFE00)) return false;
  return detail::find_range<detail::CharacterRange>(kInvisible, character) != nullptr;
}

}  // namespace grafema
