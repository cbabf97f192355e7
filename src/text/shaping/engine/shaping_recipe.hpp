// SPDX-License-Identifier: MIT
// Which lookups a script, a language and a set of features take, in stages and in order.
#pragma once

#include <string>
#include <vector>

#include "grafema/text/text_style.hpp"
#include "text/shaping/engine/lookup_runner.hpp"
#include "text/shaping/scripts/script_rules.hpp"

namespace grafema::detail {

/// A feature that is on or off for a range of the text alone: its glyphs get a bit.
struct RangedFeature {
  std::uint32_t bit = 0;
  std::uint32_t start = 0, end = 0;  ///< bytes of the text
  bool on = true;                    ///< false: the glyphs of the range lose the bit that all others have
};

/// What a script's rules do between lookups.
struct StageHook {
  std::size_t lookups = 0;  ///< of `ShapingRecipe::substitutions` stand before it
  std::uint8_t hook = 0;
};

struct ShapingRecipe {
  Tag script{}, language{};
  bool left_to_right = true;
  bool upright = false;
  const ScriptRules* rules = nullptr;
  LookupRow substitutions, positions;
  std::vector<std::uint32_t> script_bits;  ///< in the order of ScriptRules::features
  std::vector<StageHook> hooks;
  ScriptMemory memory;
  std::vector<RangedFeature> ranges;
  std::uint32_t numerator = 0, denominator = 0, fraction = 0;  ///< bits around a fraction slash
  std::uint32_t mirrored = 0;  ///< bit of characters to which the face has the form for right to left
  bool kerns = false;          ///< by the `kern` table, since GPOS has no such feature
  bool places_marks = false;   ///< GPOS has marks
  bool gave_up = false;        ///< a word asked for more work than a word may take
  bool is_random = false;      ///< letters have alternates by where they stand: no word is like another
  bool sees_spaces = false;    ///< a lookup looks at spaces, so that words cannot be shaped alone
};

/// What a recipe is made for.
struct RecipeRequest {
  Tag script{};
  bool left_to_right = true;
  bool upright = false;       ///< for letters that stand one below the other
  std::string_view language;  ///< BCP 47
  std::span<const FeatureSetting> features;
  bool kerning = true;
};

ShapingRecipe make_recipe(FaceLookups& face, const RecipeRequest& request);

}  // namespace grafema::detail
