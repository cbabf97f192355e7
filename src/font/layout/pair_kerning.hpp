// SPDX-License-Identifier: MIT
// Pair kerning of GPOS (lookup type 2), compiled into rows and columns of glyphs that kern alike.
#pragma once

#include <optional>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema::detail {

/// The pair adjustment lookups of one feature, in order; in each the first subtable that knows a pair
/// decides.
using PairLookups = std::vector<std::vector<PairAdjustments>>;

/// What all lookups together say; lookups add up.
PairAdjustment find_adjustment(const PairLookups& lookups, GlyphId left, GlyphId right,
                               std::uint16_t pixels_per_em);

/// The advance that pairs add to their first glyph, found by two looks into lists and one into a matrix.
class PairMatrix {
 public:
  /// Stays empty where that would take more memory than it is worth; `find_adjustment` then does the work.
  /// `work` is what may still be spent on a face, in glyphs and cells looked at; less is left of it.
  static PairMatrix compile(const PairLookups& lookups, std::uint32_t glyph_count, std::size_t& work);

  bool empty() const { return glyph_count_ == 0; }
  /// The same as plain arrays, for whoever inlines the search; good while the matrix lives.
  Face::QuickKerning quick(Tag script) const {
    return {script, glyph_count_, column_count_, rows_.data(), columns_.data(), values_.data()};
  }
  /// Equals `find_adjustment(...).first.x_advance`. Inline: every pair of letters asks.
  float find(const PairLookups& lookups, std::uint32_t left, std::uint32_t right) const {
    if (left >= glyph_count_ || right >= glyph_count_) return 0;
    const std::uint32_t row = rows_[left];
    if ((row & kHasPairs) != 0) return find_listed(lookups, left, right);
    return values_[std::size_t{row} * column_count_ + columns_[right]];
  }
  std::size_t bytes() const;

 private:
  struct Pair {
    std::uint32_t key = 0;
    float value = 0;
  };
  static constexpr std::uint32_t kHasPairs = Face::QuickKerning::kHasPairs, kFree = 0xFFFFFFFF;
  bool add_classes(const PairLookups& lookups, std::uint32_t glyph_count, std::size_t& work);
  void add_values(const PairLookups& lookups);
  void add_pairs(const PairLookups& lookups, std::uint32_t glyph_count);
  std::size_t place_of(std::uint32_t key) const { return key * 0x9E3779B1U >> pair_shift_; }
  const Pair* find_pair(std::uint32_t key) const {
    if (pairs_.empty()) return nullptr;
    for (std::size_t at = place_of(key); pairs_[at].key != kFree; at = (at + 1) & (pairs_.size() - 1)) {
      if (pairs_[at].key == key) return &pairs_[at];
    }
    return nullptr;
  }

  float find_listed(const PairLookups& lookups, std::uint32_t left, std::uint32_t right) const;

  std::uint32_t glyph_count_ = 0;
  std::vector<std::uint16_t> rows_,
      columns_;                ///< of each glyph; a row's highest bit says that the glyph has listed pairs
  std::vector<float> values_;  ///< by row and column
  std::uint32_t column_count_ = 1;
  std::vector<Pair> pairs_;   ///< hashed by key, a power of two of them; `kFree`: no pair
  unsigned pair_shift_ = 31;  ///< from a hash of 32 bits to a place
  bool pairs_listed_ = true;  ///< false: too many; asked in the font
};

class PairKerning {
 public:
  PairKerning() = default;
  static PairKerning read(const LayoutTable& gpos, std::uint32_t glyph_count);

  /// Whether no script has a `kern` feature.
  bool empty() const { return sets_.empty(); }
  /// Whether some script or language has no `kern` feature, so that the `kern` table counts there.
  bool has_gaps() const { return has_gaps_; }
  /// What is asked most; nothing of it where the first script is not compiled.
  Face::QuickKerning quick() const {
    return quick_script_ == kNoScript ? Face::QuickKerning{} : sets_[0].matrix.quick(quick_script_);
  }
  /// What pairs of `script` and `language` add to the advance of `left`, in font units; nothing where they
  /// have no `kern` feature.
  std::optional<float> find(GlyphId left, GlyphId right, Tag script, Tag language) const {
    if (script != quick_script_ || language != Tag{}) return find_slowly(left, right, script, language);
    return sets_[0].matrix.find(sets_[0].lookups, index_of(left), index_of(right));
  }
  std::optional<PairAdjustment> find_both(GlyphId left, GlyphId right, Tag script, Tag language,
                                          std::uint16_t pixels_per_em) const;
  std::size_t bytes() const;

 private:
  struct Set {
    std::vector<std::uint16_t> indices;  ///< the lookups as the font numbers them
    PairLookups lookups;
    PairMatrix matrix;
  };
  struct System {
    Tag script, language;
    std::size_t set;  ///< index into `sets_`, or kNoSet where there is no `kern` feature
  };
  std::optional<float> find_slowly(GlyphId left, GlyphId right, Tag script, Tag language) const;
  void add(const LayoutTable& gpos, Tag script, Tag language, std::uint32_t glyph_count, std::size_t& work);
  const Set* find_set(Tag script, Tag language) const;
  const System* find_system(Tag script, Tag language) const;

  static constexpr std::size_t kNoSet = ~std::size_t{0};
  static constexpr Tag kNoScript{0xFFFFFFFF};
  Tag quick_script_ = kNoScript;  ///< what the first set is for, where that is compiled; asked first
  std::vector<System> systems_;
  std::vector<Set> sets_;
  std::size_t subtables_ = 0;  ///< of all sets
  bool has_gaps_ = false;
};

}  // namespace grafema::detail
