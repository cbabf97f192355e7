// SPDX-License-Identifier: MIT
// What scenes draw: glyphs layer by layer, records, pixels, notes.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/atlas/bake.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/draw/paint.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kView{.width = 400, .height = 300};

const std::shared_ptr<const Atlas>& dot_atlas() {
  static const auto atlas = test::atlas_of(built_in_face(), PictureKind::distance, 24);
  return atlas;
}

Look three_layers() {
  Look look;
  look.add({.shift = {4, 5}, .grow = 1, .blur = 2});
  look.add({.grow = 2});
  look.add({});
  return look;
}

}  // namespace

TEST_CASE("each label is drawn layer by layer, all labels in one batch", "[scene]") {
  test::Scene scene(dot_atlas());
  Label first = scene.words.add("ab c");
  (void)scene.words.add("de");
  first.set_look(*scene.context.looks().set("three", three_layers()));
  REQUIRE(scene.words.update(kView, 0).has_value());
  const std::vector<test::DrawnGlyph> drawn = test::all_drawn(scene.words.memory());
  REQUIRE(drawn.size() == 3 * 3 + 2);  // a space has no glyph
  CHECK(scene.words.memory().batches().size() == 1);
  for (std::size_t i = 0; i < 9; ++i) CHECK(drawn[i].layer.front == (i < 6 ? 0 : 1));
  CHECK(drawn[3].layer.grow == Approx(2 * 24 / 32.0));
  // The shadow's glyphs stand 4 right and 5 down of the fill's.
  const PixelPoint shadow = test::corner_of(drawn[0], kView, 0, 0),
                   fill = test::corner_of(drawn[6], kView, 0, 0);
  CHECK(shadow.x - fill.x == Approx(4));
  CHECK(shadow.y - fill.y == Approx(5));
}

TEST_CASE("labels that are not visible, or wholly transparent, are not drawn", "[scene]") {
  test::Scene scene(dot_atlas());
  Label hidden = scene.words.add("a"), clear = scene.words.add("b");
  (void)scene.words.add("c");
  hidden.set_visible(false);
  clear.set_opacity(0);
  REQUIRE(scene.words.update(kView, 0).has_value());
  CHECK(test::drawn_glyphs(scene.words.memory()) == 1);
}

TEST_CASE("a look changed at run time shows on every label that uses it", "[scene]") {
  test::Scene scene(dot_atlas());
  const LookId id = *scene.context.looks().set("sign", plain_look({1, 0, 0, 1}));
  Label a = scene.words.add("a"), b = scene.words.add("b");
  a.set_look(id), b.set_look(id);
  const auto drawn = [&] {
    REQUIRE(scene.words.update(kView, 0).has_value());
    return test::all_drawn(scene.words.memory());
  };
  for (const test::DrawnGlyph& d : drawn()) CHECK(d.layer.corners[0] == std::array<float, 4>{1, 0, 0, 1});
  REQUIRE(scene.context.looks().set(id, plain_look({0, 0, 1, 1})).has_value());
  for (const test::DrawnGlyph& d : drawn()) CHECK(d.layer.corners[0] == std::array<float, 4>{0, 0, 1, 1});
  CHECK(scene.words.work().layouts == 2);
  REQUIRE(scene.context.looks().set(id, three_layers()).has_value());  // more layers than before
  CHECK(drawn().size() == 6);
}

TEST_CASE("a look that needs more reach is clamped and the note says what to bake", "[scene]") {
  test::Scene scene(dot_atlas());
  Label label = scene.words.add("a");
  label.set_size(24);
  Look wide;
  wide.add({.grow = 8, .blur = 4});
  label.set_look(*scene.context.looks().set("wide", wide));
  Notes notes;
  REQUIRE(scene.words.update(kView, 0, &notes).has_value());
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].wanted == 12.5F);
  CHECK(notes.all()[0].given == 6);
  const LayerRecord layer = test::all_drawn(scene.words.memory()).at(0).layer;
  CHECK(layer.grow + layer.blur == Approx(5.5F));
  const Image image = test::in_software(scene.words, kView, Blending::linear, {1, 1, 1, 1});
  CHECK(image.value(0, 0) == 255);
}

TEST_CASE("hundreds of sizes at once each have their own records", "[scene]") {
  test::Scene scene(dot_atlas());
  Look look;
  look.add({.grow = 1});
  const LookId id = *scene.context.looks().set("one", look);
  for (int i = 0; i < 700; ++i) {
    Label label = scene.words.add("a");
    label.set_size(10 + static_cast<float>(i));
    label.set_look(id);
  }
  for (int frame = 0; frame < 3; ++frame) {
    REQUIRE(scene.words.update(kView, 0).has_value());
    const std::vector<test::DrawnGlyph> drawn = test::all_drawn(scene.words.memory());
    REQUIRE(drawn.size() == 700);
    for (std::size_t i = 0; i < 700; ++i) {
      REQUIRE(drawn[i].layer.grow == Approx(24 / (10.0 + static_cast<double>(i))));
    }
  }
}

TEST_CASE("looks are found by name, the nearest is offered", "[looks]") {
  LookBook book;
  REQUIRE(book.set("sign", three_layers()).has_value());
  CHECK(book.read("sign").has_value());
  CHECK_THAT(describe(book.read("sing").error()), Catch::Contains("did you mean 'sign'?"));
  CHECK(book.get(LookId{}).count == 1);
}

TEST_CASE("motions move letters in time and the same at the same time", "[motion]") {
  test::Scene scene(dot_atlas());
  Label label = scene.words.add("lll");
  label.move_to({40, 60});
  const auto at = [&](double seconds) {
    return test::in_software(scene.words, kView, Blending::linear, {0, 0, 0, 1}, seconds);
  };
  const Image still = at(1.5);
  for (const char* name : {"sway", "rattle"}) {
    label.set_motion(*read_motion(name));
    const Image a = at(1.5), later = at(1.9), again = at(1.5);
    CHECK(test::first_difference(a, again, 0).empty());
    CHECK(test::share_that_differs(a, later, 20) > 0.0002);
    CHECK(test::share_that_differs(a, still, 20) > 0.0002);
  }
  CHECK_FALSE(static_cast<bool>(*read_motion("still")));
  CHECK_THAT(describe(read_motion("swai").error()), Catch::Contains("did you mean 'sway'?"));
}

namespace {

/// Around the pixels that are lighter than black by more than a little.
PixelRect lit_pixels(const Image& image) {
  int left = image.width(), top = image.height(), right = 0, bottom = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      if (image.value(x, y) < 30) continue;
      left = std::min(left, x), top = std::min(top, y), right = std::max(right, x + 1);
      bottom = std::max(bottom, y + 1);
    }
  }
  return {left, top, right - left, bottom - top};
}

}  // namespace

TEST_CASE("a function of the game moves, turns and colors letters, in both renderers", "[motion][scene]") {
  test::Scene scene(dot_atlas());
  Label label = scene.words.add("L");
  label.set_size(60);
  const auto kind = static_cast<PlaceKind>(GENERATE(0, 1));
  label.set_placement({.at = {100, 80}, .kind = kind, .snap = kind == PlaceKind::pinned});
  const bool in_gl = GENERATE(false, true);
  const auto picture = [&] {
    return in_gl ? test::in_opengl(scene.words, kView, Blending::linear, {0, 0, 0, 1}, OpenGLFlavor::core_33)
                 : test::in_software(scene.words, kView, Blending::linear, {0, 0, 0, 1});
  };
  const Image still = picture();
  const PixelRect rest = lit_pixels(still);
  REQUIRE(rest.width > 10);
  label.set_motion([](const MotionInput&, GlyphChange& change) { change.offset = {30, 20}; });
  const Image moved = picture();
  CHECK(lit_pixels(moved).x == rest.x + 30);
  CHECK(lit_pixels(moved).y == rest.y + 20);
  label.set_motion([](const MotionInput&, GlyphChange& change) {
    change.rotate = 180;
    change.tint = {1, 0.5F, 0, 1};
  });
  const Image turned = picture();
  int worst = 0, green = 0;
  const PixelRect there = lit_pixels(turned);
  CHECK(std::abs(there.width - rest.width) <= 1);
  CHECK(std::abs(there.height - rest.height) <= 1);
  for (int y = 1; y < rest.height - 1; ++y) {
    for (int x = 1; x < rest.width - 1; ++x) {  // half a turn: the opposite pixel
      const int before = still.value(rest.x + x, rest.y + y),
                after = turned.value(there.x + there.width - 1 - x, there.y + there.height - 1 - y);
      worst += std::abs(before - after) > 90 ? 1 : 0;
      green = std::max(green, turned.value(there.x + x, there.y + y, 1));
      CHECK(turned.value(there.x + x, there.y + y, 2) == 0);
    }
  }
  CHECK(worst * 20 < rest.width * rest.height);
  CHECK(green == Approx(128).margin(2));
}

TEST_CASE("more looks at once than layer records can be counted are told, and what fits is drawn",
          "[scene]") {
  test::Scene scene(dot_atlas());
  Look look;
  for (int i = 0; i < 8; ++i) look.add({.grow = static_cast<float>(i) / 8});
  const LookId id = *scene.context.looks().set("eight", look);
  constexpr int kLabels = 7000;  // of eight records each
  for (int i = 0; i < kLabels; ++i) {
    Label label = scene.words.add("a");
    label.set_size(10 + static_cast<float>(i) / 64);
    label.set_look(id);
  }
  REQUIRE(scene.words.update(kView, 0).has_value());
  const std::vector<test::DrawnGlyph> drawn = test::all_drawn(scene.words.memory());
  REQUIRE(drawn.size() == kLabels * 8);
  for (std::size_t at = 0; at < drawn.size(); ++at) {
    const double size = 10 + static_cast<double>(at / 8) / 64;
    REQUIRE(drawn[at].layer.grow == Approx(static_cast<double>(at % 8) / 8 * 24 / size).margin(1e-4));
  }
}

TEST_CASE("a label of hundreds of picture sizes has records for each", "[scene]") {
  // Coverage pictures of one glyph per size: every glyph of the label is of another variant.
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.kind = PictureKind::distance;
  Atlas many = *bake(recipe);
  many.glyphs.clear();
  many.strikes.clear();
  const GlyphId first{1};
  for (std::uint32_t i = 0; i < 300; ++i) {
    many.strikes.push_back({0, PictureKind::distance, 20 + static_cast<float>(i), 6, 0, {24, 8, 0}});
    AtlasGlyph glyph;
    glyph.strike = i;
    glyph.glyph = GlyphId{index_of(first) + i};
    glyph.page = 0;
    glyph.cell = {0, 0, 4, 4};
    glyph.advance = 10;
    glyph.codepoints = {static_cast<char32_t>(0x4E00 + i)};
    many.glyphs.push_back(glyph);
  }
  const auto atlas = std::make_shared<const Atlas>(std::move(many));
  test::Scene scene(atlas);
  std::string text;
  for (std::uint32_t i = 0; i < 300; ++i) append_utf8(text, static_cast<char32_t>(0x4E00 + i));
  (void)scene.words.add(text);
  REQUIRE(scene.words.update({.width = 16000, .height = 300}, 0).has_value());
  CHECK(test::drawn_glyphs(scene.words.memory()) == 300);
  CHECK(scene.words.memory().layers().size() >= 300);
}

TEST_CASE("notes are given when a label is written, with its name", "[scene][notes]") {
  test::Scene scene(test::color_atlas());
  scene.context.set_fonts(FontStack{built_in_face()});
  Label label = scene.words.add("AC");
  label.set_name("tram sign");
  (void)label.box();
  Notes notes;
  REQUIRE(scene.words.update(kView, 0, &notes).has_value());
  CHECK(test::drawn_glyphs(scene.words.memory()) == 1);
  REQUIRE(notes.all().size() == 1);
  const Note& note = notes.all()[0];
  CHECK(note.kind == NoteKind::missing_picture);
  CHECK(note.character == U'C');
  CHECK(note.label == "tram sign");
  CHECK_THAT(note.face, Catch::Contains("Quillmere Dot"));
  CHECK_THAT(describe(note), Catch::Contains("tram sign") && Catch::Contains("U+0043"));
  notes.clear();
  REQUIRE(scene.words.update(kView, 0, &notes).has_value());
  CHECK(notes.empty());  // nothing was written
}

TEST_CASE("a glyph without a picture shows the missing-glyph shape where the source has one", "[scene]") {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = {U'a'};
  const auto source = std::make_shared<AtlasSource>(std::make_shared<const Atlas>(*bake(recipe)));
  test::WhiteContext context(FontStack{built_in_face()}, source);
  TextScene words(context);
  (void)words.add("aba");
  Notes notes;
  REQUIRE(words.update(kView, 0, &notes).has_value());
  const std::vector<test::DrawnGlyph> drawn = test::all_drawn(words.memory());
  REQUIRE(drawn.size() == 3);
  const GlyphKey key{built_in_face()->id(), kMissingGlyph};
  GlyphPicture missing;
  source->resolve(std::span(&key, 1), std::span(&missing, 1));
  CHECK(drawn[1].glyph.cell == missing.cell);
  CHECK(notes.all().size() == 1);
}

TEST_CASE("a context without a source makes the pictures of any face itself", "[scene]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  Label label = words.add("Quay"), own = words.add("Dot");
  own.set_fonts(std::make_shared<const FontStack>(FontStack{built_in_face()}));
  label.move_to({10, 10});
  own.move_to({10, 100});
  Notes notes;
  REQUIRE(words.update(kView, 0, &notes).has_value());
  CHECK(notes.empty());
  CHECK(test::drawn_glyphs(words.memory()) == 7);
  const Image image = test::in_software(words, kView, Blending::linear, {0, 0, 0, 1});
  Image exact = test::filled(kView, {0, 0, 0, 1});
  const FontStack sans{test::dejavu()}, dot{built_in_face()};
  REQUIRE(paint(exact, sans, label.paragraph(), plain_look({1, 1, 1, 1}), {10, 10}).has_value());
  REQUIRE(paint(exact, dot, own.paragraph(), plain_look({1, 1, 1, 1}), {10, 100}).has_value());
  CHECK(test::share_that_differs(image, exact, 60) < 0.01);
}

TEST_CASE("labels outside the view draw nothing, those that reach into it all", "[scene]") {
  test::Scene scene(dot_atlas());
  Label label = scene.words.add("Foxglove");
  const auto count = [&](const Placement& placement, const View& view = kView) {
    label.set_placement(placement);
    REQUIRE(scene.words.update(view, 0).has_value());
    const std::size_t drawn = test::drawn_glyphs(scene.words.memory());
    CHECK(label.seen() == (drawn > 0));
    return drawn;
  };
  CHECK(count({.at = {0, 0}}) == 8);
  CHECK(count({.at = {500, 0}}) == 0);
  CHECK(count({.at = {0, -100}}) == 0);
  CHECK(count({.at = {500, 0}, .anchor = {1, 0}}) == 8);
  View view = kView;
  view.projection = perspective(60, 4.0F / 3, 0.1F, 100);
  const auto at = [](float x, float z) {
    return Placement{.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = translation({x, 0, z})};
  };
  CHECK(count(at(0, -5), view) == 8);
  CHECK(count(at(0, 5), view) == 0);     // behind
  CHECK(count(at(80, -5), view) == 0);   // beside
  CHECK(count(at(0, -200), view) == 0);  // beyond
  Look shadow;  // a shadow that reaches into the view although the letters stand outside
  shadow.add({.shift = {-60, 0}});
  label.set_look(*scene.context.looks().set("shadow", shadow));
  CHECK(count({.at = {430, 0}}) == 8);
}

TEST_CASE("a motion is asked once a glyph and frame, whatever the number of layers", "[scene][motion]") {
  test::Scene scene(dot_atlas());
  Label label = scene.words.add("ab c");
  label.set_look(*scene.context.looks().set("three", three_layers()));
  int calls = 0;
  label.set_motion([&calls](const MotionInput&, GlyphChange&) { ++calls; });
  REQUIRE(scene.words.update(kView, 0).has_value());
  REQUIRE(scene.words.update(kView, 0.1).has_value());
  CHECK(test::drawn_glyphs(scene.words.memory()) == 9);
  calls = 0;
  REQUIRE(scene.words.update(kView, 0.2).has_value());
  CHECK(calls == 3);
}

TEST_CASE("looks of other books are the plain one", "[scene]") {
  TextContext context(FontStack{built_in_face()}, nullptr);
  TextScene words(context);
  words.add("a").set_look(LookId{4711});
  REQUIRE(words.update(kView, 0).has_value());
  const std::vector<test::DrawnGlyph> drawn = test::all_drawn(words.memory());
  REQUIRE(drawn.size() == 1);
  CHECK(drawn[0].layer.corners[0] == std::array<float, 4>{0, 0, 0, 1});
}

TEST_CASE("looks that can't be are refused and change nothing", "[looks]") {
  LookBook book;
  Look many = plain_look({1, 0, 0, 1}), nan = many, blur = many, color = many, opacity = many;
  many.count = 200;
  nan.layers[0].grow = NAN;
  blur.layers[0].blur = -1;
  color.layers[0].fill.corners[2].green = INFINITY;
  opacity.opacity = NAN;
  const LookId id = *book.set("red", plain_look({1, 0, 0, 1}));
  for (const Look& bad : {many, nan, blur, color, opacity}) {
    CHECK_FALSE(book.set("new", bad).has_value());
    CHECK_FALSE(book.set(id, bad).has_value());
    CHECK(in_pixels(bad, 32).count <= Look::kMaxLayers);
  }
  CHECK_FALSE(book.set(LookId{99}, plain_look({1, 1, 1, 1})).has_value());
  CHECK(book.size() == 2);
  CHECK(book.get(LookId{99}).count == 1);
  CHECK(book.name(LookId{99}) == "plain");
}

TEST_CASE("room for a look is told in pixels, also where its lengths are ems", "[looks]") {
  Look look;
  look.add({.shift = {0.1F, 0}, .grow = 0.05F, .blur = 0.05F});
  look.in_ems = true;
  CHECK(required_reach(look, 40) == Approx(4.5F));
  CHECK(overhang(look, 40).right == Approx(8.5F));
}
