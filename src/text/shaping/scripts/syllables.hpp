// SPDX-License-Identifier: MIT
// What scripts that are shaped by syllables share: finding them, dotted circles, moving glyphs within them.
#pragma once

#include "text/shaping/scripts/script_rules.hpp"
#include "text/shaping/scripts/syllable_grammar.hpp"

namespace grafema::detail {

/// The no-break space, dashes and signs on which marks may be shown as on a letter.
constexpr bool stands_for_letter(char32_t c) {
  return c == 0x00A0 || c == 0x00D7 || (c >= 0x2012 && c <= 0x2014) || c == 0x2022 ||
         (c >= 0x25FB && c <= 0x25FE);
}

/// Items of one syllable.
struct SyllableRange {
  std::size_t first = 0, end = 0;
  std::uint8_t kind = Syllable::kNoKind;
};

/// Syllables of more characters stay as they were typed: no language writes them, and ordering takes time
/// that grows with the square.
constexpr std::size_t kLongestSyllable = 64;

/// Sets the syllable of every item by the items' categories, which the grammar takes as letters. A character
/// for which `passed_over` holds is part of the syllable around it without being looked at.
void find_syllables(ScriptWork& work, const SyllableGrammar& grammar,
                    bool (*passed_over)(const ShapeBuffer& items, std::size_t at) = nullptr);
/// The syllable that begins at `first`, which is less than the number of items.
SyllableRange syllable_at(const ShapeBuffer& items, std::size_t first);

/// A dotted circle for the mark, in its cluster; the missing glyph where the face has none.
ShapeItem made_circle(const FaceLookups& face, const ShapeItem& mark);
/// Puts a circle of the category at the start of each syllable of kind `broken`, behind an item of category
/// `behind` there.
void add_circles(ScriptWork& work, std::uint8_t broken, std::uint8_t category, std::uint8_t behind);

/// Moves one item, and makes one cluster of all that it passes.
void move_item(ShapeBuffer& items, std::size_t from, std::size_t to);
/// Orders the items by their places, those of one place as they were; what trades places becomes one cluster.
void sort_by_place(ScriptWork& work, std::size_t first, std::size_t end);
/// Several vowels in place `left` are seen in the reverse of the order in which they were written; `owns`
/// says what begins one, and what follows belongs to it.
void reverse_left_vowels(ShapeBuffer& items, std::size_t first, std::size_t end, std::uint8_t left,
                         bool (*owns)(std::uint8_t category));
/// Forgets what lookups of earlier stages made, so that the next can be told.
void clear_substituted(ShapeBuffer& items);

}  // namespace grafema::detail
