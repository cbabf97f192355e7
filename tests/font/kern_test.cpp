// SPDX-License-Identifier: MIT
// Pairs of the kern table, as fonts have them and as some should not.
#include <catch2/catch.hpp>

#include "support/font_builder.hpp"

using namespace grafema;
using test::words;

namespace {

std::shared_ptr<const Face> face_with(const std::vector<std::byte>& kern) {
  test::FontBuilder builder;
  builder.table("kern") = kern;
  return builder.face();
}

float kern(const Face& face, std::uint32_t left, std::uint32_t right) { return face.kerning(GlyphId{left}, GlyphId{right}, tag("latn")); }

}  // namespace

TEST_CASE("sorted pairs are found, others are not", "[kern]") {
  const auto face = face_with(words({0, 1, 0, 32, 1, 3, 12, 1, 6, 5, 6, -10, 5, 9, 20, 7, 5, -30}));
  CHECK(kern(*face, 5, 6) == -10);
  CHECK(kern(*face, 5, 9) == 20);
  CHECK(kern(*face, 7, 5) == -30);
  CHECK(kern(*face, 6, 5) == 0);
  CHECK(kern(*face, 70000, 5) == 0);
}

TEST_CASE("pairs out of order are found too", "[kern]") {
  const auto face = face_with(words({0, 1, 0, 32, 1, 3, 12, 1, 6, 7, 5, -30, 5, 9, 20, 5, 6, -10}));
  CHECK(kern(*face, 5, 6) == -10);
  CHECK(kern(*face, 7, 5) == -30);
}

TEST_CASE("subtables add up unless one overrides; vertical, minimum and cross-stream ones are left out", "[kern]") {
  const int coverage = GENERATE(1, 9, 0, 3, 5, 0x101);
  const auto face = face_with(words({0, 2, 0, 20, 1, 1, 6, 0, 0, 5, 6, -10, 0, 20, coverage, 1, 6, 0, 0, 5, 6, -7}));
  CHECK(kern(*face, 5, 6) == (coverage == 1 ? -17 : coverage == 9 ? -7 : -10));
}

TEST_CASE("a length that wrapped or lies does not hide pairs that are there", "[kern]") {
  const auto face = face_with(words({0, 1, 0, 8, 1, 2, 12, 1, 0, 5, 6, -10, 5, 9, 20}));
  CHECK(kern(*face, 5, 9) == 20);
  CHECK(kern(*face_with(words({0, 1, 0, 32, 1, 9000, 0, 0, 0, 5, 6, -10})), 5, 6) == -10);
}

TEST_CASE("a table without pairs is no kerning", "[kern]") {
  for (const auto& table : {words({0, 0}), words({0, 1, 0, 14, 1, 0, 0, 0, 0}), words({1, 0, 0, 1}), words({})}) {
    CHECK(face_with(table)->kerning_source() == KerningSource::none);
  }
}
