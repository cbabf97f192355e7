// SPDX-License-Identifier: MIT
// The formula of a layer and the room of a look.
#include "grafema/draw/look.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/looks.hpp"

using namespace grafema;

TEST_CASE("a plain layer is the share of a straight edge in a pixel", "[look]") {
  const Layer plain;
  CHECK(layer_strength(plain, 0, 0) == 0.5F);
  CHECK(layer_strength(plain, 0.25F, 0) == 0.75F);
  CHECK(layer_strength(plain, -0.5F, 0) == 0);
  CHECK(layer_strength(plain, 3, 0) == 1);
  CHECK(layer_strength(plain, 0.25F, 0, 0.5F) == 1);  // a pixel half as wide
}

TEST_CASE("strength grows with distance, with grow, and stays in 0..1", "[look][property]") {
  for (const float blur : {0.0F, 0.5F, 4.0F}) {
    for (const float grow : {-1.0F, 0.0F, 3.0F}) {
      float before = 0;
      for (float d = -12; d <= 12; d += 0.1F) {
        const float s = layer_strength({.grow = grow, .blur = blur}, d, 0);
        CHECK(s >= before);
        CHECK(s <= 1);
        CHECK(s <= layer_strength({.grow = grow + 1, .blur = blur}, d, 0));
        before = s;
      }
      CHECK(layer_strength({.grow = grow, .blur = blur}, -grow, 0) == Approx(0.5F));
    }
  }
}

TEST_CASE("a hollow layer leaves the letter's own shape out", "[look]") {
  const Layer hollow{.grow = 3, .hollow = true};
  CHECK(layer_strength(hollow, 2, 2) == 0);
  CHECK(layer_strength(hollow, -2, -2) == 1);
  CHECK(layer_strength(hollow, 0, 0) == 0.5F);
}

TEST_CASE("outside the required reach nothing is painted, inside it nothing is lost", "[look][property]") {
  for (const float grow : {0.0F, 2.0F}) {
    for (const float blur : {0.0F, 3.0F}) {
      Look look;
      look.add({.grow = grow, .blur = blur});
      const float reach = required_reach(look, 32);
      CHECK(layer_strength(look.layers[0], -reach, 0) == 0);
      CHECK(layer_strength(look.layers[0], -reach + 0.6F, 0) > 0);
    }
  }
}

TEST_CASE("a look holds eight layers and no more", "[look]") {
  Look look = plain_look({1, 0, 0, 1});
  CHECK(look.count == 1);
  for (int i = 1; i < 8; ++i) CHECK(look.add({}));
  CHECK_FALSE(look.add({}));
  CHECK(look.count == 8);
}

TEST_CASE("the overhang follows shift, grow and blur", "[look]") {
  Look look;
  look.add({.shift = {3, -2}, .grow = 1, .blur = 4});
  const Overhang over = overhang(look, 32);
  CHECK(over.right == 8.5F);
  CHECK(over.left == 2.5F);
  CHECK(over.top == 7.5F);
  CHECK(over.bottom == 3.5F);
}

TEST_CASE("bands, insets and what is left out share one formula", "[look][property]") {
  const float distance = GENERATE(-3.0F, -1.2F, -0.4F, 0.0F, 0.3F, 0.9F, 2.5F);
  const auto edge = [](float d) { return std::clamp(0.5F + d, 0.0F, 1.0F); };
  const Layer outside = outline_layer(1.5F, OutlinePlace::outside, {}),
              centered = outline_layer(1.5F, OutlinePlace::centered, {}),
              inside = outline_layer(1.5F, OutlinePlace::inside, {});
  CHECK(layer_strength(outside, distance, distance) == Approx(edge(distance + 1.5F) - edge(distance)));
  CHECK(layer_strength(centered, distance, distance) ==
        Approx(edge(distance + 0.75F) - edge(distance - 0.75F)));
  CHECK(layer_strength(inside, distance, distance) == Approx(edge(distance) - edge(distance - 1.5F)));
  // The three together with what they leave free are the letter grown.
  const Layer grown{.grow = 1.5F};
  CHECK(layer_strength(outside, distance, distance) + edge(distance) ==
        Approx(layer_strength(grown, distance, distance)));
  // An inset and the shape that casts it fill the letter.
  const float shifted = distance - 0.7F;
  const Layer inset{.inset = true}, plain;
  CHECK(layer_strength(inset, shifted, distance) ==
        Approx(edge(distance) * (1 - layer_strength(plain, shifted, shifted))));
}

TEST_CASE("room and reach know of bands, sharp corners, insets and sweeps", "[look]") {
  Look look;
  look.add({.grow = 4, .sharp = true});
  CHECK(required_reach(look, 20) == Approx(4 * kSharpReach + 0.5F));
  look.layers[0] = {.grow = 1, .line = 5};
  CHECK(required_reach(look, 20) == 4.5F);  // the band's inner edge is farther away
  look.layers[0] = {.shift = {3, 0}, .grow = 2, .blur = 1, .inset = true};
  CHECK(required_reach(look, 20) == 3.5F);
  CHECK(overhang(look, 20).right == 0.5F);
  look.layers[0] = {.shift = {-1, 2}, .grow = 1, .sweep = {10, -6}};
  const Overhang most = overhang(look, 20);
  CHECK(most.right == 10.5F);
  CHECK(most.left == 2.5F);
  CHECK(most.top == 5.5F);
  CHECK(most.bottom == 3.5F);
}

TEST_CASE("looks with numbers or fills that make no sense are refused", "[look]") {
  Look look = plain_look({1, 1, 1, 1});
  look.layers[0].line = -1;
  CHECK_FALSE(check_look(look).has_value());
  look.layers[0].line = 0, look.layers[0].sweep.y = NAN;
  CHECK_FALSE(check_look(look).has_value());
  look.layers[0].sweep.y = 0, look.layers[0].fill.kind = FillKind::linear;
  CHECK_THAT(describe(check_look(look).error()), Catch::Contains("two stops"));
  look.layers[0].fill = Fill::of_image(nullptr);
  CHECK_THAT(describe(check_look(look).error()), Catch::Contains("an image"));
  const Color two[] = {{1, 0, 0, 1}, {0, 0, 1, 1}};
  look.layers[0].fill = Fill::linear(two);
  CHECK(check_look(look).has_value());
  look.layers[0].fill.stops[0].at = 2;
  CHECK_THAT(describe(check_look(look).error()), Catch::Contains("ascend"));
}

TEST_CASE("a parameter is set in all looks that have it, or in one", "[look]") {
  LookBook book;
  Look look = plain_look({1, 0, 0, 1});
  look.add({.grow = 1});
  const std::vector<LookParameter> parameters = {{"team", LookTarget::corner, 0, 0},
                                                 {"team", LookTarget::corner, 0, 2},
                                                 {"edge", LookTarget::grow, 1, 0}};
  const LookId first = *book.set("first", look, parameters);
  const LookId second = *book.copy("second", first);
  const Color green{0, 1, 0, 1};
  REQUIRE(book.set_parameter(second, "team", green).has_value());
  CHECK(book.get(second).layers[0].fill.corners[2] == green);
  CHECK(book.get(second).layers[0].fill.corners[1] == look.layers[0].fill.corners[1]);
  CHECK(book.get(first) == look);
  const std::uint64_t before = book.revision();
  REQUIRE(book.set_parameter("edge", 2.5F).has_value());
  CHECK(book.get(first).layers[1].grow == 2.5F);
  CHECK(book.get(second).layers[1].grow == 2.5F);
  CHECK(book.revision() > before);
  CHECK_THAT(describe(book.set_parameter("teem", green).error()), Catch::Contains("did you mean 'team'"));
  CHECK_FALSE(book.set_parameter("team", 2.0F).has_value());  // a color, not a number
  CHECK_FALSE(book.set_parameter("edge", NAN).has_value());
  CHECK(book.get(first).layers[1].grow == 2.5F);
}
