// SPDX-License-Identifier: MIT
// Takes text apart: characters, clusters, parts, directions, scripts, line breaks.
#include "grafema/text/text_analysis.hpp"

#include <unicode/uchar.h>
#include <unicode/uloc.h>

#include <algorithm>
#include <array>

#include "grafema/base/utf8.hpp"
#include "grafema/unicode/characters.hpp"
#include "text/shaping/shape_memory.hpp"

namespace grafema {
namespace {

constexpr char32_t kFirstJoining = 0x300;  // no character below extends a cluster but LF after CR

/// The characters after which a line must end (UAX #14, classes BK, CR, LF, NL).
bool is_line_break(char32_t c) { return (c >= 0x0A && c <= 0x0D) || c == 0x85 || c == 0x2028 || c == 0x2029; }

/// Spaces that hang at the end of a line (CSS Text 3, section 4.1.3): not those at which no line ends.
bool is_hanging_space(char32_t c) {
  return c == ' ' || c == '\t' || is_line_break(c) || c == 0x1680 || (c >= 0x2000 && c <= 0x2006) ||
         (c >= 0x2008 && c <= 0x200A) || c == 0x205F || c == 0x3000;
}
/// CSS Text 3, "word-separator characters".
bool is_word_space(char32_t c) {
  return c == ' ' || c == 0xA0 || c == 0x1361 || c == 0x10100 || c == 0x10101 || c == 0x1039F || c == 0x1091F;
}

/// Whether a text with the character may have a direction other than from left to right.
bool turns(char32_t c) {
  return (c >= 0x590 && c <= 0x8FF) || c == 0x200E || c == 0x200F || (c >= 0x202A && c <= 0x202E) ||
         (c >= 0x2066 && c <= 0x2069) || (c >= 0xFB1D && c <= 0xFDFF) || (c >= 0xFE70 && c <= 0xFEFC) ||
         (c >= 0x10800 && c <= 0x10FFF) || (c >= 0x1E800 && c <= 0x1EFFF);
}

/// Characters that belong to no script take that of the text before them, at the start of what follows; a
/// closing bracket that of its opening one (UAX #24, section 5.1).
void set_scripts(TextAnalysis& a, bool simple) {
  struct Open {
    char32_t closing = 0;
    Tag script{};
  };
  std::array<Open, 32> open;
  std::size_t depth = 0;
  Tag current{};
  a.scripts.resize(a.characters.size());
  for (std::size_t i = 0; i < a.characters.size(); ++i) {
    const char32_t c = a.characters[i];
    const Tag own = script_of(c);
    if (own != Tag{}) current = own;
    a.scripts[i] = current;
    if (simple || own != Tag{}) continue;
    const auto kind = u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_BIDI_PAIRED_BRACKET_TYPE);
    if (kind == U_BPT_OPEN) {
      if (depth == open.size()) depth = 0;
      open[depth++] = {static_cast<char32_t>(u_getBidiPairedBracket(static_cast<UChar32>(c))), current};
    } else if (kind == U_BPT_CLOSE) {
      std::size_t at = depth;
      while (at > 0 && open[at - 1].closing != c) --at;
      if (at == 0) continue;
      depth = at - 1;
      if (open[depth].script != Tag{}) a.scripts[i] = current = open[depth].script;
    }
  }
  for (std::size_t i = a.characters.size(); i-- > 0;) {
    if (a.scripts[i] == Tag{}) a.scripts[i] = current == Tag{} ? tag("DFLT") : current;
    current = a.scripts[i];
  }
}

}  // namespace

void analyze(std::string_view text, TextDirection direction, ShapeCache& cache, TextAnalysis& out,
             Notes* notes) {
  out.characters.clear(), out.starts.clear(), out.flags.clear(), out.levels.clear(), out.parts.clear();
  out.has_breaks = false;
  bool simple = true, may_turn = direction == TextDirection::right_to_left;
  std::uint32_t first = 0;
  for (std::size_t at = 0; at < text.size();) {
    const DecodedCharacter next = decode_utf8(text, at);
    const char32_t c = next.character;
    if (!next.valid && notes != nullptr) notes->add({.kind = NoteKind::replaced_byte, .position = at});
    std::uint8_t flags = TextAnalysis::kCluster;
    if (c == '\n' && !out.characters.empty() && out.characters.back() == '\r') {
      // One cluster, after which the line ends.
      flags = 0;
      out.flags.back() &= static_cast<std::uint8_t>(~TextAnalysis::kBreak);
      if (!out.parts.empty() && out.parts.back().end == out.characters.size()) {
        first = out.parts.back().first;
        out.parts.pop_back();
      }
    }
    if (is_hanging_space(c)) flags |= TextAnalysis::kSpace;
    if (is_word_space(c)) flags |= TextAnalysis::kWordSpace;
    if (is_line_break(c)) flags |= TextAnalysis::kBreak;
    simple = simple && c < kFirstJoining;
    may_turn = may_turn || (c >= 0x590 && turns(c));
    out.characters.push_back(c);
    out.starts.push_back(static_cast<std::uint32_t>(at));
    out.flags.push_back(flags);
    if (is_line_break(c)) {
      out.parts.push_back({first, static_cast<std::uint32_t>(out.characters.size()), 0});
      first = static_cast<std::uint32_t>(out.characters.size());
    }
    at += next.length;
  }
  out.starts.push_back(static_cast<std::uint32_t>(text.size()));
  out.parts.push_back({first, static_cast<std::uint32_t>(out.characters.size()), 0});
  detail::UnicodeServices& services = cache.memory().services;
  if (!simple) detail::find_clusters(text, services, out);
  set_scripts(out, simple);
  if (may_turn) detail::find_levels(direction, services, out);
}

namespace {

/// Whether UAX #14 has nothing to say of the character but that lines may begin after spaces.
bool is_plain(char32_t c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == ' ' || c == '\n';
}
bool may_precede_spaces(char32_t c) { return is_plain(c) || c == '.' || c == ','; }

/// Text of letters, digits, commas, stops and spaces alone, lines of which begin with letters and digits:
/// rule LB18, with LB13 and LB25 forbidding nothing.
bool find_plain_lines(TextAnalysis& a) {
  const std::size_t count = a.characters.size();
  for (std::size_t i = 0; i < count; ++i) {
    if (!may_precede_spaces(a.characters[i])) return false;
    const bool after_space = i > 0 && a.characters[i - 1] == ' ';
    if (after_space && !is_plain(a.characters[i])) return false;
  }
  for (std::size_t i = 1; i < count; ++i) {
    const char32_t before = a.characters[i - 1], c = a.characters[i];
    if ((before == ' ' && c != ' ' && c != '\n') || before == '\n') a.flags[i] |= TextAnalysis::kLineStart;
  }
  return true;
}

std::string line_locale(LineBreaking breaking, std::string_view language) {
  std::array<char, 128> locale = {};
  UErrorCode status = U_ZERO_ERROR;
  int32_t parsed = 0;
  const std::string tag(language.substr(0, 64));
  uloc_forLanguageTag(tag.c_str(), locale.data(), static_cast<int32_t>(locale.size()), &parsed, &status);
  if (U_FAILURE(status) || parsed == 0) locale = {"en"};
  status = U_ZERO_ERROR;
  const char* style = breaking == LineBreaking::strict  ? "strict"
                      : breaking == LineBreaking::loose ? "loose"
                                                        : "normal";
  uloc_setKeywordValue("lb", style, locale.data(), static_cast<int32_t>(locale.size()), &status);
  return locale.data();
}

}  // namespace

void find_line_breaks(std::string_view text, LineBreaking breaking, std::string_view language,
                      ShapeCache& cache, TextAnalysis& analysis) {
  for (std::uint8_t& flags : analysis.flags) flags &= static_cast<std::uint8_t>(~TextAnalysis::kLineStart);
  analysis.has_breaks = true;
  if (find_plain_lines(analysis)) return;
  detail::find_lines(text, line_locale(breaking, language), cache.memory().services, analysis);
}

}  // namespace grafema
