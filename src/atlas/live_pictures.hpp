// SPDX-License-Identifier: MIT
// Pictures of the live cache before they have a place: made by jobs, and the bar that stands in for them.
#pragma once

#include <memory>
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
  int width = 0, height = 0;  ///< of the cell; 0 where there is nothing to paint
  Image image;                ///< empty until it is made
};

struct SharedPictures;

/// Makes pictures one after the other in memory that it keeps. Belongs to one thread at a time.
class LiveMaker {
 public:
  explicit LiveMaker(const SharedPictures& shared);
  /// Finds kind, size, cell size and offset of the picture of a key; the cell is empty where there is nothing
  /// to paint. A picture too large for a page is made at the largest size that fits.
  LivePicture measure(const Face& face, const GlyphKey& key);
  /// Paints what was measured last into a place of a page; false where the glyph can't be read.
  bool paint(const Face& face, const LivePicture& picture, PixelPoint at, Image& page);

 private:
  const SharedPictures& shared_;
  PictureMaker plain_, color_;
  Contours outline_;
};

/// What jobs share with the cache: recipes that never change, makers that are free, and the pictures that are
/// done.
struct SharedPictures {
  AtlasRecipe plain, color;
  bool color_glyphs = false;
  std::mutex mutex;
  std::vector<std::unique_ptr<LiveMaker>> makers;
  std::vector<LivePicture> done;

  std::unique_ptr<LiveMaker> take_maker();
  void give_back(std::unique_ptr<LiveMaker> maker);
};

/// Pixels per em of the picture that serves a key.
inline float size_of(const AtlasRecipe& recipe, const GlyphKey& key) {
  return key.quarter_px == 0 ? recipe.size : static_cast<float>(key.quarter_px) / 4;
}

/// Makes the picture of a key; `failed` where the glyph can't be read. May run on any thread.
LivePicture make_picture(LiveMaker& maker, const SharedPictures& shared, const Face& face,
                         const GlyphKey& key);

/// The key of the bar that stands in for pictures that are waiting.
constexpr GlyphKey kBarKey{FaceId{}, GlyphId{0xFFFFFFFF}, 0, 0};
/// A block about as large as a letter.
LivePicture make_bar(const AtlasRecipe& recipe);

}  // namespace grafema::detail
