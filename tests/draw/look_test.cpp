// SPDX-License-Identifier: MIT
// The formula of a layer and the room of a look.
#include "grafema/draw/look.hpp"

#include <catch2/catch.hpp>

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
