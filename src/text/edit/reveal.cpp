// SPDX-License-Identifier: MIT
// Works out when each cluster appears.
#include "grafema/text/reveal.hpp"

#include <unicode/brkiter.h>
#include <unicode/filteredbrk.h>
#include <unicode/uchar.h>
#include <unicode/utext.h>

#include <algorithm>
#include <cmath>
#include <memory>

#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

/// Where sentences begin, in bytes; abbreviations that the language knows end none.
std::vector<std::uint32_t> sentence_starts(std::string_view text, std::string_view language) {
  std::vector<std::uint32_t> out;
  UErrorCode status = U_ZERO_ERROR;
  const icu::Locale locale = icu::Locale::forLanguageTag(
      icu::StringPiece(language.data(), static_cast<int32_t>(std::min<std::size_t>(language.size(), 200))),
      status);
  status = U_ZERO_ERROR;
  std::unique_ptr<icu::BreakIterator> sentences(icu::BreakIterator::createSentenceInstance(locale, status));
  if (U_FAILURE(status) || !sentences) return out;
  const std::unique_ptr<icu::FilteredBreakIteratorBuilder> builder(
      icu::FilteredBreakIteratorBuilder::createInstance(locale, status));
  if (builder && U_SUCCESS(status)) {
    std::unique_ptr<icu::BreakIterator> filtered(
        builder->wrapIteratorWithFilter(sentences.release(), status));
    sentences = std::move(filtered);
  }
  if (!sentences) return out;
  // The filtered iterator takes no UTF-8: its places are turned into bytes on the way.
  const icu::UnicodeString wide =
      icu::UnicodeString::fromUTF8(icu::StringPiece(text.data(), static_cast<int32_t>(text.size())));
  sentences->setText(wide);
  std::size_t byte = 0;
  int32_t index = 0;
  for (int32_t at = sentences->first(); at != icu::BreakIterator::DONE; at = sentences->next()) {
    while (index < at && byte < text.size()) {
      const DecodedCharacter c = decode_utf8(text, byte);
      byte += c.length;
      index += c.character > 0xFFFF ? 2 : 1;
    }
    out.push_back(static_cast<std::uint32_t>(byte));
  }
  return out;
}

bool has(char32_t c, UProperty property) {
  return u_hasBinaryProperty(static_cast<UChar32>(c), property) != 0;
}

bool closes(char32_t c) {
  const int8_t type = u_charType(static_cast<UChar32>(c));
  return type == U_END_PUNCTUATION || type == U_FINAL_PUNCTUATION || c == U'"' || c == U'\'';
}

/// The pause that a cluster's sign asks for, with what follows it.
class Pauses {
 public:
  Pauses(std::string_view text, const RevealPace& pace, std::string_view language)
      : text_(text), pace_(pace), sentences_(sentence_starts(text, language)) {}

  double behind(std::uint32_t byte) const {
    const DecodedCharacter sign = decode_utf8(text_, byte);
    std::size_t next = byte + sign.length;
    const char32_t follows = next < text_.size() ? decode_utf8(text_, next).character : 0;
    if (sign.character == U'\n') return 0;
    // What belongs to the sign comes first: quotes, brackets and further signs.
    const bool ends = has(sign.character, UCHAR_TERMINAL_PUNCTUATION) ||
                      (closes(sign.character) && byte > 0 && ended_before(byte));
    const bool goes_on = closes(follows) || has(follows, UCHAR_TERMINAL_PUNCTUATION);
    double pause = follows == U'\n' ? static_cast<double>(pace_.line) : 0;
    if (!ends || goes_on || follows == 0) return pause;
    const bool wide = sign.character >= 0x3000;  // no space follows ideographic signs
    const bool space = has(follows, UCHAR_WHITE_SPACE);
    if (!space && !wide) return pause;
    while (next < text_.size() && has(decode_utf8(text_, next).character, UCHAR_WHITE_SPACE)) {
      next += decode_utf8(text_, next).length;
    }
    const bool sentence =
        std::binary_search(sentences_.begin(), sentences_.end(), static_cast<std::uint32_t>(next));
    if (sentence) return pause + static_cast<double>(pace_.sentence);
    return has(sign.character, UCHAR_S_TERM) ? pause : pause + static_cast<double>(pace_.clause);
  }

 private:
  bool ended_before(std::uint32_t byte) const {
    std::size_t at = byte;
    do --at;
    while (at > 0 && (static_cast<unsigned char>(text_[at]) & 0xC0U) == 0x80);
    const char32_t c = decode_utf8(text_, at).character;
    return has(c, UCHAR_TERMINAL_PUNCTUATION) ||
           (closes(c) && at > 0 && ended_before(static_cast<std::uint32_t>(at)));
  }

  std::string_view text_;
  const RevealPace& pace_;
  std::vector<std::uint32_t> sentences_;
};

}  // namespace

void Reveal::start(const RichText& text, std::span<const std::uint32_t> clusters, const RevealPace& pace,
                   std::string_view language) {
  times_.clear();
  bytes_.assign(clusters.begin(), clusters.end());
  now_ = 0, shown_ = 0;
  const double step = pace.clusters_per_second > 0 ? 1 / static_cast<double>(pace.clusters_per_second) : 0;
  const Pauses pauses(text.text, pace, language);
  double time = 0;
  std::size_t pause = 0;
  for (const std::uint32_t byte : bytes_) {
    for (; pause < text.pauses.size() && text.pauses[pause].position <= byte; ++pause) {
      time += static_cast<double>(std::max(0.0F, text.pauses[pause].seconds));
    }
    time += step;
    times_.push_back(time);
    if (byte < text.text.size()) time += pauses.behind(byte);
  }
}

std::size_t Reveal::advance(double seconds,
                            const std::function<void(std::size_t, std::uint32_t)>& on_cluster) {
  if (seconds > 0 && std::isfinite(seconds)) now_ += seconds;
  constexpr double kSlack = 1e-9;
  while (shown_ < times_.size() && times_[shown_] <= now_ + kSlack) {
    if (on_cluster) on_cluster(shown_, bytes_[shown_]);
    ++shown_;
  }
  return shown_;
}

void Reveal::skip() { shown_ = times_.size(); }

}  // namespace grafema
