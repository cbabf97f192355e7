// SPDX-License-Identifier: MIT
// Sums of heights against adding them up.
#include "text/edit/height_sums.hpp"

#include <catch2/catch.hpp>
#include <random>

using namespace grafema;

TEST_CASE("sums of heights are what adding them up gives, through any changes", "[editor][property]") {
  const unsigned seed = GENERATE(range(1U, 9U));
  INFO("seed " << seed);
  std::mt19937 random(seed);
  detail::HeightSums sums;
  std::vector<float> plain(1 + random() % 40, 10.0F);
  sums.assign(plain.size(), 10);
  for (int step = 0; step < 200; ++step) {
    const std::size_t at = random() % plain.size();
    const auto height = static_cast<float>(1 + random() % 50);
    switch (random() % 3) {
      case 0:
        sums.set(at, height);
        plain[at] = height;
        break;
      case 1: {
        const std::size_t count = 1 + random() % 3;
        sums.insert(at, count, height);
        plain.insert(plain.begin() + static_cast<std::ptrdiff_t>(at), count, height);
        break;
      }
      default:
        if (plain.size() == 1) break;
        sums.erase(at, 1);
        plain.erase(plain.begin() + static_cast<std::ptrdiff_t>(at));
    }
    REQUIRE(sums.size() == plain.size());
    double before = 0;
    for (std::size_t i = 0; i < plain.size(); ++i) {
      CHECK(sums.before(i) == Approx(before));
      CHECK(sums.find(before) == i);
      CHECK(sums.find(before + static_cast<double>(plain[i]) - 0.5) == i);
      before += static_cast<double>(plain[i]);
    }
    CHECK(sums.find(before + 100) == plain.size() - 1);
    CHECK(sums.find(-5) == 0);
  }
}
