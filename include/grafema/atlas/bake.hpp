// SPDX-License-Identifier: MIT
// From faces and characters to an atlas.
#pragma once

#include <compare>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/base/workers.hpp"
#include "grafema/font/face.hpp"
#include "grafema/raster/color_paint.hpp"

namespace grafema {

/// How plain glyphs are painted onto pages of kind `color`. Lengths are pixels at the strike's size.
struct GlyphPainter {
  /// How far paint stands outside the outline's box on each side.
  float left = 0, top = 0, right = 0, bottom = 0;
  /// Paints the outline, mapped by `to_pixels`, onto `target`, an empty rgba8 picture. May be called from
  /// several threads.
  std::function<Result<void>(const Contours& outline, const Transform& to_pixels, float size, Image& target)>
      paint = {};
  std::string name = {};  ///< what tells this painter from others; part of the atlas's key
};

/// A character that a face is to supply, by its index, whichever face before it has the character too.
struct FaceCharacter {
  std::size_t face = 0;
  char32_t character = 0;
  auto operator<=>(const FaceCharacter&) const = default;
};

/// What to bake.
struct AtlasRecipe {
  std::vector<std::shared_ptr<const Face>> faces = {};  ///< in fallback order, at least one
  std::vector<char32_t> characters =
      {};  ///< to be baked, in any order; a character that comes twice is baked once
  /// Characters of clusters that fallback shows by one face as a whole (`check_clusters`), beside
  /// `characters`.
  std::vector<FaceCharacter> of_clusters = {};
  bool all_glyphs = false;         ///< bakes every glyph of every face instead of `characters`
  bool closure = true;             ///< bakes also the glyphs that shaping texts of `characters` can yield
  std::vector<Tag> features = {};  ///< the features that shaping will apply; none: `default_features`
  PictureKind kind = PictureKind::distance_rgba;
  bool color_glyphs =
      true;  ///< glyphs that the face has in color become pictures of kind `color`, on pages of their own
  float size = 48.0F;  ///< pixels per em, kMinSize to kMaxSize
  std::vector<float> other_sizes =
      {};                            ///< further sizes: the same glyphs again, each size a strike of its own
  std::optional<PageSize> fit = {};  ///< chooses the size itself: the largest, in steps of 0.25, at which all
                                     ///< glyphs fit into one page of this size
  PageSize max_page = {};  ///< the largest size of a page, sides 1..16384; glyphs that find no room on it
                           ///< open further pages
  float reach = 6.0F;    ///< how far a distance picture sees on either side of the outline, pixels, 0.5..128
  float padding = 0.0F;  ///< empty room on every side of a coverage or color cell, pixels, rounded up, 0..128
  int gap = 1;           ///< empty pixels between cells and at the page's edges, 0..64
  int bits = 8;          ///< of a channel: 8 or 16
  int phases =
      1;  ///< coverage only: 1, 2 or 4 pictures a glyph, whose pens stand at whole, half or quarter pixels
  bool fit_rows = false;  ///< coverage only: stretches glyphs so that x-height and capitals end on whole rows
  GlyphPainter painter = {};        ///< color only: how plain glyphs are painted; none: white
  std::size_t palette = 0;          ///< which palette color glyphs take (CPAL)
  PictureReader read_picture = {};  ///< reads embedded pictures (PNG) of color glyphs, such as `read_png`;
                                    ///< none: such glyphs get no picture
};

/// How a long bake runs.
struct BakeControl {
  Workers* workers = nullptr;  ///< none: on this thread alone
  /// Called now and then, from one thread at a time, with how many glyphs of how many are done. Where it
  /// returns false the bake ends with `interrupted`.
  std::function<bool(std::size_t done, std::size_t total)> progress;
};

/// Makes the atlas of a recipe. A character is taken from the first face that has it; one that no face has is
/// noted. The missing-glyph shape of the first face is always baked. The same pixels come out on any number
/// of threads. Fails with `bad_value` for a recipe out of its ranges, `does_not_fit` where one glyph is
/// larger than a page (the error says which, and how large a page must be), `forbidden` where the license of
/// a face does not allow pictures of it.
GRAFEMA_API Result<Atlas> bake(const AtlasRecipe& recipe, Notes* notes = nullptr,
                               const BakeControl& control = {});

/// A hexadecimal number that is the same, from run to run, for recipes of the same faces, characters and
/// options: an atlas whose key is that of the recipe need not be baked again.
GRAFEMA_API std::string recipe_key(const AtlasRecipe& recipe);

}  // namespace grafema
