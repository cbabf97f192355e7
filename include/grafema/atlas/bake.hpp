// SPDX-License-Identifier: MIT
// From faces and characters to an atlas.
#pragma once

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

/// Paints glyphs of `color` pages; lengths are pixels at the strike's size.
struct GlyphPainter {
  /// How far paint stands outside the outline's box on each side.
  float left = 0, top = 0, right = 0, bottom = 0;
  /// Paints the outline, mapped by `to_pixels`, onto `target`, an empty rgba8 picture. May be called from
  /// several threads.
  std::function<Result<void>(const Contours& outline, const Transform& to_pixels, float size, Image& target)>
      paint;
  std::string name;  ///< goes into the atlas' key
};

/// What to bake.
struct AtlasRecipe {
  std::vector<std::shared_ptr<const Face>> faces;  ///< in fallback order, at least one
  std::vector<char32_t> characters;                ///< each is baked once, whatever the order
  bool all_glyphs = false;                         ///< every glyph of every face instead
  bool closure = true;        ///< also the glyphs that shaping those characters can yield
  std::vector<Tag> features;  ///< that shaping will apply; empty: `default_features`
  PictureKind kind = PictureKind::distance_rgba;
  bool color_glyphs =
      true;  ///< glyphs that the face has in color become pictures of kind `color`, on pages of their own
  float size = 48.0F;              ///< pixels per em, kMinSize to kMaxSize
  std::vector<float> other_sizes;  ///< the same glyphs again at these sizes, as strikes of their own
  std::optional<PageSize>
      fit;               ///< instead of sizes: the largest one, to 0.25, whose glyphs fill one such page
  PageSize max_page;     ///< no page is larger; more pages are opened. Sides 1..16384
  float reach = 6.0F;    ///< how far a distance picture sees on either side, pixels, 0.5..128
  float padding = 0.0F;  ///< empty room on every side of a coverage or color cell, pixels, rounded up, 0..128
  int gap = 1;           ///< empty pixels between cells and at the page's edges, 0..64
  int bits = 8;          ///< of a channel: 8 or 16
  int phases = 1;  ///< coverage only: 1, 2 or 4 pictures a glyph, their pens moved right by parts of a pixel
  bool fit_rows = false;  ///< coverage only: stretches glyphs so that x-height and capitals end on whole rows
  GlyphPainter painter;   ///< color only: how plain glyphs are painted; none: white
  std::size_t palette = 0;  ///< of color glyphs (CPAL)
  PictureReader
      read_picture;  ///< reads embedded pictures, such as `read_png`; none: glyphs that are such have none
};

/// How a long bake runs.
struct BakeControl {
  Workers* workers = nullptr;  ///< none: on this thread alone
  /// Told now and then, from one thread at a time, how many glyphs of how many are done; the bake ends with
  /// `interrupted` where it returns false.
  std::function<bool(std::size_t done, std::size_t total)> progress;
};

/// Rasterizes and packs. Characters that no face has are noted; the first face's missing-glyph shape is
/// always baked. Fails with `bad_value` for a recipe out of its ranges, `does_not_fit` where a page is too
/// small for one glyph (says which, and how large it must be), `forbidden` where a face's embedding
/// permission does not allow it. The same pixels come out on any number of threads.
GRAFEMA_API Result<Atlas> bake(const AtlasRecipe& recipe, Notes* notes = nullptr,
                               const BakeControl& control = {});

/// The key of the atlas that the recipe gives: the same faces, characters and options have the same one, from
/// run to run.
GRAFEMA_API std::string recipe_key(const AtlasRecipe& recipe);

}  // namespace grafema
