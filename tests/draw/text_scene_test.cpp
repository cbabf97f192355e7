// SPDX-License-Identifier: MIT
// Sets of labels: what is written when, and that a set that lived shows what a fresh one does.
#include <catch2/catch.hpp>
#include <random>

#include "grafema/atlas/bake.hpp"
#include "grafema/atlas/source_chain.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kLabelSetView{.width = 240, .height = 160};

const std::shared_ptr<const Atlas>& small_atlas() {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 24);
  return atlas;
}

Look look_of(int number) {
  Look look;
  if (number > 0) look.add({.shift = {2, 2}, .grow = 1, .blur = 1.5F, .fill = Fill::solid({0, 0, 0, 0.7F})});
  if (number > 1) look.add({.grow = 1.5F, .hollow = number == 3, .fill = Fill::solid({0.2F, 0.1F, 0.4F, 1})});
  look.add({.fill = number == 2 ? Fill{{Color{1, 0, 0, 1}, {1, 1, 0, 1}, {0, 1, 0, 0.5F}, {0, 0, 1, 1}}}
                                : Fill::solid({1, 0.8F, 0.3F, 1})});
  return look;
}

/// What a label of a set should be, told apart from what a set makes of it.
struct Wanted {
  std::string text;
  TextStyle style;
  LookId look{};
  Placement placement;
  float opacity = 1;
  bool visible = true;
  Motion motion;
  std::int32_t order = 0;
  std::uint32_t sequence = 0;
  Label label;

  void tell(Label to) const {
    REQUIRE(to.set_style(style).has_value());
    to.set_look(look);
    to.set_placement(placement);
    to.set_opacity(opacity);
    to.set_visible(visible);
    to.set_motion(motion);
    to.set_order(order);
  }
};

/// Labels in the order in which a set draws them.
std::vector<const Wanted*> in_order(const std::vector<Wanted>& all) {
  std::vector<const Wanted*> out;
  for (const Wanted& w : all) out.push_back(&w);
  std::sort(out.begin(), out.end(), [](const Wanted* a, const Wanted* b) {
    return std::pair(a->order, a->sequence) < std::pair(b->order, b->sequence);
  });
  return out;
}

constexpr Color kBackdrop{0.3F, 0.4F, 0.5F, 1};

Image picture_of(TextScene& set, const View& view, double seconds) {
  REQUIRE(set.update(view, seconds).has_value());
  Image image = *Image::make(static_cast<int>(view.width), static_cast<int>(view.height), PixelFormat::rgba8);
  fill_image(image, kBackdrop);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, image).has_value());
  return image;
}

Image picture_of_fresh_set(TextContext& context, const std::vector<Wanted>& all, const View& view,
                           double seconds) {
  TextScene set(context);
  for (const Wanted* w : in_order(all)) w->tell(set.add(w->text));
  return picture_of(set, view, seconds);
}

class Random {
 public:
  explicit Random(unsigned seed) : engine_(seed) {}
  int below(int n) { return static_cast<int>(engine_() % static_cast<unsigned>(n)); }
  float within(float low, float high) { return low + (high - low) * static_cast<float>(below(1000)) / 999; }

 private:
  std::mt19937 engine_;
};

constexpr const char* kTexts[] = {"Saltglass", "Ilse Varga",       "4", "", "Pale Orchard 12",
                                  "gap",       "Marrow Hill\nWeir"};

Placement any_placement(Random& random) {
  Placement p;
  p.at = {random.within(-60, 260), random.within(-40, 180)};
  p.anchor = {random.within(0, 1), random.within(0, 1)};
  if (random.below(4) == 0) p.kind = PlaceKind::pinned, p.pin = {random.within(0, 1), random.within(0, 1)};
  if (random.below(3) == 0) p.rotate = random.within(-180, 180);
  if (random.below(5) == 0) p.scale_x = random.within(0.4F, 2), p.shear = random.within(-30, 30);
  if (random.below(6) == 0) {
    p.kind = random.below(2) == 0 ? PlaceKind::world : PlaceKind::facing;
    p.world = test::multiplied(test::moved(random.within(-1, 1), random.within(-1, 1), random.within(-6, 1)),
                               test::turned_about_y(random.within(-70, 70)));
  }
  return p;
}

/// One change of a set and of what is wanted of it.
void change_anything(Random& random, TextScene& set, TextContext& context, std::vector<Wanted>& all,
                     View& view, std::uint32_t& sequence) {
  const int what = all.empty() ? 0 : random.below(15);
  if (what <= 1) {
    Wanted w;
    w.text = kTexts[random.below(7)];
    w.placement = any_placement(random);
    w.sequence = sequence++;
    w.label = set.add(w.text);
    w.tell(w.label);
    all.push_back(w);
    return;
  }
  Wanted& w = all[static_cast<std::size_t>(random.below(static_cast<int>(all.size())))];
  switch (what) {
    case 2:
      w.label.remove();
      all.erase(all.begin() + (&w - all.data()));
      return;
    case 3:
      w.label.set_text(w.text = kTexts[random.below(7)]);
      return;
    case 4:
      w.text = std::to_string(random.below(100000));
      w.label.set_number(std::stod(w.text));
      return;
    case 5:
      w.style.size = random.within(8, 60);
      REQUIRE(w.label.set_style(w.style).has_value());
      return;
    case 6:
      w.look = static_cast<LookId>(random.below(5));
      w.label.set_look(w.look);
      return;
    case 7:
      REQUIRE(context.looks()
                  .set(static_cast<LookId>(1 + random.below(4)), look_of(random.below(4)))
                  .has_value());
      return;
    case 8:
    case 9:
      w.placement.at = {random.within(-60, 260), random.within(-40, 180)};
      w.label.move_to(w.placement.at);
      return;
    case 10:
      w.placement = any_placement(random);
      w.label.set_placement(w.placement);
      return;
    case 11:
      w.label.set_visible(w.visible = !w.visible);
      return;
    case 12:
      w.label.set_opacity(w.opacity = random.within(-0.2F, 1.2F));
      w.opacity = std::clamp(w.opacity, 0.0F, 1.0F);
      return;
    case 13:
      w.motion = random.below(2) == 0 ? sway() : random.below(2) == 0 ? rattle() : Motion();
      w.label.set_motion(w.motion);
      return;
    default:
      if (random.below(2) == 0) {
        w.order = random.below(5) - 2;
        w.label.set_order(w.order);
      } else {
        view.content_scale = random.within(0.6F, 1.6F);
        view.projection = test::perspective(60, 1.5F, 0.1F, 100);
      }
  }
}

}  // namespace

TEST_CASE("after any edits a scene shows what a fresh one shows", "[set][property]") {
  const unsigned seed = GENERATE(range(1U, 21U));
  INFO("seed " << seed);
  Random random(seed);
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  for (int i = 0; i < 4; ++i)
    REQUIRE(context.looks().set("look " + std::to_string(i), look_of(i)).has_value());
  TextScene set(context);
  std::vector<Wanted> all;
  View view = kLabelSetView;
  std::uint32_t sequence = 0;
  for (int step = 0; step < 40; ++step) {
    const int edits = 1 + random.below(6);
    for (int e = 0; e < edits; ++e) change_anything(random, set, context, all, view, sequence);
    const double seconds = step * 0.37;
    const Image lived = picture_of(set, view, seconds);
    if (step % 4 != 3) continue;
    INFO("step " << step);
    const Image fresh = picture_of_fresh_set(context, all, view, seconds);
    CHECK(test::first_difference(lived, fresh, 0).empty());
  }
}

TEST_CASE("numbers that need no layout look as laid out ones do", "[set][property]") {
  const auto align = GENERATE(TextAlign::start, TextAlign::center, TextAlign::right);
  const float tracking = GENERATE(0.0F, 1.5F);
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  const LookId look = *context.looks().set("look", look_of(1));
  TextStyle style{.size = 17.3F, .align = align, .tracking = tracking};
  TextScene set(context), other(context);
  Label counted = set.add("0"), written = other.add();
  for (Label* label : {&counted, &written}) {
    REQUIRE(label->set_style(style).has_value());
    label->set_look(look);
    label->set_placement({.at = {120, 80}, .anchor = {1, 0.5F}});
  }
  (void)picture_of(set, kLabelSetView, 0);
  const std::uint64_t before = set.work().contents;
  const NumberFormat grouped{.decimals = 2, .group = ','};
  for (const double number : {7.0, 8.0, 1234567.891, 1234568.0, -3.5, 0.0, 99999.99, 100000.0}) {
    counted.set_number(number, grouped);
    NumberText text;
    written.set_text(write_number(number, grouped, text));
    INFO(number);
    CHECK(counted.text() == written.text());
    const Image a = picture_of(set, kLabelSetView, 0), b = picture_of(other, kLabelSetView, 0);
    CHECK(test::first_difference(a, b, 1).empty());
    CHECK(counted.box().width() == Approx(written.box().width()).margin(1e-3));
  }
  CHECK(set.work().contents == before);  // none was laid out
  CHECK(set.work().numbers == 8);
}

TEST_CASE("a new label is plain, whatever others were told before", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  Label first = set.add("Weir");
  const float plain = first.box().width();
  REQUIRE(first.set_style({.size = 50, .tracking = 9}).has_value());
  CHECK(first.box().width() > plain);
  CHECK(set.add("Weir").box().width() == plain);
}

TEST_CASE("numbers in a box are laid out", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  Label label = set.add("1");
  TextStyle style;
  style.wrap = 100.0F;
  REQUIRE(label.set_style(style).has_value());
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  label.set_number(22);
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  CHECK(set.work().numbers == 0);
  CHECK(label.text() == "22");
}

TEST_CASE("moving, fading, hiding and culling write rows and no glyphs", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  std::vector<Label> labels;
  for (int i = 0; i < 200; ++i) {
    labels.push_back(set.add("Saltglass"));
    labels.back().move_to({10, static_cast<float>(i % 100)});
  }
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  const SceneMemory& memory = set.memory();
  const auto changes = [&](SceneTable table, std::uint64_t since) {
    std::vector<IndexRange> ranges(8);
    ranges.resize(memory.changes_since(table, since, ranges));
    return ranges;
  };
  std::uint64_t before = memory.revision();
  labels[3].move_to({50, 60});
  labels[4].set_opacity(0.5F);
  labels[5].set_visible(false);
  labels[199].move_to({5000, 0});
  labels[6].begin_motion(3);
  REQUIRE(set.update(kLabelSetView, 1).has_value());
  CHECK(changes(SceneTable::rows, before) == std::vector<IndexRange>{{0, 200}});  // two blocks of 64, joined
  for (const SceneTable table :
       {SceneTable::glyphs, SceneTable::order, SceneTable::heads, SceneTable::layers}) {
    CHECK(changes(table, before).empty());
  }
  CHECK(labels[3].seen());
  CHECK_FALSE(labels[5].seen());
  CHECK_FALSE(labels[199].seen());
  CHECK(memory.rows()[199].tint[3] == 0);
  CHECK(memory.rows()[4].tint[3] == 128);
  before = memory.revision();
  labels[7].set_text("Saltglast");
  REQUIRE(set.update(kLabelSetView, 1).has_value());
  CHECK(changes(SceneTable::glyphs, before).size() == 1);
  CHECK(changes(SceneTable::glyphs, before)[0].end - changes(SceneTable::glyphs, before)[0].first <= 128);
  before = memory.revision();
  REQUIRE(set.update(kLabelSetView, 2).has_value());
  CHECK(changes(SceneTable::rows, before).empty());
  CHECK(changes(SceneTable::rows, 0) == std::vector<IndexRange>{{0, 200}});  // a renderer that comes anew
}

TEST_CASE("what is far from the view is left out of batches", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  for (int i = 0; i < 3000; ++i) {
    const bool near = i < 100 || i >= 2900;
    set.add("Saltglass").move_to({near ? 10.0F : 9000.0F, 20});
  }
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  std::size_t drawn = 0;
  for (const SceneBatch& batch : set.memory().batches()) drawn += batch.count;
  CHECK(set.memory().batches().size() == 2);
  CHECK(drawn >= 200 * 9);
  CHECK(drawn < 6000);
}

TEST_CASE("handles outlive their labels, sets take bad numbers as errors", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  Label a = set.add("a"), b = set.add("b"), never;
  const Label copy = a;
  CHECK_FALSE(never.valid());
  a.remove();
  CHECK_FALSE(copy.valid());
  CHECK(b.valid());
  const Label reused = set.add("c");  // in the place of the first
  CHECK_FALSE(copy.valid());
  CHECK(reused.valid());
  CHECK(set.size() == 2);
  const float nan = std::nanf("");
  for (const PixelPoint bad : {PixelPoint{nan, 0}, {0, INFINITY}}) {
    b.move_to(bad), b.set_placement({.at = bad});
    CHECK(b.placement().at == PixelPoint{});
    const Label one[] = {b};
    CHECK_FALSE(set.move(one, std::span(&bad, 1)).has_value());
    CHECK_FALSE(set.set_group(GroupId{}, {.offset = bad}).has_value());
    CHECK_FALSE(set.add_clip({.box = {bad.x, bad.y, 10, 10}}).has_value());
  }
  CHECK_FALSE(set.add_clip({.box = {10, 10, 10, 20}}).has_value());
  CHECK_FALSE(set.set_clip(ClipId{7}, {.box = {0, 0, 1, 1}}).has_value());
  CHECK_FALSE(set.set_group(GroupId{7}, {}).has_value());
  b.set_size(nan);
  CHECK(b.style().size == 32);
  CHECK_FALSE(set.update({.width = nan}, 0).has_value());
  CHECK_FALSE(set.update(kLabelSetView, std::nan("")).has_value());
  b.set_opacity(nan);
  b.begin_motion(std::nan(""));
  CHECK(b.opacity() == 1);
  for (float MotionTerm::*field : {&MotionTerm::amplitude, &MotionTerm::period, &MotionTerm::phase,
                                   &MotionTerm::lead, &MotionTerm::start, &MotionTerm::stop}) {
    MotionTerm term;
    term.*field = nan;
    CHECK_FALSE(make_motion({term}).has_value());
  }
  CHECK_FALSE(make_motion(std::vector<MotionTerm>(17)).has_value());
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  set.clear();
  CHECK(set.size() == 0);
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  CHECK(set.memory().batches().empty());
}

TEST_CASE("groups move, fade, hide and order their labels", "[set][group]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  const GroupId behind = set.add_group(), front = set.add_group({.order = 3});
  Label a = set.add("Saltglass"), b = set.add("Weir");
  a.set_group(front);
  b.set_group(behind);
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  const auto first_row = [&] { return set.memory().glyphs()[set.memory().order()[0] / 8].row; };
  CHECK(first_row() == 1);  // b is behind
  REQUIRE(set.set_group(behind, {.order = 7}).has_value());
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  CHECK(first_row() == 0);
  const float rest = set.memory().rows()[0].origin[0];
  REQUIRE(set.set_group(front, {.order = 3, .offset = {24, 0}, .opacity = 0.5F}).has_value());
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  CHECK(set.memory().rows()[0].origin[0] == Approx(rest + 2 * 24 / kLabelSetView.width));
  CHECK(set.memory().rows()[0].tint[3] == 128);
  CHECK(a.device_box().left == Approx(24));
  REQUIRE(set.set_group(front, {.visible = false}).has_value());
  REQUIRE(set.update(kLabelSetView, 0).has_value());
  CHECK_FALSE(a.seen());
  CHECK(b.seen());
  CHECK_FALSE(a.hit({30, 10}));
}

TEST_CASE("a swap of fonts or looks in one context leaves the other alone, and all follow at once", "[set]") {
  test::WhiteContext one(FontStack{test::dejavu()}, nullptr), other(FontStack{test::dejavu()}, nullptr);
  TextScene set(one);
  std::vector<Label> ours, theirs;
  for (int i = 0; i < 20; ++i) {
    ours.push_back(set.add("Saltglass"));
    theirs.push_back(set.add(other, "Saltglass"));
    ours.back().move_to({0, static_cast<float>(i) * 8});
    theirs.back().move_to({120, static_cast<float>(i) * 8});
  }
  const Image before = picture_of(set, kLabelSetView, 0);
  const SceneWork work = set.work();
  one.set_fonts(FontStack{built_in_face()});
  const Image after = picture_of(set, kLabelSetView, 0);
  CHECK(set.work().contents == work.contents + 20);
  TextScene fresh(one);
  for (int i = 0; i < 20; ++i) {
    fresh.add("Saltglass").move_to({0, static_cast<float>(i) * 8});
    fresh.add(other, "Saltglass").move_to({120, static_cast<float>(i) * 8});
  }
  CHECK(test::first_difference(after, picture_of(fresh, kLabelSetView, 0), 0).empty());
  CHECK_FALSE(test::first_difference(before, after, 8).empty());
  // A color alone is one record.
  const LookId look = *one.looks().set("sign", plain_look({1, 0, 0, 1}));
  for (Label& label : ours) label.set_look(look);
  (void)picture_of(set, kLabelSetView, 0);
  const std::uint64_t contents = set.work().contents;
  REQUIRE(one.looks().set(look, plain_look({0, 1, 0, 1})).has_value());
  (void)picture_of(set, kLabelSetView, 0);
  CHECK(set.work().contents == contents);
}

TEST_CASE("a set that is moved keeps its labels, and one may be emptied and filled again", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene first(context);
  Label label = first.add("Weir");
  TextScene second(std::move(first));
  CHECK(label.valid());
  label.move_to({30, 40});
  const Image a = picture_of(second, kLabelSetView, 0);
  for (int round = 0; round < 50; ++round) {
    second.clear();
    for (int i = 0; i < 100; ++i) (void)second.add("Saltglass ferry");
    REQUIRE(second.update(kLabelSetView, 0).has_value());
  }
  second.clear();
  second.add("Weir").move_to({30, 40});
  CHECK(test::first_difference(a, picture_of(second, kLabelSetView, 0), 0).empty());
  CHECK(second.memory().glyphs().size() < 100 * 20 * 3);  // places are used again
}

TEST_CASE("what a set can't hold is noted, and the rest is drawn", "[set][note]") {
  // Five parts in each of eight contexts: more texture arrays than a set tells apart.
  std::vector<std::shared_ptr<const Atlas>> atlases;
  for (char32_t c = U'A'; c <= U'E'; ++c) {
    AtlasRecipe recipe;
    recipe.faces = {test::dejavu()}, recipe.size = 20, recipe.characters = {c}, recipe.closure = false;
    atlases.push_back(std::make_shared<const Atlas>(*bake(recipe)));
  }
  std::vector<std::unique_ptr<TextContext>> contexts;
  for (int i = 0; i < 8; ++i) {
    std::vector<std::shared_ptr<GlyphSource>> parts;
    for (const auto& atlas : atlases) parts.push_back(std::make_shared<AtlasSource>(atlas));
    contexts.push_back(std::make_unique<TextContext>(FontStack{test::dejavu()}, *SourceChain::make(parts)));
  }
  TextScene set(*contexts[0]);
  for (int i = 0; i < 8; ++i) {
    Label label = set.add(*contexts[static_cast<std::size_t>(i)], "ABCDE");
    label.set_name("row " + std::to_string(i));
    label.set_size(10);
    label.move_to({10, static_cast<float>(i) * 18});
  }
  Notes notes;
  REQUIRE(set.update(kLabelSetView, 0, &notes).has_value());
  REQUIRE(notes.all().size() == 2);
  CHECK(notes.all()[0].kind == NoteKind::crowded_scene);
  CHECK(notes.all()[0].label == "row 6");
  CHECK(describe(notes.all()[0]) ==
        "label 'row 6': the scene is full: glyphs beyond 32 texture arrays are left out");
  Image image = *Image::make(240, 160, PixelFormat::rgba8);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, image).has_value());
  const auto is_painted = [&](int x, int y) {
    for (int row = y; row < y + 18; ++row) {
      for (int column = x; column < x + 10; ++column) {
        if (image.value(column, row, 3) > 100) return true;
      }
    }
    return false;
  };
  CHECK(is_painted(12, 6 * 18));        // its A
  CHECK(is_painted(17, 6 * 18));        // and its B
  CHECK_FALSE(is_painted(12, 7 * 18));  // nothing of the last
}

TEST_CASE("glyphs that functions move beyond what a set counts stand still and are noted", "[set][note]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  for (int i = 0; i < 5600; ++i) {
    set.add("twelve signs").set_motion([](const MotionInput&, GlyphChange& out) { out.offset.y = 3; });
  }
  Notes notes;
  REQUIRE(set.update(kLabelSetView, 0, &notes).has_value());
  REQUIRE_FALSE(notes.empty());
  CHECK(notes.all()[0].kind == NoteKind::crowded_scene);
  CHECK(notes.all()[0].text == "glyphs beyond 65,535 records of motion stand still");
  CHECK(set.memory().motions().size() <= 65536);
}

TEST_CASE("a set says where it can't take as much as is asked for", "[set]") {
  test::WhiteContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  TextScene set(context);
  CHECK(set.reserve(1000, 12000).has_value());
  for (const auto& [labels, glyphs] : {std::pair<std::size_t, std::size_t>{TextScene::kMaxLabels + 1, 0},
                                       {0, TextScene::kMaxGlyphs + 1},
                                       {SIZE_MAX, SIZE_MAX}}) {
    const Result<void> reserved = set.reserve(labels, glyphs);
    REQUIRE_FALSE(reserved.has_value());
    CHECK(reserved.error().kind == ErrorKind::does_not_fit);
  }
}
