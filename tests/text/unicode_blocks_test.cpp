// SPDX-License-Identifier: MIT
// Coverage by Unicode block.
#include "grafema/unicode_blocks.hpp"

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

TEST_CASE("blocks are counted without controls and named as Unicode names them", "[unicode_blocks]") {
  const auto blocks = block_coverage(*built_in_face());
  REQUIRE(blocks.size() >= 2);
  CHECK(blocks[0].name == "Basic Latin");
  CHECK(blocks[0].covered == 95);
  CHECK(blocks[0].assigned == 95);
  CHECK(blocks[1].name == "Latin-1 Supplement");
  CHECK(blocks[1].assigned == 96);
}

TEST_CASE("no block has more characters than are assigned", "[unicode_blocks][property]") {
  std::size_t sum = 0;
  for (const BlockCoverage& block : block_coverage(*test::dejavu())) {
    CHECK(block.covered <= block.assigned);
    CHECK(block.covered > 0);
    sum += block.covered;
  }
  CHECK(sum <= test::dejavu()->characters().size());
}
