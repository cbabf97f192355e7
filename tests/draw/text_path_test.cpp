// SPDX-License-Identifier: MIT
// Letters on lines, arcs and contours, as quads and in sets.
#include "grafema/draw/text_path.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/files/svg_path.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kTextPathSmall{.width = 320, .height = 200};
constexpr Color kTextPathBackdrop{0, 0, 0, 1};

}  // namespace

TEST_CASE("points along paths lie where they should", "[path]") {
  const auto line = *TextPath::line({10, 20}, {40, 60});
  CHECK(line->length() == Approx(50));
  CHECK(line->at(25).x == Approx(25));
  CHECK(line->at(100).y == Approx(100));  // straight on beyond its end
  CHECK(line->at(-50).x == Approx(-20));
  const auto circle = *TextPath::arc({100, 80}, 50, -90, 270);
  CHECK(circle->closed());
  CHECK(circle->length() == Approx(2 * 3.14159265 * 50).epsilon(0.001));
  for (const float along : {0.0F, 31.0F, 200.0F, 400.0F, -70.0F}) {
    const PixelPoint p = circle->at(along);
    CHECK(std::hypot(p.x - 100, p.y - 80) == Approx(50).margin(0.06));
    const double angle = -3.14159265 / 2 + along / 50;  // clockwise from the top
    CHECK(p.x == Approx(100 + 50 * std::cos(angle)).margin(0.2));
    CHECK(p.y == Approx(80 + 50 * std::sin(angle)).margin(0.2));
  }
  const PixelPoint corners[] = {{0, 0}, {30, 0}, {30, 40}};
  CHECK((*TextPath::polyline(corners))->length() == Approx(70));
  CHECK((*TextPath::polyline(corners, true))->length() == Approx(120));
  CHECK((*TextPath::polyline(corners, true))->at(130).x == Approx(10));
}

TEST_CASE("paths of no length, and of numbers that are none, are refused", "[path]") {
  CHECK_FALSE(TextPath::line({3, 3}, {3, 3}).has_value());
  CHECK_FALSE(TextPath::line({3, NAN}, {3, 9}).has_value());
  CHECK_FALSE(TextPath::arc({0, 0}, 0, 0, 90).has_value());
  CHECK_FALSE(TextPath::arc({0, 0}, 10, 0, INFINITY).has_value());
  CHECK_FALSE(TextPath::arc({0, 0}, 10, 90, 90).has_value());
  CHECK_FALSE(TextPath::polyline({}).has_value());
  CHECK_FALSE(TextPath::contours({}, {}).has_value());
  test::WhiteContext context(FontStack{built_in_face()}, nullptr);
  TextScene words(context);
  Label label = words.add("Weir");
  CHECK_FALSE(label.set_path({.path = *TextPath::line({0, 0}, {9, 9}), .offset = NAN}).has_value());
}

TEST_CASE("text on a level line is the text itself; on a slanting one it is turned about the corner",
          "[path]") {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  test::Scene scene(atlas);
  Label label = scene.words.add("Pale Orchard");
  label.set_size(30);
  label.set_placement({.at = {20, 60}});
  const float baseline = label.paragraph().lines[0].baseline;
  const auto drawn = [&] {
    return test::in_software(scene.words, kTextPathSmall, Blending::linear, kTextPathBackdrop);
  };
  const Image straight = drawn();
  REQUIRE(label.set_path({.path = *TextPath::line({0, baseline}, {500, baseline})}).has_value());
  CHECK(test::share_that_differs(straight, drawn(), 2) == 0);
  // Turned by 20 degrees about where its first baseline begins.
  const float angle = 20 * 3.14159265F / 180;
  const PixelPoint end{500 * std::cos(angle), baseline + 500 * std::sin(angle)};
  REQUIRE(label.set_path({.path = *TextPath::line({0, baseline}, end)}).has_value());
  const Image slanting = drawn();
  REQUIRE(label.set_path({}).has_value());
  label.set_placement(
      {.at = {20, 60 + baseline}, .anchor = {0, baseline / label.box().height()}, .rotate = 20});
  CHECK(test::share_that_differs(slanting, drawn(), 6) <= 0.002);
}

TEST_CASE("on an arc letters stand on the circle, and all light is kept", "[path][render]") {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  test::Scene scene(atlas);
  Label label = scene.words.add("HHHHHHHH");
  label.set_size(20);
  label.set_placement({.at = {160, 150}});
  const auto light = [](const Image& image) {
    double sum = 0;
    for (int y = 0; y < 200; ++y) {
      for (int x = 0; x < 320; ++x) sum += to_linear(static_cast<float>(image.value(x, y, 0)) / 255);
    }
    return sum;
  };
  REQUIRE(label.set_path({.path = *TextPath::arc({0, 0}, 100, 180, 360), .align = 0.5F}).has_value());
  const Image bent = test::in_software(scene.words, kTextPathSmall, Blending::linear, kTextPathBackdrop);
  double nearest = 1e9, farthest = 0;
  for (int y = 0; y < 200; ++y) {
    for (int x = 0; x < 320; ++x) {
      if (bent.value(x, y, 0) < 200) continue;
      const double radius = std::hypot(x + 0.5 - 160, y + 0.5 - 150);
      nearest = std::min(nearest, radius), farthest = std::max(farthest, radius);
    }
  }
  CHECK(nearest == Approx(100).margin(1.2));                // feet on the circle
  CHECK(farthest == Approx(100 + 20 * 0.729).margin(1.2));  // capitals are 0.729 em high
  REQUIRE(label.set_path({}).has_value());
  label.set_placement({.at = {60, 80}});
  CHECK(light(bent) ==
        Approx(light(test::in_software(scene.words, kTextPathSmall, Blending::linear, kTextPathBackdrop)))
            .epsilon(0.02));
}

TEST_CASE("letters on paths agree in both renderers, still and moving", "[path][scene][render][opengl]") {
  const bool moves = GENERATE(false, true);
  const bool upright = GENERATE(false, true);
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  test::Scene scene(atlas);
  const OnPath on{
      .path = *TextPath::arc({100, 110}, 80, 180, 360), .align = 0.5F, .offset = 3, .upright = upright};
  RichText text;
  SpanStyle line;
  line.underline = true;
  text.append("Marrow ").append("Hill", line);
  Label label = scene.words.add();
  label.set_rich(text);
  REQUIRE(label.set_path(on).has_value());
  label.set_placement({.at = {50, 40}, .rotate = 5});
  if (moves) label.set_motion(sway(0.2F));
  for (const double seconds : {0.0, 0.6}) {
    const Image software =
        test::in_software(scene.words, kTextPathSmall, Blending::linear, kTextPathBackdrop, seconds);
    CHECK(test::share_that_differs(software, test::filled(kTextPathSmall, kTextPathBackdrop), 8) > 0.01);
    const Image opengl = test::in_opengl(scene.words, kTextPathSmall, Blending::linear, kTextPathBackdrop,
                                         OpenGLFlavor::core_33, seconds);
    INFO(test::first_difference(software, opengl, 3));
    CHECK(test::share_that_differs(software, opengl, 3) <= 0.001);
  }
  // What lies far outside by its path alone is seen to be outside, and back.
  REQUIRE(label.set_path({.path = *TextPath::line({2000, 0}, {3000, 0})}).has_value());
  label.set_motion({});
  REQUIRE(scene.words.update(kTextPathSmall, 1).has_value());
  CHECK_FALSE(label.seen());
  REQUIRE(label.set_path(on).has_value());
  REQUIRE(scene.words.update(kTextPathSmall, 1).has_value());
  CHECK(label.seen());
}

TEST_CASE("path data of SVG is read, all commands of it", "[path][svg]") {
  const auto read = [](const char* data) {
    const Result<Contours> contours = read_svg_path(data);
    REQUIRE(contours.has_value());
    return *TextPath::contours(*contours, {});
  };
  CHECK(read("M0 0h30v40H0z")->length() == Approx(140));
  CHECK(read("M0,0 L30,0 l0 40")->length() == Approx(70));
  CHECK(read("m10 10 20 0 0 20")->length() == Approx(40));  // moveto goes on as lineto
  CHECK(read("M-1.5.5-1.5 10.5")->length() == Approx(10));  // numbers without spaces
  CHECK(read("M0 0A50 50 0 0 1 100 0")->length() == Approx(3.14159265 * 50).epsilon(0.001));
  CHECK(read("M0 0a50 50 0 01100 0")->at(3.14159265F * 25).y == Approx(-50).margin(0.1));  // over the top
  CHECK(read("M0 0a50 50 0 11 100 0")->length() == Approx(3.14159265 * 50).epsilon(0.001));
  CHECK(read("M0 0a10 10 0 0 0 100 0")->at(78.5F).y == Approx(50).margin(0.2));  // radii grow to fit
  CHECK(read("M0 0Q50 100 100 0T200 0")->at(1e9F).x > 200);
  const auto smooth = read("M0 0C0 50 50 50 50 0S100-50 100 0"),
             written = read("M0 0C0 50 50 50 50 0C50-50 100-50 100 0");
  CHECK(smooth->length() == Approx(written->length()));
  for (const char* wrong :
       {"", "L3 3", "M", "M3", "M0 0X", "M0 0L1e9 3", "M0 0A5 5 0 2 0 3 3", "M0 0 q 1 2 3", "M0 0L-"}) {
    CAPTURE(wrong);
    const Result<Contours> contours = read_svg_path(wrong);
    CHECK((!contours.has_value() || !TextPath::contours(*contours, {}).has_value()));
  }
}

TEST_CASE("a path of an SVG file is found by its id", "[path][svg]") {
  const test::Folder folder;
  const std::string file = folder.path("way.svg");
  REQUIRE(save_text(file, R"(<svg xmlns="http://www.w3.org/2000/svg"><g><path id="hill" d="M0 0L30 40"/></g>
    <path id="weir" d="M0 0h9"/><path id="bad" d="M0 0Z9"/></svg>)")
              .has_value());
  CHECK((*TextPath::contours(*load_svg_path(file + "#weir"), {}))->length() == Approx(9));
  CHECK((*TextPath::contours(*load_svg_path(file), {}))->length() == Approx(50));
  CHECK_THAT(describe(load_svg_path(file + "#wier").error()), Catch::Contains("did you mean 'weir'"));
  CHECK_FALSE(load_svg_path(file + "#bad").has_value());
  REQUIRE(save_text(file, "<svg><path").has_value());
  CHECK_THAT(describe(load_svg_path(file).error()), Catch::Contains("way.svg"));
}
