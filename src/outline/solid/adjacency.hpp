// SPDX-License-Identifier: MIT
// Which triangles share an edge.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <span>
#include <utility>
#include <vector>

namespace grafema::detail {

/// For corner k of triangle t (at 3 t + k): the corner at which the neighbor's half of the edge to corner k +
/// 1 begins, kNoNeighbor at the border.
inline constexpr std::uint32_t kNoNeighbor = ~0U;

inline std::uint32_t next_corner(std::uint32_t corner) { return corner % 3 == 2 ? corner - 2 : corner + 1; }

inline std::vector<std::uint32_t> list_neighbors(std::span<const std::array<std::uint32_t, 3>> triangles) {
  // Both ends in one number, the smaller one first.
  std::vector<std::pair<std::uint64_t, std::uint32_t>> edges;
  edges.reserve(triangles.size() * 3);
  const auto point = [&](std::uint32_t corner) { return triangles[corner / 3][corner % 3]; };
  for (std::uint32_t corner = 0; corner < triangles.size() * 3; ++corner) {
    const std::uint32_t a = point(corner), b = point(next_corner(corner));
    edges.emplace_back(std::uint64_t{std::min(a, b)} << 32U | std::max(a, b), corner);
  }
  std::sort(edges.begin(), edges.end());
  std::vector<std::uint32_t> neighbors(triangles.size() * 3, kNoNeighbor);
  for (std::size_t i = 1; i < edges.size(); ++i) {
    const std::uint32_t corner = edges[i].second, other = edges[i - 1].second;
    if (edges[i].first == edges[i - 1].first && point(corner) != point(other)) {
      neighbors[corner] = other, neighbors[other] = corner;
    }
  }
  return neighbors;
}

}  // namespace grafema::detail
