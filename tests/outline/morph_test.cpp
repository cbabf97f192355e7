// SPDX-License-Identifier: MIT
// Letters melt into letters: exact at the ends, whole in between.
#include "grafema/outline/morph.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numeric>

#include "grafema/outline/outline_points.hpp"
#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

double area_of(const Contours& c) {
  Triangles t;
  REQUIRE(triangulate(c, 0.5F, t));
  return t.area();
}

Morph morph_of(std::span<const Contours> from, std::span<const Contours> to,
               const MorphOptions& options = {}) {
  Result<Morph> made = Morph::make(from, to, options);
  INFO((made ? std::string() : describe(made.error())));
  REQUIRE(made);
  return *std::move(made);
}

std::vector<Contours> word(const Face& face, std::u32string_view text) {
  std::vector<Contours> out;
  float pen = 0;
  for (const char32_t c : text) {
    Contours letter = test::outline_of(face, c);
    for (FontPoint& p : letter.points) p.x += pen;
    const GlyphId glyph = face.find_glyph(c);
    float advance = 0;
    face.advances({&glyph, 1}, {&advance, 1});
    pen += advance;
    out.push_back(std::move(letter));
  }
  return out;
}

/// The share of a grid's points that one fills and the other does not.
double share_that_differs(const Contours& a, const Contours& b) {
  std::vector<Segment> pieces_a, pieces_b;
  flatten(a, Transform{}, 0.1, pieces_a);
  flatten(b, Transform{}, 0.1, pieces_b);
  const FontRect box = bounds(b);
  int differ = 0, all = 0;
  for (int i = 0; i < 60; ++i) {
    for (int k = 0; k < 60; ++k) {
      const double x = box.x_min + (box.x_max - box.x_min) * (i + 0.37) / 60,
                   y = box.y_min + (box.y_max - box.y_min) * (k + 0.41) / 60;
      ++all;
      differ += (test::winding_at(pieces_a, x, y) != 0) != (test::winding_at(pieces_b, x, y) != 0) ? 1 : 0;
    }
  }
  return static_cast<double>(differ) / all;
}

}  // namespace

TEST_CASE("a morph begins as one letter and ends as the other", "[morph][property]") {
  const bool serif = GENERATE(false, true);
  const auto face = test::dejavu(serif ? "DejaVuSerif.ttf" : "DejaVuSans.ttf");
  const std::u32string letters = U"ABgi%&@8:S";
  for (const char32_t a : letters) {
    for (const char32_t b : letters) {
      if ((a < b) == serif) continue;  // each face has one way of each pair
      if ((a + b) % test::kStride != 0) continue;
      const Contours from = test::outline_of(*face, a), to = test::outline_of(*face, b);
      Morph morph = morph_of({&from, 1}, {&to, 1});
      REQUIRE(morph.size() == 1);
      Contours out;
      morph.letter(0, 0, out);
      CHECK(out.united);
      CHECK(area_of(out) == Approx(area_of(from)).epsilon(1e-4));
      CHECK(share_that_differs(out, from) < 0.003);
      morph.letter(0, 1, out);
      CHECK(area_of(out) == Approx(area_of(to)).epsilon(1e-4));
      CHECK(share_that_differs(out, to) < 0.003);
      const FontRect reach = morph.reach(0);
      for (const float t : {0.2F, 0.5F, 0.8F}) {
        morph.letter(0, t, out);
        CHECK(area_of(out) > 0);
        for (const FontPoint p : out.points) {
          REQUIRE(p.x >= reach.x_min - 0.01F);
          REQUIRE(p.x <= reach.x_max + 0.01F);
          REQUIRE(p.y >= reach.y_min - 0.01F);
          REQUIRE(p.y <= reach.y_max + 0.01F);
        }
      }
    }
  }
}

TEST_CASE("of all pairs of capitals few cross themselves at half time", "[morph][property]") {
  const std::string file = GENERATE("DejaVuSans-Bold.ttf", "DejaVuSerif.ttf", "DejaVuSansMono.ttf");
  const auto face = test::dejavu(file);
  int crossing = 0, all = 0;
  for (char32_t a = U'A'; a <= U'Z'; ++a) {
    for (char32_t b = a + 1; b <= U'Z'; ++b) {
      const Contours from = test::outline_of(*face, a), to = test::outline_of(*face, b);
      Morph morph = morph_of({&from, 1}, {&to, 1}, {.tolerance = 2});
      crossing += morph.crosses(0, 0.5F) ? 1 : 0;
      ++all;
    }
  }
  CAPTURE(file, crossing, all);
  CHECK(all == 325);
  CHECK(crossing <= (file == "DejaVuSerif.ttf" ? 16 : 6));
}

TEST_CASE("the same word stays as it is, backward is forward turned round", "[morph]") {
  const auto face = test::dejavu();
  const std::vector<Contours> halt = word(*face, U"HALT"), moor = word(*face, U"MOOR");
  Morph still = morph_of(halt, halt);
  Contours begin, middle;
  still.shape(0, begin);
  still.shape(0.5F, middle);
  CHECK(share_that_differs(middle, begin) == 0);
  Morph there = morph_of(halt, moor), back = morph_of(moor, halt);
  there.shape(0, begin);
  back.shape(1, middle);
  CHECK(area_of(begin) == Approx(area_of(middle)).epsilon(1e-4));
}

TEST_CASE("letters are paired by place or by likeness, spare ones have no partner", "[morph]") {
  const auto face = test::dejavu();
  const std::vector<Contours> from = word(*face, U"AXO"), to = word(*face, U"OXAH");
  const auto partners = [](const Morph& morph) {
    std::vector<std::uint32_t> out;
    for (std::size_t i = 0; i < morph.size(); ++i) {
      if (morph.pair(i).from != Morph::kNone) out.push_back(morph.pair(i).to);
    }
    return out;
  };
  const Morph by_place = morph_of(from, to),
              by_likeness = morph_of(from, to, {.pairing = MorphPairing::likeness});
  CHECK(by_place.size() == 4);
  CHECK(partners(by_place) == std::vector<std::uint32_t>{0, 1, 2});
  CHECK(partners(by_likeness) == std::vector<std::uint32_t>{2, 1, 0});
}

TEST_CASE("texts of different lengths, with spaces, and nothing at all", "[morph]") {
  const auto face = test::dejavu();
  const std::vector<Contours> some = word(*face, U"A B"), more = word(*face, U"LONG TOWN"),
                              spaces = word(*face, U"  "), none;
  Contours out;
  for (const auto* from : {&some, &more, &spaces, &none}) {
    for (const auto* to : {&some, &more, &spaces, &none}) {
      Morph morph = morph_of(*from, *to);
      for (const float t : {-1.0F, 0.0F, 0.3F, 1.0F, 7.0F, NAN}) morph.shape(t, out);
      morph.shape(0, out);
      CHECK((from == &spaces || from == &none) == (area_of(out) < 1));
    }
  }
}

TEST_CASE("letters begin one after the other", "[morph]") {
  const auto face = test::dejavu();
  const Morph morph = morph_of(word(*face, U"ABCDE"), word(*face, U"FGHIJ"), {.stagger = 0.5F});
  CHECK(morph.letter_time(0, 0.25F) == 0.5F);
  CHECK(morph.letter_time(4, 0.5F) == 0);
  CHECK(morph.letter_time(0, 0.5F) == 1);
  for (std::size_t i = 0; i < 5; ++i) {
    CHECK(morph.letter_time(i, 0) == 0);
    CHECK(morph.letter_time(i, 1) == 1);
  }
}

TEST_CASE("wrong options of morphs are refused", "[morph]") {
  const std::vector<Contours> many(1001);
  for (const MorphOptions& wrong : std::initializer_list<MorphOptions>{
           {.tolerance = 0}, {.tolerance = NAN}, {.stagger = 1}, {.stagger = -1}}) {
    CHECK(Morph::make({}, {}, wrong).error().kind == ErrorKind::bad_value);
  }
  CHECK(Morph::make(many, {}).error().kind == ErrorKind::bad_value);
  std::mt19937 random(3);
  for (int round = 0; round < 100; ++round) {
    const Contours a = test::tangled(random), b = test::tangled(random);
    Morph morph = morph_of({&a, 1}, {&b, 1}, {.tolerance = 0.01F});
    Contours out;
    for (const float t : {0.0F, 0.5F, 1.0F}) morph.shape(t, out);
    CHECK(std::abs(area_of(out) - area_of(b)) < 1e-2);
  }
}

TEST_CASE("points of a letter keep their numbers while it becomes another", "[morph]") {
  for (const auto& [a, b] : {std::pair{U'A', U'i'}, {U'O', U'B'}, {U'i', U'O'}}) {
    const Contours from[] = {test::outline_of(*test::dejavu(), a)},
                   to[] = {test::outline_of(*test::dejavu(), b)};
    const Morph morph = *Morph::make(from, to, {.tolerance = 4});
    constexpr std::size_t kCount = 150, kSteps = 60;
    std::vector<FontPoint> before, now;
    const FontRect reach = morph.reach(0);
    const float most = 2 * std::hypot(reach.x_max - reach.x_min, reach.y_max - reach.y_min) / kSteps;
    for (std::size_t step = 0; step <= kSteps; ++step) {
      morph.points(0, kCount, static_cast<float>(step) / kSteps, now);
      REQUIRE(now.size() == kCount);
      float farthest = 0;
      for (std::size_t k = 0; k < kCount && step > 0; ++k)
        farthest = std::max(farthest, std::hypot(now[k].x - before[k].x, now[k].y - before[k].y));
      CHECK(farthest <= most * 1.001F);
      std::swap(before, now);
    }
    // At both ends every point lies on the outline.
    for (const float end : {0.0F, 1.0F}) {
      morph.points(0, kCount, end, now);
      OutlinePoints outline;
      outline.measure(end == 0 ? from[0] : to[0]);
      std::vector<OutlinePoint> dense;
      REQUIRE(outline.spread(4000, true, dense).has_value());
      for (const FontPoint& p : now) {
        float nearest = 1e9F;
        for (const OutlinePoint& d : dense)
          nearest = std::min(nearest, std::hypot(d.place.x - p.x, d.place.y - p.y));
        CHECK(nearest < 8);
      }
    }
  }
}
