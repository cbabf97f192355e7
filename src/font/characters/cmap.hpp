// SPDX-License-Identifier: MIT
// The map from characters to glyphs (OpenType, cmap).
#pragma once

#include <algorithm>
#include <optional>
#include <utility>
#include <vector>

#include "font/characters/text_encoding.hpp"
#include "font/container/table.hpp"
#include "grafema/font/glyph_metrics.hpp"

namespace grafema::detail {

/// One subtable, looked up by the codes of its own character set.
class CodeMap {
 public:
  CodeMap() = default;
  /// Checks the arrays of the subtable. Fails with `damaged`, or `unsupported` for formats that map no codes.
  static Result<CodeMap> read(const TableView& subtable);

  std::uint16_t format() const { return format_; }
  /// 0 where nothing is mapped. The glyph may be one that the face does not have.
  std::uint32_t find(std::uint32_t code) const;
  /// Calls `visit(code, glyph)` for what is mapped. Where spans ascend, as they must, no code is visited
  /// twice; where they don't, about two million codes are visited at most.
  template <class Visit>
  void visit_all(Visit visit) const {
    std::uint32_t left = 0x220000, next = 0;
    for (std::size_t i = 0; i < span_count(); ++i) {
      const Span s = span(i);
      for (std::uint64_t code = sorted_ ? std::max(s.first, next) : s.first; code <= s.last && left > 0;
           ++code, --left) {
        const auto c = static_cast<std::uint32_t>(code);
        if (const std::uint32_t glyph = glyph_in_span(i, c); glyph != 0) visit(c, glyph);
      }
      next = std::max(next, s.last + (s.last == 0xFFFFFFFF ? 0U : 1U));
    }
  }

 private:
  struct Span {
    std::uint32_t first = 0, last = 0;
  };
  Span span(std::size_t i) const;
  std::size_t span_count() const;
  std::uint32_t glyph_in_span(std::size_t i, std::uint32_t code) const;
  Result<void> check();
  Result<void> check_groups(std::size_t count_at);
  std::uint32_t find_in_lead_bytes(std::uint32_t code) const;
  std::uint32_t find_in_segments(std::uint32_t code) const;
  std::uint32_t glyph_in_segment(std::size_t segment, std::uint32_t code) const;
  std::uint32_t find_in_groups(std::uint32_t code) const;

  TableView table_;
  std::uint16_t format_ = 0;
  std::size_t count_ = 0;     ///< segments, groups or single codes
  std::size_t first_at_ = 0;  ///< where groups or glyphs begin
  std::uint32_t first_code_ = 0;
  bool sorted_ = true;  ///< segments or groups ascend, as they must; else each is looked at
};

/// The best subtable of a face, asked by Unicode character.
class CharacterMap {
 public:
  /// Characters without a map have no glyphs. Fails where the table is damaged and no subtable can be used.
  static Result<CharacterMap> read(const TableView& cmap, std::uint32_t glyph_count);

  GlyphId find(char32_t character) const;
  /// The glyph for a character followed by a variation selector; nothing where the face says nothing about
  /// the pair.
  std::optional<GlyphId> find_variant(char32_t character, char32_t selector) const;
  /// Every character that has a glyph, ascending.
  std::vector<std::pair<char32_t, GlyphId>> all() const;
  /// The variation selectors that the face has sequences for, ascending.
  std::vector<char32_t> selectors() const;

 private:
  enum class Kind : std::uint8_t { none, unicode, symbol, listed };
  GlyphId checked(std::uint32_t glyph) const { return glyph < glyph_count_ ? GlyphId{glyph} : kMissingGlyph; }
  void list(TextEncoding encoding);

  Kind kind_ = Kind::none;
  CodeMap map_;
  std::uint32_t glyph_count_ = 0;
  std::vector<std::pair<char32_t, GlyphId>> listed_;  ///< where the subtable's character set is not Unicode
  TableView variants_;
};

}  // namespace grafema::detail
