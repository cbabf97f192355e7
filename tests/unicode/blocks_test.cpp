// SPDX-License-Identifier: MIT
// The table of blocks against Unicode's own data.
#include "grafema/unicode/blocks.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("blocks ascend, are named as Unicode names them and count what is assigned", "[blocks]") {
  const auto blocks = unicode_blocks();
  REQUIRE(blocks.size() > 300);
  CHECK(blocks[0].name == "Basic Latin");
  CHECK(blocks[0].assigned == 95);
  CHECK(blocks[1].name == "Latin-1 Supplement");
  CHECK(blocks[1].assigned == 96);
  for (std::size_t i = 1; i < blocks.size(); ++i) CHECK(blocks[i - 1].last < blocks[i].first);
  for (const UnicodeBlock& block : blocks) {
    std::uint32_t assigned = 0;
    for (char32_t c = block.first; c <= block.last; ++c) assigned += is_assigned_character(c) ? 1 : 0;
    CHECK(assigned == block.assigned);
  }
}

TEST_CASE("every assigned character stands in a block and is assigned in Unicode", "[blocks][property]") {
  std::size_t assigned = 0, counted = 0;
  for (char32_t c = 0; c <= 0x10FFFF; ++c) {
    const int category = u_charType(static_cast<UChar32>(c));
    const bool wanted = category != U_UNASSIGNED && category != U_CONTROL_CHAR && category != U_SURROGATE;
    REQUIRE(is_assigned_character(c) == wanted);
    assigned += wanted ? 1 : 0;
  }
  for (const UnicodeBlock& block : unicode_blocks()) counted += block.assigned;
  CHECK(counted == assigned);
}
