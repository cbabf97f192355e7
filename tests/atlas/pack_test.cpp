// SPDX-License-Identifier: MIT
// Packing: nothing overlaps, nothing leaves its page.
#include "atlas/pack.hpp"

#include <catch2/catch.hpp>
#include <random>
#include <set>

using namespace grafema::detail;

namespace {

std::vector<PackItem> random_items(unsigned seed, std::size_t count, int most) {
  std::mt19937 random(seed);
  std::vector<PackItem> items(count);
  for (PackItem& item : items) {
    item.width = 1 + static_cast<int>(random() % static_cast<unsigned>(most));
    item.height = 1 + static_cast<int>(random() % static_cast<unsigned>(most));
  }
  return items;
}

/// Paints every item with its gap on a map of its page; each pixel may be taken once.
void check_placement(const std::vector<PackItem>& items, const PackResult& result, int gap) {
  std::vector<std::vector<bool>> pages(result.page_count,
                                       std::vector<bool>(static_cast<std::size_t>(result.page_width) *
                                                         static_cast<std::size_t>(result.page_height)));
  for (const PackItem& item : items) {
    REQUIRE(item.page < result.page_count);
    REQUIRE(item.x >= gap);
    REQUIRE(item.y >= gap);
    REQUIRE(item.x + item.width + gap <= result.page_width);
    REQUIRE(item.y + item.height + gap <= result.page_height);
    bool free = true;
    for (int y = item.y - gap; y < item.y + item.height; ++y) {
      for (int x = item.x - gap; x < item.x + item.width; ++x) {
        auto pixel =
            pages[item.page][static_cast<std::size_t>(y) * static_cast<std::size_t>(result.page_width) +
                             static_cast<std::size_t>(x)];
        free = free && !pixel;
        pixel = true;
      }
    }
    REQUIRE(free);
  }
}

}  // namespace

TEST_CASE("random rectangles never overlap and keep their gaps", "[pack][property]") {
  const unsigned seed = GENERATE(range(0U, 12U));
  const int gap = static_cast<int>(seed % 4);
  auto items = random_items(seed, 20 + seed * 17, 40);
  const auto result = pack(items, gap, 256, 256, false);
  REQUIRE(result.has_value());
  check_placement(items, *result, gap);
}

TEST_CASE("what does not fit on one page opens more of one size", "[pack]") {
  auto items = random_items(3, 400, 30);
  const auto result = pack(items, 1, 128, 128, false);
  REQUIRE(result.has_value());
  CHECK(result->page_count > 3);
  CHECK(result->page_width == 128);
  check_placement(items, *result, 1);
}

TEST_CASE("an item larger than the page is not placed", "[pack]") {
  std::vector<PackItem> items = {{60, 10}, {10, 10}};
  CHECK_FALSE(pack(items, 1, 61, 100, false).has_value());
  CHECK(pack(items, 1, 62, 100, false).has_value());
}

TEST_CASE("an exact page keeps its size or is refused", "[pack]") {
  std::vector<PackItem> items(4, PackItem{10, 10});
  const auto exact = pack(items, 0, 20, 20, true);
  REQUIRE(exact.has_value());
  CHECK(exact->page_width == 20);
  check_placement(items, *exact, 0);
  items.push_back({1, 1});
  CHECK_FALSE(pack(items, 0, 20, 20, true).has_value());
}

TEST_CASE("nothing packs into no page", "[pack]") {
  std::vector<PackItem> none;
  CHECK(pack(none, 1, 64, 64, false)->page_count == 0);
}

TEST_CASE("whatever fits a page alone is packed, however much of the page it wastes", "[pack][property]") {
  for (int width = 1; width <= 62; width += 3) {
    for (int height = 1; height <= 62; height += 3) {
      std::vector<PackItem> items(2);
      items[0].width = width, items[0].height = height;
      items[1].width = 28, items[1].height = 40;
      const auto result = pack(items, 1, 64, 64, false);
      INFO(width << " x " << height);
      REQUIRE(result.has_value());
      check_placement(items, *result, 1);
      std::vector<PackItem> alone(items.begin(), items.begin() + 1);
      CHECK(pack(alone, 1, 64, 64, true).has_value());
    }
  }
}
