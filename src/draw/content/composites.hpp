// SPDX-License-Identifier: MIT
// Quads that show what was painted before them: the shape of a joined layer, and a label that fades.
#pragma once

#include "draw/content/label_content.hpp"

namespace grafema::detail {

/// Whether letters of this variant go into the mask of a layer. What shows its own colors does not, nor does
/// a panel, which is one shape.
inline bool is_joined(const Look& look, std::size_t layer, const Variant& variant) {
  const bool has_own_colors = variant.kind == TexelKind::color && layer + 1 == look.count;
  return look.layers[layer].join && !variant.panel && !has_own_colors;
}
bool has_joined_layers(const Look& look);

/// What records of a composite are written for: a texel of it is a pixel of the label.
Variant composite_variant(TexelKind kind, float size);

/// Around all that a label paints, and so much wider that a composite moved by any layer's shift still holds
/// it.
Rect composite_extent(const LabelContent& label, const LookBook& looks, const Rect& painted);

/// A cover of a rectangle of the label; where that is larger than any device shows, of its middle.
LocalQuad composite_quad(const Rect& extent);

}  // namespace grafema::detail
