// SPDX-License-Identifier: MIT
// Exact coverage for plain layers, exact distance for the others.
#include "draw/layer_strengths.hpp"

#include <cmath>

namespace grafema::detail {

Result<std::span<const float>> LayerStrengths::make(const Layer& layer, const Contours& outline,
                                                    const Transform& map, const PixelRect& cell) {
  Transform shifted = map;
  shifted.dx += layer.shift.x;
  shifted.dy += layer.shift.y;
  strengths_.resize(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  const Result<void> made = is_plain(layer) ? rasterize_coverage(outline, shifted, cell, strengths_, scratch_)
                                            : make_grown(layer, outline, map, shifted, cell);
  if (!made) return fail(made.error());
  return std::span<const float>(strengths_);
}

/// From the distance to the shifted shape, and to the letter's own where that is left out.
Result<void> LayerStrengths::make_grown(const Layer& layer, const Contours& outline, const Transform& map,
                                        const Transform& shifted, const PixelRect& cell) {
  const float reach = std::abs(layer.grow) + layer.blur + 1;
  Result<void> made = rasterize_distance(outline, shifted, cell, reach, strengths_, scratch_);
  if (made && layer.hollow) {
    unshifted_.resize(strengths_.size());
    made = rasterize_distance(outline, map, cell, 1, unshifted_, scratch_);
  }
  if (!made) return made;
  for (std::size_t i = 0; i < strengths_.size(); ++i) {
    strengths_[i] = layer_strength(layer, strengths_[i], layer.hollow ? unshifted_[i] : 0);
  }
  return {};
}

}  // namespace grafema::detail
