// SPDX-License-Identifier: MIT
// Decodes text and finds its grapheme clusters (UAX #29) by ICU.
#include "text/clusters.hpp"

#include <unicode/ubrk.h>
#include <unicode/utext.h>

#include <algorithm>

#include "grafema/base/utf8.hpp"

namespace grafema::detail {

void BreakIteratorCloser::operator()(UBreakIterator* iterator) const { ubrk_close(iterator); }

namespace {

/// The characters after which a line must end (UAX #14, classes BK, CR, LF, NL).
bool is_line_break(char32_t c) { return (c >= 0x0A && c <= 0x0D) || c == 0x85 || c == 0x2028 || c == 0x2029; }

/// Every cluster that ICU finds begins at one of our characters: both read UTF-8 by the same rule for broken
/// bytes.
void set_clusters(std::string_view text, std::vector<TextItem>& items, BreakIterator& iterator) {
  UErrorCode status = U_ZERO_ERROR;
  if (!iterator) iterator.reset(ubrk_open(UBRK_CHARACTER, "", nullptr, 0, &status));
  UText* source = utext_openUTF8(nullptr, text.data(), static_cast<std::int64_t>(text.size()), &status);
  if (U_SUCCESS(status)) ubrk_setUText(iterator.get(), source, &status);
  if (U_SUCCESS(status)) {
    std::uint32_t cluster = 0;
    for (TextItem& item : items) {
      if (ubrk_isBoundary(iterator.get(), static_cast<std::int32_t>(item.start)) != 0) cluster = item.start;
      item.cluster = cluster;
    }
  }
  utext_close(source);
}

}  // namespace

void read_items(std::string_view text, std::vector<TextItem>& items, BreakIterator& iterator, Notes* notes) {
  items.clear();
  bool simple = true;
  for (std::size_t at = 0; at < text.size();) {
    const DecodedCharacter next = decode_utf8(text, at);
    if (!next.valid && notes != nullptr) notes->add({.kind = NoteKind::replaced_byte, .position = at});
    TextItem item;
    item.character = next.character;
    item.start = item.cluster = static_cast<std::uint32_t>(at);
    item.breaks_line = is_line_break(next.character);
    // In CR LF, one cluster, the line ends after the second.
    if (item.character == '\n' && !items.empty() && items.back().character == '\r') {
      items.back().breaks_line = false;
      item.cluster = items.back().start;
    }
    constexpr char32_t kFirstJoining = 0x300;  // no character below extends a cluster but LF after CR
    simple = simple && item.character < kFirstJoining;
    items.push_back(item);
    at += next.length;
  }
  if (!simple) set_clusters(text, items, iterator);
}

}  // namespace grafema::detail
