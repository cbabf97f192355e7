// SPDX-License-Identifier: MIT
// Labels: what is redone and what is not, numbers, places, hits.
#include <catch2/catch.hpp>
#include <cmath>

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
  Label label = scene.words.add("Marrow Hill");
  if (GENERATE(false, true)) (void)label.paragraph();  // with a layout of its own, and without
  const auto work = [&] {
    REQUIRE(scene.words.update(kLabelView, 0).has_value());
    return std::pair(scene.words.work().layouts, scene.words.work().contents);
  };
  using Work = std::pair<std::uint64_t, std::uint64_t>;
  CHECK(work() == Work(1, 1));
  label.set_placement({.at = {50, 60}, .rotate = 20});
  label.set_opacity(0.4F);
  label.set_opacity(1);
  label.set_visible(true);
  label.begin_motion(3);
  label.set_text("Marrow Hill");
  CHECK(work() == Work(1, 1));
  label.set_text("Marrow Mill");
  CHECK(work() == Work(2, 2));
  label.set_size(40);
  CHECK(work() == Work(3, 3));
  scene.context.set_fonts(FontStack{built_in_face()});
  CHECK(work() == Work(4, 4));
}

TEST_CASE("a label with spans that does not change is not looked at again", "[label]") {
  test::Scene scene(label_atlas());
  RichText text;
  SpanStyle large;
  large.scale = 1.5F;
  text.append("Marrow ").append("Hill", large);
  std::vector<Label> labels;
  for (int i = 0; i < 50; ++i) {
    labels.push_back(scene.words.add());
    labels.back().set_rich(text);
  }
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
  const std::uint64_t before = scene.words.memory().revision();
  labels[7].set_rich(text);  // the same again
  REQUIRE(scene.words.update(kLabelView, 1).has_value());
  IndexRange range[1];
  for (const SceneTable table : {SceneTable::glyphs, SceneTable::rows, SceneTable::order}) {
    CHECK(scene.words.memory().changes_since(table, before, range) == 0);
  }
  CHECK(scene.words.work().contents == 50);
  CHECK(scene.words.work().layouts == 50);
}

TEST_CASE("numbers are written in their format", "[label]") {
  test::Scene scene(label_atlas());
  Label label = scene.words.add();
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
  Label label = scene.words.add("a");
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
  std::string text;
  for (int i = 0; i < 10000; ++i) text += static_cast<char>('a' + i % 26);
  label.set_text(text);
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
  CHECK(test::drawn_glyphs(scene.words.memory()) == 10000);
}

TEST_CASE("a label pinned right keeps its right edge as it grows", "[label][placement]") {
  test::Scene scene(label_atlas());
  Label label = scene.words.add("1");
  View view = kLabelView;
  view.safe = {10, 20, 30, 40};
  view.content_scale = GENERATE(1.0F, 2.0F);
  label.set_placement(pinned({1, 0}));
  CHECK(label.device_box().empty());  // no view yet
  REQUIRE(scene.words.update(view, 0).has_value());
  for (const char* text : {"1", "12", "123456"}) {
    label.set_text(text);
    const Rect box = label.device_box();
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
  Label label = scene.words.add("Pale Orchard");
  label.set_placement({.at = {200, 150}, .anchor = {0.5F, 0.5F}, .rotate = 90});
  CHECK_FALSE(label.hit({200, 150}));  // no view yet
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
  CHECK(label.hit({200, 150}));
  CHECK(label.hit({200, 150 + label.box().width() / 2 - 2}));
  CHECK_FALSE(label.hit({200 + label.box().width() / 2 - 2, 150}));
  label.set_visible(false);
  CHECK_FALSE(label.hit({200, 150}));
  label.set_visible(true);
  View view = kLabelView;
  view.projection = test::perspective(60, 4.0F / 3, 0.1F, 100);
  REQUIRE(scene.words.update(view, 0).has_value());
  label.set_placement({.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = test::moved(0, 0, -4)});
  CHECK(label.hit({200, 150}));
  label.set_placement({.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = test::moved(0, 0, 4)});
  CHECK_FALSE(label.hit({200, 150}));
  CHECK(label.device_box().empty());
}

TEST_CASE("the topmost label at a pixel is found, in the order in which they are drawn", "[label]") {
  test::Scene scene(label_atlas());
  const GroupId behind = scene.words.add_group({.order = -1});
  Label first = scene.words.add("Pale Orchard"), second = scene.words.add("Pale Orchard"),
        box = scene.words.add_box({0, 0, 300, 200}, LookId{});
  for (const Label& label : {first, second}) Label(label).move_to({20, 20});
  box.set_group(behind);
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
  CHECK(scene.words.label_at({40, 35}) == second);
  first.set_order(1);
  CHECK(scene.words.label_at({40, 35}) == first);
  first.set_visible(false), second.set_visible(false);
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
  CHECK(scene.words.label_at({40, 35}) == box);
  CHECK_FALSE(scene.words.label_at({350, 250}).valid());
  CHECK(box.device_box() == Rect{0, 0, 300, 200});
  CHECK(box.panel_box() == Rect{0, 0, 300, 200});
}

TEST_CASE("a label that faces the camera is as wide from every side", "[label][placement]") {
  test::Scene scene(label_atlas());
  Label label = scene.words.add("Samar Ostrel");
  View view = kLabelView;
  view.projection = test::perspective(60, 4.0F / 3, 0.1F, 100);
  float width = 0;
  for (const float degrees : {0.0F, 40.0F, 130.0F}) {
    view.camera = test::multiplied(test::moved(0, 0, -5), test::turned_about_y(degrees));
    label.set_placement({.anchor = {0.5F, 0.5F}, .kind = PlaceKind::facing});
    REQUIRE(scene.words.update(view, 0).has_value());
    const Rect box = label.device_box();
    CHECK((box.left + box.right) / 2 == Approx(200).margin(0.01));
    if (width > 0) CHECK(box.width() == Approx(width).epsilon(1e-4));
    width = box.width();
  }
}

TEST_CASE("what is not finite or out of range changes nothing and is noted once", "[label]") {
  test::Scene scene(label_atlas());
  Label label = scene.words.add("x");
  label.set_name("platform");
  const Placement before = label.placement();
  Placement bad;
  for (float* number : {&bad.at.x, &bad.anchor.y, &bad.rotate, &bad.scale_x, &bad.shear, &bad.world.m[5],
                        &bad.world_per_pixel}) {
    const float kept = *number;
    for (const float v : {NAN, INFINITY}) {
      *number = v;
      label.set_placement(bad);
    }
    *number = kept;
  }
  label.move_to({NAN, 0});
  CHECK(label.placement() == before);
  label.set_size(0), label.set_size(NAN), label.set_size(1e9F);
  CHECK(label.style().size == 32);
  label.set_opacity(0.5F), label.set_opacity(NAN);
  CHECK(label.opacity() == 0.5F);
  label.set_tint({NAN, 1, 1, 1});
  label.begin_motion(NAN);
  CHECK_FALSE(label.set_style({.tracking = NAN}).has_value());
  CHECK_FALSE(label.set_path({.offset = INFINITY}).has_value());
  Panel panel;
  panel.padding[2] = NAN;
  CHECK_FALSE(label.set_panel(panel).has_value());
  Notes notes;
  REQUIRE(scene.words.update(kLabelView, 0, &notes).has_value());
  std::vector<std::string> calls;
  for (const Note& note : notes.all()) {
    CHECK(note.kind == NoteKind::refused_number);
    CHECK(note.label == "platform");
    calls.push_back(note.text);
  }
  CHECK(calls == std::vector<std::string>{"set_placement", "move_to", "set_size", "set_opacity", "set_tint",
                                          "begin_motion"});
  notes.clear();
  label.move_to({3, 4});
  CHECK(label.placement().at == PixelPoint{3, 4});
  REQUIRE(scene.words.update(kLabelView, 0, &notes).has_value());
  CHECK(notes.empty());
  CHECK_FALSE(map_label({}, {}, {.width = 0}).has_value());
  CHECK_FALSE(map_label({}, {}, {.content_scale = NAN}).has_value());
}

TEST_CASE("a font of its own stays when the context's is swapped", "[label]") {
  test::Scene scene(label_atlas());
  Label label = scene.words.add("WWWW");
  const float dot = label.box().width();
  label.set_fonts(std::make_shared<const FontStack>(FontStack{test::dejavu()}));
  const float sans = label.box().width();
  CHECK(sans != dot);
  scene.context.set_fonts(FontStack{test::dejavu("DejaVuSansMono.ttf")});
  REQUIRE(scene.words.update(kLabelView, 0).has_value());
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
  TextScene words(bare);
  (void)words.add("Ninth Lantern");
  REQUIRE(words.update(kLabelView, 0, &notes).has_value());
  CHECK(test::drawn_glyphs(words.memory()) == 12);
  CHECK(notes.all().size() == 2);
  CHECK(atlas->glyphs.size() == 96);
}

TEST_CASE("handles of what is gone do nothing, and that is noted", "[label]") {
  test::Scene scene(label_atlas());
  Label gone = scene.words.add("a"), never;
  gone.remove();
  const Image before = test::in_software(scene.words, kLabelView, Blending::linear, {0, 0, 0, 1});
  const Label other = scene.words.add("c");  // in its place
  for (Label label : {gone, never}) {
    label.set_text("b"), label.set_number(4), label.set_rich(RichText{}.append("b"));
    label.set_message("late"), label.set_value("n", 3), label.set_revealed(0);
    label.set_size(20), label.set_look(LookId{}), label.set_fonts(nullptr);
    CHECK(label.set_style({}).has_value());
    CHECK(label.use_style("nothing").has_value());
    CHECK(label.set_panel({}).has_value());
    CHECK(label.set_path({}).has_value());
    label.set_placement({}), label.move_to({1, 2}), label.set_visible(false), label.set_opacity(0);
    label.set_tint({1, 1, 1, 1}), label.set_motion(sway()), label.begin_motion(1);
    label.set_group(GroupId{}), label.set_clip(ClipId{}), label.set_order(4), label.set_name("b");
    label.remove();
    CHECK(label.box() == Rect{});
    CHECK(label.device_box().empty());
    CHECK_FALSE(label.hit({1, 1}));
    CHECK(label.text().empty());
    CHECK(label.clusters().empty());
    CHECK(label.paragraph().glyphs.empty());
    CHECK(label.link_at({1, 1}).empty());
    CHECK_FALSE(label.seen());
    CHECK_FALSE(label.valid());
  }
  CHECK(other.text() == "c");
  CHECK(other.visible());
  Notes notes;
  REQUIRE(scene.words.update(kLabelView, 0, &notes).has_value());
  CHECK(notes.all().size() > 20);
  for (const Note& note : notes.all()) CHECK(note.kind == NoteKind::gone_handle);
  CHECK_THAT(describe(notes.all()[0]), Catch::Contains("set_text"));
}

TEST_CASE("labels of a context that died are removed, whatever is called before", "[label]") {
  auto context = std::make_unique<test::WhiteContext>(FontStack{built_in_face()}, nullptr);
  test::WhiteContext lasting(FontStack{built_in_face()}, nullptr);
  TextScene words(*context);
  Label label = words.add("Weir"), rich = words.add(), lives = words.add(lasting, "Quay");
  rich.set_rich(RichText{}.append("Weir"));
  REQUIRE(words.update(kLabelView, 0).has_value());
  context.reset();
  for (Label l : {label, rich}) {
    l.set_text("Marrow"), l.set_number(12), l.set_size(20), l.move_to({30, 40});
    CHECK(l.use_style("nothing").has_value());
    CHECK(l.box() == l.box());
    CHECK(l.device_box().empty());
    CHECK(l.paragraph().glyphs.empty());
    CHECK(l.clusters().empty());
    CHECK(l.ink_box().empty());
  }
  CHECK_FALSE(words.add("new").valid());
  Notes notes;
  REQUIRE(words.update(kLabelView, 0, &notes).has_value());
  CHECK(words.size() == 1);
  CHECK_FALSE(label.valid());
  CHECK(lives.valid());
  CHECK(notes.all()[0].kind == NoteKind::gone_handle);
  CHECK(test::drawn_glyphs(words.memory()) == 4);
  test::WhiteContext another(FontStack{built_in_face()}, nullptr);
  CHECK(words.add(another, "Tinker").valid());
  REQUIRE(words.update(kLabelView, 0).has_value());
  CHECK(test::drawn_glyphs(words.memory()) == 10);
}

TEST_CASE("handles follow a scene that is moved", "[label]") {
  test::Scene scene(label_atlas());
  Label label = scene.words.add("Weir");
  TextScene moved(std::move(scene.words));
  label.set_text("Quay");
  CHECK(label.text() == "Quay");
  REQUIRE(moved.update(kLabelView, 0).has_value());
  CHECK(test::drawn_glyphs(moved.memory()) == 4);
  scene.words.~TextScene();
  new (&scene.words) TextScene(scene.context);
}

TEST_CASE("coverage pictures that are drawn at another size are noted, whatever makes the size", "[label]") {
  const auto atlas = test::atlas_of(test::dejavu(), PictureKind::coverage, 24);
  test::Scene scene(atlas);
  Label label = scene.words.add("Marrow");
  const auto noted = [&](float size, float scale, bool pixelated = false) {
    label.set_size(size);
    label.set_placement({.at = {50, 60}, .scale_x = scale, .scale_y = scale, .pixelated = pixelated});
    Notes notes;
    REQUIRE(scene.words.update(kLabelView, 0, &notes).has_value());
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
