// SPDX-License-Identifier: MIT
// Exact coverage against a second method and against areas.
#include <catch2/catch.hpp>
#include <cmath>
#include <numeric>

#include "grafema/raster/raster.hpp"
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

PixelRect cell_of(const Contours& c, const Transform& map) {
  std::vector<Segment> flat;
  flatten(c, map, 0.01, flat);
  Rect box;
  for (const Segment& s : flat) {
    box = enclosing(box, {static_cast<float>(s.x0), static_cast<float>(s.y0),
                          static_cast<float>(s.x0) + 0.01F, static_cast<float>(s.y0) + 0.01F});
  }
  return rounded_out(box.grown(1));
}

void check_against_reference(const Contours& c, const Transform& map) {
  const PixelRect cell = cell_of(c, map);
  const auto made = coverage(c, map, cell);
  const auto expected = test::reference_coverage(c, map, cell);
  double worst = 0;
  for (std::size_t i = 0; i < made.size(); ++i) worst = std::max(worst, std::abs(made[i] - expected[i]));
  CHECK(worst < 1.5 / 128);  // the reference steps over level edges in 128ths
}

}  // namespace

TEST_CASE("coverage of letters is that of a second method", "[coverage][property]") {
  const auto face = test::dejavu();
  const char32_t character = GENERATE(U'a', U'g', U'S', U'@', U'8', U'%', char32_t{0xC5}, char32_t{0x416});
  const float size = GENERATE(7.0F, 16.0F, 33.3F);
  Contours c;
  REQUIRE(face->read_outline(face->find_glyph(character), c).has_value());
  check_against_reference(c, glyph_transform(size / 2048, {0.37F, 0.81F}));
}

TEST_CASE("coverage under rotation and shear is that of a second method", "[coverage][property]") {
  const auto face = test::dejavu();
  Contours c;
  REQUIRE(face->read_outline(face->find_glyph(U'R'), c).has_value());
  check_against_reference(c, {0.010F, -0.004F, 0.005F, -0.011F, 3.3F, 4.4F});
}

TEST_CASE("overlapping and self-crossing contours are covered once", "[coverage][property]") {
  std::mt19937 random(11);
  std::uniform_real_distribution<float> at(0, 24);
  for (int round = 0; round < 40; ++round) {
    Contours c;
    for (int k = 0; k < 3; ++k) {
      std::vector<FontPoint> points(3 + random() % 4);
      for (FontPoint& p : points) p = {at(random), at(random)};
      test::add_polygon(c, points);
    }
    check_against_reference(c, {});
  }
}

TEST_CASE("the sum of coverage is the area of the outline", "[coverage][property]") {
  const auto face = test::dejavu();
  Contours c;
  for (const char32_t character : {U'O', U'M', U'x', U'Q'}) {
    REQUIRE(face->read_outline(face->find_glyph(character), c).has_value());
    const Transform map = glyph_transform(64.0F / 2048, {1.2F, 60.7F});
    std::vector<Segment> flat;
    flatten(c, map, 0.0005, flat);
    const auto made = coverage(c, map, cell_of(c, map));
    CHECK(std::accumulate(made.begin(), made.end(), 0.0) ==
          Approx(std::abs(signed_area(flat))).epsilon(2e-4));
  }
}

TEST_CASE("a square on whole pixels is full inside and empty outside", "[coverage]") {
  const auto made = coverage(test::polygon({{1, 1}, {3, 1}, {3, 3}, {1, 3}}), {}, {0, 0, 4, 4});
  for (int y = 0; y < 4; ++y) {
    for (int x = 0; x < 4; ++x) {
      CHECK(made[static_cast<std::size_t>(y * 4 + x)] == (x >= 1 && x < 3 && y >= 1 && y < 3 ? 1.0F : 0.0F));
    }
  }
}

TEST_CASE("a triangle covers half the pixels on its slope", "[coverage]") {
  const auto made = coverage(test::polygon({{0, 0}, {4, 4}, {0, 4}}), {}, {0, 0, 4, 4});
  for (std::size_t i = 0; i < 4; ++i) CHECK(made[i * 5] == Approx(0.5F));
}

TEST_CASE("parts that share an edge leave no seam", "[coverage]") {
  Contours c = test::polygon({{0, 0}, {5.3F, 0}, {2.7F, 8}, {0, 8}});
  test::add_polygon(c, std::array<FontPoint, 4>{{{5.3F, 0}, {8, 0}, {8, 8}, {2.7F, 8}}});
  for (const float v : coverage(c, {}, {0, 0, 8, 8})) CHECK(v == Approx(1.0F).margin(1e-5));
}

TEST_CASE("a shape moved by a whole pixel gives the same picture moved", "[coverage][property]") {
  const auto face = test::dejavu();
  Contours c;
  REQUIRE(face->read_outline(face->find_glyph(U'&'), c).has_value());
  const auto here = coverage(c, glyph_transform(0.0125F, {0.25F, 30}), {-2, 0, 40, 40});
  const auto there = coverage(c, glyph_transform(0.0125F, {7.25F, 33}), {5, 3, 40, 40});
  for (std::size_t i = 0; i < here.size(); ++i) REQUIRE(here[i] == Approx(there[i]).margin(1e-4));
}

TEST_CASE("what lies outside the cell is cut off without a trace inside", "[coverage][property]") {
  const auto face = test::dejavu();
  Contours c;
  REQUIRE(face->read_outline(face->find_glyph(U'W'), c).has_value());
  const Transform map = glyph_transform(0.02F, {0, 30});
  const auto whole = coverage(c, map, {-5, -5, 60, 50});
  const auto part = coverage(c, map, {10, 10, 9, 7});
  for (int y = 0; y < 7; ++y) {
    for (int x = 0; x < 9; ++x) {
      CHECK(part[static_cast<std::size_t>(y * 9 + x)] ==
            Approx(whole[static_cast<std::size_t>((y + 15) * 60 + x + 15)]).margin(1e-4));
    }
  }
}

TEST_CASE("maps that are not finite and rooms of another size are refused", "[coverage]") {
  RasterScratch scratch;
  std::vector<float> out(16);
  CHECK_FALSE(rasterize_coverage({}, {NAN, 0, 0, 1, 0, 0}, {0, 0, 4, 4}, out, scratch).has_value());
  CHECK_FALSE(rasterize_coverage({}, {}, {0, 0, 4, 5}, out, scratch).has_value());
  CHECK_FALSE(rasterize_coverage({}, {}, {0, 0, -4, -4}, out, scratch).has_value());
  CHECK(rasterize_coverage({}, {}, {0, 0, 4, 4}, out, scratch).has_value());
  CHECK(std::all_of(out.begin(), out.end(), [](float v) { return v == 0; }));
}

TEST_CASE("channel values round to the nearest", "[coverage]") {
  CHECK(coverage_value(0.5F, 255) == 128);
  CHECK(coverage_value(-1, 255) == 0);
  CHECK(coverage_value(2, 65535) == 65535);
  CHECK(distance_value(0, 6, 255) == 128);
  CHECK(distance_value(6, 6, 255) == 255);
  CHECK(distance_value(-3, 6, 65535) == 16384);
}
