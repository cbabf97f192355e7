// SPDX-License-Identifier: MIT
// The boundary of a shape as runs between its corners, dealt to three channels.
#pragma once

#include <cstdint>
#include <vector>

#include "grafema/outline/contours.hpp"
#include "outline/union/pieces.hpp"

namespace grafema::detail {

/// A straight piece of a run; pixels of the cell, the filled side on the right (y down).
struct EdgePiece {
  float x = 0, y = 0;                            ///< where it begins
  float ex = 0, ey = 0;                          ///< from there to its end
  float inverse_square = 0, inverse_length = 0;  ///< 1 / length^2 and 1 / length
  float bulge = 0;                               ///< how far the curve is moved out, see `bulge_of`
  std::uint8_t channels = 7;                     ///< bit c: channel c sees it
  bool begins_run = false, ends_run = false;
  float begin_x = 0, begin_y = 0, end_x = 0,
        end_y = 0;  ///< unit tangents of the curve where a run begins and ends
};

/// Working memory of `deal_edges`.
struct EdgeMemory {
  std::vector<Curve> curves;
  std::vector<std::size_t> corners;
};

/// Replaces `out` with the pieces of a united outline, which stay within `tolerance` pixels of its curves.
/// Runs that meet at a corner have exactly one channel in common, so that near a corner the other two
/// channels see one side each and their median keeps it sharp. A contour without corners is one run of all
/// channels; one with a single corner is three runs. `boundary` gets the same pieces, each beginning at the
/// very point where the one before ends.
void deal_edges(const Contours& united, const Transform& to_pixels, double tolerance, EdgeMemory& memory,
                std::vector<EdgePiece>& out, std::vector<Segment>& boundary);

}  // namespace grafema::detail
