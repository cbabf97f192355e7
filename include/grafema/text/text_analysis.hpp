// SPDX-License-Identifier: MIT
// What is known of a text alone: characters, clusters, directions, scripts, where lines may end.
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "grafema/base/notes.hpp"
#include "grafema/text/text_style.hpp"

namespace grafema {

class ShapeCache;

/// Characters of a text that end in a hard break or at its end (UAX #9, P1; UAX #14, LB4 and LB5).
struct TextPart {
  std::uint32_t first = 0, end = 0;  ///< characters, the break included
  std::uint8_t level = 0;            ///< the bidi level of its lines: odd runs from right to left
};

/// Refilled by `analyze`; keeps its capacity. Lists of characters are as long as `characters`.
struct TextAnalysis {
  static constexpr std::uint8_t kCluster = 1;     ///< a grapheme cluster begins here (UAX #29)
  static constexpr std::uint8_t kLineStart = 2;   ///< a line may begin here (UAX #14)
  static constexpr std::uint8_t kBreak = 4;       ///< the character ends its line
  static constexpr std::uint8_t kSpace = 8;       ///< a space that hangs at the end of a line
  static constexpr std::uint8_t kWordSpace = 16;  ///< a space that separates words: justified text widens it
  static constexpr std::uint8_t kWordStart = 32;  ///< a word, a sign or a space begins here (UAX #29)

  std::vector<char32_t> characters = {};
  std::vector<std::uint32_t> starts = {};  ///< the first byte of each character, and the text's length
  std::vector<std::uint8_t> flags = {};
  std::vector<std::uint8_t> levels = {};  ///< bidi levels (UAX #9); empty where all are 0
  std::vector<Tag> scripts = {};          ///< OpenType tags, shared characters resolved
  std::vector<TextPart> parts = {};       ///< at least one
  bool has_breaks = false;                ///< `kLineStart` is set: `find_line_breaks` was called

  bool is(std::size_t character, std::uint8_t flag) const { return (flags[character] & flag) != 0; }
  std::uint8_t level(std::size_t character) const {
    return levels.empty() ? std::uint8_t{0} : levels[character];
  }
};

/// Takes a text of less than 2^31 bytes apart. A byte that is not UTF-8 stands as U+FFFD and is noted. Text
/// of which no character is above U+02FF never enters ICU.
GRAFEMA_API void analyze(std::string_view text, TextDirection direction, ShapeCache& cache, TextAnalysis& out,
                         Notes* notes = nullptr);

/// Sets where lines may begin, by UAX #14 with ICU's dictionaries for scripts without spaces.
GRAFEMA_API void find_line_breaks(std::string_view text, LineBreaking breaking, std::string_view language,
                                  ShapeCache& cache, TextAnalysis& analysis);

/// Sets where words begin, as double clicks and jumps from word to word take them.
GRAFEMA_API void find_words(std::string_view text, ShapeCache& cache, TextAnalysis& analysis);

}  // namespace grafema
