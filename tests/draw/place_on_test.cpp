// SPDX-License-Identifier: MIT
// Labels on quads and boxes, signs, sizes as on the screen, points of other labels.
#include "grafema/draw/place_on.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/text_scene.hpp"
#include "grafema/font/face.hpp"

using namespace grafema;

namespace {

View view_from(const WorldPoint& eye) {
  View view{.width = 800, .height = 600, .content_scale = 1.5F};
  view.projection = perspective(50, 800.0F / 600, 0.1F, 100);
  view.camera = look_at(eye, {0.3F, 0.2F, 0});
  return view;
}

/// Where a point of the world is seen, device pixels.
PixelPoint seen(const WorldPoint& p, const View& view) {
  const Matrix4 all = view.projection * view.camera;
  const auto row = [&](std::size_t r) {
    return all.m[r] * p.x + all.m[4 + r] * p.y + all.m[8 + r] * p.z + all.m[12 + r];
  };
  return {(row(0) / row(3) + 1) / 2 * view.width, (1 - row(1) / row(3)) / 2 * view.height};
}

void check_near(PixelPoint a, PixelPoint b, double margin = 0.05) {
  CHECK(a.x == Approx(b.x).margin(margin));
  CHECK(a.y == Approx(b.y).margin(margin));
}

}  // namespace

TEST_CASE("a label as large as a quad covers it corner for corner, wherever it is held",
          "[place_on][property]") {
  const WorldQuad quad{{-1, 1.2F, 0.4F}, {1.6F, 0.3F, -0.5F}, {0.2F, -1, 0.04F}};
  const View view = view_from({1.5F, 0.7F, 4});
  const float wide = std::sqrt(1.6F * 1.6F + 0.3F * 0.3F + 0.25F), high = std::sqrt(0.04F + 1 + 0.0016F);
  const PixelPoint at = GENERATE(PixelPoint{0.5F, 0.5F}, PixelPoint{0, 0}, PixelPoint{1, 0.3F});
  const Rect box{0, 0, wide * 200, high * 200};
  const Placement placement = *on_quad(quad, 200, at);
  const LabelMap map = *map_label(box, placement, view);
  // The quad's sides stand nearly, not wholly at right angles: a label's do.
  check_near(*to_device(map, {at.x * box.right, at.y * box.bottom}, view),
             seen({quad.top_left.x + quad.across.x * at.x + quad.down.x * at.y,
                   quad.top_left.y + quad.across.y * at.x + quad.down.y * at.y,
                   quad.top_left.z + quad.across.z * at.x + quad.down.z * at.y},
                  view));
  const WorldQuad square{{-1, 1, 0}, {2, 0, 0}, {0, -1, 0}};
  const LabelMap flat = *map_label({0, 0, 200, 100}, *on_quad(square, 100, at), view);
  check_near(*to_device(flat, {0, 0}, view), seen({-1, 1, 0}, view));
  check_near(*to_device(flat, {200, 0}, view), seen({1, 1, 0}, view));
  check_near(*to_device(flat, {200, 100}, view), seen({1, 0, 0}, view));
  // Lifted it is nearer to who looks.
  const LabelMap lifted = *map_label({0, 0, 200, 100}, *on_quad(square, 100, at, 0.3F), view);
  check_near(*to_device(lifted, {0, 0}, view), seen({-1, 1, 0.3F}, view));
}

TEST_CASE("sides of a box are seen from where they look", "[place_on]") {
  Matrix4 world = translation({0.3F, 0.2F, 0});
  const WorldPoint half{0.5F, 0.4F, 0.3F};
  const auto is_seen = [&](BoxSide side, const WorldPoint& eye) {
    return is_front_seen(*on_quad(side_of_box(world, half, side), 100), view_from(eye));
  };
  CHECK(is_seen(BoxSide::front, {0, 0, 5}));
  CHECK_FALSE(is_seen(BoxSide::back, {0, 0, 5}));
  CHECK(is_seen(BoxSide::back, {0, 0, -5}));
  CHECK(is_seen(BoxSide::right, {5, 0, 1}));
  CHECK_FALSE(is_seen(BoxSide::left, {5, 0, 1}));
  CHECK(is_seen(BoxSide::left, {-5, 0, 1}));
  CHECK(is_seen(BoxSide::top, {1, 5, 2}));
  CHECK(is_seen(BoxSide::bottom, {1, -5, 2}));
  const WorldQuad right = side_of_box(world, half, BoxSide::right);
  CHECK(right.top_left.x == Approx(0.8F));
  CHECK(right.top_left.z == Approx(0.3F));  // read from outside its left is in front
  View flat = view_from({0, 0, 5});
  flat.projection = orthographic(6, 1.3F);
  CHECK(is_front_seen(*on_quad(side_of_box(world, half, BoxSide::front), 100), flat));
  CHECK_FALSE(is_front_seen(*on_quad(side_of_box(world, half, BoxSide::back), 100), flat));
}

TEST_CASE("a sign stands upright and looks at the camera", "[place_on]") {
  const WorldPoint eye = GENERATE(WorldPoint{4, 3, 2}, WorldPoint{-3, 1, -5}, WorldPoint{0, 6, 0.1F});
  const View view = view_from(eye);
  const Placement sign = upright_sign({1, 0, -1}, view, 100);
  CHECK(sign.world.m[5] == 1);  // its y axis is the world's
  CHECK(is_front_seen(sign, view));
  const float toward = sign.world.m[8] * (eye.x - 1) + sign.world.m[10] * (eye.z + 1);
  CHECK(toward == Approx(std::hypot(eye.x - 1, eye.z + 1)));
}

TEST_CASE("a label with the screen's size is as large near and far", "[place_on]") {
  TextContext context(FontStack{built_in_face()}, nullptr);
  TextScene words(context);
  Label label = words.add("Ilse Varga");
  label.set_size(24);
  const View view = view_from({0, 0, 8});
  for (const WorldPoint& at : {WorldPoint{0, 0, 4}, WorldPoint{1, -1, -6}, WorldPoint{-2, 2, -20}}) {
    const std::optional<float> unit = size_on_screen(at, view);
    REQUIRE(unit.has_value());
    Placement facing{.anchor = {0.5F, 0.5F}, .kind = PlaceKind::facing, .world = translation(at)};
    facing.world_per_pixel = *unit;
    label.set_placement(facing);
    REQUIRE(words.update(view, 0).has_value());
    CHECK(label.device_box().width() == Approx(label.box().width() * 1.5F).epsilon(0.001));
  }
  CHECK_FALSE(size_on_screen({0, 0, 20}, view).has_value());  // behind the camera
}

TEST_CASE("a label stands at another's point", "[place_on]") {
  TextContext context(FontStack{built_in_face()}, nullptr);
  const View view = view_from({0, 0, 8});
  TextScene words(context);
  Label post = words.add("Weir");
  post.set_placement({.at = {100, 60}, .scale_x = 2, .scale_y = 2});
  REQUIRE(words.update(view, 0).has_value());
  const PixelPoint corner = **point_of(post.box(), post.placement(), {1, 0}, view);
  CHECK(corner.x == Approx(post.device_box().right / 1.5F));
  CHECK(corner.y == Approx(60));
  post.set_placement({.kind = PlaceKind::facing, .world = translation({0, 0, 30})});
  CHECK_FALSE(point_of(post.box(), post.placement(), {0, 0}, view)->has_value());
  CHECK_FALSE(point_of(post.box(), {.at = {NAN, 0}}, {0, 0}, view).has_value());
}

TEST_CASE("quads without an area, and numbers that are none, are refused", "[place_on]") {
  CHECK_FALSE(on_quad({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}, 100).has_value());
  CHECK_FALSE(on_quad({{0, 0, 0}, {0, 0, 0}, {0, 1, 0}}, 100).has_value());
  CHECK_FALSE(on_quad({{NAN, 0, 0}}, 100).has_value());
  CHECK_FALSE(on_quad({}, 0).has_value());
  CHECK_FALSE(on_quad({}, INFINITY).has_value());
  CHECK_FALSE(on_quad({}, 100, {0, 0}, NAN).has_value());
}
