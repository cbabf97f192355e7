// SPDX-License-Identifier: MIT
// Overlapping contours become one boundary.
#include "outline/union/unite.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/reference.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::vector<Segment> united(const Contours& contours) {
  std::vector<Segment> flat, out;
  flatten(contours, {}, 0.001, flat);
  detail::Uniter uniter;
  uniter.unite(flat, out);
  return out;
}

double length(const std::vector<Segment>& pieces) {
  double sum = 0;
  for (const Segment& s : pieces) sum += std::hypot(s.x1 - s.x0, s.y1 - s.y0);
  return sum;
}

void add_square(Contours& c, float x, float y, float side, bool clockwise = true) {
  const FontPoint corners[] = {{x, y}, {x + side, y}, {x + side, y + side}, {x, y + side}};
  const FontPoint back[] = {corners[0], corners[3], corners[2], corners[1]};
  test::add_polygon(c, clockwise ? std::span<const FontPoint>(corners) : std::span<const FontPoint>(back));
}

}  // namespace

TEST_CASE("a lone square comes back as its four sides", "[unite]") {
  Contours c;
  add_square(c, 0, 0, 10);
  const auto pieces = united(c);
  CHECK(pieces.size() == 4);
  CHECK(length(pieces) == Approx(40));
  CHECK(signed_area(pieces) == Approx(100));
}

TEST_CASE("direction does not matter, a hole stays one", "[unite]") {
  Contours c;
  add_square(c, 0, 0, 10, false);
  add_square(c, 2, 2, 4, true);
  const auto pieces = united(c);
  CHECK(signed_area(pieces) == Approx(100 - 16));
  CHECK(length(pieces) == Approx(40 + 16));
}

TEST_CASE("overlapping squares lose the edges inside", "[unite]") {
  Contours c;
  add_square(c, 0, 0, 10);
  add_square(c, 5, 5, 10);
  CHECK(signed_area(united(c)) == Approx(175));
  CHECK(length(united(c)) == Approx(60));
}

TEST_CASE("squares that share a side have no edge between them", "[unite]") {
  Contours c;
  add_square(c, 0, 0, 10);
  add_square(c, 10, 0, 10);
  add_square(c, 0, 10, 10);
  CHECK(signed_area(united(c)) == Approx(300));
  CHECK(length(united(c)) == Approx(80));
}

TEST_CASE("the same contour twice is one, against itself it is nothing", "[unite]") {
  Contours twice, against;
  add_square(twice, 0, 0, 10), add_square(twice, 0, 0, 10);
  add_square(against, 0, 0, 10), add_square(against, 0, 0, 10, false);
  CHECK(length(united(twice)) == Approx(40));
  CHECK(united(against).empty());
}

TEST_CASE("a figure of eight is filled on both sides of its crossing", "[unite]") {
  const auto pieces = united(test::polygon({{0, 0}, {10, 10}, {10, 0}, {0, 10}}));
  CHECK(signed_area(pieces) == Approx(50));
  CHECK(length(pieces) == Approx(20 + 20 * std::sqrt(2.0)));
}

TEST_CASE("slanted edges in part on one line are no boundary between shapes", "[unite]") {
  Contours c;
  test::add_polygon(c, std::array<FontPoint, 4>{{{0, 0}, {9, 3}, {9, -9}, {0, -9}}});
  test::add_polygon(c, std::array<FontPoint, 4>{{{0, 9}, {6, 9}, {6, 2}, {0, 0}}});
  const auto pieces = united(c);
  for (const Segment& s : pieces) {  // no piece lies along the shared stretch from (0,0) to (6,2)
    const double mx = (s.x0 + s.x1) / 2, my = (s.y0 + s.y1) / 2;
    CHECK_FALSE((std::abs(my - mx / 3) < 1e-3 && mx > 0.01 && mx < 5.99));
  }
}

TEST_CASE("random overlapping polygons fill what their winding numbers say", "[unite][property]") {
  std::mt19937 random(7);
  std::uniform_real_distribution<float> at(0, 20);
  for (int round = 0; round < 60; ++round) {
    Contours c;
    for (int k = 0; k < 3; ++k) {
      std::vector<FontPoint> points(3 + random() % 5);
      for (FontPoint& p : points) p = {at(random), at(random)};
      test::add_polygon(c, points);
    }
    const auto pieces = united(c);
    const auto shape = test::dots(c, {}, 1);
    for (int i = 0; i < 200; ++i) {
      const double x = at(random), y = at(random);
      int turns = 0;
      for (const Segment& s : pieces) {
        if ((s.y0 <= y) == (s.y1 <= y)) continue;
        if (s.x0 + (s.x1 - s.x0) * (y - s.y0) / (s.y1 - s.y0) > x) turns += s.y0 < s.y1 ? 1 : -1;
      }
      REQUIRE(turns == (test::winding(shape, x, y) != 0 ? 1 : 0));
    }
  }
}

TEST_CASE("an outline that crosses itself too often is given up", "[unite][hostile]") {
  // A polygon through random points: some 60 million crossings.
  std::mt19937 random(7);
  std::uniform_real_distribution<float> place(-10'000, 10'000);
  std::vector<FontPoint> points(20'000);
  for (FontPoint& point : points) point = {place(random), place(random)};
  Contours star;
  test::add_polygon(star, points);
  const Contours before = star;
  unite(star);
  CHECK_FALSE(star.united);
  CHECK(star.points == before.points);
}
