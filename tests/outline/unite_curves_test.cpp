// SPDX-License-Identifier: MIT
// Overlaps are united, curves stay curves, and what has no overlap stays as it is.
#include <catch2/catch.hpp>
#include <cmath>
#include <numeric>

#include "grafema/raster/raster.hpp"
#include "outline/union/unite.hpp"
#include "support/reference.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::vector<float> coverage(const Contours& c, const Transform& map, const PixelRect& cell) {
  static RasterScratch scratch;
  std::vector<float> out(static_cast<std::size_t>(cell.width * cell.height));
  REQUIRE(rasterize_coverage(c, map, cell, out, scratch).has_value());
  return out;
}

/// A blob of curves through random points.
void add_blob(Contours& c, std::mt19937& random, float size) {
  std::uniform_real_distribution<float> at(2, size - 2);
  const auto point = [&] { return FontPoint{at(random), at(random)}; };
  c.move_to(point());
  const unsigned pieces = 2 + random() % 4;
  for (unsigned i = 0; i < pieces; ++i) {
    switch (random() % 3) {
      case 0:
        c.line_to(point());
        break;
      case 1:
        c.quadratic_curve_to(point(), point());
        break;
      default:
        c.curve_to(point(), point(), point());
        break;
    }
  }
  c.close();
}

double worst_difference(const std::vector<float>& a, const std::vector<float>& b) {
  double worst = 0;
  for (std::size_t i = 0; i < a.size(); ++i) worst = std::max(worst, std::abs(double{a[i]} - b[i]));
  return worst;
}

std::size_t contour_count(const Contours& c) {
  return static_cast<std::size_t>(std::count(c.commands.begin(), c.commands.end(), PathCommand::moveto));
}

}  // namespace

TEST_CASE("letters without overlaps keep their curves to the bit", "[unite][property]") {
  const auto face = test::dejavu();
  for (const char32_t character : {U'O', U'B', U'&', U'%', U'8', U'i', U'M'}) {
    Contours c;
    REQUIRE(face->read_outline(face->find_glyph(character), c).has_value());
    Contours same = c;
    unite(same);
    CHECK(same.united);
    CHECK(same.commands == c.commands);
    CHECK(same.points == c.points);
  }
}

TEST_CASE("contours that are turned the wrong way are turned, ones that change nothing left out", "[unite]") {
  Contours c = test::polygon({{0, 0}, {100, 0}, {100, 100}, {0, 100}});  // filled on the left
  test::add_polygon(
      c, std::array<FontPoint, 4>{{{10, 10}, {20, 10}, {20, 20}, {10, 20}}});  // wound twice: no boundary
  test::add_polygon(c, std::array<FontPoint, 4>{{{30, 30}, {30, 50}, {50, 50}, {50, 30}}});  // a hole
  test::add_polygon(
      c, std::array<FontPoint, 4>{{{200, 0}, {200, 10}, {210, 10}, {210, 0}}});  // apart, the other way round
  unite(c);
  CHECK(c.united);
  CHECK(contour_count(c) == 3);
  std::vector<Segment> flat;
  flatten(c, {1, 0, 0, -1, 0, 0}, 0.01, flat);
  CHECK(signed_area(flat) == Approx(10000 - 400 + 100));
}

TEST_CASE("two circles become one outline of eight curves", "[unite]") {
  const auto add_circle = [](Contours& c, float x, float y, float r) {
    const float k = 0.5522847F * r;
    c.move_to({x + r, y});
    c.curve_to({x + r, y - k}, {x + k, y - r}, {x, y - r});
    c.curve_to({x - k, y - r}, {x - r, y - k}, {x - r, y});
    c.curve_to({x - r, y + k}, {x - k, y + r}, {x, y + r});
    c.curve_to({x + k, y + r}, {x + r, y + k}, {x + r, y});
    c.close();
  };
  Contours c;
  add_circle(c, 100, 100, 80);
  add_circle(c, 180, 100, 80);
  unite(c);
  REQUIRE(c.united);
  CHECK(contour_count(c) == 1);
  CHECK(std::count(c.commands.begin(), c.commands.end(), PathCommand::curveto) ==
        8);  // six whole quarters would be eight with their parts
  // The circles cross at x = 140, and the corners stand there to a thousandth of a unit.
  int corners = 0;
  for (const FontPoint& p : c.points) {
    corners +=
        std::abs(p.x - 140) < 0.05F && std::abs(std::abs(p.y - 100) - std::sqrt(80.0F * 80 - 40 * 40)) < 0.05F
            ? 1
            : 0;
  }
  CHECK(corners >= 2);
}

TEST_CASE("random curves that cross fill the same before and after", "[unite][property]") {
  std::mt19937 random(7);
  int united = 0;
  for (int round = 0; round < 300; ++round) {
    Contours c;
    const unsigned blobs = 1 + random() % 3;
    for (unsigned i = 0; i < blobs; ++i) add_blob(c, random, 40);
    Contours made = c;
    unite(made);
    united += made.united ? 1 : 0;
    INFO("round " << round);
    REQUIRE(worst_difference(coverage(c, {}, {0, 0, 40, 40}), coverage(made, {}, {0, 0, 40, 40})) <
            1.0 / 255);
  }
  CHECK(united > 290);
}

TEST_CASE("united curves are exact at large sizes too", "[unite][property]") {
  std::mt19937 random(19);
  for (int round = 0; round < 6; ++round) {
    Contours c;
    add_blob(c, random, 40), add_blob(c, random, 40);
    Contours made = c;
    unite(made);
    const Transform map{20, 0, 0, 20, 0, 0};
    CHECK(worst_difference(coverage(c, map, {0, 0, 800, 800}), coverage(made, map, {0, 0, 800, 800})) <
          1.0 / 255);
  }
}

TEST_CASE("parts that share an edge become one", "[unite]") {
  Contours c = test::polygon({{0, 0}, {50, 0}, {50, 80}, {0, 80}});
  test::add_polygon(c, std::array<FontPoint, 4>{{{50, 0}, {90, 0}, {90, 80}, {50, 80}}});
  unite(c);
  CHECK(c.united);
  CHECK(contour_count(c) == 1);
  std::vector<Segment> flat;
  flatten(c, {1, 0, 0, -1, 0, 0}, 0.01, flat);
  CHECK(signed_area(flat) == Approx(7200));
}

TEST_CASE("an outline in a mirror is filled as in the original", "[unite][coverage]") {
  const auto face = test::dejavu();
  Contours c;
  REQUIRE(face->read_outline(face->find_glyph(U'R'), c).has_value());
  unite(c);
  const auto upright = coverage(c, {0.01F, 0, 0, -0.01F, 2, 20}, {0, 0, 24, 24}),
             mirrored = coverage(c, {-0.01F, 0, 0, -0.01F, 22, 20}, {0, 0, 24, 24});
  for (std::size_t y = 0; y < 24; ++y) {
    for (std::size_t x = 0; x < 24; ++x) {
      REQUIRE(upright[y * 24 + x] == Approx(mirrored[y * 24 + 23 - x]).margin(1e-5));
    }
  }
}

TEST_CASE("edges that are level but for rounding leave no streak", "[unite]") {
  // The long edge falls by less than heights can be told apart by, and a slope crosses it.
  const std::vector<Segment> in = {{0, 5, 10, 5 + 2e-15}, {10, 5 + 2e-15, 10, 9}, {10, 9, 0, 9}, {0, 9, 0, 5},
                                   {4, 3, 6, 7},          {6, 7, 4, 7},           {4, 7, 4, 3}};
  std::vector<Segment> out;
  detail::Uniter uniter;
  uniter.unite(in, out);
  CHECK(signed_area(out) ==
        Approx(40 + 1).margin(1e-4));  // the slope's part above 5 is a triangle of height 2 and width 1
  double x = 0, y = 0;                 // a closed boundary adds up to nothing
  for (const Segment& s : out) x += s.x1 - s.x0, y += s.y1 - s.y0;
  CHECK(std::abs(x) < 1e-5);
  CHECK(std::abs(y) < 1e-5);
}
