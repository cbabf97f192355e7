// SPDX-License-Identifier: MIT
// Cuts the edges of letters into dashes by their length.
#include "draw/dashes.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

constexpr std::size_t kLeafPieces = 4;

/// Square of the distance from a point to a box; 0 inside.
template <class Box>
double squared_distance(const Box& box, double x, double y) {
  const double dx = std::max({box.left - x, 0.0, x - box.right}),
               dy = std::max({box.top - y, 0.0, y - box.bottom});
  return dx * dx + dy * dy;
}

}  // namespace

void Dashes::set(const Contours& outline, const Transform& map, float dash, float gap) {
  constexpr double kTolerance = 0.05;
  pieces_.clear();
  united_ = outline;
  if (!united_.united) unite(united_);
  flatten(united_, map, kTolerance, segments_);
  std::size_t first = 0;
  for (std::size_t i = 1; i <= segments_.size(); ++i) {
    const bool goes_on = i < segments_.size() && segments_[i].x0 == segments_[i - 1].x1 &&
                         segments_[i].y0 == segments_[i - 1].y1;
    if (goes_on) continue;
    add_contour(first, i, dash, gap);
    first = i;
  }
  nodes_.clear();
  if (!pieces_.empty()) add_node(0, pieces_.size());
}

/// Pieces that follow each other lie near each other, so halves of a run make small boxes.
void Dashes::add_node(std::size_t first, std::size_t end) {
  const std::size_t node = nodes_.size();
  nodes_.push_back({INFINITY, INFINITY, -INFINITY, -INFINITY, first, end});
  for (std::size_t i = first; i < end; ++i) {
    const Piece& p = pieces_[i];
    Node& box = nodes_[node];
    box.left = std::min({box.left, p.x, p.x + p.dx}), box.right = std::max({box.right, p.x, p.x + p.dx});
    box.top = std::min({box.top, p.y, p.y + p.dy}), box.bottom = std::max({box.bottom, p.y, p.y + p.dy});
  }
  if (end - first <= kLeafPieces) return;
  const std::size_t middle = first + (end - first) / 2;
  add_node(first, middle);
  nodes_[node].second_child = nodes_.size();
  add_node(middle, end);
}

/// Of pieces that are as near the first one wins.
void Dashes::find_nearest(std::size_t node, double x, double y, Nearest& nearest) const {
  const Node& here = nodes_[node];
  if (here.second_child != 0) {
    std::size_t near = node + 1, far = here.second_child;
    double to_near = squared_distance(nodes_[near], x, y), to_far = squared_distance(nodes_[far], x, y);
    if (to_far < to_near) std::swap(near, far), std::swap(to_near, to_far);
    if (to_near <= nearest.squared) find_nearest(near, x, y, nearest);
    if (to_far <= nearest.squared) find_nearest(far, x, y, nearest);
    return;
  }
  for (std::size_t i = here.first; i < here.end; ++i) {
    const Piece& p = pieces_[i];
    const double px = x - p.x, py = y - p.y;
    const double t = std::clamp((px * p.dx + py * p.dy) / p.length_squared, 0.0, 1.0);
    const double ex = px - t * p.dx, ey = py - t * p.dy, squared = ex * ex + ey * ey;
    if (squared < nearest.squared || (squared == nearest.squared && i < nearest.piece))
      nearest = {squared, t, i};
  }
}

void Dashes::add_contour(std::size_t first, std::size_t end, float dash, float gap) {
  double length = 0;
  const std::size_t from = pieces_.size();
  for (std::size_t i = first; i < end; ++i) {
    const Segment& s = segments_[i];
    const double dx = s.x1 - s.x0, dy = s.y1 - s.y0, squared = dx * dx + dy * dy;
    if (squared <= 0) continue;
    const double own = std::sqrt(squared);
    pieces_.push_back(
        {s.x0, s.y0, dx, dy, squared, static_cast<float>(length), static_cast<float>(own), 0, 0});
    length += own;
  }
  const double wanted = std::max(double{dash} + double{gap}, 1e-3);
  const double period = length / std::max(1.0, std::round(length / wanted));
  for (std::size_t i = from; i < pieces_.size(); ++i) {
    pieces_[i].period = static_cast<float>(period);
    pieces_[i].dash = static_cast<float>(period * double{dash} / wanted);
  }
}

float Dashes::share_at(float x, float y) const {
  Nearest nearest{INFINITY, 0, pieces_.size()};
  if (!nodes_.empty()) find_nearest(0, double{x}, double{y}, nearest);
  if (nearest.piece == pieces_.size()) return 0;
  const Piece& piece = pieces_[nearest.piece];
  const float at = piece.begin + static_cast<float>(nearest.along) * piece.length;
  const float periods = at / piece.period, within = (periods - std::floor(periods)) * piece.period;
  // From the middle of the nearest dash, which stands at the beginning of a period.
  const float off = std::min(within, piece.period - within);
  return std::clamp(0.5F + piece.dash / 2 - off, 0.0F, 1.0F);
}

}  // namespace grafema::detail
