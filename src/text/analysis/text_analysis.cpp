// SPDX-License-Identifier: MIT
// Takes text apart: characters, clusters, parts, directions, scripts, line breaks.
#include "grafema/text/text_analysis.hpp"

#include <unicode/uchar.h>
#include <unicode/uloc.h>
#include <unicode/uscript.h>

#include <algorithm>
#include <array>
#include <string>

#include "grafema/base/utf8.hpp"
#include "grafema/unicode/characters.hpp"
#include "text/shaping/engine/shape_memory.hpp"

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

/// `script_of`, without a search for ASCII and for characters that were seen.
Tag quick_script(char32_t c, detail::UnicodeServices& services) {
  if (c >= 0x80) {
    detail::UnicodeServices::KnownScript& known = services.scripts[c % services.scripts.size()];
    if (known.character != c) known = {c, script_of(c)};
    return known.script;
  }
  const char32_t lower = c | 0x20U;
  return lower >= 'a' && lower <= 'z' ? tag("latn") : Tag{};
}

/// The script of a letter that several scripts share but not the one before it (UAX #24, Script_Extensions):
/// the sign that lengthens kana is kana behind an ideograph too. Tag{} where that goes along.
Tag extended_script(char32_t c, Tag before) {
  std::array<UScriptCode, 32> scripts = {};
  UErrorCode status = U_ZERO_ERROR;
  const std::int32_t count = uscript_getScriptExtensions(static_cast<UChar32>(c), scripts.data(),
                                                         static_cast<std::int32_t>(scripts.size()), &status);
  if (U_FAILURE(status)) return {};
  Tag best{};
  for (std::int32_t i = 0; i < count; ++i) {
    const UScriptCode code = scripts[static_cast<std::size_t>(i)];
    if (code == USCRIPT_COMMON || code == USCRIPT_INHERITED) return {};
    std::string name = uscript_getShortName(code);
    if (name.empty()) continue;
    name[0] = static_cast<char>(name[0] | 0x20);
    const Tag script = name == "hira" ? tag("kana") : tag(name);
    if (script == before) return {};
    if (best == Tag{} || script == tag("kana") || script == tag("arab")) best = script;
  }
  return best;
}

/// Characters that belong to no script take that of the text before them, at the start of what follows; a
/// closing bracket that of its opening one (UAX #24, section 5.1).
void set_scripts(TextAnalysis& a, bool simple, detail::UnicodeServices& services) {
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
    const Tag own = quick_script(c, services);
    if (own != Tag{}) current = own;
    a.scripts[i] = current;
    if (simple || own != Tag{}) continue;
    if (c >= 0x80 && u_charType(static_cast<UChar32>(c)) == U_MODIFIER_LETTER) {
      if (const Tag shared = extended_script(c, current); shared != Tag{}) a.scripts[i] = current = shared;
    }
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
  // What stands before the first letter goes with it.
  std::size_t first = 0;
  while (first < a.scripts.size() && a.scripts[first] == Tag{}) ++first;
  const Tag leading = first < a.scripts.size() ? a.scripts[first] : tag("DFLT");
  std::fill_n(a.scripts.begin(), first, leading);
}

}  // namespace

namespace {

/// Decodes the text into lists that are as long as it may need.
class Decoder {
 public:
  Decoder(std::string_view text, TextAnalysis& out, Notes* notes) : text_(text), out_(out), notes_(notes) {
    out.characters.resize(text.size());
    out.flags.resize(text.size());
    out.starts.resize(text.size() + 1);
  }

  void run() {
    while (at_ < text_.size()) {
      const auto byte = static_cast<unsigned char>(text_[at_]);
      if (byte >= 0x20 && byte < 0x7F) {
        put(byte, byte == ' ' ? kPlainSpace : TextAnalysis::kCluster, 1);
      } else {
        take_other();
      }
    }
    out_.characters.resize(count_);
    out_.flags.resize(count_);
    out_.starts.resize(count_ + 1);
    out_.starts[count_] = static_cast<std::uint32_t>(text_.size());
    out_.parts.push_back({first_, count_, 0});
  }

  bool simple = true, may_turn = false;

 private:
  static constexpr std::uint8_t kPlainSpace =
      TextAnalysis::kCluster | TextAnalysis::kSpace | TextAnalysis::kWordSpace;

  void put(char32_t c, std::uint8_t flags, std::size_t length) {
    out_.characters[count_] = c;
    out_.starts[count_] = static_cast<std::uint32_t>(at_);
    out_.flags[count_] = flags;
    ++count_;
    at_ += length;
  }

  void take_other() {
    const DecodedCharacter next = decode_utf8(text_, at_);
    const char32_t c = next.character;
    if (!next.valid && notes_ != nullptr) notes_->add({.kind = NoteKind::replaced_byte, .position = at_});
    std::uint8_t flags = TextAnalysis::kCluster;
    if (c == '\n' && count_ > 0 && out_.characters[count_ - 1] == '\r') {
      flags = 0;  // one cluster, after which the line ends
      out_.flags[count_ - 1] &= static_cast<std::uint8_t>(~TextAnalysis::kBreak);
      first_ = out_.parts.back().first;
      out_.parts.pop_back();
    }
    if (is_hanging_space(c)) flags |= TextAnalysis::kSpace;
    if (is_word_space(c)) flags |= TextAnalysis::kWordSpace;
    simple = simple && c < kFirstJoining;
    may_turn = may_turn || (c >= 0x590 && turns(c));
    const bool ends_line = is_line_break(c);
    if (ends_line) flags |= TextAnalysis::kBreak;
    put(c, flags, next.length);
    if (ends_line) {
      out_.parts.push_back({first_, count_, 0});
      first_ = count_;
    }
  }

  std::string_view text_;
  TextAnalysis& out_;
  Notes* notes_;
  std::size_t at_ = 0;
  std::uint32_t count_ = 0, first_ = 0;
};

}  // namespace

void analyze(std::string_view text, TextDirection direction, ShapeCache& cache, TextAnalysis& out,
             Notes* notes) {
  out.levels.clear(), out.parts.clear();
  out.has_breaks = false;
  Decoder decoder(text, out, notes);
  decoder.run();
  detail::UnicodeServices& services = cache.memory().services;
  if (!decoder.simple) detail::find_clusters(text, services, out);
  set_scripts(out, decoder.simple, services);
  if (decoder.may_turn || direction == TextDirection::right_to_left) {
    detail::find_levels(direction, services, out);
  }
}

void find_words(std::string_view text, ShapeCache& cache, TextAnalysis& analysis) {
  detail::find_words(text, cache.memory().services, analysis);
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
