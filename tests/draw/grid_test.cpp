// SPDX-License-Identifier: MIT
// Grids: members beside and below each other, baselines shared, all of them placed as one.
#include "grafema/draw/grid.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kGridView{.width = 640, .height = 400};

}  // namespace

TEST_CASE("members of a grid stand apart by its gaps, in columns as wide as the widest", "[grid][property]") {
  std::mt19937 random(9);
  for (int round = 0; round < 200; ++round) {
    const std::size_t count = 1 + random() % 20, columns = 1 + random() % 6;
    std::vector<GridMember> members(count);
    for (GridMember& m : members) {
      const auto left = static_cast<float>(random() % 7) - 3, top = static_cast<float>(random() % 5) - 2;
      m.box = {left, top, left + static_cast<float>(random() % 90),
               top + static_cast<float>(5 + random() % 40)};
      m.baseline = m.box.top + m.box.height() * 0.8F;
    }
    const ColumnAlign aligns[] = {ColumnAlign::right, ColumnAlign::center, ColumnAlign::left};
    GridOptions options{.gap = {static_cast<float>(random() % 9), static_cast<float>(random() % 9)},
                        .columns = aligns};
    options.rows = static_cast<RowAlign>(round % 4);
    std::vector<PixelPoint> at(count);
    const PixelPoint size = *plan_grid(members, columns, options, at);
    const auto rect_of = [&](std::size_t i) {
      return Rect{at[i].x, at[i].y, at[i].x + members[i].box.width(), at[i].y + members[i].box.height()};
    };
    float right = 0, bottom = 0;
    for (std::size_t i = 0; i < count; ++i) {
      const Rect a = rect_of(i);
      CHECK(a.left >= -0.001F);
      CHECK(a.top >= -0.001F);
      right = std::max(right, a.right), bottom = std::max(bottom, a.bottom);
      for (std::size_t j = i + 1; j < count; ++j) {
        const Rect b = rect_of(j);
        const bool same_row = i / columns == j / columns, same_column = i % columns == j % columns;
        if (same_row) {
          CHECK(b.left >= a.right + options.gap.x - 0.001F);
          const float line_a = at[i].y + members[i].baseline - members[i].box.top,
                      line_b = at[j].y + members[j].baseline - members[j].box.top;
          if (options.rows == RowAlign::baseline) CHECK(line_a == Approx(line_b).margin(0.001));
          if (options.rows == RowAlign::top) CHECK(a.top == Approx(b.top).margin(0.001));
          if (options.rows == RowAlign::bottom) CHECK(a.bottom == Approx(b.bottom).margin(0.001));
        } else {
          CHECK(b.top >= a.bottom + options.gap.y - 0.001F);
        }
        if (same_column) {
          const std::size_t c = i % columns;
          if (c == 0) CHECK(a.right == Approx(b.right).margin(0.001));
          if (c == 1) CHECK(a.left + a.right == Approx(b.left + b.right).margin(0.01));
          if (c >= 2) CHECK(a.left == Approx(b.left).margin(0.001));
        }
      }
    }
    CHECK(size.x == Approx(right).margin(0.001));
    CHECK(size.y >= bottom - 0.001F);
  }
}

TEST_CASE("a grid of labels stands as one label would, turned and in the world too", "[grid][property]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  LabelSet set(context);
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> labels;
  std::vector<SetLabel> in_set;
  const char* const texts[] = {"4", "Lantern", "23:04", "12", "Pale Orchard", "23:09", "7", "Weir"};
  for (int i = 0; i < 8; ++i) {
    owned.push_back(std::make_unique<Label>(context, texts[i]));
    REQUIRE(owned.back()->set_size(i % 3 == 0 ? 30.0F : 20.0F).has_value());
    labels.push_back(owned.back().get());
    in_set.push_back(set.add(texts[i]));
    REQUIRE(in_set.back().set_size(i % 3 == 0 ? 30.0F : 20.0F).has_value());
  }
  View view = kGridView;
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  Placement where;
  const int kind = GENERATE(range(0, 4));
  where.kind = static_cast<PlaceKind>(kind);
  where.at = {30, 20}, where.anchor = {0.5F, 0.25F}, where.pin = {1, 0.5F};
  where.rotate = 17, where.scale_x = 1.2F, where.scale_y = 0.7F, where.shear = 10;
  where.world = test::multiplied(test::moved(0.2F, 0.3F, -6), test::turned_about_y(30));
  const ColumnAlign aligns[] = {ColumnAlign::right, ColumnAlign::left};
  const GridOptions options{.gap = {12, 5}, .columns = aligns};
  const PixelPoint size = *place_grid(labels, 3, where, options);
  CHECK(size == *place_grid(in_set, 3, where, options));
  std::vector<GridMember> members;
  for (Label* label : labels) members.push_back({label->box(), label->paragraph().lines[0].baseline});
  std::vector<PixelPoint> corners(8);
  REQUIRE(plan_grid(members, 3, options, corners).has_value());
  const LabelMap whole = *map_label({0, 0, size.x, size.y}, where, view);
  REQUIRE(set.update(view, 0).has_value());
  for (std::size_t i = 0; i < 8; ++i) {
    const Rect box = labels[i]->box();
    const LabelMap own = *map_label(box, labels[i]->placement(), view);
    for (const PixelPoint d : {PixelPoint{0, 0}, {box.width(), 0}, {0, box.height()}}) {
      const PixelPoint as_grid = *to_device(whole, {corners[i].x + d.x, corners[i].y + d.y}, view),
                       as_label = *to_device(own, {box.left + d.x, box.top + d.y}, view);
      CHECK(as_label.x == Approx(as_grid.x).margin(0.02));
      CHECK(as_label.y == Approx(as_grid.y).margin(0.02));
    }
    CHECK(in_set[i].baseline() == Approx(members[i].baseline));
    const Rect a = labels[i]->device_box(view), b = in_set[i].device_box(view);
    CHECK(a.left == Approx(b.left).margin(0.01));
    CHECK(a.top == Approx(b.top).margin(0.01));
  }
}

TEST_CASE("grids that can't be are refused, and an empty one takes no room", "[grid]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  Label label(context, "Weir"), gone(context);
  const Label moved(std::move(gone));
  Label* const good[] = {&label};
  Label* const null[] = {&label, nullptr};
  Label* const empty[] = {&gone};
  Label* const twice[] = {&label, &label};
  CHECK(place_grid(std::span<Label* const>(), 3, {}) == PixelPoint{});
  CHECK(place_grid(good, 1, {}).has_value());
  CHECK_FALSE(place_grid(null, 2, {}).has_value());
  CHECK_FALSE(place_grid(empty, 1, {}).has_value());
  CHECK_FALSE(place_grid(twice, 1, {}).has_value());
  LabelSet set(context);
  SetLabel same[] = {set.add("Weir"), set.add("Weir")};
  CHECK(place_grid(same, 1, {}).has_value());
  same[1] = same[0];
  CHECK_FALSE(place_grid(same, 1, {}).has_value());
  CHECK_FALSE(place_grid(good, 0, {}).has_value());
  CHECK_FALSE(place_grid(good, kMaxColumns + 1, {}).has_value());
  CHECK_FALSE(place_grid(good, 1, {.keep_inside = true}).has_value());
  CHECK_FALSE(place_grid(good, 1, {.at = {std::nanf(""), 0}}).has_value());
  CHECK_FALSE(place_grid(good, 1, {}, {.gap = {INFINITY, 0}}).has_value());
  PixelPoint corner[1];
  const GridMember inside_out[] = {{{10, 0, 5, 5}, 0}}, endless[] = {{{0, 0, INFINITY, 5}, 0}};
  CHECK_FALSE(plan_grid(inside_out, 1, {}, corner).has_value());
  CHECK_FALSE(plan_grid(endless, 1, {}, corner).has_value());
  CHECK_FALSE(plan_grid(inside_out, 1, {}, {}).has_value());
  // A label without text has no width, and is still placed.
  Label nothing(context, "");
  Label* const two[] = {&nothing, &label};
  const PixelPoint size = *place_grid(two, 2, {.at = {50, 60}}, {.gap = {10, 0}});
  CHECK(size.x == Approx(10 + label.box().width()));
  CHECK(label.device_box(kGridView).left == Approx(60 + label.box().left).margin(0.01));
}
