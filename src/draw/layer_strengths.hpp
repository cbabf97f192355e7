// SPDX-License-Identifier: MIT
// How strongly a layer of a look paints each pixel of one glyph, from its outline.
#pragma once

#include <span>
#include <vector>

#include "draw/dashes.hpp"
#include "grafema/draw/look.hpp"
#include "grafema/outline/contours.hpp"
#include "grafema/raster/raster.hpp"

namespace grafema::detail {

/// A layer whose edge is the letter's own: exact coverage serves it.
inline bool is_plain(const Layer& layer) {
  const bool has_sweep = layer.sweep.x != 0 || layer.sweep.y != 0;
  return layer.grow == 0 && layer.blur == 0 && layer.line == 0 && !layer.hollow && !layer.inset && !has_sweep;
}

/// Where a layer may paint of a letter with this box.
Rect painted_area(const Layer& layer, const Rect& letter);

/// Works on one glyph after the other in its own memory; belongs to one thread.
class LayerStrengths {
 public:
  /// The strengths, 0..1, of the pixels of `cell`, rows from the top; good until the next call. `map` is that
  /// of the letter itself, without the layer's shift; the layer's lengths are pixels. Fails as the rasterizer
  /// does.
  Result<std::span<const float>> make(const Layer& layer, const Contours& outline, const Transform& map,
                                      const PixelRect& cell);

  /// How far pixels of `cell` lie inside the edge that a layer's surface rises from; good until the next
  /// call.
  Result<std::span<const float>> make_heights(const Layer& layer, const Contours& outline,
                                              const Transform& map, const PixelRect& cell);

 private:
  Result<void> make_grown(const Layer& layer, const Contours& outline, const Transform& map,
                          const Transform& shifted, const PixelRect& cell);
  Result<void> make_distances(const Layer& layer, const Contours& outline, const Transform& map,
                              const PixelRect& cell, float reach, std::vector<float>& out);
  Result<void> make_swept(const Layer& layer, const Contours& outline, const Transform& map,
                          const PixelRect& cell, float reach);
  Result<void> cut_into_dashes(const Layer& layer, const Contours& outline, const Transform& map,
                               const PixelRect& cell);

  std::vector<float> strengths_, own_, channels_, heights_;
  Dashes dashes_;
  RasterScratch scratch_;
};

}  // namespace grafema::detail
