// SPDX-License-Identifier: MIT
// Shapes one word: characters become glyphs in place (OpenType, "Text layout" overview).
#pragma once

#include "grafema/text/shaped_text.hpp"
#include "text/shaping/engine/shaping_recipe.hpp"

namespace grafema::detail {

/// A stretch of text of one face, script, language and direction.
struct Word {
  std::u32string_view characters;
  std::span<const std::uint8_t> starts;  ///< TextAnalysis::flags of the characters
  Surroundings around;
  std::span<const std::uint32_t> bytes;  ///< where each character begins; for features of a range
  /// The text runs against the direction that its script's faces expect (an override): it is shaped from its
  /// end to its beginning.
  bool reversed = false;
};

class Shaper {
 public:
  /// Replaces `out` with the word's glyphs in the order of the text; clusters count characters of the word.
  /// Lengths are units of the face, y up.
  void shape(FaceLookups& face, ShapingRecipe& recipe, const Word& word, std::vector<ShapedGlyph>& out);

 private:
  void fill(const Word& word);
  void mirror(const FaceLookups& face, const ShapingRecipe& recipe, bool right_to_left);
  void set_ranges(const ShapingRecipe& recipe, const Word& word);
  void set_fractions(const ShapingRecipe& recipe);
  void set_kinds(const FaceLookups& face);
  void add_circle(const FaceLookups& face);
  void substitute(FaceLookups& face, ShapingRecipe& recipe, ScriptWork& work);
  void position(FaceLookups& face, ShapingRecipe& recipe);
  void kern(const FaceLookups& face, const ShapingRecipe& recipe);
  void take_room(MarkRoom how);
  void hang_marks(const FaceLookups& face);
  void finish_attachments(const ShapingRecipe& recipe);
  void stand_upright(const FaceLookups& face);
  bool find_glyphs(const FaceLookups& lookups);

  ShapeBuffer buffer_;
  std::vector<ShapeItem> items_;
  std::vector<std::uint8_t> numbers_;
  std::vector<GlyphId> glyphs_;
  std::vector<float> values_;
  std::vector<std::uint64_t> masks_;
  std::vector<std::uint32_t> places_;
  std::uint64_t seed_ = 0;
  bool simple_ = false, has_marks_ = false, makes_spaces_ = false;
};

}  // namespace grafema::detail
