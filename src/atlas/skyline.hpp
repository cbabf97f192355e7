// SPDX-License-Identifier: MIT
// A page that is filled one rectangle after the other, as they come, and that may grow.
#pragma once

#include <optional>
#include <vector>

namespace grafema::detail {

/// For each stretch of x how far down the page is taken. A rectangle goes where its bottom ends highest.
class Skyline {
 public:
  Skyline(int width, int height) : width_(width), height_(height), steps_{{0, width, 0}} {}

  struct Place {
    int x, y;
  };
  /// The top left corner of the place found, which is then taken; nothing where there is no room.
  std::optional<Place> add(int width, int height);
  /// More room at the right and below; what was placed stays where it is.
  void grow(int width, int height);
  void clear() { steps_ = {{0, width_, 0}}; }

 private:
  struct Step {
    int x, width, y;
  };
  std::optional<int> find_top(std::size_t step, int width, int height) const;
  void take(std::size_t step, int x, int width, int bottom);

  int width_, height_;
  std::vector<Step> steps_;
};

}  // namespace grafema::detail
