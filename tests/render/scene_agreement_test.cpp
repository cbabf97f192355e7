// SPDX-License-Identifier: MIT
// Sets of labels: OpenGL paints what software paints, whatever changed since the last frame.
#include <catch2/catch.hpp>

#include "grafema/atlas/bake.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kSetAgreementSmall{.width = 320, .height = 200};
constexpr Color kSetAgreementBackdrop{0.44F, 0.56F, 0.69F, 1};

/// One device that draws a set frame by frame.
struct Device {
  OpenGLOffscreen offscreen;
  OpenGLRenderer renderer;
  Blending blending;

  explicit Device(OpenGLFlavor flavor, Blending wanted = Blending::linear)
      : offscreen(*OpenGLOffscreen::make(320, 200, flavor, wanted)),
        renderer(*OpenGLRenderer::make()),
        blending(wanted) {}

  /// Updates, draws in both ways and compares.
  void check(TextScene& set, double seconds, const View& view = kSetAgreementSmall) {
    REQUIRE(set.update(view, seconds).has_value());
    Image software = test::filled(view, kSetAgreementBackdrop);
    REQUIRE(draw_in_software(set.memory(), blending, software).has_value());
    offscreen.put(test::filled(view, kSetAgreementBackdrop));
    REQUIRE(renderer.draw(set.memory(), blending).has_value());
    const Image opengl = offscreen.read();
    INFO(test::first_difference(software, opengl, 3));
    CHECK(test::share_that_differs(software, opengl, 3) <= 0.001);
    CHECK(test::share_that_differs(software, test::filled(view, kSetAgreementBackdrop), 8) >
          0.005);  // agreeing on nothing proves nothing
    INFO((offscreen.complaints().empty() ? "" : offscreen.complaints()[0]));
    CHECK(offscreen.complaints().empty());
  }
};

Look outlined() {
  Look look;
  look.add({.shift = {2, 3}, .grow = 1, .blur = 2.5F, .fill = Fill::solid({0, 0, 0, 0.6F})});
  look.add({.shift = {1, 1}, .grow = 2, .hollow = true, .fill = Fill::solid({0.1F, 0.1F, 0.3F, 1})});
  look.add({.fill = {{Color{1, 0, 0, 1}, {1, 1, 0, 1}, {0, 1, 0, 0.5F}, {0, 0, 1, 1}}}});
  return look;
}

}  // namespace

TEST_CASE("a set agrees while texts, looks, order and places change", "[render][opengl][set]") {
  const auto flavor = GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30);
  const auto blending = flavor == OpenGLFlavor::es_30 ? Blending::gamma : Blending::linear;
  Device device(flavor, blending);
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  const LookId look = *context.looks().set("outlined", outlined());
  TextScene set(context);
  Label name = set.add("Saltglass"), sign = set.add("Pale Orchard"), number = set.add("12");
  name.set_look(look);
  name.set_placement({.at = {40, 20}, .rotate = 8});
  sign.set_placement({.at = {160, 110}, .anchor = {0.5F, 0.5F}});
  number.set_size(60);
  number.move_to({20, 120});
  device.check(set, 0);
  number.set_number(1205.25, {.decimals = 2, .group = ','});
  device.check(set, 0.1);
  name.set_text("Foxglove Cross, all change");  // it outgrows its room
  sign.set_look(look);
  sign.set_order(-1);
  device.check(set, 0.2);
  REQUIRE(context.looks().set(look, plain_look({1, 0.5F, 0, 1})).has_value());  // fewer layers
  name.set_tint({0.5F, 1, 0.5F, 0.8F});
  device.check(set, 0.3);
  number.remove();
  for (int i = 0; i < 20; ++i) {
    Label more = set.add("tram " + std::to_string(i));
    more.move_to({static_cast<float>(i % 4) * 80, static_cast<float>(i / 4) * 40});
    more.set_opacity(0.3F + static_cast<float>(i) / 40);
  }
  device.check(set, 0.4);
}

TEST_CASE("letters on their side agree in a set, still and moving, and look as in a label",
          "[render][opengl][set]") {
  Device device(GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30));
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  const LookId look = *context.looks().set("outlined", outlined());
  TextStyle style{.size = 34, .writing = WritingMode::vertical_rl};
  TextScene set(context);
  Label still = set.add("Weir 12"), moving = set.add("Marrow");
  for (Label* label : {&still, &moving}) {
    REQUIRE(label->set_style(style).has_value());
    label->set_look(look);
  }
  still.move_to({30, 10});
  moving.move_to({180, 10});
  moving.set_motion(sway(0.1F, 2));
  device.check(set, 0);
  device.check(set, 0.4);
  // The still one, drawn by itself.
  moving.set_visible(false);
  REQUIRE(set.update(kSetAgreementSmall, 0.5).has_value());
  Image by_set = test::filled(kSetAgreementSmall, kSetAgreementBackdrop);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, by_set).has_value());
  TextScene words(context);
  Label alone = words.add("Weir 12");
  REQUIRE(alone.set_style(style).has_value());
  alone.set_look(look);
  alone.set_placement({.at = {30, 10}});
  const Image by_label =
      test::in_software(words, kSetAgreementSmall, Blending::linear, kSetAgreementBackdrop);
  INFO(test::first_difference(by_set, by_label, 3));
  CHECK(test::share_that_differs(by_set, by_label, 3) <= 0.001);
}

TEST_CASE("every term of a motion agrees, about every pivot", "[render][opengl][set][motion]") {
  const int easing = GENERATE(range(0, 13));
  const auto pivot = static_cast<MotionPivot>(easing % 4);
  Device device(easing % 2 == 0 ? OpenGLFlavor::core_33 : OpenGLFlavor::es_30);
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Look look = plain_look({1, 0.9F, 0.6F, 1});
  look.layers[1] = look.layers[0], look.layers[0] = {.shift = {3, 3}, .fill = Fill::solid({0, 0, 0, 0.5F})};
  look.count = 2;
  TextScene set(context);
  for (int kind = 0; kind <= static_cast<int>(MotionKind::opacity); ++kind) {
    MotionTerm term;
    term.kind = static_cast<MotionKind>(kind);
    term.easing = static_cast<MotionEasing>(easing);
    term.pivot = pivot;
    const bool is_angle = term.kind == MotionKind::rotate || term.kind == MotionKind::shear;
    term.amplitude = kind <= 1 ? 0.3F : is_angle ? 35.0F : 0.6F;
    term.period = 1.3F, term.phase = 0.11F, term.lead = 0.2F, term.start = 0.1F, term.seed = 7;
    term.color = {0.9F, 0.2F, 0.3F, 0.9F};
    term.whole = kind % 3 == 1, term.waits = kind % 2 == 1;
    Label label = set.add("Weir");
    label.set_look(*context.looks().set("shadowed", look));
    label.set_size(36);
    label.set_placement(
        {.at = {static_cast<float>(kind % 3) * 104 + 10, static_cast<float>(kind / 3) * 64 + 8},
         .rotate = 5});
    label.set_motion(*make_motion({term}));
    label.begin_motion(-0.05);
  }
  for (const double seconds : {0.0, 0.4, 0.9, 1.6}) device.check(set, seconds);
}

TEST_CASE("spans, icons, lines under letters and functions of the game agree in a set",
          "[render][opengl][set]") {
  Device device(OpenGLFlavor::core_33);
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  REQUIRE(context.looks().set("outlined", outlined()).has_value());
  SpanStyle bold, line, shaking;
  bold.font.weight = 700, bold.look = "outlined";
  line.underline = true;
  shaking.motion = "rattle", shaking.font.slant = Slant::italic;
  RichText text;
  text.append("Mind ").append("the", bold).append(" gap ", shaking).append("Weir", line);
  TextScene set(context);
  Label rich = set.add();
  rich.set_rich(text);
  rich.set_placement({.at = {12, 30}, .rotate = -3});
  Label moved = set.add("by hand");
  moved.set_motion([](const MotionInput& in, GlyphChange& out) {
    out.rotate = static_cast<float>(in.index) * 10 + static_cast<float>(in.seconds) * 90;
    out.offset.y = static_cast<float>(in.index % 2) * 8;
    out.tint = {1, 1, 0, 1};
  });
  moved.set_placement({.at = {40, 120}});
  for (const double seconds : {0.0, 0.5}) device.check(set, seconds);
  rich.set_revealed(9);
  device.check(set, 0.7);
}

TEST_CASE("labels are cut off at clips: the device's, a panel's and their own",
          "[render][opengl][set][clip]") {
  const auto flavor = GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30);
  Device device(flavor);
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  const LookId look = *context.looks().set("outlined", outlined());
  TextScene set(context);
  const ClipId screen = *set.add_clip({.box = {20, 20, 120.5F, 60}});
  LabelClip tilted{.box = {0, 0, 120, 50}, .space = LabelClip::Space::panel};
  tilted.placement = {.at = {240, 60}, .anchor = {0.5F, 0.5F}, .rotate = 25};
  const ClipId panel = *set.add_clip(tilted);
  const ClipId own = *set.add_clip({.box = {10, 5, 90, 30}, .space = LabelClip::Space::label});
  LabelClip far{.box = {0, 0, 150, 40}, .space = LabelClip::Space::panel};
  far.placement = {.anchor = {0.5F, 0.5F},
                   .kind = PlaceKind::world,
                   .world = test::multiplied(test::moved(0, -0.6F, -3), test::turned_about_y(40))};
  const ClipId world = *set.add_clip(far);
  View view = kSetAgreementSmall;
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  const auto add = [&](const char* text, ClipId clip, const Placement& placement) {
    Label label = set.add(text);
    label.set_look(look);
    label.set_clip(clip);
    label.set_placement(placement);
    return label;
  };
  Label scrolled = add("Saltglass ferry", screen, {.at = {10, 30}});
  add("Pale Orchard", panel, {.at = {170, 40}, .rotate = 10});
  add("Foxglove Cross", own, {.at = {20, 120}, .rotate = -6});
  Placement sign = far.placement;
  sign.anchor = {0.3F, 0.4F};
  add("Marrow Hill Weir", world, sign);
  device.check(set, 0, view);
  CHECK(set.memory().batches().size() == 1);  // still one call
  scrolled.move_to({-40, 40});
  device.check(set, 0, view);
  // Nothing of the first is outside its box.
  for (const Label& label : {scrolled}) CHECK(label.seen());
  scrolled.move_to({10, 90});
  device.check(set, 0, view);
  CHECK_FALSE(scrolled.seen());
}

TEST_CASE("a live cache whose pages grow and are forgotten agrees", "[render][opengl][set]") {
  GlyphCacheOptions options;
  options.first_page = {64, 64}, options.largest_page = {128, 128};
  options.budget = 128 * 128 * 4 * 3;
  options.frame_time = std::chrono::hours(1);
  std::shared_ptr<GlyphCache> cache = *GlyphCache::make(options);
  REQUIRE(cache->add(FontStack{test::dejavu()}).has_value());
  test::WhiteContext context(FontStack{test::dejavu()}, cache);
  Device device(OpenGLFlavor::core_33);
  TextScene set(context);
  Label a = set.add(), b = set.add();
  b.move_to({10, 100});
  for (int frame = 0; frame < 40; ++frame) {
    std::string text, other;
    for (int i = 0; i < 8; ++i) text += static_cast<char>('!' + (frame * 8 + i) % 90);
    for (int i = 0; i < 3; ++i) other += static_cast<char>('A' + (frame + i) % 26);
    a.set_text(text), b.set_text(other);
    cache->begin_frame();
    if (frame % 5 == 4)
      device.check(set, frame);
    else
      REQUIRE(set.update(kSetAgreementSmall, frame).has_value());
  }
  CHECK(cache->work().forgotten > 0);
}

TEST_CASE("a set of several contexts draws each by its own fonts and pages", "[render][opengl][set]") {
  Device device(OpenGLFlavor::es_30);
  test::WhiteContext sans(FontStack{test::dejavu()}, nullptr),
      dots(FontStack{built_in_face()},
           std::make_shared<AtlasSource>(test::atlas_of(built_in_face(), PictureKind::coverage, 24)));
  TextScene set(sans);
  Label b = set.add(dots, "Saltglass"), c = set.add("over it");
  (void)set.add("Saltglass");
  b.set_size(24);
  b.move_to({30, 20});
  c.move_to({60, 30});
  device.check(set, 0);
  const SceneWork before = set.work();
  dots.set_fonts(FontStack{built_in_face()});  // the other's labels are left alone
  device.check(set, 0);
  CHECK(set.work().contents == before.contents + 1);
}

TEST_CASE("more pages than a texture array has layers are drawn, in order", "[render][opengl][set]") {
  AtlasRecipe recipe;
  recipe.faces = {test::dejavu()}, recipe.kind = PictureKind::distance, recipe.size = 34, recipe.reach = 6;
  recipe.max_page = {60, 60}, recipe.closure = false;
  for (char32_t c = 0x21; c < 0x7F; ++c) recipe.characters.push_back(c);
  for (char32_t c = 0xA1; c < 0x180; ++c) recipe.characters.push_back(c);
  for (char32_t c = 0x391; c < 0x3CA; ++c) recipe.characters.push_back(c);
  for (char32_t c = 0x400; c < 0x460; ++c) recipe.characters.push_back(c);
  Result<Atlas> baked = bake(recipe);
  REQUIRE(baked.has_value());
  const auto atlas = std::make_shared<const Atlas>(*std::move(baked));
  REQUIRE(atlas->pages.size() > kMaxArrayLayers);
  const auto source = std::make_shared<AtlasSource>(atlas);
  std::uint8_t parts = 0;
  for (const PageInfo& page : source->pages()) {
    CHECK(page.array_layer < kMaxArrayLayers);
    parts = std::max(parts, page.part);
  }
  CHECK(parts == 1);
  test::WhiteContext context(FontStack{test::dejavu()}, source);
  TextScene set(context);
  const char* const texts[] = {"ABC \u0416\u0429\u04B6", "\u0428\u0404 xyz", "Weir \u0431"};
  float y = 10;
  for (const char* text : texts) {
    Label label = set.add(text);
    label.set_size(36);
    label.move_to({12, y += 30});  // they overlap
  }
  Device device(OpenGLFlavor::core_33);
  device.check(set, 0);
}

TEST_CASE("after a lost device a set is sent again as a whole", "[render][opengl][set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene set(context);
  Label label = set.add("Saltglass");
  label.move_to({20, 30});
  std::uint64_t sent = 0;
  for (int life = 0; life < 3; ++life) {
    Device device(life == 1 ? OpenGLFlavor::es_30 : OpenGLFlavor::core_33);
    device.check(set, life);
    if (life > 0) CHECK(device.renderer.work().stream_bytes == sent);
    sent = device.renderer.work().stream_bytes;
    if (life == 0) device.renderer.abandon();  // else it frees what it has while its context is there
  }
}
