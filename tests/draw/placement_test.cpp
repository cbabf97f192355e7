// SPDX-License-Identifier: MIT
// Anchors, canvases and sizes by what is seen.
#include "grafema/draw/placement.hpp"

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

TEST_CASE("the anchor of the box stands at the point", "[placement]") {
  const Rect box{0, 0, 100, 40};
  CHECK(label_origin(box, {{10, 20}, {0, 0}}) == PixelPoint{10, 20});
  CHECK(label_origin(box, {{10, 20}, {1, 0.5F}}) == PixelPoint{-90, 0});
}

TEST_CASE("a fitted canvas has half the size around the box, more where paint needs it", "[placement]") {
  const FontStack stack{test::dejavu()};
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, "Tram", {.size = 30}, cache, p).has_value());
  const Rect ink = ink_box(stack, p);
  const Canvas plain = fit_canvas(p, ink, plain_look({0, 0, 0, 1}));
  CHECK(plain.origin == PixelPoint{15, 15});
  CHECK(plain.width == static_cast<int>(std::ceil(p.advance_box.width() + 15)) + 15);
  Look wide;
  wide.add({.shift = {0, 100}});
  const Canvas deep = fit_canvas(p, ink, wide);
  CHECK(deep.origin == PixelPoint{15, 15});
  CHECK(deep.height >= static_cast<int>(15 + ink.bottom + 100));
}

TEST_CASE("a size asked for by a height gives that height", "[placement][property]") {
  const auto face = test::dejavu();
  for (const float wanted : {9.0F, 24.0F, 77.5F}) {
    const float cap = *read_size(*face, SizeBy::cap_height, wanted),
                small = *read_size(*face, SizeBy::x_height, wanted);
    CHECK(face->glyph_box(face->find_glyph(U'H')).y_max * cap / 2048 == Approx(wanted));
    CHECK(face->glyph_box(face->find_glyph(U'x')).y_max * small / 2048 == Approx(wanted));
    CHECK((1901 + 483) * *read_size(*face, SizeBy::line_height, wanted) / 2048 == Approx(wanted));
    CHECK(*read_size(*face, SizeBy::em, wanted) == wanted);
  }
  CHECK_FALSE(read_size(*face, SizeBy::cap_height, 0).has_value());
  CHECK_FALSE(read_size(*face, SizeBy::cap_height, 1e8F).has_value());
}
