// SPDX-License-Identifier: MIT
// Chooses the subtable that serves a face best and asks it by Unicode character.
#include "font/characters/cmap.hpp"

#include <fmt/format.h>
#include "grafema/unicode/characters.hpp"

#include "grafema/base/utf8.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kSelectorBytes = 11;
constexpr char32_t kSymbolPage = 0xF000, kSymbolCount = 0x100;

struct Candidate {
  int rank = 0;
  TableView subtable;
  std::uint16_t platform = 0, encoding = 0;
};

/// What a subtable is worth: all of Unicode before the basic plane, symbols and old character sets last
/// (OpenType, cmap).
int rank_of(std::uint16_t platform, std::uint16_t encoding) {
  if (platform == 3 && encoding == 10) return 7;
  if (platform == 0 && (encoding == 4 || encoding == 6)) return 6;
  if (platform == 3 && encoding == 1) return 5;
  if (platform == 0 && encoding != 5) return 4;
  if (platform == 3 && encoding == 0) return 3;
  return find_encoding(platform, encoding, 0) != TextEncoding::none ? 2 : 1;
}

bool is_unicode(const Candidate& c) {
  return c.platform == 0 || (c.platform == 3 && (c.encoding == 1 || c.encoding == 10));
}

std::uint32_t u24(const TableView& table, std::size_t at) {
  return table.holds(at, 3) ? static_cast<std::uint32_t>(table.bytes[at]) << 16 | be16(table.bytes, at + 1)
                            : 0U;
}

/// The record of fixed size among sorted ones that begin with a number of three bytes: the last that is not
/// above `wanted`.
std::optional<std::size_t> find_record(const TableView& table, std::size_t first, std::size_t count,
                                       std::size_t bytes, std::uint32_t wanted) {
  std::size_t low = 0, high = count;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (u24(table, first + middle * bytes) <= wanted) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  return low == 0 ? std::nullopt : std::optional(first + (low - 1) * bytes);
}

}  // namespace

Result<CharacterMap> CharacterMap::read(const TableView& cmap, std::uint32_t glyph_count) {
  CharacterMap map;
  map.glyph_count_ = glyph_count;
  if (cmap.empty()) return map;
  if (!cmap.holds(0, 4)) return damaged(cmap, 0, "a header of 4 bytes");
  const std::size_t count = be16(cmap.bytes, 2);
  if (!cmap.holds(4, count * 8)) {
    return damaged(cmap, 2, "a subtable count that fits the table", fmt::format("{}", count));
  }
  std::vector<Candidate> candidates;
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t record = 4 + i * 8;
    const std::uint16_t platform = be16(cmap.bytes, record), encoding = be16(cmap.bytes, record + 2);
    const TableView subtable = cmap.from(be32(cmap.bytes, record + 4));
    if (subtable.u16(0) == 14) {
      map.variants_ = subtable;
    } else {
      candidates.push_back({rank_of(platform, encoding), subtable, platform, encoding});
    }
  }
  std::stable_sort(candidates.begin(), candidates.end(),
                   [](const Candidate& a, const Candidate& b) { return a.rank > b.rank; });
  std::optional<Error> first_error;
  for (const Candidate& candidate : candidates) {
    Result<CodeMap> codes = CodeMap::read(candidate.subtable);
    if (!codes) {
      if (!first_error) first_error = codes.error();
      continue;
    }
    map.map_ = *codes;
    map.kind_ = is_unicode(candidate) ? Kind::unicode : candidate.rank == 3 ? Kind::symbol : Kind::listed;
    if (map.kind_ == Kind::listed) {
      const std::uint16_t language = candidate.subtable.u16(4);  // the Macintosh language and 1, or 0 for any
      map.list(find_encoding(candidate.platform, candidate.encoding,
                             static_cast<std::uint16_t>(language - (language > 0 ? 1 : 0))));
    }
    return map;
  }
  if (first_error) return fail(*first_error);
  return map;
}

/// Decodes every code of the subtable's character set once.
void CharacterMap::list(TextEncoding encoding) {
  if (encoding == TextEncoding::none) {
    encoding = TextEncoding::roman;
  }  // at least ASCII is the same everywhere
  std::vector<std::uint32_t> glyphs;
  std::vector<std::byte> codes;  // separated by line feeds, which are part of no character
  map_.visit_all([&](std::uint32_t code, std::uint32_t glyph) {
    if (code > 0xFFFF || (code & 0xFF) == 0x0A || (code > 0xFF && !is_double_byte(encoding))) return;
    if (code > 0xFF) codes.push_back(static_cast<std::byte>(code >> 8));
    codes.push_back(static_cast<std::byte>(code & 0xFF));
    codes.push_back(std::byte{0x0A});
    glyphs.push_back(glyph);
  });
  const std::string text = decode_text(encoding, codes);
  std::size_t at = 0;
  for (const std::uint32_t glyph : glyphs) {
    const std::size_t end = std::min(text.find('\n', at), text.size());
    if (at >= text.size()) break;
    const DecodedCharacter decoded = decode_utf8(text, at);
    if (at + decoded.length == end && decoded.character != 0xFFFD && checked(glyph) != kMissingGlyph) {
      listed_.emplace_back(decoded.character, GlyphId{glyph});
    }
    at = end + 1;
  }
  std::stable_sort(listed_.begin(), listed_.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  listed_.erase(std::unique(listed_.begin(), listed_.end(),
                            [](const auto& a, const auto& b) { return a.first == b.first; }),
                listed_.end());
}

GlyphId CharacterMap::find(char32_t character) const {
  switch (kind_) {
    case Kind::unicode: {
      const GlyphId glyph = checked(map_.find(character));
      if (glyph != kMissingGlyph || map_.format() != 8 || character < 0x10000) return glyph;
      const char32_t rest = character - 0x10000;
      return checked(map_.find((0xD800 + (rest >> 10)) << 16 | (0xDC00 + (rest & 0x3FF))));
    }
    case Kind::symbol: {  // letters of symbol fonts live in a page of the private use area; some live where
                          // they are typed
      const GlyphId glyph = checked(map_.find(character));
      if (glyph != kMissingGlyph) return glyph;
      if (character < kSymbolCount) return checked(map_.find(kSymbolPage + character));
      return character >= kSymbolPage && character < kSymbolPage + kSymbolCount
                 ? checked(map_.find(character - kSymbolPage))
                 : kMissingGlyph;
    }
    case Kind::listed: {
      const auto at = std::lower_bound(listed_.begin(), listed_.end(), character,
                                       [](const auto& entry, char32_t c) { return entry.first < c; });
      return at != listed_.end() && at->first == character ? at->second : kMissingGlyph;
    }
    case Kind::none:
      break;
  }
  return kMissingGlyph;
}

std::optional<GlyphId> CharacterMap::find_variant(char32_t character, char32_t selector) const {
  if (variants_.empty()) return std::nullopt;
  const std::size_t room = variants_.bytes.size();
  const std::size_t count = std::min<std::size_t>(variants_.u32(6), room / kSelectorBytes);
  const std::optional<std::size_t> record = find_record(variants_, 10, count, kSelectorBytes, selector);
  if (!record || u24(variants_, *record) != selector) return std::nullopt;
  if (const std::uint32_t offset = variants_.u32(*record + 7);
      offset != 0) {  // sequences with a glyph of their own
    const TableView own = variants_.from(offset);
    const std::optional<std::size_t> entry =
        find_record(own, 4, std::min<std::size_t>(own.u32(0), own.bytes.size() / 5), 5, character);
    if (entry && u24(own, *entry) == character) return checked(own.u16(*entry + 3));
  }
  if (const std::uint32_t offset = variants_.u32(*record + 3);
      offset != 0) {  // sequences that look as without selector
    const TableView ranges = variants_.from(offset);
    const std::optional<std::size_t> entry =
        find_record(ranges, 4, std::min<std::size_t>(ranges.u32(0), ranges.bytes.size() / 4), 4, character);
    if (entry && ranges.holds(*entry, 4) &&
        character - u24(ranges, *entry) <= static_cast<std::uint32_t>(ranges.bytes[*entry + 3])) {
      return find(character);
    }
  }
  return std::nullopt;
}

std::vector<std::pair<char32_t, GlyphId>> CharacterMap::all() const {
  if (kind_ == Kind::listed) return listed_;
  std::vector<std::pair<char32_t, GlyphId>> out;
  const auto add = [&](char32_t character, std::uint32_t glyph) {
    if (character <= 0x10FFFF && checked(glyph) != kMissingGlyph) out.emplace_back(character, GlyphId{glyph});
  };
  if (kind_ == Kind::none) return out;
  map_.visit_all([&](std::uint32_t code, std::uint32_t glyph) {
    const bool pair = code > 0x10FFFF && code >> 26 == 0xD800U >> 10 && (code >> 10 & 0x3FU) == 0xDC00U >> 10;
    add(pair ? 0x10000 + ((code >> 16 & 0x3FFU) << 10) + (code & 0x3FFU) : code, glyph);
    if (kind_ != Kind::symbol) return;
    if (code >= kSymbolPage && code < kSymbolPage + kSymbolCount && map_.find(code - kSymbolPage) == 0) {
      add(code - kSymbolPage, glyph);
    }
    if (code < kSymbolCount && map_.find(code + kSymbolPage) == 0) add(code + kSymbolPage, glyph);
  });
  std::sort(out.begin(), out.end());
  out.erase(
      std::unique(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.first == b.first; }),
      out.end());
  return out;
}

std::vector<char32_t> CharacterMap::selectors() const {
  constexpr std::size_t kHeader = 10, kRecord = 11;
  std::vector<char32_t> out;
  for (std::size_t i = 0; i < variants_.u32(6) && variants_.holds(kHeader + i * kRecord, kRecord); ++i) {
    const char32_t selector = variants_.u32(kHeader + i * kRecord) >> 8U;
    if (is_variation_selector(selector)) out.push_back(selector);
  }
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  return out;
}

}  // namespace grafema::detail
