// SPDX-License-Identifier: MIT
// Finds recipes and words that were seen, and shapes those that were not.
#include "text/shaping/engine/shape_memory.hpp"

#include <algorithm>

namespace grafema {

ShapeCache::ShapeCache() : memory_(std::make_unique<Memory>()) {}
ShapeCache::~ShapeCache() = default;
ShapeCache::ShapeCache(ShapeCache&&) noexcept = default;
ShapeCache& ShapeCache::operator=(ShapeCache&&) noexcept = default;
void ShapeCache::clear() { memory_ = std::make_unique<Memory>(); }

namespace detail {

std::uint64_t WordStore::hash_of(std::uint32_t recipe, std::u32string_view word) {
  std::uint64_t h = recipe * 0x9E3779B97F4A7C15U;
  for (const char32_t c : word) h = (h ^ c) * 0x2127599BF4325C37U, h ^= h >> 29U;
  return h ^ h >> 32U;
}

std::optional<std::span<const ShapedGlyph>> WordStore::find(std::uint32_t recipe,
                                                            std::u32string_view word) const {
  if (slots_.empty()) return std::nullopt;
  const std::uint64_t hash = hash_of(recipe, word);
  for (std::size_t slot = hash & (slots_.size() - 1); slots_[slot] != 0;
       slot = (slot + 1) & (slots_.size() - 1)) {
    const Entry& e = entries_[slots_[slot] - 1];
    if (e.hash != hash || e.recipe != recipe || e.characters != word.size()) continue;
    if (std::equal(word.begin(), word.end(), characters_.begin() + e.first_character)) {
      return std::span(glyphs_).subspan(e.first_glyph, e.glyphs);
    }
  }
  return std::nullopt;
}

void WordStore::add(std::uint32_t recipe, std::u32string_view word, std::span<const ShapedGlyph> glyphs) {
  if (word.size() > kCharacters / 8 || glyphs.size() > kGlyphs / 8) return;
  if (slots_.empty()) {
    // All memory at once: a label whose numbers change must not allocate now and then.
    entries_.reserve(kWords), characters_.reserve(kCharacters), glyphs_.reserve(kGlyphs);
    slots_.assign(kWords * 2, 0);
  }
  if (entries_.size() == kWords || characters_.size() + word.size() > kCharacters ||
      glyphs_.size() + glyphs.size() > kGlyphs) {
    clear();
  }
  const std::uint64_t hash = hash_of(recipe, word);
  entries_.push_back({hash, recipe, static_cast<std::uint32_t>(characters_.size()),
                      static_cast<std::uint32_t>(word.size()), static_cast<std::uint32_t>(glyphs_.size()),
                      static_cast<std::uint32_t>(glyphs.size())});
  characters_.insert(characters_.end(), word.begin(), word.end());
  glyphs_.insert(glyphs_.end(), glyphs.begin(), glyphs.end());
  std::size_t slot = hash & (slots_.size() - 1);
  while (slots_[slot] != 0) slot = (slot + 1) & (slots_.size() - 1);
  slots_[slot] = static_cast<std::uint32_t>(entries_.size());
}

void WordStore::clear() {
  entries_.clear(), characters_.clear(), glyphs_.clear();
  std::fill(slots_.begin(), slots_.end(), 0U);
}

FaceLookups& WordShaper::lookups(const std::shared_ptr<const GlyphMetrics>& metrics) {
  for (const auto& known : faces_) {
    if (&known->metrics() == metrics.get()) return *known;
  }
  return *faces_.emplace_back(std::make_unique<FaceLookups>(metrics));
}

KeptRecipe& WordShaper::recipe(const std::shared_ptr<const GlyphMetrics>& metrics,
                               const RecipeRequest& request) {
  FaceLookups* const face = &lookups(metrics);
  for (const auto& kept : recipes_) {
    if (kept->face == face && kept->recipe.script == request.script &&
        kept->recipe.left_to_right == request.left_to_right && kept->recipe.upright == request.upright &&
        kept->kerning == request.kerning && kept->language == request.language &&
        std::equal(kept->features.begin(), kept->features.end(), request.features.begin(),
                   request.features.end())) {
      return *kept;
    }
  }
  auto made = std::make_unique<KeptRecipe>();
  made->face = face;
  made->language = request.language;
  made->features.assign(request.features.begin(), request.features.end());
  made->kerning = request.kerning;
  made->number = next_number_++;
  made->recipe = make_recipe(*face, request);
  return *recipes_.emplace_back(std::move(made));
}

std::span<const ShapedGlyph> WordShaper::shape(KeptRecipe& recipe, const Word& word) {
  const bool alone = recipe.recipe.ranges.empty() && !recipe.recipe.is_random && !word.reversed &&
                     word.characters.size() <= kLongestWord && word.around.before.empty() &&
                     word.around.after.empty();
  if (alone) {
    if (const auto known = words_.find(recipe.number, word.characters)) return *known;
  }
  shaper_.shape(*recipe.face, recipe.recipe, word, made_);
  if (alone) words_.add(recipe.number, word.characters, made_);
  return made_;
}

void WordShaper::trim() {
  if (faces_.size() > kFaces || recipes_.size() > kRecipes) forget();
}

void WordShaper::forget() {
  words_.clear();
  recipes_.clear();
  faces_.clear();
}

}  // namespace detail
}  // namespace grafema
