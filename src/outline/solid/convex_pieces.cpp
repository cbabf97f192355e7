// SPDX-License-Identifier: MIT
// Joins triangles into convex polygons (Hertel and Mehlhorn 1983).
#include <algorithm>
#include <cmath>
#include <numeric>

#include "grafema/outline/triangles.hpp"
#include "outline/solid/adjacency.hpp"

namespace grafema {
namespace {

using detail::kNoNeighbor;
using detail::next_corner;

/// Polygons as rings of half edges, each named by the corner of the triangle at which it begins.
class Joiner {
 public:
  Joiner(const Triangles& triangles, std::size_t max_corners) : t_(triangles), max_corners_(max_corners) {
    cut_.resize(t_.triangle_count());
    for (std::size_t i = 0; i < cut_.size(); ++i) {
      cut_[i] = {t_.indices[3 * i], t_.indices[3 * i + 1], t_.indices[3 * i + 2]};
    }
    const auto count = static_cast<std::uint32_t>(cut_.size() * 3);
    next_.resize(count), before_.resize(count);
    for (std::uint32_t c = 0; c < count; ++c) next_[c] = next_corner(c), before_[next_[c]] = c;
    gone_.assign(count, 0);
    piece_.resize(cut_.size());
    std::iota(piece_.begin(), piece_.end(), 0U);
    corners_.assign(cut_.size(), 3);
  }

  void join() {
    const std::vector<std::uint32_t> neighbors = detail::list_neighbors(cut_);
    std::vector<std::uint32_t> order;
    for (std::uint32_t c = 0; c < neighbors.size(); ++c) {
      if (neighbors[c] != kNoNeighbor && c < neighbors[c]) order.push_back(c);
    }
    std::stable_sort(order.begin(), order.end(), [this](std::uint32_t a, std::uint32_t b) {
      return squared_length(a) > squared_length(b);
    });
    for (const std::uint32_t c : order) join_over(c, neighbors[c]);
  }

  void list(ConvexPieces& out) {
    out.indices.clear(), out.ends.clear();
    for (std::uint32_t c = 0; c < next_.size(); ++c) {
      if (gone_[c] != 0) continue;
      std::uint32_t at = c;
      do {
        out.indices.push_back(index(at));
        gone_[at] = 1;
        at = next_[at];
      } while (at != c);
      out.ends.push_back(static_cast<std::uint32_t>(out.indices.size()));
    }
  }

 private:
  std::uint32_t index(std::uint32_t corner) const { return t_.indices[corner]; }
  FontPoint point(std::uint32_t corner) const { return t_.points[index(corner)]; }
  double squared_length(std::uint32_t c) const {
    const FontPoint a = point(c), b = point(next_corner(c));
    const double x = double{b.x} - a.x, y = double{b.y} - a.y;
    return x * x + y * y;
  }
  bool bends_left(std::uint32_t a, std::uint32_t b, std::uint32_t c) const {
    const FontPoint p = point(a), q = point(b), r = point(c);
    return (double{q.x} - p.x) * (double{r.y} - q.y) - (double{q.y} - p.y) * (double{r.x} - q.x) >= 0;
  }
  std::uint32_t root(std::uint32_t piece) {
    while (piece_[piece] != piece) piece = piece_[piece] = piece_[piece_[piece]];
    return piece;
  }

  /// `c` and `other` are the two halves of an edge. Both go where the corners at its ends stay convex.
  void join_over(std::uint32_t c, std::uint32_t other) {
    const std::uint32_t a = root(c / 3), b = root(other / 3);
    if (a == b || corners_[a] + corners_[b] - 2 > max_corners_) return;
    if (!bends_left(before_[c], c, next_[next_[other]]) ||
        !bends_left(before_[other], other, next_[next_[c]]))
      return;
    link(before_[c], next_[other]);
    link(before_[other], next_[c]);
    gone_[c] = gone_[other] = 1;
    piece_[b] = a;
    corners_[a] += corners_[b] - 2;
  }
  void link(std::uint32_t from, std::uint32_t to) { next_[from] = to, before_[to] = from; }

  const Triangles& t_;
  std::size_t max_corners_;
  std::vector<std::array<std::uint32_t, 3>> cut_;
  std::vector<std::uint32_t> next_, before_, piece_;
  std::vector<std::size_t> corners_;
  std::vector<std::uint8_t> gone_;
};

}  // namespace

void make_convex_pieces(const Triangles& triangles, ConvexPieces& out, std::size_t max_corners) {
  Joiner joiner(triangles, std::max<std::size_t>(max_corners, 3));
  joiner.join();
  joiner.list(out);
}

}  // namespace grafema
