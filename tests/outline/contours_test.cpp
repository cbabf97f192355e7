// SPDX-License-Identifier: MIT
// Bounds of curves and their flattening.
#include "grafema/outline/contours.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/reference.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Contours random_curves(std::mt19937& random) {
  std::uniform_real_distribution<float> at(-1000, 1000);
  const auto point = [&] { return FontPoint{at(random), at(random)}; };
  Contours c;
  c.move_to(point());
  c.quadratic_curve_to(point(), point());
  c.curve_to(point(), point(), point());
  c.line_to(point());
  c.close();
  return c;
}

}  // namespace

TEST_CASE("bounds hold the curves and no more", "[contours][property]") {
  std::mt19937 random(1);
  for (int round = 0; round < 200; ++round) {
    const Contours c = random_curves(random);
    const FontRect box = bounds(c);
    double x0 = 1e9, x1 = -1e9, y0 = 1e9, y1 = -1e9;
    const auto curve = test::dots(c, {}, 2000);
    for (const test::Dot& d : curve[0]) {
      x0 = std::min(x0, d.x), x1 = std::max(x1, d.x), y0 = std::min(y0, d.y), y1 = std::max(y1, d.y);
    }
    CHECK(box.x_min == Approx(x0).margin(0.01));
    CHECK(box.x_max == Approx(x1).margin(0.01));
    CHECK(box.y_min == Approx(y0).margin(0.01));
    CHECK(box.y_max == Approx(y1).margin(0.01));
  }
}

TEST_CASE("bounds of nothing are empty", "[contours]") { CHECK(bounds(Contours{}).empty()); }

TEST_CASE("flattened pieces stay within the tolerance and close their contours", "[contours][property]") {
  std::mt19937 random(2);
  const double tolerance = GENERATE(0.5, 0.02, 0.002);
  for (int round = 0; round < 20; ++round) {
    const Contours c = random_curves(random);
    const Transform map = glyph_transform(0.05F, {3, 4});
    std::vector<Segment> pieces;
    flatten(c, map, tolerance, pieces);
    REQUIRE_FALSE(pieces.empty());
    CHECK(pieces.back().x1 == pieces.front().x0);
    CHECK(pieces.back().y1 == pieces.front().y0);
    for (std::size_t i = 1; i < pieces.size(); ++i) CHECK(pieces[i].x0 == pieces[i - 1].x1);
    const auto curve = test::dots(c, map, 500);
    for (const test::Dot& d : curve[0]) {
      double best = 1e9;
      for (const Segment& s : pieces) {
        const double ex = s.x1 - s.x0, ey = s.y1 - s.y0;
        const double t = std::clamp(((d.x - s.x0) * ex + (d.y - s.y0) * ey) / (ex * ex + ey * ey), 0.0, 1.0);
        best = std::min(best, std::hypot(s.x0 + t * ex - d.x, s.y0 + t * ey - d.y));
      }
      REQUIRE(best <= tolerance * 1.001);
    }
  }
}

TEST_CASE("a finer tolerance takes more pieces, a line one", "[contours]") {
  Contours arc;
  arc.move_to({0, 0});
  arc.quadratic_curve_to({500, 1000}, {1000, 0});
  arc.close();
  std::vector<Segment> coarse, fine;
  flatten(arc, {}, 1, coarse);
  flatten(arc, {}, 0.01, fine);
  CHECK(coarse.size() < fine.size());
  flatten(test::polygon({{0, 0}, {10, 0}, {0, 10}}), {}, 0.001, fine);
  CHECK(fine.size() == 3);
}

TEST_CASE("points that are not finite are passed over", "[contours]") {
  std::vector<Segment> pieces;
  flatten(test::polygon({{0, 0}, {NAN, 5}, {INFINITY, 0}, {7, 7}}), {}, 0.01, pieces);
  for (const Segment& s : pieces) CHECK(std::isfinite(s.x0 + s.y0 + s.x1 + s.y1));
}

TEST_CASE("the signed area of a unit square is one, clockwise on the screen", "[contours]") {
  std::vector<Segment> pieces;
  flatten(test::polygon({{0, 0}, {1, 0}, {1, 1}, {0, 1}}), {}, 0.01, pieces);
  CHECK(signed_area(pieces) == 1);
}
