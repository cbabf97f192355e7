// SPDX-License-Identifier: MIT
// What glyphs do beside each other: GDEF, GPOS, GSUB and kern.
#pragma once

#include <vector>

#include "write/font_plan.hpp"

namespace grafema::detail {

/// A rule table in the making: lookups, and the features that use them (OpenType, "Common table formats").
class RuleTable {
 public:
  struct Lookup {
    std::uint16_t type = 1, flags = 0;
    std::vector<std::vector<std::byte>> subtables;
  };

  /// Gives back the lookup's number.
  std::uint16_t add(Lookup lookup);
  /// A feature of all scripts, or of one script's language.
  void add_feature(Tag feature, std::uint16_t lookup, Tag script = {}, Tag language = {});
  bool empty() const { return lookups_.empty(); }
  /// `extension`: the lookup type whose subtables stand behind 32-bit offsets. `scripts` beside the default
  /// one.
  Result<std::vector<std::byte>> write(const std::vector<Tag>& scripts, std::uint16_t extension) const;

 private:
  struct Feature {
    Tag tag, script, language;
    std::vector<std::uint16_t> lookups;
  };
  std::vector<std::byte> write_scripts(const std::vector<Tag>& scripts) const;
  std::vector<std::byte> write_features() const;
  std::vector<std::byte> write_lookups(std::uint16_t extension) const;

  std::vector<Lookup> lookups_;
  std::vector<Feature> features_;
};

/// Glyphs that a rule is about, ascending.
std::vector<std::byte> write_coverage(const std::vector<std::uint16_t>& glyphs);
/// Classes of glyphs, ascending by glyph; those of class 0 are left out.
std::vector<std::byte> write_classes(const std::map<std::uint16_t, std::uint16_t>& classes);

/// GPOS lookups of kerning, marks on letters and marks on marks.
Result<void> add_positions(const FontPlan& plan, RuleTable& out);
/// GSUB lookups of ligatures and alternates.
Result<void> add_substitutions(const FontPlan& plan, RuleTable& out);
/// The same kerning for who reads `kern` alone: classes as arrays, pairs on top of them.
Result<WrittenTable> write_kern(const FontPlan& plan);

/// Those of these tables that have anything to say.
Result<std::vector<WrittenTable>> write_rules(const FontPlan& plan);

}  // namespace grafema::detail
