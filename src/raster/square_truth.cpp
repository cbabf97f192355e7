// SPDX-License-Identifier: MIT
// Finds the nearest piece of the boundary for samples of a square.
#include "raster/square_truth.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

// Squared pixels. A sample farther from every edge than this must read clearly above 0: a reading near 0
// there shows that a hairline runs between the samples.
constexpr float kFar = 0.1F, kNearlyZero = 0.1F;
// Squared pixels. A sample nearer to an edge than this may be read as lying on either side of it.
constexpr float kOnEdge = 0.02F * 0.02F;
constexpr float kNear =
    1.5F;  // pixels; in a square that an edge goes through, no sample is farther from its nearest edge

}  // namespace

Four SquareJudge::least_reading(Four squared_distance) {
  const Four beside = select(squared_distance < all(kOnEdge), all(-INFINITY), Four{});
  return select(squared_distance > all(kFar), all(kNearlyZero), beside);
}

void SquareJudge::sort_into_rows() {
  auto& first = memory_.row_first;
  first.assign(height_ + 2, 0);
  const auto rows_of = [this](const EdgePiece& p) {
    return centers_between(std::min(p.y, p.y + p.ey) - kNear - 1, std::max(p.y, p.y + p.ey) + kNear,
                           static_cast<int>(height_));
  };
  for (const EdgePiece& p : memory_.pieces) {
    const auto [top, bottom] = rows_of(p);
    for (int y = top; y < bottom; ++y) ++first[static_cast<std::size_t>(y) + 1];
  }
  for (std::size_t y = 0; y < height_; ++y) first[y + 1] += first[y];
  memory_.row_pieces.resize(first[height_]);
  std::vector<std::uint32_t>& next = memory_.row_next;
  next.assign(first.begin(), first.end());
  for (std::size_t i = 0; i < memory_.pieces.size(); ++i) {
    const auto [top, bottom] = rows_of(memory_.pieces[i]);
    for (int y = top; y < bottom; ++y) {
      memory_.row_pieces[next[static_cast<std::size_t>(y)]++] = static_cast<std::uint32_t>(i);
    }
  }
}

void SquareJudge::find_near(std::size_t x, std::size_t y) {
  near_.clear();
  const float left = static_cast<float>(x) + 0.5F - kNear, right = static_cast<float>(x) + 1.5F + kNear;
  for (std::uint32_t k = memory_.row_first[y]; k < memory_.row_first[y + 1]; ++k) {
    const EdgePiece& p = memory_.pieces[memory_.row_pieces[k]];
    if (std::max(p.x, p.x + p.ex) >= left && std::min(p.x, p.x + p.ex) <= right) near_.push_back(&p);
  }
}

/// Above 0 inside: the side of the nearest piece; of two that are equally near the one whose line is farther.
/// `best` is how far it is, squared.
Four SquareJudge::find_sides(Four px, float py, float otherwise, Four& best) const {
  const Four zero = {}, one = all(1);
  Four best_side = all(otherwise);
  best = all(INFINITY);
  for (const EdgePiece* p : near_) {
    const Four dx = px - p->x;
    const float dy = py - p->y;
    const Four t = smaller(larger((dx * p->ex + dy * p->ey) * p->inverse_square, zero), one);
    const Four nx = dx - t * p->ex, ny = dy - t * p->ey, side = (p->ex * dy - p->ey * dx) * p->inverse_length;
    const Four key = nx * nx + ny * ny - 1e-4F * side * side;
    const FourInts nearer = key < best;
    best = select(nearer, key, best);
    best_side = select(nearer, side, best_side);
  }
  return best_side;
}

}  // namespace grafema::detail
