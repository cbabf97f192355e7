// SPDX-License-Identifier: MIT
// Coverage of faces by Unicode block.
#include "grafema/font/block_coverage.hpp"

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

TEST_CASE("the built-in face covers Basic Latin", "[block_coverage]") {
  const auto coverage = block_coverage(*built_in_face());
  REQUIRE(coverage.size() >= 2);
  CHECK(coverage[0].block.name == "Basic Latin");
  CHECK(coverage[0].covered == 95);
  CHECK(coverage[1].block.name == "Latin-1 Supplement");
}

TEST_CASE("no block has more characters than are assigned", "[block_coverage][property]") {
  std::size_t sum = 0;
  for (const BlockCoverage& coverage : block_coverage(*test::dejavu())) {
    CHECK(coverage.covered <= coverage.block.assigned);
    CHECK(coverage.covered > 0);
    sum += coverage.covered;
  }
  CHECK(sum <= test::dejavu()->characters().size());
  CHECK(sum > 5000);
}
