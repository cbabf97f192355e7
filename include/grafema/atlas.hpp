// SPDX-License-Identifier: MIT
// Glyphs as pictures on packed pages, with all that layout and drawing need of them.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "grafema/color_paint.hpp"
#include "grafema/face.hpp"
#include "grafema/image.hpp"
#include "grafema/notes.hpp"
#include "grafema/workers.hpp"

namespace grafema {

/// What the pixels of a page mean; docs/formats/atlas.md says it exactly.
enum class PictureKind : std::uint8_t {
  coverage,       ///< one channel: how much of the pixel is filled
  distance,       ///< one channel: how far the outline is
  distance_rgb,   ///< three channels whose median is that distance and keeps corners sharp
  distance_rgba,  ///< those three, and the plain distance in the fourth, which effects take
  color,          ///< sRGB with straight alpha
};
constexpr std::size_t kPictureKinds = 5;

constexpr bool is_distance(PictureKind kind) { return kind >= PictureKind::distance && kind <= PictureKind::distance_rgba; }
/// The format of pages of a kind; `bits` of a channel: 8 or 16 (color has 8).
constexpr PixelFormat page_format(PictureKind kind, int bits) {
  const bool wide = bits == 16;
  if (kind == PictureKind::color) return PixelFormat::rgba8;
  if (kind == PictureKind::distance_rgb) return wide ? PixelFormat::rgb16 : PixelFormat::rgb8;
  if (kind == PictureKind::distance_rgba) return wide ? PixelFormat::rgba16 : PixelFormat::rgba8;
  return wide ? PixelFormat::r16 : PixelFormat::r8;
}

GRAFEMA_API std::string to_string(PictureKind kind);
/// The kind of that name; none where there is no such kind.
GRAFEMA_API std::optional<PictureKind> find_picture_kind(std::string_view name);

/// The sizes, in pixels per em, that pictures and layouts are made for.
constexpr float kMinSize = 0.25F, kMaxSize = 8192.0F;

struct PageSize {
  int width = 2048, height = 2048;
  bool operator==(const PageSize&) const = default;
};

/// Paints glyphs of `color` pages; lengths are pixels at the strike's size.
struct GlyphPainter {
  /// How far paint stands outside the outline's box on each side.
  float left = 0, top = 0, right = 0, bottom = 0;
  /// Paints the outline, mapped by `to_pixels`, onto `target`, an empty rgba8 picture. May be called from several threads.
  std::function<Result<void>(const Contours& outline, const Transform& to_pixels, float size, Image& target)> paint;
  std::string name;  ///< goes into the atlas' key
};

/// What to bake.
struct AtlasRecipe {
  std::vector<std::shared_ptr<const Face>> faces;  ///< in fallback order, at least one
  std::vector<char32_t> characters;                ///< each is baked once, whatever the order
  bool all_glyphs = false;                         ///< every glyph of every face instead
  bool closure = true;                             ///< also the glyphs that shaping those characters can yield
  std::vector<Tag> features;                       ///< that shaping will apply; empty: `default_features`
  PictureKind kind = PictureKind::distance_rgba;
  bool color_glyphs = true;        ///< glyphs that the face has in color become pictures of kind `color`, on pages of their own
  float size = 48.0F;              ///< pixels per em, kMinSize to kMaxSize
  std::vector<float> other_sizes;  ///< the same glyphs again at these sizes, as strikes of their own
  std::optional<PageSize> fit;     ///< instead of sizes: the largest one, to 0.25, whose glyphs fill one such page
  PageSize max_page;               ///< no page is larger; more pages are opened. Sides 1..16384
  float reach = 6.0F;              ///< how far a distance picture sees on either side, pixels, 0.5..128
  float padding = 0.0F;            ///< empty room on every side of a coverage or color cell, pixels, rounded up, 0..128
  int gap = 1;                     ///< empty pixels between cells and at the page's edges, 0..64
  int bits = 8;                    ///< of a channel: 8 or 16
  int phases = 1;                  ///< coverage only: 1, 2 or 4 pictures a glyph, their pens moved right by parts of a pixel
  bool fit_rows = false;           ///< coverage only: stretches glyphs so that x-height and capitals end on whole rows
  GlyphPainter painter;            ///< color only: how plain glyphs are painted; none: white
  std::size_t palette = 0;         ///< of color glyphs (CPAL)
  PictureReader read_picture;      ///< reads embedded pictures, such as `read_png`; none: glyphs that are such have none
};

/// How a long bake runs.
struct BakeControl {
  Workers* workers = nullptr;  ///< none: on this thread alone
  /// Told now and then, from one thread at a time, how many glyphs of how many are done; the bake ends with
  /// `interrupted` where it returns false.
  std::function<bool(std::size_t done, std::size_t total)> progress;
};

/// One face at one size in one kind; lengths are pixels at that size.
struct Strike {
  std::size_t face = 0;  ///< index into Atlas::faces
  PictureKind kind = PictureKind::distance;
  float size = 0, reach = 0, padding = 0;
  LineMetrics lines;
};

/// Who a strike's glyphs come from, for credits.
struct AtlasFace {
  FaceId id{};
  std::string family, style, copyright, license;
  std::vector<AxisValue> axes;  ///< where a variable face stands
};

struct AtlasGlyph {
  std::size_t strike = 0;
  GlyphId glyph{};
  std::vector<char32_t> codepoints;  ///< ascending; empty for glyphs that no wanted character maps to
  std::optional<std::size_t> page;   ///< none where there is nothing to paint
  PixelRect cell;                    ///< where the picture stands in its page
  PixelPoint offset;                 ///< the cell's top left corner seen from the pen on the baseline, y down
  float advance = 0;                 ///< pixels
  std::uint8_t phase = 0;            ///< quarter pixels by which the picture's pen stands right of a pixel's edge
};

/// Kerning of a strike in pixels. A pair in `pairs` wins over the classes.
struct AtlasKerning {
  struct Pair {
    GlyphId left, right;
    float value;
  };
  std::size_t strike = 0;
  std::vector<Pair> pairs;                            ///< ascending by left, then right
  std::vector<std::vector<GlyphId>> first, second;    ///< classes of left and of right glyphs
  std::vector<float> values;                          ///< first.size() rows of second.size() values
};

struct AtlasPage {
  Image image;
  PictureKind kind = PictureKind::distance;
};

struct Atlas {
  std::string key;  ///< a hash of all that went in, hexadecimal; see `recipe_key`
  std::vector<AtlasPage> pages;
  std::vector<AtlasFace> faces;
  std::vector<Strike> strikes;
  std::vector<AtlasGlyph> glyphs;  ///< ascending by strike, then glyph, then phase
  std::vector<AtlasKerning> kerning;

  /// The share of the pages that cells and the gaps beside them take, 0..1.
  double used_area(int gap) const;
};

/// Printable ASCII of Quillmere Dot as distances, two texels a pixel of the face.
GRAFEMA_API std::shared_ptr<const Atlas> built_in_atlas();

/// The atlas; where it could not be loaded or baked, that of Quillmere Dot and a note.
GRAFEMA_API std::shared_ptr<const Atlas> or_built_in(Result<Atlas> atlas, Notes* notes = nullptr);

/// Rasterizes and packs. Characters that no face has are noted; the first face's missing-glyph shape is always baked.
/// Fails with `bad_value` for a recipe out of its ranges, `does_not_fit` where a page is too small for one glyph (says
/// which, and how large it must be), `forbidden` where a face's embedding permission does not allow it.
/// The same pixels come out on any number of threads.
GRAFEMA_API Result<Atlas> bake(const AtlasRecipe& recipe, Notes* notes = nullptr, const BakeControl& control = {});

/// The key of the atlas that the recipe gives: the same faces, characters and options have the same one, from run to run.
GRAFEMA_API std::string recipe_key(const AtlasRecipe& recipe);

}  // namespace grafema
