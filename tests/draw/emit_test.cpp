// SPDX-License-Identifier: MIT
// Quads, batches and layer records.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/atlas/bake.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/draw/emit.hpp"
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

TEST_CASE("each label is emitted layer by layer, all labels in one batch", "[emit]") {
  test::Scene scene(dot_atlas());
  Label first(scene.context, "ab c"), second(scene.context, "de");
  first.set_look(*scene.context.looks().set("three", three_layers()));
  Label* const labels[] = {&first, &second};
  test::Quads quads;
  const QuadList& list = quads.emit(scene.context, labels, kView);
  REQUIRE(list.quad_count == 3 * 3 + 2);  // a space has no quad
  REQUIRE(list.batch_count == 1);
  CHECK(list.batches[0].count == 11);
  const std::uint16_t base = list.quads[0].record;
  for (std::size_t i = 0; i < 9; ++i) CHECK(list.quads[i].record == base + i / 3);
  CHECK(list.records[base + 1].grow == Approx(2 * 24 / 32.0));
  CHECK(list.records[base + 2].front == 1);
  // The shadow's quads stand 4 right and 5 down of the fill's.
  CHECK((list.quads[0].origin[0] - list.quads[6].origin[0]) / 2 * 400 == Approx(4));
  CHECK((list.quads[0].origin[1] - list.quads[6].origin[1]) / -2 * 300 == Approx(5));
}

TEST_CASE("memory too small says how much is needed and is never overrun", "[emit]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "Hemp & Pitch Yard");
  Label* const labels[] = {&label};
  const auto room = static_cast<std::size_t>(GENERATE(0, 1, 7, 14));
  std::vector<GlyphQuad> quads(room + 1);
  quads[room].record = 4711;
  std::vector<Batch> batches(2);
  std::vector<LayerRecord> layers(room);
  QuadList list{std::span(quads).first(room), batches, layers};
  REQUIRE(emit_quads(scene.context, labels, kView, list).has_value());
  CHECK(list.quads_needed == 14);
  CHECK(list.quad_count == room);
  CHECK(list.complete() == (room == 14));
  CHECK(quads[room].record == 4711);
  std::uint32_t in_batches = 0;
  for (const Batch& batch : list.batches.first(list.batch_count)) in_batches += batch.count;
  CHECK(in_batches == room);
}

TEST_CASE("without room for batches nothing is drawn, and the need is told", "[emit]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "abc");
  Label* const labels[] = {&label};
  std::vector<GlyphQuad> quads(10);
  QuadList list{quads, {}, {}};
  REQUIRE(emit_quads(scene.context, labels, kView, list).has_value());
  CHECK(list.batches_needed == 1);
  CHECK(list.quads_needed == 3);
  CHECK(list.quad_count == 0);
  CHECK_FALSE(list.complete());
}

TEST_CASE("labels that are not visible, or wholly transparent, have no quads", "[emit]") {
  test::Scene scene(dot_atlas());
  Label hidden(scene.context, "a"), clear(scene.context, "b"), shown(scene.context, "c");
  hidden.set_visible(false);
  clear.set_opacity(0);
  Label* const labels[] = {&hidden, &clear, &shown};
  test::Quads quads;
  CHECK(quads.emit(scene.context, labels, kView).quad_count == 1);
}

TEST_CASE("a look changed at run time shows on every label that uses it", "[emit]") {
  test::Scene scene(dot_atlas());
  const LookId id = *scene.context.looks().set("sign", plain_look({1, 0, 0, 1}));
  Label a(scene.context, "a"), b(scene.context, "b");
  a.set_look(id), b.set_look(id);
  Label* const labels[] = {&a, &b};
  test::Quads quads;
  const QuadList& list = quads.emit(scene.context, labels, kView);
  CHECK(list.records[list.quads[1].record].corners[0] == std::array<float, 4>{1, 0, 0, 1});
  REQUIRE(scene.context.looks().set(id, plain_look({0, 0, 1, 1})).has_value());
  quads.emit(scene.context, labels, kView);
  CHECK(list.records[list.quads[1].record].corners[0] == std::array<float, 4>{0, 0, 1, 1});
  REQUIRE(scene.context.looks().set(id, three_layers()).has_value());  // more layers than before
  CHECK(quads.emit(scene.context, labels, kView).quad_count == 6);
  CHECK(a.work().layouts == 1);
}

TEST_CASE("a look that needs more reach is clamped and the note says what to bake", "[emit]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "a");
  REQUIRE(label.set_size(24).has_value());
  Look wide;
  wide.add({.grow = 8, .blur = 4});
  label.set_look(*scene.context.looks().set("wide", wide));
  Label* const labels[] = {&label};
  test::Quads quads;
  Notes notes;
  const QuadList& list = quads.emit(scene.context, labels, kView, &notes);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].wanted == 12.5F);
  CHECK(notes.all()[0].given == 6);
  CHECK(list.records[0].grow + list.records[0].blur == Approx(5.5F));
  const Image image = test::in_software(scene.context, labels, kView, Blending::linear, {1, 1, 1, 1});
  CHECK(image.value(0, 0) == 255);
}

TEST_CASE("glyphs without a picture are noted", "[emit]") {
  test::Scene scene(test::color_atlas());
  scene.context.set_fonts(FontStack{built_in_face()});
  Label label(scene.context, "ABC");
  Label* const labels[] = {&label};
  test::Quads quads;
  Notes notes;
  CHECK(quads.emit(scene.context, labels, kView, &notes).quad_count == 2);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::missing_picture);
}

TEST_CASE("hundreds of sizes at once each have their own records", "[emit]") {
  test::Scene scene(dot_atlas());
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> labels;
  Look look;
  look.add({.grow = 1});
  const LookId id = *scene.context.looks().set("one", look);
  for (int i = 0; i < 700; ++i) {
    owned.push_back(std::make_unique<Label>(scene.context, "a"));
    REQUIRE(owned.back()->set_size(10 + static_cast<float>(i)).has_value());
    owned.back()->set_look(id);
    labels.push_back(owned.back().get());
  }
  test::Quads quads;
  for (int frame = 0; frame < 3; ++frame) {
    const QuadList& list = quads.emit(scene.context, labels, kView);
    for (std::size_t i = 0; i < 700; ++i) {
      REQUIRE(list.records[list.quads[i].record].grow == Approx(24 / (10.0 + static_cast<double>(i))));
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
  Label label(scene.context, "lll");
  Label* const labels[] = {&label};
  test::Quads quads;
  const auto at = [&](double seconds) {
    label.set_time(seconds);
    const auto list = quads.emit(scene.context, labels, kView).quads;
    return std::vector<GlyphQuad>(list.begin(), list.begin() + 3);
  };
  const auto rises = [](const GlyphQuad& a, const GlyphQuad& b) { return a.origin[1] - b.origin[1]; };
  const std::vector<GlyphQuad> still = at(1.5);
  for (const char* name : {"sway", "rattle"}) {
    label.set_motion(*read_motion(name));
    const std::vector<GlyphQuad> a = at(1.5), later = at(1.9), again = at(1.5);
    CHECK(a[0].origin == again[0].origin);
    CHECK(a[0].origin != later[0].origin);
    CHECK(rises(a[0], still[0]) != rises(a[1], still[1]));
    // An eighth of an em, and half a letter's way in a turn of four degrees.
    CHECK(std::abs(rises(a[0], still[0])) <= 2 * 32 * 0.17F / kView.height);
  }
  CHECK_FALSE(static_cast<bool>(*read_motion("still")));
  CHECK_THAT(describe(read_motion("swai").error()), Catch::Contains("did you mean 'sway'?"));
}

TEST_CASE("a motion's turn, scale and tint reach the quads", "[motion][emit]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "l");
  Label* const labels[] = {&label};
  test::Quads quads;
  const GlyphQuad still = quads.emit(scene.context, labels, kView).quads[0];
  label.set_motion([](const MotionInput&, GlyphChange& change) {
    change.rotate = 180;
    change.scale = 1;
    change.tint = {1, 0.5F, 0, 0.5F};
  });
  const GlyphQuad turned = quads.emit(scene.context, labels, kView).quads[0];
  for (std::size_t i = 0; i < 2; ++i) {  // half a turn about the middle: the opposite corner
    CHECK(turned.origin[i] == Approx(still.origin[i] + still.across[i] + still.down[i]).margin(1e-5));
    CHECK(turned.across[i] == Approx(-still.across[i]).margin(1e-6));
  }
  CHECK(turned.tint == std::array<std::uint8_t, 4>{255, 128, 0, 128});
}

TEST_CASE("more records than a quad can count are batches of their own", "[emit]") {
  test::Scene scene(dot_atlas());
  Look look;
  for (int i = 0; i < 8; ++i) look.add({.grow = static_cast<float>(i) / 8});
  const LookId id = *scene.context.looks().set("eight", look);
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> labels;
  constexpr int kLabels = 8300;  // of eight records each: beyond 65,536
  for (int i = 0; i < kLabels; ++i) {
    owned.push_back(std::make_unique<Label>(scene.context, "a"));
    REQUIRE(owned.back()->set_size(10 + static_cast<float>(i) / 64).has_value());
    owned.back()->set_look(id);
    labels.push_back(owned.back().get());
  }
  QuadBuffer quads;
  REQUIRE(emit_quads(scene.context, labels, kView, quads).has_value());
  const QuadList& list = quads.list();
  REQUIRE(list.complete());
  REQUIRE(list.record_count > 65536);
  REQUIRE(list.batch_count >= 2);
  std::size_t at = 0;
  for (const Batch& batch : list.batches.first(list.batch_count)) {
    CHECK(batch.first == at);
    for (std::size_t i = 0; i < batch.count; ++i, ++at) {
      const LayerRecord& record = list.records[batch.first_record + list.quads[at].record];
      const double size = 10 + static_cast<double>(at / 8) / 64;
      REQUIRE(record.grow == Approx(static_cast<double>(at % 8) / 8 * 24 / size).margin(1e-4));
    }
  }
  CHECK(at == kLabels * 8);
}

TEST_CASE("a label of hundreds of picture sizes has records for each", "[emit]") {
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
  Label label(scene.context, text);
  Label* const labels[] = {&label};
  QuadBuffer quads;
  REQUIRE(emit_quads(scene.context, labels, {.width = 16000, .height = 300}, quads).has_value());
  CHECK(quads.list().quad_count == 300);
  CHECK(quads.list().record_count >= 300);
}

TEST_CASE("notes are given with every frame, with the label's name, also once its box was asked for",
          "[emit][notes]") {
  test::Scene scene(test::color_atlas());
  scene.context.set_fonts(FontStack{built_in_face()});
  Label label(scene.context, "AC");
  label.set_name("tram sign");
  (void)label.box();
  CHECK(label.work().resolves == 0);  // a box needs no pictures
  Label* const labels[] = {&label};
  QuadBuffer quads;
  for (int frame = 0; frame < 2; ++frame) {
    Notes notes;
    REQUIRE(emit_quads(scene.context, labels, kView, quads, &notes).has_value());
    REQUIRE(notes.all().size() == 1);
    const Note& note = notes.all()[0];
    CHECK(note.kind == NoteKind::missing_picture);
    CHECK(note.character == U'C');
    CHECK(note.label == "tram sign");
    CHECK_THAT(note.face, Catch::Contains("Quillmere Dot"));
    CHECK_THAT(describe(note), Catch::Contains("tram sign") && Catch::Contains("U+0043"));
  }
}

TEST_CASE("a glyph without a picture shows the missing-glyph shape where the source has one", "[emit]") {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = {U'a'};
  const auto source = std::make_shared<AtlasSource>(std::make_shared<const Atlas>(*bake(recipe)));
  test::WhiteContext context(FontStack{built_in_face()}, source);
  Label label(context, "aba");
  Label* const labels[] = {&label};
  QuadBuffer quads;
  Notes notes;
  REQUIRE(emit_quads(context, labels, kView, quads, &notes).has_value());
  REQUIRE(quads.list().quad_count == 3);
  const GlyphKey key{built_in_face()->id(), kMissingGlyph};
  GlyphPicture missing;
  source->resolve(std::span(&key, 1), std::span(&missing, 1));
  CHECK(quads.list().quads[1].cell == missing.cell);
  CHECK(notes.all().size() == 1);
}

TEST_CASE("a context without a source makes the pictures of any face itself", "[emit]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Label label(context, "Quay"), own(context, "Dot");
  own.set_fonts(std::make_shared<const FontStack>(FontStack{built_in_face()}));
  Label* const labels[] = {&label, &own};
  REQUIRE(label.set_placement({.at = {10, 10}}).has_value());
  REQUIRE(own.set_placement({.at = {10, 100}}).has_value());
  QuadBuffer quads;
  Notes notes;
  REQUIRE(emit_quads(context, labels, kView, quads, &notes).has_value());
  CHECK(notes.empty());
  REQUIRE(quads.list().quad_count == 7);
  Image image = *Image::make(400, 300, PixelFormat::rgba8);
  fill_image(image, {0, 0, 0, 1});
  REQUIRE(draw_in_software(quads.list(), context.source(), kView, Blending::linear, image).has_value());
  Image exact = *Image::make(400, 300, PixelFormat::rgba8);
  fill_image(exact, {0, 0, 0, 1});
  const FontStack sans{test::dejavu()}, dot{built_in_face()};
  REQUIRE(paint(exact, sans, label.paragraph(), plain_look({1, 1, 1, 1}), {10, 10}).has_value());
  REQUIRE(paint(exact, dot, own.paragraph(), plain_look({1, 1, 1, 1}), {10, 100}).has_value());
  CHECK(test::share_that_differs(image, exact, 60) < 0.01);
}

TEST_CASE("labels outside the view emit nothing, those that reach into it all", "[emit]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "Foxglove");
  Label* const labels[] = {&label};
  QuadBuffer quads;
  const auto count = [&](const Placement& placement, const View& view = kView) {
    REQUIRE(label.set_placement(placement).has_value());
    REQUIRE(emit_quads(scene.context, labels, view, quads).has_value());
    return quads.list().quad_count;
  };
  CHECK(count({.at = {0, 0}}) == 8);
  CHECK(count({.at = {500, 0}}) == 0);
  CHECK(count({.at = {0, -100}}) == 0);
  CHECK(count({.at = {500, 0}, .anchor = {1, 0}}) == 8);
  CHECK(count({.at = {-300, 400}, .rotate = 30}) == 0);
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

TEST_CASE("a motion is asked once a glyph and frame, whatever the number of layers", "[emit][motion]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "ab c");
  label.set_look(*scene.context.looks().set("three", three_layers()));
  int calls = 0;
  label.set_motion([&calls](const MotionInput&, GlyphChange&) { ++calls; });
  Label* const labels[] = {&label};
  QuadBuffer quads;
  REQUIRE(emit_quads(scene.context, labels, kView, quads).has_value());
  REQUIRE(emit_quads(scene.context, labels, kView, quads).has_value());
  CHECK(quads.list().quad_count == 9);
  calls = 0;
  REQUIRE(emit_quads(scene.context, labels, kView, quads).has_value());
  CHECK(calls == 3);
}

TEST_CASE("null labels, labels moved from and of other contexts are refused", "[emit]") {
  test::Scene scene(dot_atlas()), other(dot_atlas());
  Label good(scene.context, "a"), foreign(other.context, "b"), from(scene.context, "c");
  const Label to = std::move(from);
  QuadBuffer quads;
  for (Label* bad : {static_cast<Label*>(nullptr), &foreign, &from}) {
    Label* const labels[] = {&good, bad};
    const auto emitted = emit_quads(scene.context, labels, kView, quads);
    REQUIRE_FALSE(emitted.has_value());
    CHECK(emitted.error().kind == ErrorKind::bad_value);
    CHECK_THAT(describe(emitted.error()), Catch::Contains("label 1"));
    CHECK(quads.list().quad_count == 0);
  }
  CHECK_FALSE(from.valid());
  CHECK(to.valid());
}

TEST_CASE("a label may outlive its context, unused; looks of other books are the plain one", "[emit]") {
  auto context = std::make_unique<TextContext>(FontStack{built_in_face()}, nullptr);
  std::optional<Label> label(std::in_place, *context, "a");
  label->set_look(LookId{4711});
  Label* const labels[] = {&*label};
  QuadBuffer quads;
  REQUIRE(emit_quads(*context, labels, kView, quads).has_value());
  CHECK(quads.list().quad_count == 1);
  CHECK(quads.list().records[0].corners[0] == std::array<float, 4>{1, 1, 1, 1});
  context.reset();
  label.reset();
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
