// SPDX-License-Identifier: MIT
// A quad's shaders: of its page, and of the smaller pictures of it for pixels that cover many texels.
#pragma once

#include "render/software/paint_quads.hpp"

namespace grafema::detail {

/// Shades pixels from the smaller pictures of a page. What a texel of them is painted with is found before
/// texels are mixed, so that nothing flickers.
class MipmapShader {
 public:
  MipmapShader(const GlyphQuad& quad, const LayerRecord& layer, TexelKind kind, const ImageView& far);

  /// False where the cell has no picture of that level, 1 or 2.
  bool use(int level);
  /// `at` is the pixel's middle in texels of the page; `footprint` is scaled as its picture is. Of color only
  /// the light is given in the sum, in other kinds the strength alone.
  Four sum(Texel at, const Footprint& footprint) const;
  float unit() const { return unit_; }

 private:
  Four texel(int x, int y) const;
  template <class Value>
  Four mixed(Texel at, Value value) const;
  float painted(Four v) const;
  float layer_at(Texel at) const;
  Four sample(Texel at) const;

  const GlyphQuad& quad_;
  const LayerRecord& layer_;
  TexelKind kind_;
  const ImageView& far_;
  std::array<std::uint16_t, 4> cell_ = {};
  int level_ = 0;
  float unit_ = 1;  // texels of its picture to one of the page
  float grow_ = 0, blur_ = 0, line_ = 0, reach_ = 0, room_ = 0;
  bool plain_;
};

class QuadLevels {
 public:
  /// `far` is that of `GlyphSource::mipmap_pixels`; empty where there is none, or none will be needed.
  QuadLevels(const GlyphQuad& quad, const QuadLayer& what, TexelKind kind, const ImageView& page,
             const ImageView& far)
      : kind_(kind), far_(far), own_(quad, what, kind, page), smaller_(quad, what.layer, kind, far) {}

  /// What a pixel is taken from, and the pixel as that sees it.
  struct Choice {
    Footprint footprint;
    int level = 0;   ///< 0: the page
    float unit = 1;  ///< texels of the picture to one of the page
    /// Texels of the page by which a pixel's middle may lie beyond the quad, to the right and down, where it
    /// shows some of it.
    Texel beyond() const;
  };
  Choice choose(const Footprint& footprint);
  Shade shade(Texel at, const Choice& choice, float across, float down);
  /// What the shape of a joined layer keeps of a pixel.
  Parts parts(Texel at, const Choice& choice);
  /// That of the page.
  QuadShader& own() { return own_; }
  const QuadShader& own() const { return own_; }

 private:
  static constexpr int kLevels = 2;

  TexelKind kind_;
  const ImageView& far_;
  QuadShader own_;
  MipmapShader smaller_;
};

}  // namespace grafema::detail
