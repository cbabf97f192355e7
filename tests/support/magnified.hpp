// SPDX-License-Identifier: MIT
// How much of a shape is on the wrong side when its distance pictures are magnified.
#pragma once

#include "grafema/base/geometry.hpp"
#include "grafema/raster/raster.hpp"

namespace grafema::test {

struct Magnifying {
  int times = 8;  ///< samples along a side of a pixel
  float reach = 6;
  unsigned levels = 65535;  ///< of the values that texels are stored as, 255 or 65535
  float either = 0.01F;     ///< samples this near to the edge (pixels) count for neither
};

struct WrongSamples {
  long single = 0;  ///< by the true distance
  long median = 0;  ///< by the median of the three channels
  /// Of those, the ones within a pixel of a corner: a point where the outline turns by more than 15 degrees.
  long single_at_corners = 0, median_at_corners = 0;
  /// Of the samples that the median has on the wrong side and one channel on the right one, how far from the
  /// edge the farthest lies, in pixels up to 1, and where, in pixels of the cell.
  float farthest = 0;
  PixelPoint where;
};

/// The samples that the picture of a united outline, mixed between texels, has on the wrong side. `scale`:
/// pixels per font unit.
Result<WrongSamples> count_wrong(const Contours& united, float scale, const Magnifying& how,
                                 RasterScratch& scratch);

}  // namespace grafema::test
