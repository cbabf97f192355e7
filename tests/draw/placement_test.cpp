// SPDX-License-Identifier: MIT
// Anchors, canvases and sizes by what is seen.
#include "grafema/draw/placement.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/scene.hpp"

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

TEST_CASE("a label that crosses the near plane has a box around the part that is seen",
          "[label][placement]") {
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  Label label(scene.context, "Foxglove Cross");
  Label* const labels[] = {&label};
  View view{.width = 300, .height = 200};
  view.projection = perspective(60, 1.5F, 0.1F, 100);
  // It runs past the camera, from far ahead to far behind.
  REQUIRE(label
              .set_placement({.anchor = {0.5F, 0.5F},
                              .kind = PlaceKind::world,
                              .world_per_pixel = 0.05F,
                              .world = translation({-1, 0, 0}) * test::turned_about_y(80)})
              .has_value());
  const Rect box = label.device_box(view);
  const Image image = test::in_software(scene.context, labels, view, Blending::linear, {0, 0, 0, 1});
  int lit = 0;
  for (int y = 0; y < 200; ++y) {
    for (int x = 0; x < 300; ++x) {
      if (image.value(x, y) < 8) continue;
      ++lit;
      const auto px = static_cast<float>(x), py = static_cast<float>(y);
      REQUIRE((px + 1 > box.left - 3 && px < box.right + 3 && py + 1 > box.top - 3 && py < box.bottom + 3));
    }
  }
  CHECK(lit > 500);
  CHECK_FALSE(box.empty());
}

TEST_CASE("boxes of lines, ranges and ink are placed as their label is", "[placement]") {
  TextContext context(FontStack{test::dejavu()}, nullptr);
  Label label(context, "Foxglove Cross\nPale Orchard");
  REQUIRE(label.set_placement({.at = {300, 200}, .anchor = {0.5F, 0.5F}, .rotate = 90}).has_value());
  const View view{.width = 800, .height = 600};
  const Paragraph& p = label.paragraph();
  const LabelMap map = *map_label(label.box(), label.placement(), view);
  std::vector<Rect> range;
  range_boxes(p, 0, 8, range);
  REQUIRE(range.size() == 1);
  for (const Rect& box : {line_box(p.lines[1]), range[0], label.ink_box()}) {
    const Rect placed = device_bounds(map, box, view);
    CHECK(placed.width() == Approx(box.height()).margin(0.01));  // turned by a right angle
    CHECK(placed.height() == Approx(box.width()).margin(0.01));
    const Rect whole = label.device_box(view).grown(1);
    CHECK((placed.left >= whole.left && placed.right <= whole.right));
  }
}

TEST_CASE("a camera looks at its target, upright", "[placement]") {
  const View view{.width = 400,
                  .height = 200,
                  .camera = look_at({3, 2, 5}, {1, 1, -4}),
                  .projection = perspective(50, 2, 0.1F, 100)};
  const auto seen = [&](const WorldPoint& p) {
    const LabelMap map = *map_label({}, {.kind = PlaceKind::world, .world = translation(p)}, view);
    return *to_device(map, {}, view);
  };
  const PixelPoint middle = seen({1, 1, -4}), above = seen({1, 2, -4}), right = seen({2, 1, -4});
  CHECK(middle.x == Approx(200).margin(1e-3));
  CHECK(middle.y == Approx(100).margin(1e-3));
  CHECK(above.x == Approx(200).margin(1e-2));
  CHECK(above.y < 100);
  CHECK(right.x > 200);
  // One unit up at a distance of 9.27 units, of which 50 degrees see 200 pixels.
  CHECK(100 - seen({1, 1.01F, -4}).y ==
        Approx(0.01 / 9.274 * 0.994 / std::tan(25 * M_PI / 180) * 100).epsilon(0.02));
  for (const float m : look_at({0, 0, 0}, {0, 0, 0}).m) CHECK(std::isfinite(m));
  for (const float m : look_at({0, 0, 0}, {0, 5, 0}).m) CHECK(std::isfinite(m));
}
