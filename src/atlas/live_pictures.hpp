// SPDX-License-Identifier: MIT
// Pictures of the live cache before they have a place: made by jobs, and the bar that stands in for them.
#pragma once

#include <mutex>
#include <vector>

#include "atlas/select.hpp"
#include "grafema/atlas/glyph_source.hpp"

namespace grafema::detail {

/// A picture that was made and waits for its place.
struct LivePicture {
  GlyphKey key;
  PictureKind kind{};
  float size = 0, reach = 0;
  PixelPoint offset;
  std::uint8_t phase = 0;
  bool failed = false;
  Image image;  ///< empty where there is nothing to paint
};

/// What jobs share with the cache: recipes that never change, and the pictures that are done.
struct SharedPictures {
  AtlasRecipe plain, color;
  bool color_glyphs = false;
  std::mutex mutex;
  std::vector<LivePicture> done;
};

/// Pixels per em of the picture that serves a key.
inline float size_of(const AtlasRecipe& recipe, const GlyphKey& key) {
  return key.quarter_px == 0 ? recipe.size : static_cast<float>(key.quarter_px) / 4;
}

/// Makes the picture of a key; `failed` where the glyph can't be read. May run on any thread.
LivePicture make_picture(const SharedPictures& shared, const Face& face, const GlyphKey& key);

/// The key of the bar that stands in for pictures that are waiting.
constexpr GlyphKey kBarKey{FaceId{}, GlyphId{0xFFFFFFFF}, 0, 0};
/// A block about as large as a letter.
LivePicture make_bar(const AtlasRecipe& recipe);

}  // namespace grafema::detail
