// SPDX-License-Identifier: MIT
// What rasterizing keeps between glyphs, and the steps that coverage and distance share.
#pragma once

#include <vector>

#include "grafema/raster.hpp"
#include "outline/unite.hpp"

namespace grafema {

struct RasterScratch::Memory {
  /// Where a row of pixel centers meets the boundary: the filled side begins (+1) or ends (-1) at x.
  struct Meeting {
    int row;
    float x;
    int turn;
  };

  std::vector<Segment> flat, boundary;
  detail::Uniter uniter;
  std::vector<float> cells, sums;
  std::vector<Meeting> meetings;
};

namespace detail {

/// Checks the arguments and leaves the boundary of the filled shape in `memory.boundary`, in pixels of the cell.
Result<void> find_boundary(const Contours& contours, const Transform& to_pixels, const PixelRect& cell,
                           std::size_t out_size, double tolerance, RasterScratch::Memory& memory);

}  // namespace detail
}  // namespace grafema
