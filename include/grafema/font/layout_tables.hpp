// SPDX-License-Identifier: MIT
// Typed views of GSUB, GPOS and GDEF: scripts, features, lookups, classes of glyphs.
#pragma once

#include "grafema/font/layout_rules.hpp"

namespace grafema {

struct LookupFlags {
  bool right_to_left = false, ignore_bases = false, ignore_ligatures = false, ignore_marks = false;
  std::uint8_t mark_class = 0;  ///< only marks of this class (GDEF) are seen; 0: marks of all classes
  std::optional<std::uint16_t> mark_set;  ///< only marks of this mark glyph set (GDEF) are seen
};

/// One lookup of GSUB or GPOS with its rules in the order in which they are tried. Rules of a format that the
/// specification does not have are left out.
template <class Rule>
struct Lookup {
  std::uint16_t type = 0;
  LookupFlags flags;
  std::vector<Rule> rules;
};

struct ScriptTags {
  Tag script{};
  std::vector<Tag> languages;  ///< language systems of the script besides its default one
};

/// GSUB or GPOS of a face. Features that depend on the axes of a variable face are those at the place where
/// the face stands.
class GRAFEMA_API LayoutTable {
 public:
  LayoutTable() = default;
  /// `variations` are those of GDEF. `coordinates` are normalized; none where the face stands at its default.
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
  /// The tag by which the table has rules for text of `script`: the script's newer one where it has two
  /// (`dev2` of `deva`), its own, DFLT, or `latn`; Tag{} where the table has none of them.
  Tag find_script(Tag script) const;
  /// The lookups of `feature` for text of `script` and `language` (Tag{}: the script's default language),
  /// ascending. A script that the table does not list takes DFLT, and Latin where there is no DFLT; a
  /// language that the script does not list takes the script's default language.
  std::vector<std::uint16_t> find_lookups(Tag script, Tag language, Tag feature) const;
  /// Whether the language system that `find_lookups` takes has the feature, with lookups or without.
  bool has_feature(Tag script, Tag language, Tag feature) const;
  /// The lookups of the feature that the language system requires (requiredFeatureIndex); they apply whatever
  /// features are asked for.
  std::vector<std::uint16_t> find_required_lookups(Tag script, Tag language) const;
  /// The lookups that any of the features has in any script and language, ascending.
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

/// Classes, mark sets, carets and attachment points of glyphs (GDEF).
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
