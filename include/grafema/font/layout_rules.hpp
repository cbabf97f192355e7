// SPDX-License-Identifier: MIT
// What the lookups of GSUB and GPOS do, as typed views (OpenType, GSUB, GPOS).
#pragma once

#include <cstddef>
#include <memory>
#include <optional>
#include <span>
#include <utility>
#include <variant>
#include <vector>

#include "grafema/font/glyph_metrics.hpp"

namespace grafema {
namespace detail {
class ItemVariations;
}

// Views refer to the font's bytes and are good while the face lives. They may be copied freely. Numbers that
// a damaged font does not hold read as 0, and what is out of bounds is as if it were not there: no call can
// fail.

/// Bytes of a table from the view's first byte to the table's end.
using TableBytes = std::span<const std::byte>;

/// A numbered set of glyphs (Coverage).
class GRAFEMA_API GlyphSet {
 public:
  GlyphSet() = default;
  explicit GlyphSet(TableBytes bytes) : bytes_(bytes) {}
  /// The glyph's number in the set.
  std::optional<std::uint32_t> find(GlyphId glyph) const;
  bool holds(GlyphId glyph) const { return find(glyph).has_value(); }
  /// All glyphs in the order of their numbers, at most 65,536.
  std::vector<GlyphId> glyphs() const;

 private:
  TableBytes bytes_;
};

/// Glyphs sorted into classes (ClassDef). Glyphs that it does not name are of class 0.
class GRAFEMA_API GlyphClasses {
 public:
  GlyphClasses() = default;
  explicit GlyphClasses(TableBytes bytes) : bytes_(bytes) {}
  std::uint16_t class_of(GlyphId glyph) const;
  /// The glyphs that it names, at most 65,536; of damaged tables perhaps some twice.
  std::vector<GlyphId> glyphs() const;
  bool empty() const { return bytes_.empty(); }

 private:
  TableBytes bytes_;
};

/// What a value record adds to a glyph, in font units, changes along the axes included.
struct Adjustment {
  float x_placement = 0, y_placement = 0, x_advance = 0, y_advance = 0;
  bool operator==(const Adjustment&) const = default;
};
struct PairAdjustment {
  Adjustment first, second;
  bool operator==(const PairAdjustment&) const = default;
};

// ---- GSUB ----

struct SingleSubstitution {  ///< lookup type 1
  GlyphSet from;
  TableBytes bytes;
  GRAFEMA_API std::optional<GlyphId> find(GlyphId glyph) const;
};
struct SequenceSubstitution {  ///< types 2 (one glyph becomes several) and 3 (a choice of glyphs for one)
  GlyphSet from;
  TableBytes bytes;
  /// The glyphs that take the place of `glyph`; nothing where the rule does not know it. An empty list
  /// deletes the glyph.
  GRAFEMA_API std::optional<std::vector<GlyphId>> find(GlyphId glyph) const;
};
struct Ligature {
  GlyphId glyph{};
  std::vector<GlyphId> rest;  ///< the components after the first
};
struct LigatureSubstitution {  ///< type 4
  GlyphSet from;
  TableBytes bytes;
  /// The ligatures that begin with the glyph, the preferred first.
  GRAFEMA_API std::vector<Ligature> find(GlyphId first) const;
};

/// What a place of a context accepts: one glyph, a class, or a set of glyphs.
struct GlyphMatcher {
  std::variant<GlyphId, std::pair<GlyphClasses, std::uint16_t>, GlyphSet> what;
  GRAFEMA_API bool matches(GlyphId glyph) const;
};
/// One action of a context that matched: apply `lookup` at `place` of the input, counted from 0.
struct ContextAction {
  std::uint16_t place = 0, lookup = 0;
};
struct ContextRule {
  std::vector<GlyphMatcher> before;  ///< the places before the input, from the nearest outward
  std::vector<GlyphMatcher> input;   ///< the places of the input, the first glyph among them
  std::vector<GlyphMatcher> after;
  std::vector<ContextAction> actions;
};
struct ContextRules {  ///< GSUB types 5 and 6, GPOS types 7 and 8, all formats
  bool chained = false;
  TableBytes bytes;
  /// The glyphs that an input may begin with.
  GRAFEMA_API GlyphSet first() const;
  /// The rules for inputs that begin with the glyph; the first that matches applies.
  GRAFEMA_API std::vector<ContextRule> find(GlyphId first) const;
};
struct ReverseSubstitution {  ///< type 8: applied from the end of the text
  GlyphSet from;
  std::vector<GlyphSet> before, after;
  TableBytes substitutes;  ///< two bytes a glyph, in the order of `from`
  TableBytes bytes;
  GRAFEMA_API std::optional<GlyphId> find(GlyphId glyph) const;
};
using SubstitutionRule = std::variant<SingleSubstitution, SequenceSubstitution, LigatureSubstitution,
                                      ContextRules, ReverseSubstitution>;

// ---- GPOS ----

struct SingleAdjustment {  ///< type 1
  GlyphSet glyphs;
  TableBytes bytes;
  const detail::ItemVariations* variations = nullptr;
  GRAFEMA_API std::optional<Adjustment> find(GlyphId glyph) const;
};
struct PairAdjustments {  ///< type 2
  GlyphSet first;
  TableBytes bytes;
  const detail::ItemVariations* variations = nullptr;
  float units_per_em = 0;  ///< turns the pixels of Device tables into font units
  /// Of lists of pairs that do not ascend, as they should: the order of the records of each list by their
  /// second glyph. Null where all ascend.
  std::shared_ptr<const std::vector<std::vector<std::uint16_t>>> order = {};
  /// How the pair is moved; nothing where the subtable does not know it. `pixels_per_em` adds the corrections
  /// of Device tables; 0: none.
  GRAFEMA_API std::optional<PairAdjustment> find(GlyphId left, GlyphId right,
                                                 std::uint16_t pixels_per_em = 0) const;
};
struct Anchor {
  float x = 0, y = 0;
};
struct CursiveAttachment {  ///< type 3
  GlyphSet glyphs;
  TableBytes bytes;
  const detail::ItemVariations* variations = nullptr;
  GRAFEMA_API std::optional<Anchor> entry(GlyphId glyph) const;
  GRAFEMA_API std::optional<Anchor> exit(GlyphId glyph) const;
};
struct MarkAttachment {  ///< types 4, 5 and 6: marks on letters, on parts of ligatures, on marks
  GlyphSet marks, bases;
  bool ligatures = false;
  TableBytes bytes;
  const detail::ItemVariations* variations = nullptr;
  struct Place {
    Anchor mark, base;
  };
  /// The two anchors that are brought together, the mark's and the base's; nothing where the rule does not
  /// know the glyphs. `part` is the component of a ligature, from 0.
  GRAFEMA_API std::optional<Place> find(GlyphId mark, GlyphId base, std::uint16_t part = 0) const;
};
using PositioningRule =
    std::variant<SingleAdjustment, PairAdjustments, CursiveAttachment, MarkAttachment, ContextRules>;

}  // namespace grafema
