// SPDX-License-Identifier: MIT
// The filled shape of an outline as triangles between its points, and as convex pieces for physics.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <span>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/base/export.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// What an outline fills, cut into triangles. Overlapping, touching and self-crossing contours are united
/// first. Every edge of a triangle is either that of one other triangle or an edge of a loop: no gaps, no
/// point of one triangle within the side of another, no triangle without an area.
struct Triangles {
  std::vector<FontPoint> points = {};  ///< the loops' points, loop by loop
  std::vector<std::uint32_t> loop_ends =
      {};  ///< one past each loop's last point; the filled side is on a loop's left (y up)
  std::vector<std::uint32_t> indices = {};  ///< three points a triangle, counterclockwise (y up)

  std::size_t triangle_count() const { return indices.size() / 3; }
  std::size_t loop_count() const { return loop_ends.size(); }
  /// The points of one loop, in order; the last is joined with the first. Valid as long as `points` is.
  std::span<const FontPoint> loop(std::size_t i) const&;
  std::span<const FontPoint> loop(std::size_t i) const&& = delete;
  /// In square font units: half the sum of the triangles' cross products.
  GRAFEMA_API double area() const;
  void clear() { points.clear(), loop_ends.clear(), indices.clear(); }
};

/// How an outline is cut.
enum class TriangleShape : std::uint8_t {
  quick,    ///< as comes first: many are long and thin, as a graphics device does not mind
  rounded,  ///< no point lies within the circle around another triangle, but where the outline is between
            ///< (Delaunay): for convex pieces, and for what bends afterward
};

/// Cuts outlines into triangles; keeps its memory from call to call. For one thread at a time.
class GRAFEMA_API Triangulator {
 public:
  Triangulator();
  ~Triangulator();
  Triangulator(Triangulator&&) noexcept;
  Triangulator& operator=(Triangulator&&) noexcept;

  /// Replaces `out` with the triangles of what the outline fills under the non-zero winding rule. Curves
  /// become straight pieces within `tolerance` font units (above 0; else ErrorKind::bad_value). An outline
  /// that fills nothing gives no triangles. Points that are not finite are passed over. Coordinates stand on
  /// a grid of a 2^24th of the outline's largest, as those of most fonts do already. An outline that crosses
  /// itself more often than there is time for is an error (ErrorKind::unsupported); those of real fonts are
  /// far from that.
  Result<void> run(const Contours& contours, float tolerance, Triangles& out,
                   TriangleShape shape = TriangleShape::quick);

 private:
  struct Memory;
  std::unique_ptr<Memory> memory_;
};

/// The same, for one outline.
GRAFEMA_API Result<void> triangulate(const Contours& contours, float tolerance, Triangles& out,
                                     TriangleShape shape = TriangleShape::quick);

/// Convex polygons that together cover what the triangles cover, without overlapping: shapes for a physics
/// engine. Polygon i has the points `indices[ends[i - 1]]` (0 for the first) to before `ends[i]`,
/// counterclockwise (y up), at most `max_corners` of them.
struct ConvexPieces {
  std::vector<std::uint32_t> indices = {};  ///< indices into Triangles::points
  std::vector<std::uint32_t> ends = {};

  std::size_t size() const { return ends.size(); }
  std::span<const std::uint32_t> piece(std::size_t i) const& {
    const std::size_t first = i == 0 ? 0 : ends[i - 1];
    return std::span(indices).subspan(first, ends[i] - first);
  }
  std::span<const std::uint32_t> piece(std::size_t i) const&& = delete;
};

/// Replaces `out`: triangles are joined, over their longest sides first, as long as what comes out stays
/// convex. `max_corners` is at least 3.
GRAFEMA_API void make_convex_pieces(const Triangles& triangles, ConvexPieces& out,
                                    std::size_t max_corners = 8);

inline std::span<const FontPoint> Triangles::loop(std::size_t i) const& {
  const std::size_t first = i == 0 ? 0 : loop_ends[i - 1];
  return std::span(points).subspan(first, loop_ends[i] - first);
}

}  // namespace grafema
