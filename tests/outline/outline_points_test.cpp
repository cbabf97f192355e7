// SPDX-License-Identifier: MIT
// Points along outlines: how many, how far apart, and what is said of each.
#include "grafema/outline/outline_points.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// A quarter of a million straight pieces a curve: the length by brute force.
double length_by_force(const Contours& c) {
  std::vector<Segment> pieces;
  flatten(c, Transform{}, 1e-5, pieces);
  double sum = 0;
  for (const Segment& s : pieces) sum += std::hypot(s.x1 - s.x0, s.y1 - s.y0);
  return sum;
}

Contours circle(float r, FontPoint at) {
  Contours c;
  const float k = r * 0.5522847F;
  c.move_to({at.x + r, at.y});
  c.curve_to({at.x + r, at.y + k}, {at.x + k, at.y + r}, {at.x, at.y + r});
  c.curve_to({at.x - k, at.y + r}, {at.x - r, at.y + k}, {at.x - r, at.y});
  c.curve_to({at.x - r, at.y - k}, {at.x - k, at.y - r}, {at.x, at.y - r});
  c.curve_to({at.x + k, at.y - r}, {at.x + r, at.y - k}, {at.x + r, at.y});
  c.close();
  return c;
}

}  // namespace

TEST_CASE("outlines are as long as a million straight pieces say", "[points][property]") {
  const auto face = test::dejavu(GENERATE("DejaVuSans.ttf", "DejaVuSerif-Bold.ttf"));
  OutlinePoints points;
  for (char32_t letter = U'!'; letter < 0x7F; letter += 3) {
    const Contours c = test::outline_of(*face, letter);
    points.measure(c);
    CHECK(points.length() == Approx(length_by_force(c)).epsilon(1e-5));
    double sum = 0;
    for (std::size_t i = 0; i < points.contour_count(); ++i) sum += points.length(i);
    CHECK(sum == Approx(points.length()).epsilon(1e-12));
  }
}

TEST_CASE("there are exactly as many points as asked for, evenly along each contour", "[points][property]") {
  const auto face = test::dejavu();
  const std::size_t count = GENERATE(1, 2, 7, 64, 501);
  OutlinePoints outline;
  std::vector<OutlinePoint> points, again;
  for (const char32_t letter : {U'A', U'B', U'S', U'g', U'%', U'i', U'@'}) {
    const Contours c = test::outline_of(*face, letter);
    outline.measure(c);
    for (const bool corners : {false, true}) {
      REQUIRE(outline.spread(count, corners, points));
      REQUIRE(points.size() == count);
    }
    REQUIRE(outline.spread(count, false, points));
    if (count >= outline.contour_count()) {
      std::vector<int> of(outline.contour_count(), 0);
      for (const OutlinePoint& p : points) ++of[p.contour];
      for (std::size_t i = 0; i < of.size(); ++i) {
        CHECK(of[i] >= 1);
        CHECK(std::abs(of[i] - static_cast<double>(count) * outline.length(i) / outline.length()) < 2);
      }
    }
    for (std::size_t i = 1; i < points.size(); ++i) {
      if (points[i].contour != points[i - 1].contour || i < 2 || points[i - 2].contour != points[i].contour)
        continue;
      CHECK(points[i].fraction - points[i - 1].fraction ==
            Approx(points[i - 1].fraction - points[i - 2].fraction).margin(1e-5));
    }
  }
}

TEST_CASE("corners are points where they are to be kept", "[points]") {
  OutlinePoints outline;
  outline.measure(test::polygon({{0, 0}, {0, 90}, {100, 90}, {100, 0}}));
  std::vector<OutlinePoint> points;
  REQUIRE(outline.spread(13, true, points));
  int corners = 0;
  for (const OutlinePoint& p : points) {
    const bool stands_on_one = (p.place.x == 0 || p.place.x == 100) && (p.place.y == 0 || p.place.y == 90);
    CHECK(p.corner == stands_on_one);
    corners += p.corner ? 1 : 0;
  }
  CHECK(corners == 4);
  REQUIRE(outline.spread_by(10, true, points));
  CHECK(points.size() == 38);
  REQUIRE(outline.spread_by(7, true, points));  // 90 / 7 and 100 / 7, each rounded
  CHECK(points.size() == 2 * (13 + 14));
}

TEST_CASE("tangents, normals and curvature of a ring", "[points]") {
  Contours ring = circle(300, {50, 60});
  const Contours inner = circle(100, {50, 60});
  // The inner circle runs the other way round: a hole.
  ring.move_to({150, 60});
  ring.curve_to({150, 60 - 55.22847F}, {50 + 55.22847F, -40}, {50, -40});
  ring.curve_to({50 - 55.22847F, -40}, {-50, 60 - 55.22847F}, {-50, 60});
  ring.curve_to({-50, 60 + 55.22847F}, {50 - 55.22847F, 160}, {50, 160});
  ring.curve_to({50 + 55.22847F, 160}, {150, 60 + 55.22847F}, {150, 60});
  ring.close();
  OutlinePoints outline;
  outline.measure(ring);
  std::vector<OutlinePoint> points;
  REQUIRE(outline.spread(80, false, points));
  for (const OutlinePoint& p : points) {
    const double x = p.place.x - 50.0, y = p.place.y - 60.0, r = std::hypot(x, y);
    CHECK(p.hole == (p.contour == 1));
    const double outward = (p.normal.x * x + p.normal.y * y) / r;
    CHECK(outward == Approx(p.hole ? -1 : 1).margin(0.01));
    CHECK(p.tangent.x * x + p.tangent.y * y == Approx(0).margin(r * 0.01));
    CHECK(p.curvature == Approx(p.hole ? -1 / 100.0 : 1 / 300.0).epsilon(0.03));
    CHECK_FALSE(p.corner);
  }
  // Whatever way contours run, normals lead away from what is filled.
  Contours turned = inner;
  outline.measure(turned);
  CHECK(outline.at(0, 0).normal.x == Approx(1).margin(1e-3));
}

TEST_CASE("what is said of a letter's points does not depend on the letters beside it",
          "[points][property]") {
  const auto face = test::dejavu("DejaVuSerif.ttf");
  Contours word;
  std::vector<std::pair<std::size_t, std::size_t>> holes;  // of each letter: contours, and holes among them
  OutlinePoints outline;
  float pen = 0;
  const auto count_holes = [&](std::size_t first, std::size_t end) {
    std::size_t count = 0;
    for (std::size_t i = first; i < end; ++i) count += outline.at(i, 0).hole ? 1 : 0;
    return count;
  };
  for (const char32_t letter : U"BaegoQ8&%@0ij:;PRD69pqdbAO") {
    if (letter == 0) break;
    Contours c = test::outline_of(*face, letter);
    outline.measure(c);
    holes.emplace_back(outline.contour_count(), count_holes(0, outline.contour_count()));
    for (FontPoint& p : c.points) p.x += pen;
    pen += 2000;
    word.commands.insert(word.commands.end(), c.commands.begin(), c.commands.end());
    word.points.insert(word.points.end(), c.points.begin(), c.points.end());
  }
  CHECK(holes[0].second == 2);  // B
  CHECK(holes[4].second == 1);  // o
  outline.measure(word);
  std::size_t first = 0;
  for (const auto& [contours, count] : holes) {
    CHECK(count_holes(first, first + contours) == count);
    first += contours;
  }
  CHECK(outline.contour_count() == first);
}

TEST_CASE("distances run round and round", "[points]") {
  OutlinePoints outline;
  outline.measure(test::polygon({{0, 0}, {0, 100}, {100, 100}, {100, 0}}));
  CHECK(outline.at(0, 50).place == FontPoint{0, 50});
  CHECK(outline.at(0, 450).place == FontPoint{0, 50});
  CHECK(outline.at(0, -350).place == FontPoint{0, 50});
  CHECK(outline.at(0, 100).tangent == FontPoint{1, 0});
  CHECK(outline.at(0, NAN).place == FontPoint{0, 0});
}

TEST_CASE("outlines of nothing have no points, and steps must be steps", "[points]") {
  OutlinePoints outline;
  std::vector<OutlinePoint> points;
  Contours dot;
  dot.move_to({5, 5});
  dot.close();
  for (const Contours& c : {Contours{}, dot}) {
    outline.measure(c);
    CHECK(outline.contour_count() == 0);
    REQUIRE(outline.spread(10, true, points));
    CHECK(points.empty());
  }
  outline.measure(test::polygon({{0, 0}, {0, 100}, {100, 100}}));
  for (const double step : {0.0, -1.0, double{NAN}, double{INFINITY}, 1e-6}) {
    const Result<void> spread = outline.spread_by(step, false, points);
    REQUIRE_FALSE(spread);
    CHECK(spread.error().kind == ErrorKind::bad_value);
  }
  CHECK_FALSE(outline.spread(20'000'000, false, points).has_value());
}
