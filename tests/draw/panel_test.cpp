// SPDX-License-Identifier: MIT
// Panels: their outlines, and that both renderers paint what these say.
#include "grafema/draw/panel.hpp"

#include <array>
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kSmall{.width = 320, .height = 200};
constexpr Color kPanelBackdrop{0.44F, 0.56F, 0.69F, 1};

Look bordered() {
  Look look;
  look.add({.shift = {3, 4}, .grow = 1, .blur = 3, .fill = Fill::solid({0, 0, 0, 0.6F})});
  look.add({.fill = *read_fill("linear-gradient(100deg, #fff8ea, #e8c48a)")});
  look.add({.line = 2, .fill = Fill::solid({0.2F, 0.1F, 0.05F, 1})});
  return look;
}

/// Four corners of a color each, a border of stripes and a gray middle: 20 x 16 pixels.
std::shared_ptr<const FillImage> frame() {
  Image image = *Image::make(20, 16, PixelFormat::rgb8);
  for (int y = 0; y < 16; ++y) {
    for (int x = 0; x < 20; ++x) {
      const bool left = x < 4, right = x >= 15, top = y < 3, bottom = y >= 14;
      std::uint8_t* p = image.row(y) + x * 3;
      const bool is_corner = (left || right) && (top || bottom),
                 is_middle = !left && !right && !top && !bottom;
      p[0] = is_middle ? 128 : is_corner ? 250 : static_cast<std::uint8_t>(x % 2 * 200);
      p[1] = is_middle ? 128 : right ? 200 : 20;
      p[2] = is_middle ? 128 : bottom ? 200 : 20;
    }
  }
  return *FillImage::make(image);
}

Look framed(float scale) {
  static const auto image = frame();
  Look look;
  look.add({.fill = Fill::of_image(image)});
  look.layers[0].fill.slices = {3, 5, 2, 4};
  look.layers[0].fill.scale = {scale, scale};
  return look;
}

Panel bubble() {
  Panel panel;
  panel.padding = {8, 12, 10, 14}, panel.radii = {12, 4, 20, 0};
  panel.points_to = PixelPoint{40, 90}, panel.pointer_width = 18;
  return panel;
}

/// The area within an outline, by counting points.
double area_of(const PanelShape& shape) {
  double area = 0;
  for (int y = -400; y < 800; ++y) {
    for (int x = -400; x < 1200; ++x) {
      area += distance_to(shape, {static_cast<float>(x) / 4 + 0.1F, static_cast<float>(y) / 4 + 0.1F}) > 0
                  ? 1
                  : 0;
    }
  }
  return area / 16;
}

}  // namespace

TEST_CASE("a panel lies around its label, whole pixels wide", "[panel]") {
  Panel panel;
  panel.padding = {2, 3, 4, 5};
  PanelShape shape = panel_shape(panel, {0, 0, 50.3F, 20});
  CHECK(shape.box.width() == 59);
  CHECK(shape.box.height() == 26);
  CHECK(shape.box.left == Approx(-5.35F));
  panel.box = Rect{10, 10, 40, 30};
  CHECK(panel_shape(panel, {0, 0, 50, 20}).box == Rect{5, 8, 43, 34});
  panel.padding = {-50, -50, -50, -50};
  shape = panel_shape(panel, {});
  CHECK(shape.box.empty());
  CHECK(std::isfinite(distance_to(shape, {3, 3})));
}

TEST_CASE("corners are as round as they are told to be, and fit their sides", "[panel][property]") {
  Panel panel;
  panel.radii = {10, 20, 5, 0};
  const PanelShape shape = panel_shape(panel, {0, 0, 100, 60});
  const double corners = (1 - 3.14159265 / 4) * (100 + 400 + 25);
  CHECK(area_of(shape) == Approx(6000 - corners).margin(6));
  panel.radii = {90, 90, 90, 90};  // more than there is: a circle's ends
  const PanelShape round = panel_shape(panel, {0, 0, 100, 60});
  CHECK(round.radii[0] == Approx(30));
  CHECK(area_of(round) == Approx(40 * 60 + 3.14159265 * 900).margin(6));
}

TEST_CASE("a pointer ends where it points to, and is as wide as said where it leaves", "[panel][property]") {
  Panel panel;
  panel.radii = {6, 6, 6, 6};
  panel.pointer_width = 14;
  const PixelPoint to =
      GENERATE(PixelPoint{50, 120}, PixelPoint{-40, 30}, PixelPoint{130, 10}, PixelPoint{20, -50});
  panel.points_to = to;
  const PanelShape shape = panel_shape(panel, {0, 0, 100, 60});
  REQUIRE(shape.has_pointer);
  CHECK(shape.pointer[0] == to);
  // A triangle more than the box: half of width times height, the base as wide as said.
  const bool is_side = to.x < 0 || to.x > 100;
  const float height = is_side ? std::max(-to.x, to.x - 100) : std::max(-to.y, to.y - 60);
  panel.points_to.reset();
  const double plain = area_of(panel_shape(panel, {0, 0, 100, 60}));
  CHECK(area_of(shape) - plain == Approx(14 * height / 2).margin(8));
  panel.points_to = to, panel.pointer_length = 5;
  const PanelShape shorter = panel_shape(panel, {0, 0, 100, 60});
  CHECK(area_of(shorter) < area_of(shape));
  panel.points_to = PixelPoint{50, 30};
  CHECK_FALSE(panel_shape(panel, {0, 0, 100, 60}).has_pointer);  // it is within
}

TEST_CASE("panels of numbers that are none are refused", "[panel]") {
  test::WhiteContext context(FontStack{built_in_face()}, nullptr);
  TextScene words(context);
  Label label = words.add("Weir");
  Panel panel;
  panel.radii[2] = -1;
  CHECK_FALSE(label.set_panel(panel).has_value());
  panel.radii[2] = 0, panel.padding[0] = NAN;
  CHECK_FALSE(label.set_panel(panel).has_value());
  panel.padding[0] = 0, panel.points_to = PixelPoint{INFINITY, 0};
  CHECK_FALSE(label.set_panel(panel).has_value());
  panel.points_to.reset(), panel.look = LookId{77};  // a look that is not there: no panel
  CHECK(label.set_panel(panel).has_value());
  CHECK(words.update(kSmall, 0).has_value());
}

TEST_CASE("a panel is painted as its outline says, under all letters", "[panel][render]") {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  test::Scene scene(atlas);
  Panel panel = bubble();
  panel.look = *scene.context.looks().set("box", bordered());
  Label label = scene.words.add("Pale Orchard");
  label.set_size(24);
  label.set_look(*scene.context.looks().set("none", plain_look({0, 0, 0, 0})));  // the panel alone
  REQUIRE(label.set_panel(panel).has_value());
  label.set_placement({.at = {60.5F, 40}});
  const Image drawn = test::in_software(scene.words, kSmall, Blending::linear, kPanelBackdrop);
  Image expected = test::filled(kSmall, kPanelBackdrop);
  const PanelShape shape = panel_shape(panel, label.box());
  const Look look = bordered();
  const Rect filled = shape.box.moved({60.5F, 40});
  for (std::size_t l = 0; l < look.count; ++l) {
    std::vector<float> strengths;
    for (int y = 0; y < 200; ++y) {
      for (int x = 0; x < 320; ++x) {
        const PixelPoint p{static_cast<float>(x) + 0.5F - 60.5F, static_cast<float>(y) + 0.5F - 40};
        const PixelPoint shift = look.layers[l].shift;
        strengths.push_back(
            layer_strength(look.layers[l], distance_to(shape, {p.x - shift.x, p.y - shift.y}), 0));
      }
    }
    blend(expected, {0, 0, 320, 200}, strengths, look.layers[l].fill, filled);
  }
  INFO(test::first_difference(drawn, expected, 3));
  CHECK(test::share_that_differs(drawn, expected, 3) <= 0.001);
  label.set_look(*scene.context.looks().set("ink", plain_look({0, 0, 0, 1})));
  const Image with_words = test::in_software(scene.words, kSmall, Blending::linear, kPanelBackdrop);
  CHECK(test::share_that_differs(drawn, with_words, 60) > 0.01);  // dark letters on the light box
}

TEST_CASE("panels agree in both renderers", "[panel][render][opengl][scene]") {
  const bool is_sliced = GENERATE(false, true);
  const float rotate = GENERATE(0.0F, 17.0F);
  const float scale = GENERATE(0.3F, 1.0F, 2.4F);
  const auto flavor = rotate == 0 ? OpenGLFlavor::core_33 : OpenGLFlavor::es_30;
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  test::Scene scene(atlas);
  Panel panel = bubble();
  panel.look = *scene.context.looks().set("box", is_sliced ? framed(2) : bordered());
  if (is_sliced) panel.radii = {}, panel.points_to.reset();
  Label label = scene.words.add("Next tram: 3");
  REQUIRE(label.set_panel(panel).has_value());
  label.set_placement({.at = {70, 60}, .rotate = rotate, .scale_x = scale, .scale_y = scale});
  const Image software = test::in_software(scene.words, kSmall, Blending::linear, kPanelBackdrop);
  const Image opengl = test::in_opengl(scene.words, kSmall, Blending::linear, kPanelBackdrop, flavor);
  INFO(test::first_difference(software, opengl, 3));
  CHECK(test::share_that_differs(software, opengl, 3) <= 0.001);
  CHECK(test::share_that_differs(software, test::filled(kSmall, kPanelBackdrop), 8) > 0.01);
}

TEST_CASE("a panel grows with its number", "[panel][set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Panel panel;
  panel.padding = {4, 4, 4, 4};
  panel.look = *context.looks().set("box", plain_look({0, 0, 0, 1}));
  TextScene set(context);
  Label badge = set.add();
  badge.set_look(*context.looks().set("none", plain_look({0, 0, 0, 0})));
  REQUIRE(badge.set_panel(panel).has_value());
  badge.set_placement({.at = {20, 20}});
  std::array<int, 2> dark = {};
  for (std::size_t i = 0; i < 2; ++i) {
    badge.set_number(i == 0 ? 7 : 70125);
    REQUIRE(set.update(kSmall, 0).has_value());
    Image image = test::filled(kSmall, kPanelBackdrop);
    REQUIRE(draw_in_software(set.memory(), Blending::linear, image).has_value());
    for (int x = 0; x < 320; ++x) dark[i] += image.value(x, 30, 0) < 20 ? 1 : 0;
  }
  // Five digits of one width; whole pixels, of which the outermost two may be covered in part.
  CHECK(std::abs(static_cast<float>(dark[0]) - (badge.box().width() / 5 + 8)) <= 1);
  CHECK(std::abs(static_cast<float>(dark[1]) - (badge.box().width() + 8)) <= 1);
}

TEST_CASE("corners of a sliced image keep their shape, whatever the panel's size", "[panel][property]") {
  const Rect box = GENERATE(Rect{40, 30, 140, 90}, Rect{10, 10, 310, 190}, Rect{40, 30, 58, 40});
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  Label label = words.add("");
  Panel panel;
  panel.look = *context.looks().set("box", framed(3)), panel.box = box;
  REQUIRE(label.set_panel(panel).has_value());
  const Image image = test::in_software(words, kSmall, Blending::linear, kPanelBackdrop);
  // A border of 9, 15, 6 and 12 pixels; all of it is smaller where the box is.
  const float by = std::min({1.0F, box.width() / 27, box.height() / 15});
  const auto at = [&](float x, float y, int channel) {
    return static_cast<int>(image.value(static_cast<int>(x), static_cast<int>(y), channel));
  };
  for (const float part : {0.25F, 0.7F}) {
    const float top = box.top + 9 * std::min(by, box.height() / 15) * part,
                left = box.left + 12 * std::min(1.0F, box.width() / 27) * part;
    CHECK(at(left, top, 0) > 200);
    CHECK(at(left, top, 1) < 60);
    CHECK(at(box.right - 2, top, 1) > 150);
    CHECK(at(left, box.bottom - 2, 2) > 150);
  }
  if (by < 1) return;
  CHECK(at((box.left + box.right) / 2, (box.top + box.bottom) / 2, 0) == Approx(128).margin(2));
  // A stripe of the upper border is stretched: four of eleven pixels lie before a third of the way.
  CHECK(at(box.left + 12 + (box.width() - 27) * 1.5F / 11, box.top + 4, 0) > 180);
  CHECK(at(box.left + 12 + (box.width() - 27) * 2.5F / 11, box.top + 4, 0) < 40);
}

TEST_CASE("a bubble that points elsewhere in each frame takes no more room", "[panel][set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Panel panel = bubble();
  panel.look = *context.looks().set("box", bordered());
  TextScene set(context);
  Label first = set.add("Weir"), second = set.add("Weir");
  for (Label label : {first, second}) REQUIRE(label.set_panel(panel).has_value());
  second.set_placement({.at = {160, 100}});
  REQUIRE(set.update(kSmall, 0).has_value());
  const std::size_t before = set.memory().layers().size();
  for (int frame = 0; frame < 300; ++frame) {
    panel.points_to = PixelPoint{40 + static_cast<float>(frame), 90};
    REQUIRE(first.set_panel(panel).has_value());
    REQUIRE(set.update(kSmall, frame / 60.0).has_value());
  }
  CHECK(set.memory().layers().size() == before);
  Image lived = test::filled(kSmall, kPanelBackdrop), wanted = test::filled(kSmall, kPanelBackdrop);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, lived).has_value());
  TextScene fresh(context);
  Label same = fresh.add("Weir"), other = fresh.add("Weir");
  REQUIRE(same.set_panel(panel).has_value());
  Panel still = bubble();
  still.look = panel.look;
  REQUIRE(other.set_panel(still).has_value());
  other.set_placement({.at = {160, 100}});
  REQUIRE(fresh.update(kSmall, 0).has_value());
  REQUIRE(draw_in_software(fresh.memory(), Blending::linear, wanted).has_value());
  CHECK(test::share_that_differs(lived, wanted, 0) == 0);
}

TEST_CASE("a label that keeps inside keeps its panel inside too, where it is drawn and where it is hit",
          "[panel][set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Panel panel;
  panel.look = *context.looks().set("box", plain_look({0, 0, 0, 1}));
  panel.padding = {10, 14, 10, 14};
  const Placement corner{.at = {310, 195}, .keep_inside = true};
  TextScene words(context);
  Label label = words.add("Weir");
  REQUIRE(label.set_panel(panel).has_value());
  label.set_placement(corner);
  const Image image = test::in_software(words, kSmall, Blending::linear, kPanelBackdrop);
  CHECK(image.value(319, 199, 0) < 20);  // the panel ends where the screen does
  CHECK(image.value(318, 180, 0) < 20);
  const Rect box = label.device_box();
  CHECK(box.right == Approx(320).margin(1));
  CHECK(box.bottom == Approx(200).margin(1));
  CHECK(label.hit({box.right - 2, box.bottom - 2}));
  CHECK(label.hit({box.left + 2, box.top + 2}));
  CHECK_FALSE(label.hit({box.left - 2, box.top + 2}));
}
