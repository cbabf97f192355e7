// SPDX-License-Identifier: MIT
// Labels: what is redone and what is not, numbers, places, hits.
#include <sys/wait.h>
#include <unistd.h>

#include <catch2/catch.hpp>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstdlib>

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

const std::shared_ptr<const Atlas>& label_atlas() {
  static const auto atlas = test::atlas_of(built_in_face(), PictureKind::distance, 24);
  return atlas;
}

constexpr View kLabelView{.width = 400, .height = 300};

}  // namespace

TEST_CASE("changing one thing redoes only what depends on it", "[label]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "Marrow Hill");
  Label* const labels[] = {&label};
  test::Quads quads;
  const auto work = [&] {
    quads.emit(scene.context, labels, kLabelView);
    return std::pair(label.work().layouts, label.work().resolves);
  };
  CHECK(work() == std::pair<std::size_t, std::size_t>(1, 1));
  REQUIRE(label.set_placement({.at = {50, 60}, .rotate = 20}).has_value());
  label.set_opacity(0.4F);
  label.set_visible(true);
  label.set_look(*scene.context.looks().set("new", plain_look({1, 0, 0, 1})));
  label.set_motion(sway());
  label.set_time(3);
  label.set_text("Marrow Hill");
  CHECK(work() == std::pair<std::size_t, std::size_t>(1, 1));
  label.set_text("Marrow Mill");
  CHECK(work() == std::pair<std::size_t, std::size_t>(2, 2));
  REQUIRE(label.set_size(40).has_value());
  CHECK(work() == std::pair<std::size_t, std::size_t>(3, 3));
  scene.source->replace(label_atlas());
  CHECK(work() == std::pair<std::size_t, std::size_t>(3, 4));
  scene.context.set_fonts(FontStack{built_in_face()});
  CHECK(work() == std::pair<std::size_t, std::size_t>(4, 5));
}

TEST_CASE("numbers are written in their format", "[label]") {
  test::Scene scene(label_atlas());
  Label label(scene.context);
  const auto [value, format, expected] =
      GENERATE(table<double, NumberFormat, std::string>({{0, {}, "0"},
                                                         {7, {.digits = 3}, "007"},
                                                         {-3, {}, "-3"},
                                                         {2.5, {}, "3"},
                                                         {-2.5, {}, "-3"},
                                                         {1234567, {.group = ','}, "1,234,567"},
                                                         {123, {.group = ' '}, "123"},
                                                         {3.14159, {.decimals = 2}, "3.14"},
                                                         {0.999, {.decimals = 2, .point = ','}, "1,00"},
                                                         {5, {.plus = true}, "+5"},
                                                         {0, {.plus = true}, "0"},
                                                         {-0.2, {}, "0"},
                                                         {-1234.5, {.decimals = 1, .group = '.'}, "-1.234.5"},
                                                         {NAN, {}, "-"},
                                                         {INFINITY, {}, "-"},
                                                         {1e30, {}, "1000000000000000000"},
                                                         {12, {.digits = 4, .decimals = 3}, "0012.000"}}));
  label.set_number(value, format);
  CHECK(label.text() == expected);
}

TEST_CASE("a label of one character takes ten thousand", "[label]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "a");
  Label* const labels[] = {&label};
  test::Quads quads;
  quads.emit(scene.context, labels, kLabelView);
  std::string text;
  for (int i = 0; i < 10000; ++i) text += static_cast<char>('a' + i % 26);
  label.set_text(text);
  CHECK(quads.emit(scene.context, labels, kLabelView).quad_count == 10000);
}

TEST_CASE("a label pinned right keeps its right edge as it grows", "[label][placement]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "1");
  View view = kLabelView;
  view.safe = {10, 20, 30, 40};
  view.content_scale = GENERATE(1.0F, 2.0F);
  REQUIRE(label.set_placement(pinned({1, 0})).has_value());
  for (const char* text : {"1", "12", "123456"}) {
    label.set_text(text);
    const Rect box = label.device_box(view);
    CHECK(box.right == Approx(370));
    CHECK(box.top == Approx(20));
    CHECK(box.width() == Approx(label.box().width() * view.content_scale));
  }
}

TEST_CASE("labels are scaled, sheared, rotated and moved about their anchor",
          "[label][placement][property]") {
  const Rect box{0, 0, 100, 20};
  const Placement placement{
      .at = {200, 150}, .anchor = {0.5F, 0.5F}, .rotate = 90, .scale_x = 2, .scale_y = 3, .shear = 45};
  const LabelMap map = *map_label(box, placement, kLabelView);
  const auto at = [&](float x, float y) { return *to_device(map, {x, y}, kLabelView); };
  CHECK(at(50, 10).x == Approx(200));
  CHECK(at(50, 10).y == Approx(150));
  CHECK(at(60, 10).x == Approx(200).margin(1e-3));  // 10 right, scaled to 20, turned to point down
  CHECK(at(60, 10).y == Approx(170));
  CHECK(at(50, 0).x == Approx(230));  // 10 up, scaled to 30, leaning 30 to the right, turned
  CHECK(at(50, 0).y == Approx(180));
  for (const PixelPoint p : {PixelPoint{0, 0}, {100, 20}, {33, 7}}) {
    const auto back = from_device(map, at(p.x, p.y), kLabelView);
    REQUIRE(back.has_value());
    CHECK(back->x == Approx(p.x).margin(1e-3));
    CHECK(back->y == Approx(p.y).margin(1e-3));
  }
}

TEST_CASE("upright labels take the short way to the same map", "[placement][property]") {
  Placement placement{.at = {31.5F, 40}, .anchor = {0.25F, 1}, .scale_x = 1.5F, .scale_y = -2};
  View view = kLabelView;
  view.content_scale = 1.25F;
  const LabelMap quick = *map_label({5, 6, 105, 46}, placement, view);
  placement.rotate = 360;  // goes through the matrices
  const LabelMap slow = *map_label({5, 6, 105, 46}, placement, view);
  for (std::size_t i = 0; i < 4; ++i) {
    CHECK(quick.across[i] == Approx(slow.across[i]).margin(1e-6));
    CHECK(quick.down[i] == Approx(slow.down[i]).margin(1e-6));
    CHECK(quick.origin[i] == Approx(slow.origin[i]).margin(1e-6));
  }
}

TEST_CASE("hits follow rotation and perspective, and miss what is behind the camera", "[label][placement]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "Pale Orchard");
  REQUIRE(label.set_placement({.at = {200, 150}, .anchor = {0.5F, 0.5F}, .rotate = 90}).has_value());
  CHECK(label.hit({200, 150}, kLabelView));
  CHECK(label.hit({200, 150 + label.box().width() / 2 - 2}, kLabelView));
  CHECK_FALSE(label.hit({200 + label.box().width() / 2 - 2, 150}, kLabelView));
  label.set_visible(false);
  CHECK_FALSE(label.hit({200, 150}, kLabelView));
  label.set_visible(true);
  View view = kLabelView;
  view.projection = test::perspective(60, 4.0F / 3, 0.1F, 100);
  REQUIRE(
      label.set_placement({.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = test::moved(0, 0, -4)})
          .has_value());
  CHECK(label.hit({200, 150}, view));
  REQUIRE(
      label.set_placement({.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = test::moved(0, 0, 4)})
          .has_value());
  CHECK_FALSE(label.hit({200, 150}, view));
  CHECK(label.device_box(view).empty());
}

TEST_CASE("a label that faces the camera is as wide from every side", "[label][placement]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "Samar Ostrel");
  View view = kLabelView;
  view.projection = test::perspective(60, 4.0F / 3, 0.1F, 100);
  float width = 0;
  for (const float degrees : {0.0F, 40.0F, 130.0F}) {
    view.camera = test::multiplied(test::moved(0, 0, -5), test::turned_about_y(degrees));
    REQUIRE(label.set_placement({.anchor = {0.5F, 0.5F}, .kind = PlaceKind::facing}).has_value());
    const Rect box = label.device_box(view);
    CHECK((box.left + box.right) / 2 == Approx(200).margin(0.01));
    if (width > 0) CHECK(box.width() == Approx(width).epsilon(1e-4));
    width = box.width();
  }
}

TEST_CASE("what is not finite or out of range is refused and changes nothing", "[label]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "x");
  const Placement before = label.placement();
  Placement bad;
  for (float* number : {&bad.at.x, &bad.anchor.y, &bad.rotate, &bad.scale_x, &bad.shear, &bad.world.m[5],
                        &bad.world_per_pixel}) {
    const float kept = *number;
    for (const float v : {NAN, INFINITY}) {
      *number = v;
      CHECK_FALSE(label.set_placement(bad).has_value());
    }
    *number = kept;
  }
  CHECK_FALSE(label.move_to({NAN, 0}).has_value());
  CHECK(label.placement() == before);
  CHECK(label.move_to({3, 4}).has_value());
  CHECK(label.placement().at == PixelPoint{3, 4});
  CHECK_FALSE(label.set_size(0).has_value());
  CHECK_FALSE(label.set_size(NAN).has_value());
  CHECK_FALSE(label.set_style({.tracking = NAN}).has_value());
  CHECK(label.style().size == 32);
  label.set_opacity(NAN);
  CHECK(label.opacity() == 0);
  CHECK_FALSE(map_label({}, {}, {.width = 0}).has_value());
  CHECK_FALSE(map_label({}, {}, {.content_scale = NAN}).has_value());
}

TEST_CASE("a font of its own stays when the context's is swapped", "[label]") {
  test::Scene scene(label_atlas());
  Label label(scene.context, "WWWW");
  const float dot = label.box().width();
  label.set_fonts(std::make_shared<const FontStack>(FontStack{test::dejavu()}));
  const float sans = label.box().width();
  CHECK(sans != dot);
  scene.context.set_fonts(FontStack{test::dejavu("DejaVuSansMono.ttf")});
  CHECK(label.box().width() == sans);
}

TEST_CASE("a face or atlas that failed to load is the built-in one, with a note", "[label][built_in]") {
  Notes notes;
  const auto face = or_built_in(Face::open(FontData::copy({})), &notes);
  const auto atlas = or_built_in(bake({}), &notes);
  CHECK(face->names().family == "Quillmere Dot");
  REQUIRE(notes.all().size() == 2);
  CHECK(notes.all()[0].kind == NoteKind::built_in_face);
  CHECK(notes.all()[1].kind == NoteKind::built_in_atlas);
  CHECK(or_built_in(Face::open(built_in_font()), &notes)->glyph_count() == 131);
  CHECK(notes.all().size() == 2);
  TextContext bare({}, nullptr);
  Label label(bare, "Ninth Lantern");
  Label* const labels[] = {&label};
  test::Quads quads;
  CHECK(quads.emit(bare, labels, kLabelView, &notes).quad_count == 12);
  CHECK(notes.all().size() == 2);
  CHECK(atlas->glyphs.size() == 96);
}

#ifndef NDEBUG
namespace {

/// Whether an act ends the process that does it, a child of this one, with an assertion.
template <class Act>
bool is_asserted(Act act) {
  const pid_t child = fork();
  if (child == 0) {
    std::freopen("/dev/null", "w", stderr);
    std::signal(SIGABRT, SIG_DFL);
    act();
    std::_Exit(0);
  }
  int status = 0;
  waitpid(child, &status, 0);
  return WIFSIGNALED(status) && WTERMSIG(status) == SIGABRT;
}

}  // namespace

TEST_CASE("a label used after its context, or after it was moved from, is asserted", "[label]") {
  auto context = std::make_unique<TextContext>(FontStack{built_in_face()}, nullptr);
  Label label(*context, "a"), from(*context, "b");
  const Label to = std::move(from);
  CHECK_FALSE(is_asserted([&] { (void)label.box(); }));
  CHECK(is_asserted([&] { from.set_text("c"); }));
  CHECK(is_asserted([&] { (void)from.box(); }));
  context.reset();
  CHECK(is_asserted([&] { (void)label.box(); }));
}
#endif

TEST_CASE("coverage pictures that are drawn at another size are noted, whatever makes the size", "[label]") {
  const auto atlas = test::atlas_of(test::dejavu(), PictureKind::coverage, 24);
  test::Scene scene(atlas);
  Label label(scene.context, "Marrow");
  Label* const labels[] = {&label};
  test::Quads quads;
  const auto noted = [&](float size, float scale, bool pixelated = false) {
    REQUIRE(label.set_size(size).has_value());
    REQUIRE(label.set_placement({.at = {50, 60}, .scale_x = scale, .scale_y = scale, .pixelated = pixelated})
                .has_value());
    Notes notes;
    quads.emit(scene.context, labels, kLabelView, &notes);
    float wanted = 0;
    for (const Note& note : notes.all()) {
      if (note.kind == NoteKind::scaled_picture) wanted = note.wanted;
    }
    return wanted;
  };
  CHECK(noted(24, 1) == 0);
  CHECK(noted(36, 1) == 36);
  CHECK(noted(24, 3) == 72);  // only the placement has changed
  CHECK(noted(24, 1) == 0);
  CHECK(noted(12, 2) == 0);  // the scale makes up for the size
  CHECK(noted(24, 3, true) == 0);
}
