// SPDX-License-Identifier: MIT
// Composites: the shape of a joined layer as one letter, and a label that fades as one picture.
#pragma once

#include "render/software/quad_drawer.hpp"

namespace grafema::detail {

class CompositeDrawer {
 public:
  CompositeDrawer(const GlyphQuad& quad, const QuadLayer& what, const Place& place, TexelKind kind,
                  const View& view, Planes& planes, const std::optional<QuadCut>& cut = {})
      : quad_(quad),
        what_(what),
        place_(place),
        kind_(kind),
        seen_(quad, view),
        shader_(quad, what, kind, none_),
        planes_(planes) {
    if (cut) cutter_.emplace(*cut, seen_);
  }

  /// Empties what it will show.
  void empty(const PixelRect& rows);
  void draw(Image& target, const PixelRect& rows, Blender& blender, const LightVectors& lights);

 private:
  PixelRect area(const PixelRect& rows) const;
  void paint_shape(std::uint8_t* pixel, int x, int y, Blender& blender, const LightVectors& lights);
  float strength_at(int x, int y) const;
  Shade with_light(const Shade& shade, int x, int y, const Footprint& footprint,
                   const LightVectors& lights) const;

  const GlyphQuad& quad_;
  const QuadLayer& what_;
  Place place_;
  TexelKind kind_;
  Seen seen_;
  ImageView none_;
  QuadShader shader_;
  Planes& planes_;
  std::optional<Cutter> cutter_;
};

}  // namespace grafema::detail
