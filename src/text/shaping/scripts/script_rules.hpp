// SPDX-License-Identifier: MIT
// What a family of scripts wants of shaping: one small interface, one file a family.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "text/shaping/engine/face_lookups.hpp"

namespace grafema::detail {

/// A feature that is applied to glyphs that the script's rules choose, or to all.
struct ScriptFeature {
  Tag tag{};
  bool chosen = false;             ///< only where `choose` sets its bit
  bool ends_stage = false;         ///< all its lookups are applied before those of later features
  bool keeps_joiners = false;      ///< a zero width joiner between glyphs stops a match
  bool keeps_non_joiners = false;  ///< a zero width non-joiner does, in contexts too
  bool within_syllable = false;    ///< its lookups see no other syllable
  std::uint8_t hook = 0;           ///< which `act` follows the stage that it ends; 0: none
};

/// When marks, by their class, lose the room that they take.
enum class MarkRoom : std::uint8_t {
  kept,
  taken_before_positioning,
  taken_from_nonspacing,  ///< before positioning, but spacing marks (category Mc) keep it
  taken_after_positioning,
};

struct NormalizeRules {
  /// Joins two characters in ways that Unicode's composition leaves out; 0 for none.
  char32_t (*compose)(char32_t first, char32_t second, bool face_places_marks) = nullptr;
  /// The combining class by which marks are ordered, given Unicode's own.
  std::uint8_t (*combining)(char32_t mark, std::uint8_t own) = nullptr;
  bool compose_marks = true;
  /// Whether a character is taken apart even where the face has it; null: where a mark follows, or it is one.
  bool (*take_apart)(char32_t) = nullptr;
  /// Whether a character is never taken apart; null for none.
  bool (*keep)(char32_t) = nullptr;
  /// Parts beyond those of Unicode: the second half of a vowel whose first half this returns; 0 for none.
  char32_t (*first_half)(char32_t) = nullptr;
  /// Whether what has a mark as its first part is composed.
  bool compose_on_marks = true;
};

/// What is kept of a script and a face from one word to the next.
struct ScriptMemory {
  Tag found{};  ///< the script of GSUB that stands for the text's, which may be DFLT
  /// The lookups of each feature of the script's rules.
  std::vector<std::vector<const CompiledLookup*>> lookups;
  /// What the face makes of a character, by its low bits, as the rules have it; 0: not known yet.
  std::array<std::uint8_t, 128> known{};
};

/// The text around a word, which its outer letters join to.
struct Surroundings {
  std::u32string_view before, after;
};

/// What there is to know while characters become glyphs.
struct ScriptWork {
  ShapeBuffer& buffer;
  FaceLookups& face;
  ScriptMemory& memory;
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
  /// Changes and orders glyphs behind the stage whose last feature names the hook.
  virtual void act(ScriptWork& /*work*/, std::uint8_t /*hook*/) const {}
  /// Changes glyphs whose places are final.
  virtual void finish(ScriptWork& /*work*/, bool /*left_to_right*/) const {}
  virtual MarkRoom mark_room() const { return MarkRoom::taken_after_positioning; }
  /// Whether marks are placed by their boxes where the face places none.
  virtual bool hangs_marks() const { return true; }
  /// Whether the rules put a dotted circle under marks without a letter; else a word's first mark gets one.
  virtual bool finds_broken() const { return false; }
  /// Features of all scripts that this one does without.
  virtual std::span<const Tag> leaves_out() const { return {}; }
};

/// The rules of a script, by its OpenType tag and the tag by which GSUB has it; those of plain scripts for
/// one that has none of its own, or that the face does not have.
const ScriptRules& script_rules(Tag script, Tag found);
/// Whether the tag by which GSUB has the script (LayoutTable::find_script) stands for rules of the script
/// itself.
bool has_rules_of(Tag script, Tag found);

/// What text of a script needs besides letters, to look as its readers expect.
struct ScriptNeeds {
  bool joins = false;      ///< letters have forms by their neighbors
  bool syllables = false;  ///< vowels and marks move within syllables
  bool conjuncts = false;  ///< consonants without a vowel have forms
  bool marks = false;      ///< marks stand over and under letters in every text
};
ScriptNeeds script_needs(Tag script);
/// Whether the character makes others of its syllable move or join: a virama, a vowel on the left, a repha.
bool moves_in_syllables(char32_t character);

/// Whether the face makes something else of the glyphs, standing alone, by the lookups of a feature of the
/// script's rules.
bool makes_form(ScriptWork& work, std::size_t feature, std::span<const GlyphId> glyphs);

/// Whether letters of the script are joined by strokes that tracking would break.
bool is_cursive(Tag script);

/// Whether the script's faces expect text from right to left.
bool runs_right_to_left(Tag script);

// One a file.
const ScriptRules& plain_rules();    ///< Latin, Greek, Cyrillic, CJK and all that needs no rules
const ScriptRules& joining_rules();  ///< Arabic and Syriac
const ScriptRules& hebrew_rules();
const ScriptRules& hangul_rules();
const ScriptRules& thai_rules();  ///< Thai and Lao
const ScriptRules& indic_rules();
const ScriptRules& khmer_rules();
const ScriptRules& myanmar_rules();
const ScriptRules& universal_rules();          ///< all other scripts that are shaped by syllables
const ScriptRules& sinhala_rules();            ///< as these, but spacing marks keep the room that they take
const ScriptRules& universal_joining_rules();  ///< those of them whose letters join

/// Sets the bits of isolated, initial, medial and final forms; they are the features from `first_form` on, in
/// the order isol fina fin2 fin3 medi med2 init.
void choose_joining_forms(ScriptWork& work, std::size_t first_form);

}  // namespace grafema::detail
