// SPDX-License-Identifier: MIT
// Packs by skylines, tallest first, over several widths of the page.
#include "atlas/pack.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numeric>

namespace grafema::detail {

Skyline::Skyline(int width, int height) : width_(width), height_(height), steps_{{0, width, 0}} {}

/// How high a rectangle can stand with its left side at a step; nothing where it leaves the page.
std::optional<int> Skyline::find_top(std::size_t step, int width, int height) const {
  const int x = steps_[step].x;
  if (x + width > width_) return std::nullopt;
  int top = 0;
  for (std::size_t i = step; i < steps_.size() && steps_[i].x < x + width; ++i) top = std::max(top, steps_[i].y);
  return top + height <= height_ ? std::optional(top) : std::nullopt;
}

std::optional<Skyline::Place> Skyline::add(int width, int height) {
  std::size_t best = steps_.size();
  int best_top = 0, best_width = 0;
  for (std::size_t i = 0; i < steps_.size(); ++i) {
    const std::optional<int> top = find_top(i, width, height);
    if (!top) continue;
    const bool better = best == steps_.size() || *top < best_top || (*top == best_top && steps_[i].width < best_width);
    if (better) best = i, best_top = *top, best_width = steps_[i].width;
  }
  if (best == steps_.size()) return std::nullopt;
  const int x = steps_[best].x;
  take(best, x, width, best_top + height);
  used_height_ = std::max(used_height_, best_top + height);
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
  steps_.erase(steps_.begin() + static_cast<std::ptrdiff_t>(step), steps_.begin() + static_cast<std::ptrdiff_t>(end));
  steps_.insert(steps_.begin() + static_cast<std::ptrdiff_t>(step), {x, width, bottom});
  const auto join = [this](std::size_t i) {
    if (i + 1 >= steps_.size() || steps_[i].y != steps_[i + 1].y) return;
    steps_[i].width += steps_[i + 1].width;
    steps_.erase(steps_.begin() + static_cast<std::ptrdiff_t>(i) + 1);
  };
  join(step);
  if (step > 0) join(step - 1);
}

namespace {

constexpr int kRounding = 4;  // page sides are multiples, as texture rows like them

std::vector<std::size_t> tallest_first(const std::vector<PackItem>& items) {
  std::vector<std::size_t> order(items.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(), [&items](std::size_t a, std::size_t b) {
    if (items[a].height != items[b].height) return items[a].height > items[b].height;
    return items[a].width > items[b].width;
  });
  return order;
}

int round_up(int v) { return (v + kRounding - 1) / kRounding * kRounding; }

class Packer {
 public:
  Packer(std::vector<PackItem>& items, int gap) : items_(items), gap_(gap), order_(tallest_first(items)) {}

  /// The height that one page of this width needs, at most `max_height`.
  std::optional<int> place_on_one(int width, int max_height) {
    Skyline page(width - gap_, max_height - gap_);
    for (const std::size_t i : order_) {
      if (!place(page, items_[i], 0)) return std::nullopt;
    }
    return page.used_height() + gap_;
  }

  /// Pages of one size, each item on the first that has room.
  std::optional<std::size_t> place_on_many(int width, int height) {
    std::vector<Skyline> pages;
    std::size_t first_open = 0;
    for (const std::size_t i : order_) {
      std::size_t page = first_open;
      while (page < pages.size() && !place(pages[page], items_[i], page)) ++page;
      if (page < pages.size()) continue;
      pages.emplace_back(width - gap_, height - gap_);
      if (!place(pages.back(), items_[i], page)) return std::nullopt;
      constexpr std::size_t kOpenPages = 4;  // older pages are full but for crumbs
      first_open = pages.size() > kOpenPages ? pages.size() - kOpenPages : 0;
    }
    return pages.size();
  }

 private:
  bool place(Skyline& page, PackItem& item, std::size_t index) const {
    const std::optional<Skyline::Place> found = page.add(item.width + gap_, item.height + gap_);
    if (!found) return false;
    item.page = index;
    item.x = found->x + gap_;
    item.y = found->y + gap_;
    return true;
  }

  std::vector<PackItem>& items_;
  int gap_;
  std::vector<std::size_t> order_;
};

/// The smallest page among widths around the square root of the area, none much longer than wide or wider than long.
std::optional<PackResult> pack_small(Packer& packer, const std::vector<PackItem>& items, int gap, int max_width, int max_height) {
  std::int64_t area = 0;
  int widest = 1;
  for (const PackItem& item : items) {
    area += std::int64_t{item.width + gap} * (item.height + gap);
    widest = std::max(widest, item.width + 2 * gap);
  }
  const double side = std::sqrt(static_cast<double>(area));
  const int from = round_up(std::max(widest, static_cast<int>(side * 0.7))), to = static_cast<int>(side * 1.6) + widest;
  const int tries = items.size() < 1000 ? 200 : 12;
  const int step = round_up(std::max(1, (to - from) / tries));
  std::optional<PackResult> best;
  for (int width = from; width <= std::min(to, max_width); width += step) {
    const std::optional<int> used = packer.place_on_one(width, max_height);
    if (!used) continue;
    const int height = std::min(round_up(*used), max_height);
    const auto size = [](const PackResult& r) { return std::int64_t{r.page_width} * r.page_height; };
    const PackResult result{width, height, 1};
    if (!best || size(result) < size(*best)) best = result;
  }
  if (best) packer.place_on_one(best->page_width, max_height);
  return best;
}

}  // namespace

std::optional<PackResult> pack(std::vector<PackItem>& items, int gap, int max_width, int max_height, bool exact) {
  Packer packer(items, gap);
  if (exact) {
    if (!packer.place_on_one(max_width, max_height)) return std::nullopt;
    return PackResult{max_width, max_height, 1};
  }
  if (items.empty()) return PackResult{std::min(kRounding, max_width), std::min(kRounding, max_height), 0};
  if (const std::optional<PackResult> one = pack_small(packer, items, gap, max_width, max_height)) return one;
  const std::optional<std::size_t> pages = packer.place_on_many(max_width, max_height);
  if (!pages) return std::nullopt;
  return PackResult{max_width, max_height, *pages};
}

}  // namespace grafema::detail
