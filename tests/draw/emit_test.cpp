// SPDX-License-Identifier: MIT
// Quads, batches and layer records.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/emit.hpp"
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
  first.set_look(scene.context.looks().set("three", three_layers()));
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
  const LookId id = scene.context.looks().set("sign", plain_look({1, 0, 0, 1}));
  Label a(scene.context, "a"), b(scene.context, "b");
  a.set_look(id), b.set_look(id);
  Label* const labels[] = {&a, &b};
  test::Quads quads;
  const QuadList& list = quads.emit(scene.context, labels, kView);
  CHECK(list.records[list.quads[1].record].corners[0] == std::array<float, 4>{1, 0, 0, 1});
  scene.context.looks().set(id, plain_look({0, 0, 1, 1}));
  quads.emit(scene.context, labels, kView);
  CHECK(list.records[list.quads[1].record].corners[0] == std::array<float, 4>{0, 0, 1, 1});
  scene.context.looks().set(id, three_layers());  // more layers than before
  CHECK(quads.emit(scene.context, labels, kView).quad_count == 6);
  CHECK(a.work().layouts == 1);
}

TEST_CASE("a look that needs more reach is clamped and the note says what to bake", "[emit]") {
  test::Scene scene(dot_atlas());
  Label label(scene.context, "a");
  REQUIRE(label.set_size(24).has_value());
  Look wide;
  wide.add({.grow = 8, .blur = 4});
  label.set_look(scene.context.looks().set("wide", wide));
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
  const LookId id = scene.context.looks().set("one", look);
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
  book.set("sign", three_layers());
  CHECK(book.read("sign").has_value());
  CHECK_THAT(describe(book.read("sing").error()), Catch::Contains("did you mean 'sign'?"));
  CHECK(book.get(LookId{}).count == 1);
}

TEST_CASE("motions move letters in time and the same at the same time", "[motion]") {
  for (const char* name : {"sway", "rattle"}) {
    const Motion motion = *read_motion(name);
    GlyphChange a, again, later, other;
    motion({.index = 2, .count = 5, .seconds = 1.5, .size = 40}, a);
    motion({.index = 2, .count = 5, .seconds = 1.5, .size = 40}, again);
    motion({.index = 2, .count = 5, .seconds = 1.9, .size = 40}, later);
    motion({.index = 3, .count = 5, .seconds = 1.5, .size = 40}, other);
    CHECK(a.offset == again.offset);
    CHECK(a.offset != later.offset);
    CHECK(a.offset != other.offset);
    CHECK(std::abs(a.offset.y) <= 40 * 0.13F);
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
