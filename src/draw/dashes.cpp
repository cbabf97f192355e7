// SPDX-License-Identifier: MIT
// Cuts the edges of letters into dashes by their length.
#include "draw/dashes.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {

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
  double nearest = INFINITY, along = 0;
  const Piece* piece = nullptr;
  for (const Piece& p : pieces_) {
    const double px = double{x} - p.x, py = double{y} - p.y;
    const double t = std::clamp((px * p.dx + py * p.dy) / p.length_squared, 0.0, 1.0);
    const double ex = px - t * p.dx, ey = py - t * p.dy, squared = ex * ex + ey * ey;
    if (squared < nearest) nearest = squared, along = t, piece = &p;
  }
  if (piece == nullptr) return 0;
  const float at = piece->begin + static_cast<float>(along) * piece->length;
  const float periods = at / piece->period, within = (periods - std::floor(periods)) * piece->period;
  // From the middle of the nearest dash, which stands at the beginning of a period.
  const float off = std::min(within, piece->period - within);
  return std::clamp(0.5F + piece->dash / 2 - off, 0.0F, 1.0F);
}

}  // namespace grafema::detail
