// SPDX-License-Identifier: MIT
// Sets of labels: what is written when, and that a set that lived shows what a fresh one does.
#include <catch2/catch.hpp>
#include <random>

#include "grafema/draw/label_set.hpp"
#include "grafema/draw/paint.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kView{.width = 240, .height = 160};

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
  SetLabel label;

  void tell(SetLabel to) const {
    REQUIRE(to.set_style(style).has_value());
    to.set_look(look);
    REQUIRE(to.set_placement(placement).has_value());
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

Image picture_of(LabelSet& set, const View& view, double seconds) {
  REQUIRE(set.update(view, seconds).has_value());
  Image image = *Image::make(static_cast<int>(view.width), static_cast<int>(view.height), PixelFormat::rgba8);
  fill_image(image, kBackdrop);
  REQUIRE(draw_in_software(set.memory(), view, Blending::linear, image).has_value());
  return image;
}

/// The same labels by the other way there is: quads.
Image picture_of(TextContext& context, const std::vector<Wanted>& all, const View& view, double seconds) {
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> labels;
  for (const Wanted* w : in_order(all)) {
    owned.push_back(std::make_unique<Label>(context, w->text));
    Label& label = *owned.back();
    REQUIRE(label.set_style(w->style).has_value());
    label.set_look(w->look);
    REQUIRE(label.set_placement(w->placement).has_value());
    label.set_opacity(w->opacity);
    label.set_visible(w->visible);
    label.set_motion(w->motion);
    label.set_time(seconds);
    labels.push_back(&label);
  }
  return test::in_software(context, labels, view, Blending::linear, kBackdrop);
}

Image picture_of_fresh_set(TextContext& context, const std::vector<Wanted>& all, const View& view,
                           double seconds) {
  LabelSet set(context);
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
void change_anything(Random& random, LabelSet& set, TextContext& context, std::vector<Wanted>& all,
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
      REQUIRE(w.label.move_to(w.placement.at).has_value());
      return;
    case 10:
      w.placement = any_placement(random);
      REQUIRE(w.label.set_placement(w.placement).has_value());
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

TEST_CASE("after any edits a set shows what a fresh one shows, and what quads show", "[set][property]") {
  const unsigned seed = GENERATE(range(1U, 21U));
  INFO("seed " << seed);
  Random random(seed);
  TextContext context(FontStack{test::dejavu()}, std::make_shared<AtlasSource>(small_atlas()));
  for (int i = 0; i < 4; ++i)
    REQUIRE(context.looks().set("look " + std::to_string(i), look_of(i)).has_value());
  LabelSet set(context);
  std::vector<Wanted> all;
  View view = kView;
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
    const Image quads = picture_of(context, all, view, seconds);
    INFO(test::first_difference(lived, quads, 4));
    CHECK(test::share_that_differs(lived, quads, 4) < 0.0005);
  }
}
