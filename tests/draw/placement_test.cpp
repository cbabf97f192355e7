// SPDX-License-Identifier: MIT
// Anchors, canvases and sizes by what is seen.
#include "grafema/draw/placement.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "grafema/draw/text_scene.hpp"
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
  Label label = scene.words.add("Foxglove Cross");
  View view{.width = 300, .height = 200};
  view.projection = perspective(60, 1.5F, 0.1F, 100);
  // It runs past the camera, from far ahead to far behind.
  label.set_placement({.anchor = {0.5F, 0.5F},
                       .kind = PlaceKind::world,
                       .world_per_pixel = 0.05F,
                       .world = translation({-1, 0, 0}) * test::turned_about_y(80)});
  const Image image = test::in_software(scene.words, view, Blending::linear, {0, 0, 0, 1});
  const Rect box = label.device_box();
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
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  Label label = words.add("Foxglove Cross\nPale Orchard");
  label.set_placement({.at = {300, 200}, .anchor = {0.5F, 0.5F}, .rotate = 90});
  const View view{.width = 800, .height = 600};
  REQUIRE(words.update(view, 0).has_value());
  const Paragraph& p = label.paragraph();
  const LabelMap map = *map_label(label.box(), label.placement(), view);
  std::vector<Rect> range;
  range_boxes(p, 0, 8, range);
  REQUIRE(range.size() == 1);
  for (const Rect& box : {line_box(p.lines[1]), range[0], label.ink_box()}) {
    const Rect placed = device_bounds(map, box, view);
    CHECK(placed.width() == Approx(box.height()).margin(0.01));  // turned by a right angle
    CHECK(placed.height() == Approx(box.width()).margin(0.01));
    const Rect whole = label.device_box().grown(1);
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

TEST_CASE("labels that keep inside lie within the safe area, moved no farther than they must",
          "[placement][property]") {
  std::mt19937 random(4);
  const auto between = [&random](float low, float high) {
    return low + (high - low) * static_cast<float>(random() % 10001) / 10000;
  };
  View view{.width = 640, .height = 360, .content_scale = 1.5F, .safe = {40, 20, 10, 30}};
  view.projection = test::perspective(60, 640.0F / 360, 0.1F, 100);
  const Rect safe{40, 20, 630, 330};
  const Rect box{-3, 2, 120, 30};
  int moved = 0, stayed = 0;
  for (int i = 0; i < 600; ++i) {
    Placement p;
    p.kind = static_cast<PlaceKind>(i % 4);
    p.at = {between(-200, 600), between(-200, 400)};
    p.pin = {between(0, 1), between(0, 1)}, p.anchor = {between(0, 1), between(0, 1)};
    if (i % 3 == 0) p.rotate = between(-180, 180), p.shear = between(-20, 20);
    if (i % 5 == 0) p.scale_x = between(0.2F, 1.5F), p.scale_y = between(0.2F, 1.5F);
    p.world = test::moved(between(-8, 8), between(-5, 5), between(-9, -4));
    if (p.kind == PlaceKind::world)
      p.world = test::multiplied(p.world, test::turned_about_y(between(-50, 50)));
    p.world_per_pixel = 0.01F;
    const LabelMap free_map = *map_label(box, p, view);
    p.keep_inside = true;
    const LabelMap map = *map_label(box, p, view);
    const Rect before = device_bounds(free_map, box, view), after = device_bounds(map, box, view);
    INFO(i << ": " << before.left << " " << before.top << " " << before.right << " " << before.bottom);
    REQUIRE_FALSE(before.empty());
    CHECK(after.width() == Approx(before.width()).margin(0.02));
    const auto check = [](float low, float high, float from, float to, float was_low, float was_high) {
      if (high - low > to - from) {
        CHECK(low == Approx(from).margin(0.02));
        return;
      }
      CHECK(low >= from - 0.02F);
      CHECK(high <= to + 0.02F);
      // It is where it was, or at the side that it left by.
      const bool was_inside = was_low >= from && was_high <= to;
      CHECK(low == Approx(was_inside ? was_low : was_low < from ? from : to - (high - low)).margin(0.02));
    };
    check(after.left, after.right, safe.left, safe.right, before.left, before.right);
    check(after.top, after.bottom, safe.top, safe.bottom, before.top, before.bottom);
    std::abs(after.left - before.left) + std::abs(after.top - before.top) > 0.1F ? ++moved : ++stayed;
  }
  CHECK(moved > 100);
  CHECK(stayed > 50);
}

TEST_CASE("labels that snap have their origin on a whole pixel, half a pixel away at most", "[placement]") {
  View view{.width = 641, .height = 359, .content_scale = 1.25F};
  view.projection = test::perspective(60, 641.0F / 359, 0.1F, 100);
  const Rect box{0, 0, 77, 21};
  for (const float x : {0.0F, 10.3F, 77.77F, 201.5F}) {
    Placement p{.at = {x, x / 2 + 0.3F}, .anchor = {0.5F, 0.5F}};
    const PixelPoint before = *to_device(*map_label(box, p, view), {0, 0}, view);
    p.snap = true;
    const PixelPoint at = *to_device(*map_label(box, p, view), {0, 0}, view);
    CHECK(at.x == Approx(std::round(before.x)).margin(0.001));
    CHECK(at.y == Approx(std::round(before.y)).margin(0.001));
    p.rotate = 20;  // a turned one has no pixels to be on
    const LabelMap turned = *map_label(box, p, view);
    p.snap = false;
    CHECK(turned.origin == map_label(box, p, view)->origin);
  }
  Placement facing{
      .anchor = {0.5F, 1}, .kind = PlaceKind::facing, .world = test::moved(0.37F, 0.41F, -5), .snap = true};
  const PixelPoint at = *to_device(*map_label(box, facing, view), {0, 0}, view);
  CHECK(at.x == Approx(std::round(at.x)).margin(0.001));
  CHECK(at.y == Approx(std::round(at.y)).margin(0.001));
}

TEST_CASE("labels of a set that keep inside or snap stand where others do, and follow steps",
          "[placement][set]") {
  test::WhiteContext context(FontStack{built_in_face()}, nullptr);
  TextScene set(context);
  Label label = set.add("Weir");
  const View view{.width = 320, .height = 200, .safe = {8, 8, 8, 8}};
  for (const bool snapped : {false, true}) {
    Placement p{.keep_inside = !snapped, .snap = snapped};
    label.set_placement(p);
    for (const PixelPoint at : {PixelPoint{100.4F, 50.6F}, {310, 190}, {-20, 30.5F}}) {
      label.move_to(at);
      REQUIRE(set.update(view, 0).has_value());
      p.at = at;
      const LabelMap map = *map_label(label.box(), p, view);
      const LabelRow& row = set.memory().rows()[0];
      for (std::size_t k = 0; k < 4; ++k) CHECK(row.origin[k] == Approx(map.origin[k]).margin(1e-6));
    }
  }
}
