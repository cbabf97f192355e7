// SPDX-License-Identifier: MIT
// Pairs of the kern table, as fonts have them and as some should not.
#include <algorithm>

#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::words;

namespace {

std::shared_ptr<const Face> face_with_kern(const std::vector<std::byte>& kern) {
  test::FontBuilder builder;
  builder.table("kern") = kern;
  return builder.face();
}

float kern(const Face& face, std::uint32_t left, std::uint32_t right) {
  return face.kerning(GlyphId{left}, GlyphId{right}, tag("latn"));
}

}  // namespace

TEST_CASE("sorted pairs are found, others are not", "[kern]") {
  const auto face = face_with_kern(words({0, 1, 0, 32, 1, 3, 12, 1, 6, 5, 6, -10, 5, 9, 20, 7, 5, -30}));
  CHECK(kern(*face, 5, 6) == -10);
  CHECK(kern(*face, 5, 9) == 20);
  CHECK(kern(*face, 7, 5) == -30);
  CHECK(kern(*face, 6, 5) == 0);
  CHECK(kern(*face, 70000, 5) == 0);
}

TEST_CASE("pairs out of order are found too", "[kern]") {
  const auto face = face_with_kern(words({0, 1, 0, 32, 1, 3, 12, 1, 6, 7, 5, -30, 5, 9, 20, 5, 6, -10}));
  CHECK(kern(*face, 5, 6) == -10);
  CHECK(kern(*face, 7, 5) == -30);
}

TEST_CASE("subtables add up unless one overrides; vertical, minimum and cross-stream ones are left out",
          "[kern]") {
  const int coverage = GENERATE(1, 9, 0, 3, 5, 0x101);
  const auto face =
      face_with_kern(words({0, 2, 0, 20, 1, 1, 6, 0, 0, 5, 6, -10, 0, 20, coverage, 1, 6, 0, 0, 5, 6, -7}));
  CHECK(kern(*face, 5, 6) == (coverage == 1 ? -17 : coverage == 9 ? -7 : -10));
}

TEST_CASE("a length that wrapped or lies does not hide pairs that are there", "[kern]") {
  const auto face = face_with_kern(words({0, 1, 0, 8, 1, 2, 12, 1, 0, 5, 6, -10, 5, 9, 20}));
  CHECK(kern(*face, 5, 9) == 20);
  CHECK(kern(*face_with_kern(words({0, 1, 0, 32, 1, 9000, 0, 0, 0, 5, 6, -10})), 5, 6) == -10);
}

TEST_CASE("a table without pairs is no kerning", "[kern]") {
  for (const auto& table :
       {words({0, 0}), words({0, 1, 0, 14, 1, 0, 0, 0, 0}), words({1, 0, 0, 1}), words({})}) {
    CHECK(face_with_kern(table)->kerning_source() == KerningSource::none);
  }
}

TEST_CASE("class arrays of format 2, with both kinds of header", "[kern]") {
  // Left classes for glyphs 5 and 6, right classes for 8 and 9; rows of two columns, the first of zeros.
  const auto body = [](int header) {
    const int array = header + 8 + 8 + 8;
    return words({4, header + 8, header + 16, array, 5, 2, array + 4, array, 8, 2, 2, 0, 0, 0, 0, -44});
  };
  const auto old = face_with_kern(test::joined({words({0, 1, 0, 6 + 32, 0x0201}), body(6)}));
  const auto apple = face_with_kern(test::joined({words({1, 0, 0, 1, 0, 8 + 32, 0x0002, 0}), body(8)}));
  for (const auto& face : {old, apple}) {
    CHECK(face->kerning_source() == KerningSource::kern);
    CHECK(kern(*face, 5, 8) == -44);
    CHECK(kern(*face, 6, 8) == 0);
    CHECK(kern(*face, 5, 9) == 0);
    CHECK(kern(*face, 70, 8) == 0);
  }
}

TEST_CASE("pairs with an Apple header; vertical ones are passed over", "[kern]") {
  const auto table = [](int coverage) {
    return words({1, 0, 0, 1, 0, 8 + 8 + 6, coverage, 0, 1, 0, 0, 0, 5, 6, -10});
  };
  CHECK(kern(*face_with_kern(table(0)), 5, 6) == -10);
  CHECK(face_with_kern(table(0x8000))->kerning_source() == KerningSource::none);
}

TEST_CASE("a length that wrapped at 65536 does not cut the pairs", "[kern]") {
  constexpr int kPairs = 11000;  // 66,000 bytes
  std::vector<std::byte> table = words({0, 1, 0, (14 + kPairs * 6) & 0xFFFF, 1, kPairs, 0, 0, 0});
  for (int i = 0; i < kPairs; ++i) {
    const auto pair = words({10 + i / 100, i % 100, i % 50});
    table.insert(table.end(), pair.begin(), pair.end());
  }
  CHECK(kern(*face_with_kern(table), 10 + 109, 99) == 49);
}

TEST_CASE("the left glyphs of pairs are known, and no other glyph kerns", "[kern]") {
  CHECK(face_with_kern(words({0, 1, 0, 32, 1, 3, 12, 1, 6, 7, 5, -30, 5, 9, 20, 5, 6, -10}))->left_glyphs() ==
        std::vector<GlyphId>{GlyphId{5}, GlyphId{7}});
  CHECK(face_with_kern(words({0, 0}))->left_glyphs().empty());
  for (const auto& face : {test::dejavu(), face_with_kern(words({0, 1, 0, 20, 1, 1, 6, 0, 0, 5, 6, -10}))}) {
    const std::vector<GlyphId> lefts = face->left_glyphs();
    CHECK(lefts.size() < face->glyph_count() / 2);
    const std::uint32_t count = std::min(face->glyph_count(), 400U);
    std::size_t pairs = 0;
    for (std::uint32_t left = 0; left < count; ++left) {
      const bool known = std::binary_search(lefts.begin(), lefts.end(), GlyphId{left});
      for (std::uint32_t right = 0; right < count; ++right) {
        if (kern(*face, left, right) == 0) continue;
        ++pairs;
        REQUIRE(known);
      }
    }
    CHECK(pairs > 0);
  }
}
