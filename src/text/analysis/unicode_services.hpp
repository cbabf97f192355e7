// SPDX-License-Identifier: MIT
// Opened services of ICU: clusters, lines, directions.
#pragma once

#include <array>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/text/text_analysis.hpp"

struct UBreakIterator;
struct UBiDi;
struct UText;

namespace grafema::detail {

struct BreakIteratorCloser {
  void operator()(UBreakIterator* iterator) const;
};
using BreakIterator = std::unique_ptr<UBreakIterator, BreakIteratorCloser>;
struct BidiCloser {
  void operator()(UBiDi* bidi) const;
};

struct TextCloser {
  void operator()(UText* text) const;
};

/// Opened when first used, kept until the end.
struct UnicodeServices {
  struct LineService {
    std::string locale;
    BreakIterator iterator;
  };
  BreakIterator graphemes, words;
  std::vector<LineService> lines;
  std::unique_ptr<UBiDi, BidiCloser> bidi;
  std::unique_ptr<UText, TextCloser> source;  ///< what iterators read from: opened anew for each text
  struct KnownScript {
    char32_t character = 0;
    Tag script{};
  };
  std::array<KnownScript, 256> scripts;  ///< of characters above ASCII, by their low bits
  struct KnownBreak {
    char32_t character = 0;
    std::uint8_t type = 0;
  };
  std::array<KnownBreak, 256> breaks;  ///< Grapheme_Cluster_Break, likewise
  std::vector<char16_t> utf16;         ///< working memory
};

/// Grapheme clusters of text that has characters from U+0300 on: sets `kCluster`.
void find_clusters(std::string_view text, UnicodeServices& services, TextAnalysis& analysis);
/// Words: sets `kWordStart`.
void find_words(std::string_view text, UnicodeServices& services, TextAnalysis& analysis);
/// Levels and directions of all parts (UAX #9).
void find_levels(TextDirection direction, UnicodeServices& services, TextAnalysis& analysis);
/// Where lines may begin (UAX #14): sets `kLineStart`. `locale` as ICU has it.
void find_lines(std::string_view text, const std::string& locale, UnicodeServices& services,
                TextAnalysis& analysis);

}  // namespace grafema::detail
