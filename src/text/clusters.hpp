// SPDX-License-Identifier: MIT
// Text as characters, and where grapheme clusters begin.
#pragma once

#include <memory>
#include <string_view>
#include <vector>

#include "grafema/text/paragraph.hpp"

struct UBreakIterator;

namespace grafema::detail {

/// One character of the text on its way to a glyph.
struct TextItem {
  char32_t character = 0;
  std::uint32_t start = 0;    ///< its first byte
  std::uint32_t cluster = 0;  ///< the first byte of its grapheme cluster
  std::uint16_t face = 0;
  GlyphId glyph{};
  Tag script{};
  bool visible = true;       ///< gets a glyph
  bool breaks_line = false;  ///< a line ends after it
};

struct BreakIteratorCloser {
  void operator()(UBreakIterator* iterator) const;
};
using BreakIterator = std::unique_ptr<UBreakIterator, BreakIteratorCloser>;

/// Replaces `items` with the text's characters, clusters and line breaks set. ICU is entered only where a
/// character from U+0300 on makes clusters possible; `iterator` is opened then.
void read_items(std::string_view text, std::vector<TextItem>& items, BreakIterator& iterator, Notes* notes);

}  // namespace grafema::detail

namespace grafema {

struct ShapeCache::Memory {
  std::vector<detail::TextItem> items;
  detail::BreakIterator graphemes;
};

}  // namespace grafema
