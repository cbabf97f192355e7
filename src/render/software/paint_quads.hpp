// SPDX-License-Identifier: MIT
// Shading the pixels of a quad; the shader of the OpenGL renderer does the same, line by line.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "base/four.hpp"
#include "draw/light_math.hpp"
#include "grafema/draw/panel.hpp"
#include "grafema/render/software_renderer.hpp"
#include "render/software/glyph_quad.hpp"

namespace grafema::detail {

/// sRGB color and how much of it: what a pixel is painted with.
struct Shade {
  float red = 0, green = 0,
        blue = 0;      ///< sRGB, straight; linear light and premultiplied by `strength` where `is_light`
  float alpha = 0;     ///< of the fill and tint
  float strength = 0;  ///< of the letter, 0..1
  bool is_light = false;

  /// Weakens it to a share.
  void cut(float share) {
    strength *= share;
    if (is_light) red *= share, green *= share, blue *= share;
  }
};

/// What a shape keeps of each pixel; of all letters the most. How much of it the grown edge holds and the
/// band's inner one, how much is the letter itself, and, where light falls on the layer, how many pixels it
/// lies inside the edge, and two more.
using Parts = Four;

/// A point of a page in texels.
struct Texel {
  float x = 0, y = 0;
};

/// How many texels a pixel composites, and the samples that it takes of them.
struct Footprint {
  static constexpr int kMaxSamples = 16;
  static constexpr float kSampleWidth =
      1.3F;  ///< texels that one may stand for; off the sizes that games use

  Texel dx, dy;               ///< how the point of the page changes to the next pixel
  int across = 1, down = 1;   ///< samples along the sides of the pixel
  bool has_too_many = false;  ///< it would need more than it takes
  bool is_far = false;        ///< so many more that smaller pictures, which are softer, show it better
  float pixel = 1;            ///< texels that a sample stands for
  Footprint() = default;
  Footprint(Texel to_right, Texel to_below);

  bool is_one_sample() const { return across * down == 1; }
  Footprint scaled(float by) const { return {{dx.x * by, dx.y * by}, {dy.x * by, dy.y * by}}; }
  /// Half of the texels that the pixel covers, to the right and down.
  Texel half() const;
};

/// What a quad shows: its layer, and where that has more than colors at corners, its fill.
struct QuadLayer {
  const LayerRecord& layer;
  std::optional<FillRecord> fill = {};
  std::optional<PanelShape> panel = {};  ///< in texels of the page
  const FillImage* image = nullptr;
  const FillImage* grain = nullptr;  ///< of its surface, as `mirror`
  const FillImage* mirror = nullptr;
  bool pixelated = false;     ///< texels are not mixed
  PixelPoint per_texel = {};  ///< how far a texel of the page goes on the fill
};

/// Shades pixels of one quad.
class QuadShader {
 public:
  QuadShader(const GlyphQuad& quad, const QuadLayer& what, TexelKind kind, const ImageView& page);

  /// `at` is the pixel's middle in the page; `across` and `down` are its place on the fill.
  Shade shade(Texel at, const Footprint& footprint, float across, float down) const;
  /// The same for `out.size()` pixels in a row of a quad that stands upright, from one whose middle is at
  /// `at`: each row of texels is mixed once. Layers that leave the letter's own shape out can't be shaded so.
  void shade_row(Texel at, const Footprint& footprint, std::span<float> out);
  bool can_shade_rows() const {
    return kind_ != TexelKind::color && has_page(kind_) && layer_.cut == kNoCut && layer_.line == 0 &&
           !has_sweep_ && !takes_light() && !what_.pixelated;
  }
  /// What a pixel of this strength is painted with.
  Shade with_strength(float strength, const Footprint& footprint, float across, float down) const {
    Shade out = solid_ ? fill_ : fill_at(footprint, across, down);
    out.strength = strength;
    return out;
  }

  /// What the shape of a joined layer keeps of the pixel.
  Parts parts(Texel at, const Footprint& footprint) const;
  /// The last of the parts, where light falls on the layer.
  float pixels_inside(Texel at, const Footprint& footprint) const;
  /// The same where `strength` is all that is known of it.
  Parts parts_of(float strength) const {
    return layer_.cut == kInsetCut ? Parts{0, 0, strength, 0} : Parts{strength, 0, 0, 0};
  }

  /// The same from the mean of a pixel's samples: color is light, else all channels are the strength.
  Shade with_sum(Four color, const Footprint& footprint, float across, float down) const;

  /// Texels inside the cell's sides where nothing is painted.
  float margin(const Footprint& footprint) const;
  /// The shade as light makes it, of a pixel whose middle is at a place of the page and of the device.
  Shade with_light(const Shade& shade, Texel at, const Footprint& footprint, PixelPoint device,
                   const LightVectors& lights) const;
  /// The same where it is known how far inside the edge the pixel lies, in texels, and where the surface
  /// rises to.
  Shade lit_shade(const Shade& shade, float inside, PixelPoint rise, Texel at, const Footprint& footprint,
                  PixelPoint device, const LightVectors& lights) const;
  bool takes_light() const { return what_.fill && what_.fill->surface[0] > 0 && has_edge_; }
  /// Texels by which a layer paints beyond the cell's sides: what it draws out.
  Texel swept() const { return has_sweep_ ? Texel{layer_.sweep_x, layer_.sweep_y} : Texel{}; }
  /// How far beyond them other letters of a joined layer must know of this one.
  Texel also_seen() const {
    const float way = layer_.cut == kHollowCut ? -1.0F : layer_.cut == kInsetCut ? 1.0F : 0.0F;
    return {way * layer_.shift_x, way * layer_.shift_y};
  }
  /// Whether all pixels have one color.
  bool is_solid() const { return solid_; }

 private:
  Four texel(int x, int y) const;
  Four tap(int x, int y) const;
  Four sample(Texel at) const;
  float bar_reading(Texel at) const;
  float strength_at(Texel at, const Footprint& footprint) const;
  float wide_bar_at(Texel at, const Footprint& footprint) const;
  float share_of_bar(Texel at, const Footprint& footprint, float grow, float soften) const;
  float strength_of(Four v, float pixel) const;
  Texel edges_of(Four v, float pixel) const;
  Parts parts_at(Texel at, const Footprint& footprint) const;
  float edge_of(Four v) const;
  float grown_edge_of(Four v) const;
  float soft_edge(float distance, float half) const;
  float own_share(Texel at, float pixel) const;
  Four swept_sample(Texel at, float pixel) const;
  Four strengths_of(const Four (&v)[4], float pixel) const;
  void mix_rows(float y);
  bool is_far(Texel at, const Footprint& footprint) const;
  Shade fill_at(const Footprint& footprint, float across, float down) const;
  static PixelPoint turned_to_device(PixelPoint on_page, const Footprint& footprint);
  Shade tinted(const std::array<float, 4>& premultiplied) const;

  const GlyphQuad& quad_;
  const QuadLayer& what_;
  const LayerRecord& layer_;
  TexelKind kind_;
  const ImageView& page_;
  std::size_t texel_bytes_, channels_;
  int left_, top_, right_, bottom_;  // the cell
  float scale_, room_;               // of stored channels; what `strength_at` lets a pixel be wide
  float farther_;  // of a sharp corner's tip: what is stored as the distance may be so much more
  bool wide_, plain_, round_, has_sweep_, has_edge_, solid_;
  Shade fill_;             // where it is solid
  std::vector<Four> row_;  // of texels mixed between two rows, from the one left of the cell on
};

}  // namespace grafema::detail
