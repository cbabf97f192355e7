// SPDX-License-Identifier: MIT
// Letters that become one shape before they are painted, and labels that fade as one thing.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kView{.width = 300, .height = 120};
constexpr Color kBackdrop{0.44F, 0.56F, 0.69F, 1}, kNothing{0, 0, 0, 0};

const std::shared_ptr<const Atlas>& shared_atlas() {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 48);
  return atlas;
}

/// Half transparent, so that what is painted twice shows.
Look half_transparent(bool join) {
  Look look;
  look.add({.grow = 3, .join = join, .fill = Fill::solid({0.1F, 0.1F, 0.3F, 0.5F})});
  return look;
}

/// A label of tight letters, its panel if it has one, and where it stands.
struct Words {
  Words(test::Scene& scene, const Look& look, float opacity = 1) : words(scene.context) {
    label = words.add("Weir\nQuay");
    TextStyle style;
    style.size = 40, style.tracking = -5, style.leading = 34;
    REQUIRE(label.set_style(style).has_value());
    label.set_look(*scene.context.looks().set("look", look));
    label.set_opacity(opacity);
    label.set_placement({.at = {20.3F, 15.6F}, .rotate = 3});
  }
  Image in_software(const Color& backdrop, Blending blending = Blending::linear) {
    return test::in_software(words, kView, blending, backdrop);
  }
  Image in_opengl(const Color& backdrop, OpenGLFlavor flavor, Blending blending = Blending::linear) {
    return test::in_opengl(words, kView, blending, backdrop, flavor);
  }
  TextScene words;
  Label label;
};

Look rich_look() {
  Look look;
  look.add({.shift = {4, 3}, .grow = 1, .blur = 2, .join = true, .fill = Fill::solid({0, 0, 0, 0.6F})});
  look.add({.grow = 3, .fill = Fill::solid({0.1F, 0.1F, 0.3F, 1})});
  look.add({.fill = *read_fill("linear-gradient(gold, #d9514a)")});
  return look;
}

/// How far the alpha of a picture lies above what one coat gives, at most.
int darkest(const Image& image) {
  int most = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) most = std::max(most, static_cast<int>(image.value(x, y, 3)));
  }
  return most;
}

}  // namespace

TEST_CASE("letters of a joined layer do not darken each other, in any renderer", "[render][opengl][join]") {
  test::Scene scene(shared_atlas());
  Words apart(scene, half_transparent(false)), joined(scene, half_transparent(true));
  apart.label.set_look(*scene.context.looks().set("apart", half_transparent(false)));
  CHECK(darkest(apart.in_software(kNothing)) > 180);
  CHECK(darkest(joined.in_software(kNothing)) <= 129);
  CHECK(darkest(joined.in_opengl(kNothing, OpenGLFlavor::es_30)) <= 129);
  CHECK(darkest(joined.in_opengl(kNothing, OpenGLFlavor::core_33)) <= 129);
}

TEST_CASE("a joined layer is the outline of all letters at once", "[render][join][property]") {
  test::Scene scene(shared_atlas());
  Look look;
  const auto kind = GENERATE(0, 1, 2, 3);
  CAPTURE(kind);
  const Fill night = Fill::solid({0.1F, 0.1F, 0.3F, 1});
  if (kind == 0) look.add({.grow = 4, .line = 1.5F, .join = true, .fill = night});
  if (kind == 1) look.add({.shift = {5, 4}, .grow = 1, .hollow = true, .join = true, .fill = night});
  if (kind == 2) look.add({.shift = {3, 2}, .blur = 0.5F, .inset = true, .join = true, .fill = night});
  if (kind == 3) look.add({.sweep = {14, 9}, .join = true, .fill = night});
  Words words(scene, look);
  words.label.set_placement({.at = {20, 15}});
  const Image pictures = words.in_software(kBackdrop);
  Image outlines = test::filled(kView, kBackdrop);
  REQUIRE(paint(outlines, FontStack{test::dejavu()}, words.label.paragraph(), look, {20, 15}).has_value());
  CHECK(test::share_that_differs(pictures, outlines, 40) <= 0.008);
  CHECK(test::share_that_differs(outlines, test::filled(kView, kBackdrop), 8) > 0.02);
}

TEST_CASE("a label that fades is its picture, so much weaker", "[render][opengl][join][property]") {
  test::Scene scene(shared_atlas());
  const float opacity = GENERATE(0.25F, 0.6F);
  const bool has_panel = GENERATE(false, true), moves = GENERATE(false, true);
  CAPTURE(opacity, has_panel, moves);
  Words words(scene, rich_look());
  if (has_panel) {
    REQUIRE(words.label
                .set_panel(Panel{.look = *scene.context.looks().set("panel", plain_look({1, 1, 1, 0.7F})),
                                 .padding = {4, 6, 4, 6},
                                 .radii = {5, 5, 5, 5}})
                .has_value());
  }
  if (moves) words.label.set_motion(*read_motion("sway")), words.label.begin_motion(-0.4);
  const Image whole = words.in_software(kBackdrop), none = test::filled(kView, kBackdrop);
  words.label.set_opacity(opacity);
  const Image faded = words.in_software(kBackdrop);
  Image wanted = test::filled(kView, kBackdrop);
  for (int y = 0; y < whole.height(); ++y) {
    for (int x = 0; x < whole.width(); ++x) {
      for (int c = 0; c < 3; ++c) {
        const auto light = [&](const Image& of) {
          return to_linear(static_cast<float>(of.value(x, y, c)) / 255.0F);
        };
        const float mixed = light(whole) * opacity + light(none) * (1 - opacity);
        wanted.row(y)[x * 4 + c] = static_cast<std::uint8_t>(std::lround(to_srgb(mixed) * 255));
      }
    }
  }
  CHECK(test::share_that_differs(faded, wanted, 3) == 0);
  CHECK(test::share_that_differs(faded, none, 8) > 0.02);
  for (const auto blending : {Blending::linear, Blending::gamma}) {
    const Image software = words.in_software(kBackdrop, blending),
                opengl = words.in_opengl(kBackdrop, OpenGLFlavor::es_30, blending);
    INFO(test::first_difference(software, opengl, 3));
    CHECK(test::share_that_differs(software, opengl, 3) <= 0.002);
  }
}

TEST_CASE("labels fade as one thing, from the moment on that they are told to, as labels made so",
          "[render][opengl][scene][join]") {
  auto offscreen = OpenGLOffscreen::make(300, 120, OpenGLFlavor::core_33, Blending::linear);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::Scene scene(shared_atlas());
  const LookId look = *scene.context.looks().set("look", rich_look());
  const auto fill = [&](TextScene& words, const LabelGroup& group, float opacity) {
    TextStyle style;
    style.size = 40, style.tracking = -5, style.leading = 34;
    Label before = words.add("behind"), same = words.add("Weir\nQuay"), behind = words.add("before");
    REQUIRE(same.set_style(style).has_value());
    for (Label label : {before, same, behind}) label.set_look(look);
    same.set_placement({.at = {20.3F, 15.6F}, .rotate = 3});
    same.set_opacity(opacity);
    const GroupId id = words.add_group(group);
    same.set_group(id);
    before.move_to({60, 20});
    behind.move_to({90, 70});
    return std::pair(same, id);
  };
  auto [label, group] = fill(scene.words, {}, 1);
  for (const float opacity : {1.0F, 0.99F, 0.4F, 0.0F, 0.7F, 1.0F}) {
    CAPTURE(opacity);
    const bool by_group = opacity == 0.7F;
    label.set_opacity(by_group ? 1 : opacity);
    REQUIRE(scene.words.set_group(group, {.opacity = by_group ? opacity : 1}).has_value());
    TextScene fresh(scene.context);
    (void)fill(fresh, {.opacity = by_group ? opacity : 1}, by_group ? 1 : opacity);
    const Image wanted = test::in_software(fresh, kView, Blending::linear, kBackdrop),
                software = test::in_software(scene.words, kView, Blending::linear, kBackdrop);
    CHECK(test::share_that_differs(software, wanted, 0) == 0);
    offscreen->put(test::filled(kView, kBackdrop));
    REQUIRE(renderer->draw(scene.words.memory(), Blending::linear).has_value());
    const Image opengl = offscreen->read();
    INFO(test::first_difference(software, opengl, 3));
    CHECK(test::share_that_differs(software, opengl, 3) <= 0.002);
    CHECK(offscreen->complaints().empty());
    const std::span<const SceneBatch> batches = scene.words.memory().batches();
    const bool has_sheet = std::any_of(batches.begin(), batches.end(), [](const SceneBatch& b) {
      return b.target == RenderTarget::intermediate;
    });
    if (opacity > 0) CHECK(has_sheet == (opacity < 1));  // one that is not seen is left as it was
  }
}

TEST_CASE("a label whose letters stand apart fades without a intermediate target", "[set][join]") {
  test::Scene scene(shared_atlas());
  TextScene set(scene.context);
  Label label = set.add("1 2 3");
  label.set_look(*scene.context.looks().set("plain", plain_look({1, 1, 1, 1})));
  label.set_opacity(0.5F);
  REQUIRE(set.update(kView, 0).has_value());
  CHECK(set.memory().batches().size() == 1);
  CHECK(set.memory().batches()[0].target == RenderTarget::frame);
  TextStyle tight;
  tight.size = 40, tight.tracking = -14;
  REQUIRE(label.set_style(tight).has_value());
  REQUIRE(set.update(kView, 0).has_value());
  CHECK(set.memory().batches().back().is_composite);
}

TEST_CASE("a joined label leaves the game's framebuffer and its settings alone", "[render][opengl][join]") {
  auto offscreen = OpenGLOffscreen::make(300, 120, OpenGLFlavor::core_33, Blending::linear);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::Scene scene(shared_atlas());
  Words words(scene, rich_look(), 0.5F);
  REQUIRE(words.words.update(kView, 0).has_value());
  const Image before = offscreen->read();
  REQUIRE(renderer->draw(words.words.memory(), Blending::linear).has_value());
  const Image once = offscreen->read();
  CHECK(test::share_that_differs(before, once, 3) > 0.02);
  offscreen->put(before);
  REQUIRE(renderer->draw(words.words.memory(), Blending::linear).has_value());
  CHECK(test::share_that_differs(offscreen->read(), once, 0) == 0);  // nothing is left on the planes
  CHECK(offscreen->complaints().empty());
}

TEST_CASE("a joined label whose text becomes shorter is drawn as a new one", "[set][join]") {
  test::Scene scene(shared_atlas());
  const LookId look = *scene.context.looks().set("rich", rich_look());
  TextScene changed(scene.context), fresh(scene.context);
  Label number = changed.add("12057"), same = fresh.add("7");
  number.set_look(look), same.set_look(look);
  Image a = test::filled(kView, kBackdrop), b = test::filled(kView, kBackdrop);
  REQUIRE(changed.update(kView, 0).has_value());
  number.set_number(7);
  REQUIRE(changed.update(kView, 0).has_value());
  REQUIRE(fresh.update(kView, 0).has_value());
  REQUIRE(draw_in_software(changed.memory(), Blending::linear, a).has_value());
  REQUIRE(draw_in_software(fresh.memory(), Blending::linear, b).has_value());
  CHECK(test::share_that_differs(a, b, 1) == 0);
  CHECK(test::share_that_differs(a, test::filled(kView, kBackdrop), 8) > 0.001);
}

TEST_CASE("joined layers come out alike on any number of threads", "[render][join]") {
  test::Scene scene(shared_atlas());
  Look look = rich_look();
  look.layers[2].join = true, look.layers[2].surface = {.width = 3, .height = 3, .round = 1};
  Words words(scene, look, 0.8F);
  REQUIRE(words.words.update(kView, 0).has_value());
  Image alone = test::filled(kView, kBackdrop);
  REQUIRE(draw_in_software(words.words.memory(), Blending::linear, alone).has_value());
  ThreadWorkers workers(3);
  for (int round = 0; round < 5; ++round) {
    Image together = test::filled(kView, kBackdrop);
    REQUIRE(draw_in_software(words.words.memory(), Blending::linear, together, &workers).has_value());
    CHECK(test::share_that_differs(alone, together, 0) == 0);
  }
}
