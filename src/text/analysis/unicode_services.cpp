// SPDX-License-Identifier: MIT
// Asks ICU for grapheme clusters, line breaks and bidi levels.
#include "text/analysis/unicode_services.hpp"

#include <unicode/ubidi.h>
#include <unicode/ubrk.h>
#include <unicode/uchar.h>
#include <unicode/utext.h>
#include <unicode/utf16.h>

#include <algorithm>

namespace grafema::detail {

void BreakIteratorCloser::operator()(UBreakIterator* iterator) const { ubrk_close(iterator); }
void BidiCloser::operator()(UBiDi* bidi) const { ubidi_close(bidi); }
void TextCloser::operator()(UText* text) const { utext_close(text); }

namespace {

/// Calls `take` with the byte of every boundary behind the text's beginning. Both ICU and we read UTF-8 by
/// the same rule for broken bytes, so a boundary is where one of our characters begins.
template <class Take>
void each_boundary(UBreakIterator* iterator, UnicodeServices& services, std::string_view text, Take take) {
  UErrorCode status = U_ZERO_ERROR;
  UText* source =
      utext_openUTF8(services.source.get(), text.data(), static_cast<std::int64_t>(text.size()), &status);
  if (!services.source) services.source.reset(source);
  ubrk_setUText(iterator, source, &status);
  if (U_SUCCESS(status)) {
    for (std::int32_t at = ubrk_next(iterator); at != UBRK_DONE; at = ubrk_next(iterator)) {
      take(static_cast<std::uint32_t>(at));
    }
  }
}

/// Whether the part ends a line and no paragraph: at U+2028, and at vertical tabs and form feeds, which have
/// no class of paragraph separators (UAX #9, table 4).
bool goes_on(const TextAnalysis& analysis, const TextPart& part) {
  if (part.first == part.end) return false;
  const char32_t last = analysis.characters[part.end - 1];
  return last == 0x2028 || last == 0x0B || last == 0x0C;
}

/// Clusters of text that takes no more than rules GB4, GB5, GB9, GB9a and GB999 of UAX #29: letters, marks
/// and joiners, no jamo, flags, prefixed signs or joined emoji. Returns false, and has done nothing of worth,
/// for any other text. Asking ICU's iterator costs five times as much.
bool find_plain_clusters(UnicodeServices& services, TextAnalysis& analysis) {
  bool after_joiner = false, after_control = true;
  for (std::size_t i = 0; i < analysis.characters.size(); ++i) {
    const char32_t c = analysis.characters[i];
    std::uint8_t& flags = analysis.flags[i];
    if (c == '\r' || (c == '\n' && i > 0 && analysis.characters[i - 1] == '\r')) return false;
    if (c < 0x300) {
      const bool control = c < 0x20 || (c >= 0x7F && c < 0xA0) || c == 0xAD;
      if (after_joiner && c >= 0xA0) return false;  // signs that emoji join
      flags |= TextAnalysis::kCluster;
      after_joiner = false, after_control = control;
      continue;
    }
    UnicodeServices::KnownBreak& known = services.breaks[c % services.breaks.size()];
    if (known.character != c) {
      const auto type = u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_GRAPHEME_CLUSTER_BREAK);
      known = {c, static_cast<std::uint8_t>(type)};
    }
    switch (known.type) {
      case U_GCB_OTHER:
        if (after_joiner && u_hasBinaryProperty(static_cast<UChar32>(c), UCHAR_EXTENDED_PICTOGRAPHIC) != 0) {
          return false;
        }
        flags |= TextAnalysis::kCluster;
        after_joiner = after_control = false;
        break;
      case U_GCB_EXTEND:
      case U_GCB_SPACING_MARK:
      case U_GCB_ZWJ:
        if (after_control) {
          flags |= TextAnalysis::kCluster;
        } else {
          flags &= static_cast<std::uint8_t>(~TextAnalysis::kCluster);
        }
        after_joiner = known.type == U_GCB_ZWJ, after_control = false;
        break;
      case U_GCB_CONTROL:
        flags |= TextAnalysis::kCluster;
        after_joiner = false, after_control = true;
        break;
      default:
        return false;
    }
  }
  return true;
}

}  // namespace

void find_clusters(std::string_view text, UnicodeServices& services, TextAnalysis& analysis) {
  if (find_plain_clusters(services, analysis)) return;
  UErrorCode status = U_ZERO_ERROR;
  if (!services.graphemes) services.graphemes.reset(ubrk_open(UBRK_CHARACTER, "", nullptr, 0, &status));
  if (U_FAILURE(status) || !services.graphemes) return;
  for (std::size_t i = 1; i < analysis.flags.size(); ++i) {
    analysis.flags[i] &= static_cast<std::uint8_t>(~TextAnalysis::kCluster);
  }
  std::size_t i = 0;
  each_boundary(services.graphemes.get(), services, text, [&](std::uint32_t byte) {
    while (i < analysis.characters.size() && analysis.starts[i] < byte) ++i;
    if (i < analysis.characters.size()) analysis.flags[i] |= TextAnalysis::kCluster;
  });
}

void find_words(std::string_view text, UnicodeServices& services, TextAnalysis& analysis) {
  UErrorCode status = U_ZERO_ERROR;
  if (!services.words) services.words.reset(ubrk_open(UBRK_WORD, "", nullptr, 0, &status));
  if (U_FAILURE(status) || !services.words || analysis.flags.empty()) return;
  for (std::uint8_t& flags : analysis.flags) flags &= static_cast<std::uint8_t>(~TextAnalysis::kWordStart);
  analysis.flags[0] |= TextAnalysis::kWordStart;
  std::size_t i = 0;
  each_boundary(services.words.get(), services, text, [&](std::uint32_t byte) {
    while (i < analysis.characters.size() && analysis.starts[i] < byte) ++i;
    if (i < analysis.characters.size()) analysis.flags[i] |= TextAnalysis::kWordStart;
  });
}

void find_lines(std::string_view text, const std::string& locale, UnicodeServices& services,
                TextAnalysis& analysis) {
  auto found = std::find_if(services.lines.begin(), services.lines.end(),
                            [&](const UnicodeServices::LineService& s) { return s.locale == locale; });
  if (found == services.lines.end()) {
    UErrorCode status = U_ZERO_ERROR;
    BreakIterator made(ubrk_open(UBRK_LINE, locale.c_str(), nullptr, 0, &status));
    if (U_FAILURE(status) || !made) return;
    constexpr std::size_t kMax = 16;
    if (services.lines.size() == kMax) services.lines.clear();
    services.lines.push_back({locale, std::move(made)});
    found = services.lines.end() - 1;
  }
  std::size_t i = 0;
  each_boundary(found->iterator.get(), services, text, [&](std::uint32_t byte) {
    while (i < analysis.characters.size() && analysis.starts[i] < byte) ++i;
    if (i < analysis.characters.size()) analysis.flags[i] |= TextAnalysis::kLineStart;
  });
}

void find_levels(TextDirection direction, UnicodeServices& services, TextAnalysis& analysis) {
  UErrorCode status = U_ZERO_ERROR;
  if (!services.bidi) services.bidi.reset(ubidi_open());
  if (!services.bidi) return;
  constexpr UBiDiLevel kAutomatic = UBIDI_DEFAULT_LTR;
  const UBiDiLevel wanted = direction == TextDirection::automatic       ? kAutomatic
                            : direction == TextDirection::left_to_right ? UBiDiLevel{0}
                                                                        : UBiDiLevel{1};
  analysis.levels.assign(analysis.characters.size(), 0);
  std::vector<char16_t>& units = services.utf16;
  // Paragraph by paragraph: what ends one for us need not end it for ICU, and the other way round.
  for (std::size_t p = 0; p < analysis.parts.size();) {
    std::size_t end_part = p + 1;
    while (end_part < analysis.parts.size() && goes_on(analysis, analysis.parts[end_part - 1])) ++end_part;
    const std::size_t first = analysis.parts[p].first, end = analysis.parts[end_part - 1].end;
    units.clear();
    for (std::size_t i = first; i < end; ++i) {
      const char32_t c = analysis.characters[i];
      if (c > 0xFFFF) {
        units.push_back(static_cast<char16_t>(U16_LEAD(c)));
        units.push_back(static_cast<char16_t>(U16_TRAIL(c)));
      } else {
        units.push_back(static_cast<char16_t>(c));
      }
    }
    ubidi_setPara(services.bidi.get(), units.data(), static_cast<int32_t>(units.size()), wanted, nullptr,
                  &status);
    const UBiDiLevel* levels = units.empty() ? nullptr : ubidi_getLevels(services.bidi.get(), &status);
    if (U_FAILURE(status)) return;
    const std::uint8_t level = units.empty() ? static_cast<std::uint8_t>(wanted == 1 ? 1 : 0)
                                             : ubidi_getParaLevel(services.bidi.get()) & 1;
    for (; p < end_part; ++p) analysis.parts[p].level = level;
    std::size_t unit = 0;
    for (std::size_t i = first; i < end && levels != nullptr; ++i) {
      analysis.levels[i] = levels[unit];
      unit += analysis.characters[i] > 0xFFFF ? 2 : 1;
    }
  }
  if (std::all_of(analysis.levels.begin(), analysis.levels.end(), [](std::uint8_t l) { return l == 0; })) {
    analysis.levels.clear();
  }
}

}  // namespace grafema::detail
