// SPDX-License-Identifier: MIT
// What descriptions add to drawings: permission, kerning, ligatures, alternates, compositions.
#pragma once

#include <string>
#include <vector>

#include "grafema/write/font_drawing.hpp"

namespace grafema {

/// Characters that kern alike, as texts name glyphs: a text of one character is the glyph that shows it, any
/// other a glyph by name.
struct KerningGroup {
  std::string name = {};
  std::vector<std::string> members = {};
};

struct GroupPair {
  std::string left = {}, right = {};  ///< names of groups
  float value = 0;                    ///< in the description's units
};

/// A character that is put together: the first is its letter, the other an accent that stands where anchors
/// meet.
struct Composition {
  char32_t character = 0, base = 0, mark = 0;
};

/// Glyphs are named as members of a `KerningGroup` are.
struct FontRules {
  Embedding embedding = Embedding::installable;
  std::vector<KerningGroup> left_groups = {}, right_groups = {};
  std::vector<GroupPair> group_kerning = {};
  std::vector<DrawnLigature> ligatures = {};
  std::vector<DrawnAlternate> alternates = {};
  std::u32string tabular = {};            ///< get alternates of one width, on by `tnum`
  std::vector<Composition> compose = {};  ///< those that are drawn already are passed over
  bool ligatures_of_names = false;  ///< each glyph without a letter is also shown by the letters of its name
};

/// Adds to a drawing what the rules say; `scale` makes font units of the description's lengths. Compositions
/// inherit the kerning of their letters. Fails with `bad_value` for glyphs and groups that are not there, and
/// for compositions without anchors that meet.
GRAFEMA_API Result<void> apply_rules(const FontRules& rules, float scale, FontDrawing& drawing);

}  // namespace grafema
