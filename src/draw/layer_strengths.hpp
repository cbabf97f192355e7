// SPDX-License-Identifier: MIT
// How strongly a layer of a look paints each pixel of one glyph, from its outline.
#pragma once

#include <span>
#include <vector>

#include "grafema/draw/look.hpp"
#include "grafema/outline/contours.hpp"
#include "grafema/raster/raster.hpp"

namespace grafema::detail {

/// A layer whose edge is the letter's own: exact coverage serves it.
inline bool is_plain(const Layer& layer) { return layer.grow == 0 && layer.blur == 0 && !layer.hollow; }

/// Works on one glyph after the other in its own memory; belongs to one thread.
class LayerStrengths {
 public:
  /// The strengths, 0..1, of the pixels of `cell`, rows from the top; good until the next call. `map` is that
  /// of the letter itself, without the layer's shift; the layer's lengths are pixels. Fails as the rasterizer
  /// does.
  Result<std::span<const float>> make(const Layer& layer, const Contours& outline, const Transform& map,
                                      const PixelRect& cell);

 private:
  Result<void> make_grown(const Layer& layer, const Contours& outline, const Transform& map,
                          const Transform& shifted, const PixelRect& cell);

  std::vector<float> strengths_, unshifted_;
  RasterScratch scratch_;
};

}  // namespace grafema::detail
