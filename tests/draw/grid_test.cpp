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
    GridOptions options{.columns = columns,
                        .gap = {static_cast<float>(random() % 9), static_cast<float>(random() % 9)},
                        .aligns = {ColumnAlign::right, ColumnAlign::center, ColumnAlign::left}};
    options.rows = static_cast<RowAlign>(round % 4);
    std::vector<PixelPoint> at(count);
    const PixelPoint size = *plan_grid(members, options, at);
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

TEST_CASE("columns are as wide as is asked, and one takes what is left over", "[grid]") {
  const GridMember members[] = {{{0, 0, 30, 10}, 8}, {{0, 0, 50, 10}, 8}, {{0, 0, 20, 10}, 8}};
  PixelPoint at[3];
  GridOptions options{.columns = 3, .gap = {5, 0}, .min_widths = {40, 0, 60}};
  CHECK(plan_grid(members, options, at)->x == 40 + 5 + 50 + 5 + 60);
  CHECK(at[1].x == 45);
  CHECK(at[2].x == 100);
  options.width = 300;
  CHECK(plan_grid(members, options, at)->x == 300);
  CHECK(at[2].x == 100);  // the rest is empty
  options.wide_column = 1;
  CHECK(plan_grid(members, options, at)->x == 300);
  CHECK(at[2].x == 240);
  options.width = 100;  // it is wider already
  CHECK(plan_grid(members, options, at)->x == 160);
}

TEST_CASE("a grid of labels stands as one label would, turned and in the world too", "[grid][property]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  std::vector<Label> labels;
  const char* const texts[] = {"4", "Lantern", "23:04", "12", "Pale Orchard", "23:09", "7", "Weir"};
  const GridOptions options{.columns = 3, .gap = {12, 5}, .aligns = {ColumnAlign::right, ColumnAlign::left}};
  Grid grid = *words.add_grid(options);
  for (int i = 0; i < 8; ++i) {
    labels.push_back(words.add(texts[i]));
    labels.back().set_size(i % 3 == 0 ? 30.0F : 20.0F);
    REQUIRE(grid.add(labels.back()).has_value());
  }
  View view = kGridView;
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  Placement where;
  const int kind = GENERATE(range(0, 4));
  where.kind = static_cast<PlaceKind>(kind);
  where.at = {30, 20}, where.anchor = {0.5F, 0.25F}, where.pin = {1, 0.5F};
  where.rotate = 17, where.scale_x = 1.2F, where.scale_y = 0.7F, where.shear = 10;
  where.world = test::multiplied(test::moved(0.2F, 0.3F, -6), test::turned_about_y(30));
  grid.set_placement(where);
  REQUIRE(words.update(view, 0).has_value());
  for (const char* const changed : {"4", "a longer line"}) {  // its neighbors follow in the same update
    labels[0].set_text(changed);
    REQUIRE(words.update(view, 0).has_value());
    std::vector<GridMember> members;
    for (const Label& label : labels) members.push_back({label.box(), label.baseline()});
    std::vector<PixelPoint> corners(8);
    const PixelPoint size = *plan_grid(members, options, corners);
    CHECK(grid.box() == Rect{0, 0, size.x, size.y});
    const LabelMap whole = *map_label({0, 0, size.x, size.y}, where, view);
    for (std::size_t i = 0; i < 8; ++i) {
      const Rect box = labels[i].box();
      const LabelRow row = words.memory().rows()[i];
      const LabelMap own{row.across, row.down, row.origin};
      for (const PixelPoint d : {PixelPoint{0, 0}, {box.width(), 0}, {0, box.height()}}) {
        const PixelPoint as_grid = *to_device(whole, {corners[i].x + d.x, corners[i].y + d.y}, view),
                         as_label = *to_device(own, {box.left + d.x, box.top + d.y}, view);
        CHECK(as_label.x == Approx(as_grid.x).margin(0.02));
        CHECK(as_label.y == Approx(as_grid.y).margin(0.02));
      }
    }
  }
}

TEST_CASE("a number that grows in a grid moves what stands beside it, and stays on the screen", "[grid]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  Label coins = words.add("coins"), number = words.add("0"), late = words.add("late");
  Grid row = *words.add_grid({.columns = 3, .gap = {8, 0}});
  const GridItem items[] = {coins, number, late};
  REQUIRE(row.set_items(items).has_value());
  row.set_placement(pinned({1, 0}, {-10, 10}));
  for (const double value : {0.0, 10.0, 100.0, 2469134.0, 7.0}) {
    number.set_number(value);
    REQUIRE(words.update(kGridView, 0).has_value());
    const Rect a = coins.device_box(), b = number.device_box(), c = late.device_box();
    CHECK(b.left == Approx(a.right + 8).margin(0.01));
    CHECK(c.left == Approx(b.right + 8).margin(0.01));
    CHECK(c.right == Approx(630).margin(0.01));
  }
  const std::uint64_t before = words.work().grids;
  REQUIRE(words.update(kGridView, 1).has_value());
  CHECK(words.work().grids == before);  // nothing changed
}

TEST_CASE("grids stand in grids, and members have their own places again when they leave", "[grid]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context);
  Label title = words.add("Quay"), a = words.add("4"), b = words.add("Lantern");
  b.move_to({300, 200});
  Grid inner = *words.add_grid({.columns = 2, .gap = {10, 0}}), outer = *words.add_grid({.gap = {0, 6}});
  const GridItem pair[] = {a, b}, both[] = {title, inner};
  REQUIRE(inner.set_items(pair).has_value());
  REQUIRE(outer.set_items(both).has_value());
  outer.set_placement({.at = {50, 60}});
  REQUIRE(words.update(kGridView, 0).has_value());
  CHECK(a.device_box().top == Approx(title.device_box().bottom + 6).margin(0.01));
  CHECK(b.device_box().left == Approx(a.device_box().right + 10).margin(0.01));
  CHECK(b.placement().at == PixelPoint{300, 200});  // its own
  b.move_to({310, 200});
  REQUIRE(words.update(kGridView, 0).has_value());
  CHECK(b.device_box().left == Approx(a.device_box().right + 10).margin(0.01));
  title.set_size(60);
  REQUIRE(words.update(kGridView, 0).has_value());
  CHECK(a.device_box().top == Approx(title.device_box().bottom + 6).margin(0.01));
  inner.erase(b);
  REQUIRE(words.update(kGridView, 0).has_value());
  CHECK(b.device_box().left == Approx(310).margin(0.01));
  CHECK(inner.box().width() == Approx(a.box().width()));
  a.remove();
  CHECK(inner.box().empty());
  outer.remove();
  CHECK_FALSE(outer.valid());
  REQUIRE(words.update(kGridView, 0).has_value());
  CHECK(title.device_box().left == Approx(0).margin(0.01));
  CHECK(inner.add(title).has_value());  // in no other grid any more
}

TEST_CASE("grids that can't be are refused and change nothing, and an empty one takes no room", "[grid]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  TextScene words(context), others(context);
  Label label = words.add("Weir"), gone = words.add(), foreign = others.add("Quay");
  gone.remove();
  Grid grid = *words.add_grid(), second = *words.add_grid();
  CHECK(grid.box().empty());
  const GridItem good[] = {label};
  CHECK(grid.set_items(good).has_value());
  CHECK_FALSE(grid.add(label).has_value());
  CHECK_FALSE(grid.add(gone).has_value());
  CHECK_FALSE(grid.add(Label()).has_value());
  CHECK_FALSE(grid.add(foreign).has_value());
  CHECK_FALSE(second.add(label).has_value());  // in another grid
  CHECK_FALSE(grid.add(grid).has_value());
  CHECK(grid.add(second).has_value());
  CHECK_FALSE(second.add(grid).has_value());  // a circle
  std::vector<GridItem> many(Grid::kMaxMembers + 1, label);
  CHECK_FALSE(second.set_items(many).has_value());
  Grid deep = second;
  for (std::size_t k = 2; k < Grid::kMaxNesting; ++k) {
    Grid next = *words.add_grid();
    CHECK(deep.add(next).has_value());
    deep = next;
  }
  CHECK_FALSE(deep.add(*words.add_grid()).has_value());
  for (const GridOptions& bad :
       {GridOptions{.columns = 0}, GridOptions{.columns = kMaxColumns + 1}, GridOptions{.gap = {INFINITY, 0}},
        GridOptions{.min_widths = {-1}}, GridOptions{.width = NAN}, GridOptions{.wide_column = 1}}) {
    CHECK_FALSE(grid.set_options(bad).has_value());
    CHECK_FALSE(words.add_grid(bad).has_value());
  }
  grid.set_placement({.at = {std::nanf(""), 0}});
  grid.set_placement({.keep_inside = true});
  Notes notes;
  REQUIRE(words.update(kGridView, 0, &notes).has_value());
  CHECK(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::refused_number);
  CHECK(label.device_box().left == Approx(0).margin(0.01));
  PixelPoint corner[1];
  const GridMember inside_out[] = {{{10, 0, 5, 5}, 0}}, endless[] = {{{0, 0, INFINITY, 5}, 0}};
  CHECK_FALSE(plan_grid(inside_out, {}, corner).has_value());
  CHECK_FALSE(plan_grid(endless, {}, corner).has_value());
  CHECK_FALSE(plan_grid(inside_out, {}, {}).has_value());
  // A label without text has no width, and is still placed.
  Label nothing = words.add();
  const GridItem two[] = {nothing, label};
  REQUIRE(grid.set_items(two).has_value());
  REQUIRE(grid.set_options({.columns = 2, .gap = {10, 0}}).has_value());
  grid.set_placement({.at = {50, 60}});
  REQUIRE(words.update(kGridView, 0).has_value());
  CHECK(grid.box().width() == Approx(10 + label.box().width()));
  CHECK(label.device_box().left == Approx(60 + label.box().left).margin(0.01));
}
