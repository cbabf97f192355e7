// SPDX-License-Identifier: MIT
// What a ShapeCache holds: faces, recipes, words, Unicode services and working memory.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "grafema/text/shape_cache.hpp"
#include "text/analysis/unicode_services.hpp"
#include "text/runs/styles.hpp"
#include "text/shaping/engine/shaper.hpp"

namespace grafema::detail {

/// A recipe and what it was made for.
struct KeptRecipe {
  FaceLookups* face = nullptr;
  std::string language;
  std::vector<FeatureSetting> features;
  bool kerning = true;
  std::uint32_t number = 0;  ///< never used twice
  ShapingRecipe recipe;
};

/// The glyphs of words that were seen, by recipe and characters.
class WordStore {
 public:
  /// The word's glyphs; nothing where it was not seen. Good until the next `add`.
  std::optional<std::span<const ShapedGlyph>> find(std::uint32_t recipe, std::u32string_view word) const;
  /// Keeps a word. Forgets all others where there is no more room.
  void add(std::uint32_t recipe, std::u32string_view word, std::span<const ShapedGlyph> glyphs);
  void clear();

 private:
  static constexpr std::size_t kWords = 8192, kGlyphs = 65536, kCharacters = 65536;
  struct Entry {
    std::uint64_t hash = 0;
    std::uint32_t recipe = 0, first_character = 0, characters = 0, first_glyph = 0, glyphs = 0;
  };
  static std::uint64_t hash_of(std::uint32_t recipe, std::u32string_view word);

  std::vector<Entry> entries_;
  std::vector<std::uint32_t> slots_;  ///< 1 + index of an entry; a power of two
  std::vector<char32_t> characters_;
  std::vector<ShapedGlyph> glyphs_;
};

/// Shapes words and remembers them.
class WordShaper {
 public:
  FaceLookups& lookups(const std::shared_ptr<const GlyphMetrics>& metrics);
  /// The recipe for a face and script; good until `forget`.
  KeptRecipe& recipe(const std::shared_ptr<const GlyphMetrics>& metrics, const RecipeRequest& request);
  /// The glyphs of a word by that recipe; good until the next call.
  std::span<const ShapedGlyph> shape(KeptRecipe& recipe, const Word& word);
  /// Drops recipes and faces where there are too many of them. No recipe may be in use.
  void trim();
  void forget();

 private:
  static constexpr std::size_t kFaces = 64, kRecipes = 512, kLongestWord = 512;

  std::vector<std::unique_ptr<FaceLookups>> faces_;
  std::vector<std::unique_ptr<KeptRecipe>> recipes_;
  std::uint32_t next_number_ = 1;
  WordStore words_;
  Shaper shaper_;
  std::vector<ShapedGlyph> made_;
};

}  // namespace grafema::detail

namespace grafema {

class ShapedText;

struct ShapeCache::Memory {
  detail::UnicodeServices services;
  detail::WordShaper shaper;
  detail::RestyledFaces restyled;
  std::unique_ptr<ShapedText> text;   ///< of `lay_out`, which keeps none of its own
  std::unique_ptr<ShapedText> other;  ///< of samples and shortened text
};

}  // namespace grafema
