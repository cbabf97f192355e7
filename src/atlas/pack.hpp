// SPDX-License-Identifier: MIT
// Places rectangles on pages, never turned, never overlapping.
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <vector>

#include "grafema/base/geometry.hpp"

namespace grafema::detail {

/// A rectangle to place; `page`, `x` and `y` are filled in.
struct PackItem {
  int width = 0, height = 0;
  std::size_t page = 0;
  int x = 0, y = 0;
};

/// The rectangles that wait for a place, by width and then by height. Sizes include the gap.
class Shelf {
 public:
  Shelf() = default;
  Shelf(const std::vector<PackItem>& items, int gap, const std::vector<std::uint32_t>& which);

  struct Choice {
    int width, height;
    std::size_t place;  ///< among those of its width
  };
  /// The rectangle that fills a gap best that is `width` wide, with room for `height` and walls of these
  /// heights at its sides; nothing where none fits, or the best would waste more than it fills.
  std::optional<Choice> choose(int width, int height, int left_wall, int right_wall, bool at_any_cost) const;
  std::uint32_t take(const Choice& choice);
  bool empty() const { return left_ == 0; }
  std::size_t size() const { return left_; }

 private:
  struct Entry {
    int height;
    std::uint32_t item;
  };
  static constexpr int kTries =
      12;  ///< how much narrower than the best so far a rectangle may be to be looked at

  std::vector<std::vector<Entry>> buckets_;  ///< by width
  std::vector<int> widths_;                  ///< of the buckets that are not empty, ascending
  std::size_t left_ = 0;
};

struct PackResult {
  int page_width = 0, page_height = 0;
  std::size_t page_count = 0;
};

/// Places all items with `gap` pixels between them and at the edges, on one page if they fit into `max_width`
/// x `max_height`, else on pages of that size. With `exact` the page has just that size and there is only
/// one. One page is made as small as a few hundred tries find. Nothing where an item is larger than a page,
/// or `exact` does not suffice.
std::optional<PackResult> pack(std::vector<PackItem>& items, int gap, int max_width, int max_height,
                               bool exact);

}  // namespace grafema::detail
