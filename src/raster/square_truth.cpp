// SPDX-License-Identifier: MIT
// Finds the nearest piece of the boundary for samples of a square.
#include "raster/square_truth.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

// Squared pixels. A sample farther from every edge than this must read clearly above 0: a reading near 0
// there shows that a hairline runs between the samples.
constexpr float kFar = 0.1F, kTruthNearlyZero = 0.1F;
// Squared pixels. A sample nearer to an edge than this may be read as lying on either side of it.
constexpr float kOnEdge = 0.02F * 0.02F;
constexpr float kNear =
    1.5F;  // pixels; in a square that an edge goes through, no sample is farther from its nearest edge

}  // namespace

Four SquareJudge::least_reading(Four squared_distance) {
  const Four beside = select(squared_distance < all(kOnEdge), all(-INFINITY), Four{});
  return select(squared_distance > all(kFar), all(kTruthNearlyZero), beside);
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
  near_.reserve(16);
  const float left = static_cast<float>(x) + 0.5F - kNear, right = static_cast<float>(x) + 1.5F + kNear;
  for (std::uint32_t k = memory_.row_first[y]; k < memory_.row_first[y + 1]; ++k) {
    const EdgePiece& p = memory_.pieces[memory_.row_pieces[k]];
    if (std::max(p.x, p.x + p.ex) >= left && std::min(p.x, p.x + p.ex) <= right) near_.push_back(&p);
  }
}

bool SquareJudge::may_differ(std::size_t x, std::size_t y) {
  Four low = all(INFINITY), high = all(-INFINITY);
  for (std::size_t k = 0; k < 4; ++k) {
    const Four v = read(x + k % 2, y + k / 2);
    low = smaller(low, v), high = larger(high, v);
  }
  // Mixed values lie between those of the corners: two channels of one sign there have it everywhere.
  const int above = (low[0] > 0 ? 1 : 0) + (low[1] > 0 ? 1 : 0) + (low[2] > 0 ? 1 : 0),
            below = (high[0] <= 0 ? 1 : 0) + (high[1] <= 0 ? 1 : 0) + (high[2] <= 0 ? 1 : 0);
  return !(above >= 2 && high[3] > 0) && !(below >= 2 && low[3] <= 0);
}

bool SquareJudge::is_far_off(std::size_t x, std::size_t y) {
  constexpr std::size_t kSide = 8;
  constexpr float kMax = 0.45F;    // pixels; a little less than is promised, for pieces stand for curves
  constexpr float kClear = 0.02F;  // what the median must read there at least
  const Four a = read(x, y), b = read(x + 1, y), c = read(x, y + 1), d = read(x + 1, y + 1);
  const float left = static_cast<float>(x) + 0.5F, top = static_cast<float>(y) + 0.5F,
              otherwise = a[3] > 0 ? 1.0F : -1.0F;
  bool near_found = false;
  for (std::size_t i = 0; i < SquareTruth<kSide>::kFours; ++i) {
    const Four u = SquareTruth<kSide>::across(i);
    const float v = SquareTruth<kSide>::down(i);
    const Four first = a + (c - a) * v, across = b + (d - b) * v - first;
    Four mixed[4];
    for (int k = 0; k < 4; ++k) mixed[k] = first[k] + across[k] * u;
    const Four middle = larger(smaller(mixed[0], mixed[1]), smaller(larger(mixed[0], mixed[1]), mixed[2]));
    const Four sign = select(mixed[3] > Four{}, all(1), all(-1)), by_distance = mixed[3] * sign;
    const FourInts differ = (middle * sign < all(kClear)) & (middle * sign < by_distance);
    if ((differ[0] | differ[1] | differ[2] | differ[3]) == 0) continue;
    if (!near_found) find_near(x, y);
    near_found = true;
    Four far;
    const Four sides = find_sides(left + u, top + v, otherwise, far);
    const FourInts off = differ & ~((mixed[3] > Four{}) ^ (sides > Four{})) & (far > all(kMax * kMax));
    if ((off[0] | off[1] | off[2] | off[3]) != 0) return true;
  }
  return false;
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
  // Of pieces farther away only some are known, and the nearest may not be among them: no edge comes near.
  return select(best > all(kNear * kNear), all(otherwise), best_side);
}

}  // namespace grafema::detail
