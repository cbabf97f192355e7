// SPDX-License-Identifier: MIT
// Finds the highest place on a skyline.
#include "atlas/skyline.hpp"

#include <algorithm>

namespace grafema::detail {

/// How high a rectangle can stand with its left side at a step; nothing where it leaves the page.
std::optional<int> Skyline::find_top(std::size_t step, int width, int height) const {
  const int x = steps_[step].x;
  if (x + width > width_) return std::nullopt;
  int top = 0;
  for (std::size_t i = step; i < steps_.size() && steps_[i].x < x + width; ++i) {
    top = std::max(top, steps_[i].y);
  }
  return top + height <= height_ ? std::optional(top) : std::nullopt;
}

std::optional<Skyline::Place> Skyline::add(int width, int height) {
  std::size_t best = steps_.size();
  int best_top = 0, best_width = 0;
  for (std::size_t i = 0; i < steps_.size(); ++i) {
    const std::optional<int> top = find_top(i, width, height);
    if (!top) continue;
    const bool better =
        best == steps_.size() || *top < best_top || (*top == best_top && steps_[i].width < best_width);
    if (better) best = i, best_top = *top, best_width = steps_[i].width;
  }
  if (best == steps_.size()) return std::nullopt;
  const int x = steps_[best].x;
  take(best, x, width, best_top + height);
  return Place{x, best_top};
}

/// Raises the skyline under a rectangle and joins steps of one height.
void Skyline::take(std::size_t step, int x, int width, int bottom) {
  const int right = x + width;
  std::size_t end = step;
  while (end < steps_.size() && steps_[end].x + steps_[end].width <= right) ++end;
  if (end < steps_.size() && steps_[end].x < right) {
    steps_[end].width -= right - steps_[end].x;
    steps_[end].x = right;
  }
  steps_.erase(steps_.begin() + static_cast<std::ptrdiff_t>(step),
               steps_.begin() + static_cast<std::ptrdiff_t>(end));
  steps_.insert(steps_.begin() + static_cast<std::ptrdiff_t>(step), {x, width, bottom});
  const auto join = [this](std::size_t i) {
    if (i + 1 >= steps_.size() || steps_[i].y != steps_[i + 1].y) return;
    steps_[i].width += steps_[i + 1].width;
    steps_.erase(steps_.begin() + static_cast<std::ptrdiff_t>(i) + 1);
  };
  join(step);
  if (step > 0) join(step - 1);
}

void Skyline::grow(int width, int height) {
  if (width > width_) {
    if (steps_.back().y == 0) {
      steps_.back().width += width - width_;
    } else {
      steps_.push_back({width_, width - width_, 0});
    }
  }
  width_ = std::max(width_, width);
  height_ = std::max(height_, height);
}

}  // namespace grafema::detail
