// SPDX-License-Identifier: MIT
// What rasterizing keeps between glyphs, and the steps that its kinds share.
#pragma once

#include <cstdint>
#include <utility>
#include <vector>

#include "base/four.hpp"
#include "grafema/raster/raster.hpp"
#include "outline/union/unite.hpp"
#include "raster/edges.hpp"

namespace grafema {

struct RasterScratch::Memory {
  std::vector<Segment> flat, boundary;
  detail::Uniter uniter;
  detail::Steps steps;  // left for the glyph; each call that is not given any has those of a glyph
  bool steps_given = false;
  std::vector<float> cells, sums;
  std::vector<std::int8_t> turns;        // see find_inside
  std::vector<float> squares;            // squared distances, rows padded to fours
  std::vector<float> keys[4], sides[4];  // see `Plane` in distance_channels.cpp
  std::vector<detail::EdgePiece> pieces;
  detail::EdgeMemory edges;
  std::vector<std::uint32_t> row_first, row_next, row_pieces;  // pieces near each row of pixels
  std::vector<std::uint8_t> marks;  // of each pixel: bits 0 to 2 which channels are above 0, bits 3 to 5
                                    // which are as good as the true distance
  Contours outline;
};

namespace detail {

/// Checks the arguments.
Result<void> check_cell(const Transform& to_pixels, const PixelRect& cell, std::size_t room);

/// Checks the arguments and leaves the boundary of the filled shape in `memory.boundary`, in pixels of the
/// cell.
Result<void> make_boundary(const Contours& contours, const Transform& to_pixels, const PixelRect& cell,
                           std::size_t out_size, double tolerance, RasterScratch::Memory& memory);

/// The map with the cell's corner as its origin.
Transform in_cell(const Transform& to_pixels, const PixelRect& cell);

/// The whole pixels whose centers lie in [low, high], cut to 0..count.
std::pair<int, int> centers_between(double low, double high, int count);

/// Leaves in `memory.turns`, for each pixel center, by how much its winding number differs from that of the
/// center to its left. A row has one entry more than the cell is wide.
void find_inside(const PixelRect& cell, RasterScratch::Memory& memory);

constexpr float kAlike =
    0.02F;  ///< pixels; a channel whose distance differs from the true one by no more counts as equal to it.
            ///< Curves are moved out by less than this in the three channels

/// Rounds distances as storing them in a texel does (see `distance_value`): to one of `levels` + 1 values.
/// With 0 levels they are left as they are.
struct Rounding {
  Rounding(float reach, unsigned levels)
      : most(static_cast<float>(levels)),
        to_values(most / (2 * reach)),
        to_distance(levels > 0 ? 2 * reach / most : 0) {}
  float most, to_values, to_distance;

  Four operator()(Four d) const {
    if (most == 0) return d;
    const Four value = smaller(larger(d * to_values + (most + 1) / 2, Four{}), all(most));
    return (__builtin_convertvector(__builtin_convertvector(value, FourInts), Four) - most / 2) * to_distance;
  }
};

/// Corrects three-channel distances. In a square between four texel centers, the median of channels that were
/// mixed by a texture unit may show an edge where there is none, or miss one; such squares are found, and
/// texels made plain (all channels alike) until the median is wrong on no more of a square than the true
/// distance is. `out` holds three channels and the true distance of each pixel; `memory.pieces` and
/// `memory.marks` belong to the same shape. Texels are judged as they will be once rounded; `out` itself is
/// not rounded.
void correct_channels(const PixelRect& cell, const Rounding& rounded, std::span<float> out,
                      RasterScratch::Memory& memory);

constexpr std::size_t padded(int width) { return (static_cast<std::size_t>(width) + 3) / 4 * 4; }

}  // namespace detail
}  // namespace grafema
