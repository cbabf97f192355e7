// SPDX-License-Identifier: MIT
// Packs into the lowest gap, each time the rectangle that fills it best, over several page widths.
#include "atlas/pack.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>
#include <numeric>

namespace grafema::detail {

Shelf::Shelf(const std::vector<PackItem>& items, int gap, const std::vector<std::uint32_t>& which) {
  int widest = 0;
  for (const std::uint32_t i : which) widest = std::max(widest, items[i].width + gap);
  buckets_.resize(static_cast<std::size_t>(widest) + 1);
  for (const std::uint32_t i : which) {
    buckets_[static_cast<std::size_t>(items[i].width + gap)].push_back({items[i].height + gap, i});
  }
  for (auto& bucket : buckets_) {
    // The tallest of a width stands last, where it is taken off; of equal ones the first comes first.
    std::sort(bucket.begin(), bucket.end(), [](const Entry& a, const Entry& b) {
      return a.height != b.height ? a.height < b.height : a.item > b.item;
    });
  }
  left_ = which.size();
  for (int w = 0; w <= widest; ++w) {
    if (!buckets_[static_cast<std::size_t>(w)].empty()) widths_.push_back(w);
  }
}

std::optional<Shelf::Choice> Shelf::choose(int width, int height, int left_wall, int right_wall,
                                           bool at_any_cost) const {
  std::optional<Choice> best;
  int best_score = at_any_cost ? std::numeric_limits<int>::min() : -1;
  // Widths from the one that fills the gap downward; how much of the gap is filled counts most, then a top
  // that meets a neighbor's, then height.
  for (auto at = std::upper_bound(widths_.begin(), widths_.end(), width); at != widths_.begin();) {
    const int w = *--at;
    if (best && width - w > 2 * (width - best->width) + kTries) break;
    const auto& bucket = buckets_[static_cast<std::size_t>(w)];
    const auto entry =
        std::find_if(bucket.rbegin(), bucket.rend(), [height](const Entry& e) { return e.height <= height; });
    if (entry == bucket.rend()) continue;
    const int rest = width - w;
    const bool exact = rest == 0,
               meets = entry->height == left_wall || (exact && entry->height == right_wall);
    // A rest into which nothing more fits is lost over the whole height.
    const bool wasted = rest > 0 && rest < widths_.front();
    const int score = entry->height * 4 + (exact ? 64 : 0) + (meets ? 24 : 0) - (wasted ? rest * 16 : 0) + w;
    if (score > best_score) {
      best_score = score,
      best = Choice{w, entry->height, static_cast<std::size_t>(bucket.rend() - entry) - 1};
    }
  }
  return best;
}

std::uint32_t Shelf::take(const Choice& choice) {
  auto& bucket = buckets_[static_cast<std::size_t>(choice.width)];
  const std::uint32_t item = bucket[choice.place].item;
  bucket.erase(bucket.begin() + static_cast<std::ptrdiff_t>(choice.place));
  if (bucket.empty()) widths_.erase(std::lower_bound(widths_.begin(), widths_.end(), choice.width));
  --left_;
  return item;
}

namespace {

constexpr int kRounding = 4;  // page sides are multiples, as texture rows like them

int round_up(int v) { return (v + kRounding - 1) / kRounding * kRounding; }

/// One page being filled: for each stretch of x how far down it is taken.
class Page {
 public:
  Page(int width, int height) : height_(height), steps_{{0, width, 0}} {}

  /// Fills gaps from the lowest on until nothing more fits.
  template <class Place>
  void fill(Shelf& shelf, Place place) {
    while (!shelf.empty()) {
      const std::size_t low = lowest();
      const Step step = steps_[low];
      if (step.y >= height_) return;
      const int left = low > 0 ? steps_[low - 1].y - step.y : height_ - step.y,
                right = low + 1 < steps_.size() ? steps_[low + 1].y - step.y : height_ - step.y;
      // An empty page takes what leaves the rest of its width to nothing; elsewhere a gap is rather lost.
      const auto choice = shelf.choose(step.width, height_ - step.y, left, right, used_ == 0);
      if (!choice) {
        raise(low);
        continue;
      }
      // It stands at the taller wall, so that what is left of the gap is open on its low side.
      const int x = left >= right ? step.x : step.x + step.width - choice->width;
      place(shelf.take(*choice), x, step.y);
      used_ = std::max(used_, step.y + choice->height);
      put(low, x, choice->width, step.y + choice->height);
    }
  }

  int used_height() const { return used_; }

 private:
  struct Step {
    int x, width, y;
  };

  std::size_t lowest() const {
    std::size_t best = 0;
    for (std::size_t i = 1; i < steps_.size(); ++i) {
      if (steps_[i].y < steps_[best].y) best = i;
    }
    return best;
  }

  /// Nothing fits into the gap: it is lost up to its lower wall.
  void raise(std::size_t i) {
    int to = height_;
    if (i > 0) to = std::min(to, steps_[i - 1].y);
    if (i + 1 < steps_.size()) to = std::min(to, steps_[i + 1].y);
    steps_[i].y = to;
    join(i);
  }

  void put(std::size_t i, int x, int width, int y) {
    const Step gap = steps_[i];
    steps_[i] = {x, width, y};
    if (x > gap.x) {
      steps_.insert(steps_.begin() + static_cast<std::ptrdiff_t>(i++), {gap.x, x - gap.x, gap.y});
    }
    const int right = gap.x + gap.width - (x + width);
    if (right > 0) {
      steps_.insert(steps_.begin() + static_cast<std::ptrdiff_t>(i) + 1, {x + width, right, gap.y});
    }
    join(i);
  }

  /// Steps of one height become one.
  void join(std::size_t i) {
    if (i + 1 < steps_.size() && steps_[i + 1].y == steps_[i].y) {
      steps_[i].width += steps_[i + 1].width;
      steps_.erase(steps_.begin() + static_cast<std::ptrdiff_t>(i) + 1);
    }
    if (i > 0 && steps_[i - 1].y == steps_[i].y) {
      steps_[i - 1].width += steps_[i].width;
      steps_.erase(steps_.begin() + static_cast<std::ptrdiff_t>(i));
    }
  }

  int height_, used_ = 0;
  std::vector<Step> steps_;
};

class Packer {
 public:
  Packer(std::vector<PackItem>& items, int gap) : items_(items), gap_(gap), all_(items.size()) {
    std::iota(all_.begin(), all_.end(), 0U);
    shelf_ = Shelf(items, gap, all_);
  }

  /// The height that one page of this width needs, at most `max_height`; nothing where that does not do.
  std::optional<int> place_on_one(int width, int max_height) {
    Shelf shelf = shelf_;
    Page page(width - gap_, max_height - gap_);
    page.fill(shelf, [this](std::uint32_t i, int x, int y) { put(i, 0, x, y); });
    return shelf.empty() ? std::optional(page.used_height() + gap_) : std::nullopt;
  }

  /// Pages of one size, one after the other; nothing where an item is larger than a page.
  std::optional<std::size_t> place_on_many(int width, int height) {
    Shelf shelf = shelf_;
    for (std::size_t number = 0;; ++number) {
      if (shelf.empty()) return number;
      const std::size_t before = shelf.size();
      Page page(width - gap_, height - gap_);
      page.fill(shelf, [this, number](std::uint32_t i, int x, int y) { put(i, number, x, y); });
      if (shelf.size() == before) return std::nullopt;
    }
  }

 private:
  void put(std::uint32_t i, std::size_t page, int x, int y) {
    items_[i].page = page;
    items_[i].x = x + gap_;
    items_[i].y = y + gap_;
  }

  std::vector<PackItem>& items_;
  int gap_;
  std::vector<std::uint32_t> all_;
  Shelf shelf_;
};

struct Measure {
  std::int64_t area = 0;
  int widest = 1, tallest = 1;
};

Measure measure(const std::vector<PackItem>& items, int gap) {
  Measure m;
  for (const PackItem& item : items) {
    m.area += std::int64_t{item.width + gap} * (item.height + gap);
    m.widest = std::max(m.widest, item.width + 2 * gap);
    m.tallest = std::max(m.tallest, item.height + 2 * gap);
  }
  return m;
}

/// The smallest page among widths around the square root of the area, none much longer than wide or wider
/// than long.
std::optional<PackResult> pack_small(Packer& packer, const std::vector<PackItem>& items, int gap,
                                     int max_width, int max_height) {
  const Measure m = measure(items, gap);
  const double side = std::sqrt(static_cast<double>(m.area));
  const int from = round_up(std::max(m.widest, static_cast<int>(side * 0.65))),
            to = static_cast<int>(side * 1.55) + m.widest;
  const int tries = items.size() < 1000 ? 400 : items.size() < 5000 ? 60 : 8;
  const int step = round_up(std::max(1, (to - from) / tries));
  std::optional<PackResult> best;
  for (int width = from; width <= std::min(to, max_width); width += step) {
    const std::optional<int> used = packer.place_on_one(width, max_height);
    if (!used) continue;
    const int height = std::min(round_up(*used), max_height);
    // A page of twice as long a side must save two pixels in a hundred.
    const auto cost = [](const PackResult& r) {
      const double longer = std::max(r.page_width, r.page_height),
                   shorter = std::min(r.page_width, r.page_height);
      return longer * shorter * (1 + 0.02 * (longer / shorter - 1));
    };
    const PackResult result{width, height, 1};
    if (!best || cost(result) < cost(*best)) best = result;
  }
  if (best) packer.place_on_one(best->page_width, max_height);
  return best;
}

/// As few pages as the largest size gives, and those no taller than they must be.
std::optional<PackResult> pack_many(Packer& packer, const std::vector<PackItem>& items, int gap,
                                    int max_width, int max_height) {
  const std::optional<std::size_t> pages = packer.place_on_many(max_width, max_height);
  if (!pages || *pages == 0) return std::nullopt;
  const Measure m = measure(items, gap);
  const double height = static_cast<double>(m.area) / static_cast<double>(*pages) / (max_width - gap);
  for (const double spare : {1.01, 1.02, 1.03, 1.05, 1.08}) {
    const int shorter = round_up(std::max(static_cast<int>(height * spare) + gap, m.tallest));
    if (shorter >= max_height) break;
    const std::optional<std::size_t> again = packer.place_on_many(max_width, shorter);
    if (again && *again <= *pages) return PackResult{max_width, shorter, *again};
  }
  return PackResult{max_width, max_height, *packer.place_on_many(max_width, max_height)};
}

}  // namespace

std::optional<PackResult> pack(std::vector<PackItem>& items, int gap, int max_width, int max_height,
                               bool exact) {
  const Measure m = measure(items, gap);
  if (exact) {
    if (m.widest > max_width || m.tallest > max_height || m.area > std::int64_t{max_width} * max_height) {
      return std::nullopt;
    }
    if (!Packer(items, gap).place_on_one(max_width, max_height)) return std::nullopt;
    return PackResult{max_width, max_height, 1};
  }
  if (items.empty()) return PackResult{std::min(kRounding, max_width), std::min(kRounding, max_height), 0};
  if (m.widest > max_width || m.tallest > max_height) return std::nullopt;
  Packer packer(items, gap);
  if (m.area <= std::int64_t{max_width} * max_height) {
    if (const std::optional<PackResult> one = pack_small(packer, items, gap, max_width, max_height)) {
      return one;
    }
  }
  return pack_many(packer, items, gap, max_width, max_height);
}

}  // namespace grafema::detail
