// SPDX-License-Identifier: MIT
// Pair kerning of GPOS (OpenType, GPOS, lookup type 2), compiled into rows and columns of glyphs that kern alike.
#pragma once

#include <vector>

#include "grafema/layout_tables.hpp"

namespace grafema::detail {

/// The pair adjustment lookups of one feature, in order; in each the first subtable that knows a pair decides.
using PairLookups = std::vector<std::vector<PairAdjustments>>;

/// What all lookups together say; lookups add up.
PairAdjustment find_adjustment(const PairLookups& lookups, GlyphId left, GlyphId right, std::uint16_t pixels_per_em);

/// The advance that pairs add to their first glyph, found by two looks into lists and one into a matrix.
class PairMatrix {
 public:
  /// Stays empty where that would take more memory than it is worth; `find_adjustment` then does the work.
  /// `work` is what may still be spent on a face, in glyphs and cells looked at; less is left of it.
  static PairMatrix compile(const PairLookups& lookups, std::uint32_t glyph_count, std::size_t& work);

  bool empty() const { return rows_.empty(); }
  /// Equals `find_adjustment(...).first.x_advance`.
  float find(const PairLookups& lookups, std::uint32_t left, std::uint32_t right) const;
  std::size_t bytes() const;

 private:
  struct Pair {
    std::uint32_t key = 0;
    float value = 0;
  };
  bool add_classes(const PairLookups& lookups, std::uint32_t glyph_count, std::size_t& work);
  void add_values(const PairLookups& lookups);
  void add_pairs(const PairLookups& lookups, std::uint32_t glyph_count);
  const Pair* find_pair(std::uint32_t key) const;

  std::vector<std::uint16_t> rows_, columns_;  ///< of each glyph; a row's highest bit says that the glyph has listed pairs
  std::vector<float> values_;                  ///< by row and column
  std::uint32_t column_count_ = 1;
  std::vector<Pair> pairs_;                    ///< hashed by key, a power of two of them; key 0xFFFFFFFF: free
  bool pairs_listed_ = true;                   ///< false: too many; asked in the font
};

class PairKerning {
 public:
  PairKerning() = default;
  static PairKerning read(const LayoutTable& gpos, std::uint32_t glyph_count);

  /// Whether any script has pair kerning.
  bool empty() const { return sets_.empty(); }
  /// What pairs of `script` and `language` add to the advance of `left`, in font units.
  float find(GlyphId left, GlyphId right, Tag script, Tag language) const;
  PairAdjustment find_both(GlyphId left, GlyphId right, Tag script, Tag language, std::uint16_t pixels_per_em) const;
  std::size_t bytes() const;

 private:
  struct Set {
    std::vector<std::uint16_t> indices;  ///< the lookups as the font numbers them
    PairLookups lookups;
    PairMatrix matrix;
  };
  struct System {
    Tag script, language;
    std::size_t set;
  };
  void add(const LayoutTable& gpos, Tag script, Tag language, std::uint32_t glyph_count, std::size_t& work);
  const Set* find_set(Tag script, Tag language) const;
  const System* find_system(Tag script, Tag language) const;

  std::vector<System> systems_;
  std::vector<Set> sets_;
};

}  // namespace grafema::detail
