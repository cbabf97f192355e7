// SPDX-License-Identifier: MIT
// Layout from an atlas alone: characters, advances and kerning as the descriptor has them.
#include <algorithm>
#include <array>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/glyph_source.hpp"

namespace grafema {
namespace {

/// One strike; its unit is the pixel, its em the strike's size.
class AtlasMetrics final : public GlyphMetrics {
 public:
  AtlasMetrics(std::shared_ptr<const Atlas> atlas, std::size_t strike)
      : atlas_(std::move(atlas)), strike_(atlas_->strikes[strike]) {
    for (const AtlasGlyph& glyph : atlas_->glyphs) {
      if (glyph.strike != strike) continue;
      glyphs_.emplace_back(index_of(glyph.glyph), &glyph);
      for (const char32_t c : glyph.codepoints) characters_.emplace_back(c, glyph.glyph);
    }
    std::sort(characters_.begin(), characters_.end());
    std::sort(glyphs_.begin(), glyphs_.end());
    for (const AtlasKerning& kerning : atlas_->kerning) {
      if (kerning.strike == strike) kerning_ = &kerning;
    }
    if (kerning_ != nullptr) index_kerning();
    fill_quick_tables();
  }

  FaceId id() const noexcept override { return atlas_->faces[strike_.face].id; }
  std::string title() const override {
    const AtlasFace& face = atlas_->faces[strike_.face];
    return face.family + (face.style.empty() ? "" : " " + face.style);
  }
  float units_per_em() const noexcept override { return strike_.size; }
  LineMetrics line_metrics() const noexcept override { return strike_.lines; }
  const Face* face() const noexcept override { return nullptr; }

  GlyphId find_glyph(char32_t character) const noexcept override {
    if (character < kQuickCharacters) return quick_glyphs_[character];
    return search_glyph(character);
  }

  void advances(std::span<const GlyphId> glyphs, std::span<float> out) const noexcept override {
    for (std::size_t i = 0; i < glyphs.size(); ++i) {
      const AtlasGlyph* glyph = find(glyphs[i]);
      out[i] = glyph != nullptr ? glyph->advance : 0.0F;
    }
  }

  void kern(std::span<const GlyphId> glyphs, Tag, Tag, std::span<float> out) const noexcept override {
    for (std::size_t i = 0; i < glyphs.size(); ++i) {
      out[i] = kerning_ == nullptr || i + 1 == glyphs.size() ? 0.0F : pair_kerning(glyphs[i], glyphs[i + 1]);
    }
  }

  FontRect glyph_box(GlyphId id) const noexcept override {
    const AtlasGlyph* glyph = find(id);
    if (glyph == nullptr || !glyph->page) return {};
    const float around = is_distance(strike_.kind) ? strike_.reach : strike_.padding;
    const float left = glyph->offset.x + around, top = -glyph->offset.y - around;
    return {left, top - static_cast<float>(glyph->cell.height) + 2 * around,
            left + static_cast<float>(glyph->cell.width) - 2 * around, top};
  }

 private:
  using Classes = std::vector<std::pair<GlyphId, std::size_t>>;

  void index_kerning() {
    const auto index = [](const std::vector<std::vector<GlyphId>>& list, Classes& out) {
      for (std::size_t i = 0; i < list.size(); ++i) {
        for (const GlyphId glyph : list[i]) out.emplace_back(glyph, i);
      }
      std::sort(out.begin(), out.end());
    };
    index(kerning_->first, first_);
    index(kerning_->second, second_);
  }

  static constexpr std::size_t kQuickCharacters = 0x250, kMaxInMatrix = 320;

  GlyphId search_glyph(char32_t character) const {
    const auto at =
        std::lower_bound(characters_.begin(), characters_.end(), std::pair(character, GlyphId{0}));
    return at != characters_.end() && at->first == character ? at->second : kMissingGlyph;
  }

  float pair_kerning(GlyphId left, GlyphId right) const {
    if (matrix_.empty()) return search_kerning(left, right);
    const std::size_t l = place_of(left), r = place_of(right), count = glyphs_.size();
    return l < count && r < count ? matrix_[l * count + r] : 0.0F;
  }

  float search_kerning(GlyphId left, GlyphId right) const {
    const auto pair = std::lower_bound(
        kerning_->pairs.begin(), kerning_->pairs.end(), std::pair(left, right),
        [](const AtlasKerning::Pair& p, const auto& key) { return std::pair(p.left, p.right) < key; });
    if (pair != kerning_->pairs.end() && pair->left == left && pair->right == right) return pair->value;
    const auto row = find_class(first_, left), column = find_class(second_, right);
    return row && column ? kerning_->values[*row * kerning_->second.size() + *column] : 0.0F;
  }

  /// Characters of Latin by one look; kerning of a small atlas as a matrix, places of glyphs by their number.
  void fill_quick_tables() {
    for (std::size_t c = 0; c < kQuickCharacters; ++c) {
      quick_glyphs_[c] = search_glyph(static_cast<char32_t>(c));
    }
    const std::size_t count = glyphs_.size();
    if (count == 0) return;
    constexpr std::uint32_t kMaxPlaces = 1U << 16U;
    if (glyphs_.back().first < kMaxPlaces) {
      places_.assign(glyphs_.back().first + 1, static_cast<std::uint32_t>(count));
      for (std::size_t i = 0; i < count; ++i) places_[glyphs_[i].first] = static_cast<std::uint32_t>(i);
    }
    if (kerning_ == nullptr || places_.empty() || count > kMaxInMatrix) return;
    std::vector<float> matrix(count * count);
    for (std::size_t l = 0; l < count; ++l) {
      for (std::size_t r = 0; r < count; ++r) {
        matrix[l * count + r] = search_kerning(GlyphId{glyphs_[l].first}, GlyphId{glyphs_[r].first});
      }
    }
    matrix_ = std::move(matrix);
  }

  /// The glyph's place in `glyphs_`; their count where it is not there.
  std::size_t place_of(GlyphId glyph) const {
    const std::uint32_t id = index_of(glyph);
    if (!places_.empty()) return id < places_.size() ? places_[id] : glyphs_.size();
    const auto at =
        std::lower_bound(glyphs_.begin(), glyphs_.end(), id,
                         [](const auto& entry, std::uint32_t wanted) { return entry.first < wanted; });
    return at != glyphs_.end() && at->first == id ? static_cast<std::size_t>(at - glyphs_.begin())
                                                  : glyphs_.size();
  }

  static std::optional<std::size_t> find_class(const Classes& classes, GlyphId glyph) {
    const auto at = std::lower_bound(classes.begin(), classes.end(), std::pair(glyph, std::size_t{0}));
    return at != classes.end() && at->first == glyph ? std::optional(at->second) : std::nullopt;
  }

  const AtlasGlyph* find(GlyphId glyph) const {
    const std::size_t place = place_of(glyph);
    return place < glyphs_.size() ? glyphs_[place].second : nullptr;
  }

  std::shared_ptr<const Atlas> atlas_;
  Strike strike_;
  std::vector<std::pair<char32_t, GlyphId>> characters_;
  std::vector<std::pair<std::uint32_t, const AtlasGlyph*>> glyphs_;
  const AtlasKerning* kerning_ = nullptr;
  Classes first_, second_;
  std::array<GlyphId, kQuickCharacters> quick_glyphs_ = {};
  std::vector<std::uint32_t> places_;  ///< by glyph number; empty where numbers are large
  std::vector<float> matrix_;          ///< kerning by places; empty where the atlas is large
};

}  // namespace

FontStack atlas_stack(const std::shared_ptr<const Atlas>& atlas) {
  FontStack stack;
  for (std::size_t i = 0; i < atlas->strikes.size(); ++i) stack.add(std::make_shared<AtlasMetrics>(atlas, i));
  return stack;
}

}  // namespace grafema
