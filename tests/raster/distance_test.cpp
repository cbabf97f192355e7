// SPDX-License-Identifier: MIT
// Exact distance against samples of the boundary.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/raster/raster.hpp"
#include "support/reference.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::vector<float> distance(const Contours& c, const Transform& map, const PixelRect& cell, float reach) {
  static RasterScratch scratch;
  std::vector<float> out(static_cast<std::size_t>(cell.width * cell.height));
  REQUIRE(rasterize_distance(c, map, cell, reach, out, scratch).has_value());
  return out;
}

void check_against_reference(const Contours& c, const Transform& map, const PixelRect& cell, float reach) {
  const auto made = distance(c, map, cell, reach);
  const auto expected = test::reference_distance(c, map, cell);
  double worst = 0;
  for (std::size_t i = 0; i < made.size(); ++i) {
    worst = std::max(worst, std::abs(made[i] - std::clamp(expected[i], -double{reach}, double{reach})));
  }
  CHECK(worst < 0.02);
}

}  // namespace

TEST_CASE("distances of letters are those to the boundary of the filled shape", "[distance][property]") {
  const auto face = test::dejavu();
  const char32_t character = GENERATE(U'a', U'S', U'4', char32_t{0xC5},
                                      char32_t{0xD8});  // the last two are made of overlapping parts
  Contours c;
  REQUIRE(face->read_outline(face->find_glyph(character), c).has_value());
  check_against_reference(c, glyph_transform(24.0F / 2048, {6.3F, 26.1F}), {0, 0, 32, 36}, 6);
}

TEST_CASE("edges inside overlapping contours are no boundary", "[distance][property]") {
  std::mt19937 random(5);
  std::uniform_real_distribution<float> at(4, 20);
  for (int round = 0; round < 8; ++round) {
    Contours c;
    for (int k = 0; k < 2; ++k) {
      std::vector<FontPoint> points(3 + random() % 3);
      for (FontPoint& p : points) p = {at(random), at(random)};
      test::add_polygon(c, points);
    }
    check_against_reference(c, {}, {0, 0, 24, 24}, 8);
  }
}

TEST_CASE("distances around a square are known", "[distance]") {
  const auto d = distance(test::polygon({{4, 4}, {12, 4}, {12, 12}, {4, 12}}), {}, {0, 0, 16, 16}, 10);
  const auto at = [&d](int x, int y) { return d[static_cast<std::size_t>(y * 16 + x)]; };
  CHECK(at(7, 7) == Approx(3.5F));
  CHECK(at(7, 1) == Approx(-2.5F));
  CHECK(at(0, 0) == Approx(-std::hypot(3.5F, 3.5F)));
  CHECK(at(4, 4) == Approx(0.5F));
}

TEST_CASE("parts that share an edge have no boundary there", "[distance]") {
  Contours c = test::polygon({{2, 2}, {8, 2}, {8, 14}, {2, 14}});
  test::add_polygon(c, std::array<FontPoint, 4>{{{8, 2}, {14, 2}, {14, 14}, {8, 14}}});
  const auto d = distance(c, {}, {0, 0, 16, 16}, 8);
  CHECK(d[7 * 16 + 7] == Approx(5.5F));
}

TEST_CASE("distance is clamped to the reach, and nothing is all outside", "[distance]") {
  for (const float v : distance({}, {}, {0, 0, 4, 4}, 3)) CHECK(v == -3);
  for (const float v :
       distance(test::polygon({{-50, -50}, {50, -50}, {50, 50}, {-50, 50}}), {}, {0, 0, 4, 4}, 3)) {
    CHECK(v == 3);
  }
  RasterScratch scratch;
  std::vector<float> out(1);
  for (const float reach : {0.0F, -1.0F, NAN, INFINITY}) {
    CHECK_FALSE(rasterize_distance({}, {}, {0, 0, 1, 1}, reach, out, scratch).has_value());
  }
}

TEST_CASE("the sign agrees with coverage where a pixel is whole", "[distance][property]") {
  const auto face = test::dejavu("DejaVuSerif-BoldItalic.ttf");
  Contours c;
  RasterScratch scratch;
  for (char32_t character = U'!'; character <= U'~'; ++character) {
    REQUIRE(face->read_outline(face->find_glyph(character), c).has_value());
    const Transform map = glyph_transform(40.0F / 2048, {10, 40});
    const PixelRect cell{0, 0, 64, 64};
    std::vector<float> area(64 * 64), d(64 * 64);
    REQUIRE(rasterize_coverage(c, map, cell, area, scratch).has_value());
    REQUIRE(rasterize_distance(c, map, cell, 4, d, scratch).has_value());
    for (std::size_t i = 0; i < d.size(); ++i) {
      if (d[i] > 0.75F) REQUIRE(area[i] > 0.999F);
      if (d[i] < -0.75F) REQUIRE(area[i] < 0.001F);
    }
  }
}
