// SPDX-License-Identifier: MIT
// Triangles cover what outlines fill, once, without gaps; convex pieces cover the same.
#include "grafema/outline/triangles.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Triangles triangles_of(const Contours& contours, float tolerance = 0.5F) {
  Triangles out;
  const Result<void> made = triangulate(contours, tolerance, out);
  INFO((made ? std::string() : describe(made.error())));
  REQUIRE(made.has_value());
  return out;
}

}  // namespace

TEST_CASE("triangles of any polygons cover each point inside once and none outside",
          "[triangles][property]") {
  std::mt19937 random(7);
  std::vector<Segment> pieces;
  for (int round = 0; round < 3000; ++round) {
    INFO("round " << round);
    const Contours c = test::tangled(random);
    const Triangles t = triangles_of(c);
    flatten(c, Transform{}, 0.5, pieces);
    std::uniform_real_distribution<float> at(-1, 41);
    for (int i = 0; i < 40; ++i) {
      const FontPoint p{at(random), at(random)};
      REQUIRE(test::triangles_at(t, p) == (test::winding_at(pieces, p.x, p.y) != 0 ? 1 : 0));
    }
    REQUIRE(test::edges_pair_up(t));
  }
}

TEST_CASE("the triangles of letters have the outline's area to a millionth, and no gaps",
          "[triangles][property]") {
  const std::string file = GENERATE("DejaVuSans.ttf", "DejaVuSerif-Bold.ttf", "DejaVuSansMono-Oblique.ttf");
  const auto face = test::dejavu(file);
  Triangulator triangulator;
  Triangles t;
  Contours c;
  std::vector<Segment> pieces;
  for (std::uint16_t glyph = 0; glyph < face->glyph_count(); glyph += 3) {
    if (!face->read_outline(GlyphId{glyph}, c) || c.commands.empty()) continue;
    INFO(file << " glyph " << glyph);
    REQUIRE(triangulator.run(c, 2, t));
    Contours united = c;
    unite(united);
    flatten(united, Transform{}, 2, pieces);
    const double area = std::abs(signed_area(pieces));
    if (!c.may_overlap && united.points == c.points) {
      CHECK(t.area() == Approx(area).epsilon(1e-6));
    } else {
      CHECK(t.area() == Approx(area).epsilon(1e-3));  // curves were cut at crossings: other pieces
    }
    REQUIRE(test::edges_pair_up(t));
    for (std::size_t i = 0; i < t.indices.size(); i += 3) {
      REQUIRE(test::twice_area(t.points[t.indices[i]], t.points[t.indices[i + 1]],
                               t.points[t.indices[i + 2]]) > 0);
    }
  }
}

TEST_CASE("loops have the filled side on their left: holes run the other way", "[triangles]") {
  const Triangles t = triangles_of(test::outline_of(*test::dejavu(), U'B'));
  REQUIRE(t.loop_count() == 3);
  int holes = 0;
  double sum = 0;
  for (std::size_t i = 0; i < 3; ++i) {
    double doubled = 0;
    const auto loop = t.loop(i);
    for (std::size_t k = 0; k < loop.size(); ++k)
      doubled += test::twice_area({0, 0}, loop[k], loop[(k + 1) % loop.size()]);
    holes += doubled < 0 ? 1 : 0;
    sum += doubled / 2;
  }
  CHECK(holes == 2);
  CHECK(sum == Approx(t.area()).epsilon(1e-6));
}

TEST_CASE("rounded triangles cover the same, and none has another point within its circle",
          "[triangles][property]") {
  const auto face = test::dejavu();
  for (const char32_t letter : {U'S', U'g', U'&', U'8', U'W'}) {
    const Contours c = test::outline_of(*face, letter);
    Triangles quick, rounded;
    REQUIRE(triangulate(c, 3, quick));
    REQUIRE(triangulate(c, 3, rounded, TriangleShape::rounded));
    CHECK(rounded.indices.size() == quick.indices.size());
    CHECK(rounded.area() == Approx(quick.area()).epsilon(1e-9));
    CHECK(test::edges_pair_up(rounded));
    const auto least_angle = [](const Triangles& t) {
      double sum = 0;
      for (std::size_t i = 0; i < t.indices.size(); i += 3) {
        double longest = 0;
        for (std::size_t k = 0; k < 3; ++k) {
          const FontPoint a = t.points[t.indices[i + k]], b = t.points[t.indices[i + (k + 1) % 3]];
          longest = std::max(longest, std::hypot(double{a.x} - b.x, double{a.y} - b.y));
        }
        sum +=
            test::twice_area(t.points[t.indices[i]], t.points[t.indices[i + 1]], t.points[t.indices[i + 2]]) /
            (longest * longest);
      }
      return sum;
    };
    CHECK(least_angle(rounded) > least_angle(quick));
  }
}

TEST_CASE("nothing to fill gives no triangles", "[triangles]") {
  CHECK(triangles_of({}).indices.empty());
  Contours point;
  point.move_to({3, 4});
  point.close();
  CHECK(triangles_of(point).indices.empty());
  CHECK(triangles_of(test::polygon({{0, 0}, {10, 0}, {20, 0}})).indices.empty());
  CHECK(triangles_of(test::polygon({{0, 0}, {10, 10}, {0, 0}, {10, 10}})).indices.empty());
  Contours there_and_back = test::polygon({{0, 0}, {10, 0}, {10, 10}});
  test::add_polygon(there_and_back, std::array<FontPoint, 3>{{{0, 0}, {10, 10}, {10, 0}}});
  CHECK(triangles_of(there_and_back).indices.empty());
}

TEST_CASE("numbers out of range are refused, and those that are none passed over", "[triangles]") {
  Triangles t;
  for (const float tolerance : {0.0F, -1.0F, NAN, INFINITY}) {
    const Result<void> made = triangulate(test::polygon({{0, 0}, {1, 0}, {0, 1}}), tolerance, t);
    REQUIRE_FALSE(made);
    CHECK(made.error().kind == ErrorKind::bad_value);
  }
  const Triangles square = triangles_of(test::polygon({{0, 0}, {NAN, 5}, {10, 0}, {10, 10}, {0, 10}}));
  CHECK(square.area() <= 100);
  CHECK(triangles_of(test::polygon({{-3e38F, -3e38F}, {3e38F, -3e38F}, {0, 3e38F}})).triangle_count() == 1);
}

TEST_CASE("a hundred thousand points are cut", "[triangles]") {
  constexpr int kTeeth = 33333 / static_cast<int>(test::kStride);
  Contours comb;
  comb.move_to({0, 0});
  for (int i = 0; i < kTeeth; ++i) {
    const auto x = static_cast<float>(i);
    comb.line_to({x + 0.25F, 1000}), comb.line_to({x + 0.5F, 10}), comb.line_to({x + 1, 10});
  }
  comb.line_to({kTeeth, 0});
  comb.close();
  const Triangles t = triangles_of(comb);
  CHECK(t.triangle_count() + 2 == t.points.size());
  CHECK(t.area() == Approx(kTeeth * (10 + 990 * 0.25) - 0.5 * 0.25 * 10).epsilon(1e-3));
}

TEST_CASE("convex pieces cover the triangles, turn left at every corner, and are fewer",
          "[triangles][property]") {
  const auto face = test::dejavu();
  const std::size_t most = GENERATE(3, 6, 8);
  for (char32_t letter = U'!'; letter < 0x7F; ++letter) {
    const Triangles t = triangles_of(test::outline_of(*face, letter), 4);
    ConvexPieces pieces;
    make_convex_pieces(t, pieces, most);
    double area = 0;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      const auto piece = pieces.piece(i);
      REQUIRE(piece.size() >= 3);
      REQUIRE(piece.size() <= most);
      for (std::size_t k = 0; k < piece.size(); ++k) {
        const FontPoint a = t.points[piece[k]], b = t.points[piece[(k + 1) % piece.size()]],
                        c = t.points[piece[(k + 2) % piece.size()]];
        REQUIRE(test::twice_area(a, b, c) >= 0);
        if (k > 0) area += test::twice_area(t.points[piece[0]], a, b) / 2;
      }
    }
    CHECK(area == Approx(t.area()).epsilon(1e-6));
    if (most > 3) CHECK(pieces.size() <= t.triangle_count());
    if (most == 3) CHECK(pieces.size() == t.triangle_count());
  }
}
