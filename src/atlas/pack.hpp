// SPDX-License-Identifier: MIT
// Places rectangles on pages, never turned, never overlapping.
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "grafema/geometry.hpp"

namespace grafema::detail {

/// One page as a skyline: for each stretch of x how far down it is taken. A rectangle goes where its bottom ends
/// highest.
class Skyline {
 public:
  Skyline(int width, int height);

  /// The top left corner of the place found, which is then taken; nothing where there is no room.
  struct Place {
    int x, y;
  };
  std::optional<Place> add(int width, int height);
  int used_height() const { return used_height_; }

 private:
  struct Step {
    int x, width, y;
  };
  std::optional<int> find_top(std::size_t step, int width, int height) const;
  void take(std::size_t step, int x, int width, int bottom);

  int width_, height_, used_height_ = 0;
  std::vector<Step> steps_;
};

/// A rectangle to place; `page`, `x` and `y` are filled in.
struct PackItem {
  int width = 0, height = 0;
  std::size_t page = 0;
  int x = 0, y = 0;
};

struct PackResult {
  int page_width = 0, page_height = 0;
  std::size_t page_count = 0;
};

/// Places all items with `gap` pixels between them and at the edges, on one page if they fit into `max_width` x
/// `max_height`, else on pages of that size. With `exact` the page has just that size and there is only one. One page
/// is made as small as a few hundred tries find. Nothing where an item is larger than a page, or `exact` does not
/// suffice.
std::optional<PackResult> pack(std::vector<PackItem>& items, int gap, int max_width, int max_height, bool exact);

}  // namespace grafema::detail
