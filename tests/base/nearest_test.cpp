// SPDX-License-Identifier: MIT
// Suggestions for words that were mistyped.
#include "grafema/base/nearest.hpp"

#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("the nearest name takes the fewest changes", "[nearest]") {
  const std::string_view names[] = {"sway", "rattle", "still"};
  CHECK(nearest_name("swya", names) == "sway");
  CHECK(nearest_name("ratle", names) == "rattle");
  CHECK(nearest_name("stil", names) == "still");
  CHECK(suggestion("stil", names) == "; did you mean 'still'?");
}

TEST_CASE("a word that is like no name gets no suggestion", "[nearest]") {
  const std::string_view names[] = {"sway", "rattle"};
  CHECK(nearest_name("lanterns", names).empty());
  CHECK(nearest_name("", names).empty());
  CHECK(nearest_name("sway", {}).empty());
  CHECK(suggestion("lanterns", names).empty());
}

TEST_CASE("words of any length are compared by what they begin with", "[nearest]") {
  const std::string longest(1'000'000, 'a');
  const std::string_view names[] = {longest, "sway"};
  CHECK(nearest_name(longest + "b", names) == longest);
}
