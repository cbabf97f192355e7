// SPDX-License-Identifier: MIT
// Which glyphs a recipe asks for, how large their cells are, and what is painted into them.
#pragma once

#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/raster/raster.hpp"
#include "outline/union/unite.hpp"

namespace grafema::detail {

/// The glyphs of an atlas in its order. Strike by strike, a strike being a face at a size.
struct Selection {
  struct Chosen {
    std::size_t face = 0;  ///< index into AtlasRecipe::faces
    float size = 0;
    PictureKind kind{};
  };
  std::vector<Chosen> strikes;
  std::vector<AtlasGlyph> glyphs;  ///< strike, glyph, codepoints and phase are set
  std::vector<FontRect> boxes;     ///< of what is painted, one for each glyph

  /// The faces that are used, ascending.
  std::vector<std::size_t> faces() const;
};

/// Chooses glyphs of the faces that have them, at the recipe's sizes (`size` alone where it has `fit`).
Selection select_glyphs(const AtlasRecipe& recipe, Notes* notes);

/// Maps the outline's heights so that baseline, x-height and capitals of the face stand on whole rows at
/// `size`.
struct RowFit {
  float x_height = 0, cap_height = 0;  ///< font units; 0: unknown
  float x_scale = 1, above_scale = 1;  ///< of what is below the x-height, and above it
  static RowFit of(const Face& face, float size);
  float operator()(float y) const {
    return y <= x_height || x_height <= 0 ? y * x_scale : x_height * x_scale + (y - x_height) * above_scale;
  }
};

/// The same recipe for color glyphs among others.
AtlasRecipe color_recipe(const AtlasRecipe& recipe);

/// Checks what a recipe says of its pictures, all but the faces.
Result<void> check_pictures(const AtlasRecipe& recipe);
/// Whether pictures of the face may be made: its embedding permission and license.
Result<void> check_permission(const Face& face);

/// Sets cell size and offset of one glyph, whose phase is set, from the box of what is painted.
void size_cell(const AtlasRecipe& recipe, const Face& face, float size, const RowFit& fit,
               const FontRect& box, AtlasGlyph& glyph);
/// Sets cell size, offset and advance of every glyph; one without anything to paint keeps an empty cell.
void size_cells(const AtlasRecipe& recipe, Selection& selection);

/// Kerning of all pairs of a strike's glyphs in pixels, as pairs or classes, whichever is shorter.
AtlasKerning make_kerning(const Face& face, float size, std::size_t strike,
                          const std::vector<AtlasGlyph>& glyphs);

/// Reads the outline and makes it ready for pictures. Fails as `read_outline` does.
Result<void> read_picture_outline(const Face& face, GlyphId glyph, float size, const RowFit* fit,
                                  Contours& out, Steps& steps);

/// What makes the pictures of one kind at one size; belongs to one thread.
class PictureMaker {
 public:
  /// Over all its glyphs `steps` are spent on crossings (see Steps), and beyond them Steps::kAlways a glyph.
  explicit PictureMaker(const AtlasRecipe& recipe, std::uint64_t steps = ~std::uint64_t{0})
      : recipe_(recipe), steps_(steps) {}

  /// Makes the picture of a glyph of `cell` size whose pen stands `phase` quarters right of `-offset`,
  /// straight into rows of `page` at the cell. Where it fails nothing was written.
  Result<void> paint(const Face& face, float size, const AtlasGlyph& glyph, Image& page);

 private:
  Result<void> paint_color(const Face& face, float size, const AtlasGlyph& glyph, const Transform& map,
                           Image& page);
  void store(Image& page, const PixelRect& cell) const;

  Result<void> paint_outline(const Face& face, float size, const AtlasGlyph& glyph, const Transform& map,
                             Image& page);

  const AtlasRecipe& recipe_;
  std::uint64_t steps_;
  RasterScratch scratch_;
  Contours outline_;
  std::vector<float> values_;
};

}  // namespace grafema::detail
