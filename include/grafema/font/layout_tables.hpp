// SPDX-License-Identifier: MIT
// Typed views of GSUB, GPOS and GDEF: scripts, features, lookups, classes of glyphs (OpenType, the tables'
// chapters).
#pragma once

#include "grafema/font/layout_rules.hpp"

namespace grafema {

struct LookupFlags {
  bool right_to_left = false, ignore_bases = false, ignore_ligatures = false, ignore_marks = false;
  std::uint8_t mark_class = 0;            ///< only marks of this class are seen; 0: all
  std::optional<std::uint16_t> mark_set;  ///< only marks of this set of GDEF are seen
};

/// One lookup: its type (what an extension holds counts as that), flags and rules, in order. Rules of unknown
/// form are left out.
template <class Rule>
struct Lookup {
  std::uint16_t type = 0;
  LookupFlags flags;
  std::vector<Rule> rules;
};

struct ScriptTags {
  Tag script{};
  std::vector<Tag> languages;  ///< besides the default
};

/// The common part of GSUB and GPOS, at the face's place on its axes.
class GRAFEMA_API LayoutTable {
 public:
  LayoutTable() = default;
  /// `variations` are those of GDEF; `coordinates` are normalized, empty where the face stands at its
  /// standard.
  LayoutTable(TableBytes bytes, const detail::ItemVariations* variations, std::vector<float> coordinates,
              float units_per_em)
      : bytes_(bytes),
        variations_(variations),
        coordinates_(std::move(coordinates)),
        units_per_em_(units_per_em) {}

  bool empty() const { return bytes_.empty(); }
  std::vector<ScriptTags> scripts() const;
  std::vector<Tag> features() const;
  std::size_t lookup_count() const;
  /// The lookups of `feature` in `language` (Tag{}: the default one) of `script`, ascending; feature
  /// variations of the face's axes are applied. Falls back on the script's default language and on the script
  /// DFLT; text that belongs to no script (`script` is DFLT) also on Latin.
  std::vector<std::uint16_t> find_lookups(Tag script, Tag language, Tag feature) const;
  /// Those of the feature that the language requires whatever is asked for.
  std::vector<std::uint16_t> find_required_lookups(Tag script, Tag language) const;
  /// Those of every script and language that one of the features has.
  std::vector<std::uint16_t> find_lookups(std::span<const Tag> features) const;

  Lookup<SubstitutionRule> substitution(std::size_t index) const;
  Lookup<PositioningRule> positioning(std::size_t index) const;

 private:
  TableBytes bytes_;
  const detail::ItemVariations* variations_ = nullptr;
  std::vector<float> coordinates_;
  float units_per_em_ = 0;
};

enum class GlyphClass : std::uint8_t { none, base, ligature, mark, component };

/// What GDEF says of glyphs.
class GRAFEMA_API GlyphDefinitions {
 public:
  GlyphDefinitions() = default;
  GlyphDefinitions(TableBytes bytes, const detail::ItemVariations* variations)
      : bytes_(bytes), variations_(variations) {}

  bool empty() const { return bytes_.empty(); }
  GlyphClass class_of(GlyphId glyph) const;
  std::uint16_t mark_class(GlyphId glyph) const;
  bool in_mark_set(std::uint16_t set, GlyphId glyph) const;
  /// Places inside a ligature where a caret may stand, font units from its pen; points of outlines are left
  /// out.
  std::vector<float> ligature_carets(GlyphId glyph) const;
  /// Points of the outline that marks are attached to.
  std::vector<std::uint16_t> attachment_points(GlyphId glyph) const;

 private:
  TableBytes bytes_;
  const detail::ItemVariations* variations_ = nullptr;
};

}  // namespace grafema
