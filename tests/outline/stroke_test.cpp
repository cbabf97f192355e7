// SPDX-License-Identifier: MIT
// Lines along outlines: their width, caps, joins and dashes; marks.
#include "grafema/outline/stroke.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

double area_of_stroke(const Contours& c) {
  Triangles t;
  REQUIRE(triangulate(c, 0.01F, t));
  return t.area();
}

double stroked_area(const Contours& c, const StrokeStyle& style) {
  Contours out;
  const Result<void> made = stroke(c, style, out);
  INFO((made ? std::string() : describe(made.error())));
  REQUIRE(made);
  return area_of_stroke(out);
}

Contours square() { return test::polygon({{0, 0}, {0, 100}, {100, 100}, {100, 0}}); }

}  // namespace

TEST_CASE("lines around a square have the areas that its corners ask for", "[stroke]") {
  const double sides = 4 * 100 * 10 - 4 * 25;  // strips overlap inside each corner
  CHECK(stroked_area(square(), {.width = 10, .join = StrokeJoin::miter}) == Approx(sides + 4 * 25));
  CHECK(stroked_area(square(), {.width = 10, .join = StrokeJoin::bevel}) == Approx(sides + 4 * 12.5));
  CHECK(stroked_area(square(), {.width = 10, .join = StrokeJoin::round, .tolerance = 0.01F}) ==
        Approx(sides + 3.14159265 * 25).epsilon(1e-3));
  CHECK(stroked_area(square(), {.width = 10, .join = StrokeJoin::miter, .miter_limit = 1}) ==
        Approx(sides + 4 * 12.5));
}

TEST_CASE("caps and dashes", "[stroke]") {
  const StrokeStyle half{.width = 10, .from = 0, .to = 0.125F};  // half of one side
  StrokeStyle style = half;
  CHECK(stroked_area(square(), style) == Approx(500));
  style.cap = StrokeCap::square;
  CHECK(stroked_area(square(), style) == Approx(600));
  style.cap = StrokeCap::round, style.tolerance = 0.01F;
  CHECK(stroked_area(square(), style) == Approx(500 + 3.14159265 * 25).epsilon(1e-3));
  // 400 around in dashes of 10 and gaps of 10, each corner within a dash or at its end.
  CHECK(stroked_area(square(), {.width = 2, .dashes = {10, 10}, .dash_offset = 5}) ==
        Approx(400).epsilon(0.01));
  CHECK(stroked_area(square(), {.width = 2, .dashes = {10}, .dash_offset = 5}) == Approx(400).epsilon(0.01));
  CHECK(stroked_area(square(), {.width = 2, .from = 0.5F, .to = 0.5F}) == 0);
  // Dashes of no length are dots where lines have round ends, and nothing where they have none.
  CHECK(
      stroked_area(square(), {.width = 4, .cap = StrokeCap::round, .dashes = {0, 10}, .tolerance = 0.01F}) ==
      Approx(40 * 3.14159265 * 4).epsilon(0.01));
  CHECK(stroked_area(square(), {.width = 4, .dashes = {0, 10}}) == 0);
}

TEST_CASE("a point lies on the line where the outline is nearer than half its width", "[stroke][property]") {
  const auto face = test::dejavu(GENERATE("DejaVuSans.ttf", "DejaVuSerif.ttf"));
  std::mt19937 random(5);
  for (const char32_t letter : {U'A', U'B', U'S', U'g', U'&', U'M', U'%'}) {
    const Contours c = test::outline_of(*face, letter);
    const float width = std::uniform_real_distribution<float>(5, 300)(random);
    INFO("U+" << std::hex << static_cast<unsigned>(letter) << std::dec << " width " << width);
    Contours line;
    REQUIRE(stroke(c, {.width = width, .join = StrokeJoin::round, .tolerance = 0.5F}, line));
    CHECK(line.united);
    std::vector<Segment> pieces, line_pieces;
    flatten(c, Transform{}, 0.1, pieces);
    flatten(line, Transform{}, 0.1, line_pieces);
    std::uniform_real_distribution<double> at(-600, 2400);
    for (int i = 0; i < 400; ++i) {
      const double x = at(random), y = at(random);
      double nearest = 1e9;
      for (const Segment& s : pieces) {
        const double dx = s.x1 - s.x0, dy = s.y1 - s.y0,
                     along = std::clamp(((x - s.x0) * dx + (y - s.y0) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
        nearest = std::min(nearest, std::hypot(x - s.x0 - along * dx, y - s.y0 - along * dy));
      }
      if (std::abs(nearest - width / 2) < 3) continue;
      REQUIRE((test::winding_at(line_pieces, x, y) != 0) == (nearest < width / 2));
    }
  }
}

TEST_CASE("lines of any width come out: edges that nearly lie on each other are told apart", "[stroke]") {
  const Contours c = test::outline_of(*test::dejavu(), U'B');
  Contours line;
  for (float width = 50; width < 300; width += 2.6F) {
    INFO(width);
    REQUIRE(stroke(c, {.width = width, .join = StrokeJoin::round, .tolerance = 0.5F}, line));
  }
}

TEST_CASE("a line drawn on grows to the whole one", "[stroke][property]") {
  const Contours c = test::outline_of(*test::dejavu(), U'R');
  double before = 0;
  for (int i = 1; i <= 10; ++i) {
    const double area = stroked_area(c, {.width = 30, .to = static_cast<float>(i) / 10});
    CHECK(area > before);
    before = area;
  }
  CHECK(before == Approx(stroked_area(c, {.width = 30})));
}

TEST_CASE("wrong styles of lines are refused", "[stroke]") {
  Contours out;
  for (const StrokeStyle& wrong : std::initializer_list<StrokeStyle>{{.width = 0},
                                                                     {.width = -3},
                                                                     {.width = NAN},
                                                                     {.miter_limit = 0.5F},
                                                                     {.dashes = {0, 0}},
                                                                     {.dashes = {1, -1}},
                                                                     {.dash_offset = NAN},
                                                                     {.from = -1},
                                                                     {.to = 2},
                                                                     {.tolerance = 0}}) {
    const Result<void> made = stroke(square(), wrong, out);
    REQUIRE_FALSE(made);
    CHECK(made.error().kind == ErrorKind::bad_value);
  }
  const Result<void> dust = stroke(square(), {.dashes = {1e-7F}}, out);
  REQUIRE_FALSE(dust);
  CHECK(dust.error().kind == ErrorKind::unsupported);
  REQUIRE(stroke({}, {}, out));
  CHECK(out.commands.empty());
}

TEST_CASE("marks stand on their points, turned along the outline", "[stroke]") {
  OutlinePoints outline;
  outline.measure(square());
  std::vector<OutlinePoint> points;
  REQUIRE(outline.spread_by(50, false, points));
  Contours dot, out;
  add_circle(4, dot);
  CHECK(area_of_stroke(dot) == Approx(3.14159265 * 16).epsilon(1e-3));
  REQUIRE(place_marks(points, dot, {.scale = 0.5F}, out));
  CHECK(area_of_stroke(out) == Approx(8 * 3.14159265 * 4).epsilon(3e-3));
  // A bar along x, put aside: along the left side, which runs up, it stands upright and outside.
  const Contours bar = test::polygon({{-5, -1}, {-5, 1}, {5, 1}, {5, -1}});
  out.clear();
  const OutlinePoint middle = outline.at(0, 50);
  REQUIRE(place_marks(std::array{middle}, bar, {.along = true, .aside = 20}, out));
  const FontRect box = bounds(out);
  CHECK(box.x_min == Approx(-21));
  CHECK(box.x_max == Approx(-19));
  CHECK(box.y_min == Approx(45));
  CHECK(box.y_max == Approx(55));
  out.clear();
  REQUIRE(place_marks(std::array{middle}, bar, {.turn = 90}, out));
  CHECK(bounds(out).y_max == Approx(55));
  CHECK_FALSE(place_marks(points, bar, {.scale = 0}, out).has_value());
}
