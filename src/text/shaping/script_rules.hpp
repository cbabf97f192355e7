// SPDX-License-Identifier: MIT
// What a family of scripts wants of shaping: one small interface, one file a family.
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "text/shaping/face_lookups.hpp"

namespace grafema::detail {

/// A feature that is applied to glyphs that the script's rules choose, or to all.
struct ScriptFeature {
  Tag tag{};
  bool chosen = false;         ///< only where `choose` sets its bit
  bool ends_stage = false;     ///< all its lookups are applied before those of later features
  bool keeps_joiners = false;  ///< a zero width joiner between glyphs stops a match
};

struct NormalizeRules {
  /// Joins two characters in ways that Unicode's composition leaves out; 0 for none.
  char32_t (*compose)(char32_t first, char32_t second, bool face_places_marks) = nullptr;
  /// The combining class by which marks are ordered, given Unicode's own.
  std::uint8_t (*combining)(char32_t mark, std::uint8_t own) = nullptr;
  bool compose_marks = true;
};

/// The text around a word, which its outer letters join to.
struct Surroundings {
  std::u32string_view before, after;
};

/// What there is to know while characters become glyphs.
struct ScriptWork {
  ShapeBuffer& buffer;
  const FaceLookups& face;
  Surroundings around;
  Tag script{};
  /// The bit of each chosen feature, in the order of `ScriptRules::features`; 0 where the face has none.
  std::span<const std::uint32_t> bits;
  std::vector<ShapeItem>& items;       ///< working memory
  std::vector<std::uint8_t>& numbers;  ///< working memory
};

class ScriptRules {
 public:
  virtual ~ScriptRules() = default;
  /// Features in the order in which they are applied, before those of all scripts.
  virtual std::span<const ScriptFeature> features() const { return {}; }
  virtual NormalizeRules normalizing() const { return {}; }
  /// Changes characters before they are normalized.
  virtual void prepare(ScriptWork& /*work*/) const {}
  /// Changes and orders characters before they become glyphs of lookups; sets bits of chosen features.
  virtual void choose(ScriptWork& /*work*/) const {}
  /// Whether marks, by their class, take no room after positioning.
  virtual bool marks_take_no_room() const { return true; }
};

/// The rules of a script, by its OpenType tag; those of plain scripts for one that has none of its own.
const ScriptRules& script_rules(Tag script);

/// Whether the script's faces expect text from right to left.
bool runs_right_to_left(Tag script);

// One a file.
const ScriptRules& plain_rules();    ///< Latin, Greek, Cyrillic, CJK and all that needs no rules
const ScriptRules& joining_rules();  ///< Arabic and all scripts whose letters join
const ScriptRules& hebrew_rules();
const ScriptRules& hangul_rules();
const ScriptRules& thai_rules();  ///< Thai and Lao

}  // namespace grafema::detail
