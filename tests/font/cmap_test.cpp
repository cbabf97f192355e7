// SPDX-License-Identifier: MIT
// Characters to glyphs.
#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::words;

namespace {

/// A cmap table with one subtable.
std::vector<std::byte> one_subtable(int platform, int encoding, const std::vector<std::byte>& subtable) {
  return test::joined({words({0, 1, platform, encoding, 0, 12}), subtable});
}

std::shared_ptr<const Face> face_with(const std::vector<std::byte>& cmap) {
  test::FontBuilder builder;
  builder.table("cmap") = cmap;
  return builder.face();
}

}  // namespace

TEST_CASE("every character of the built-in face maps and lists itself once", "[cmap][property]") {
  const auto face = built_in_face();
  const auto all = face->characters();
  CHECK(all.size() == 131);
  for (std::size_t i = 0; i < all.size(); ++i) {
    CHECK(face->find_glyph(all[i].first) == all[i].second);
    if (i > 0) CHECK(all[i - 1].first < all[i].first);
  }
  CHECK(face->find_glyph(0x2603) == kMissingGlyph);
  CHECK(face->find_glyph(0x10FFFF) == kMissingGlyph);
}

TEST_CASE("listing and finding agree over all of Unicode", "[cmap][property]") {
  const auto face = test::dejavu();
  std::size_t found = 0;
  for (char32_t c = 0; c <= 0x10FFFF; ++c) found += face->find_glyph(c) != kMissingGlyph ? 1 : 0;
  CHECK(found == face->characters().size());
  CHECK(face->find_glyph(0x1D538) != kMissingGlyph);  // beyond the basic plane: format 12 was chosen
}

TEST_CASE("format 4 reads deltas, range offsets and the old way of writing nothing", "[cmap]") {
  // Segments: 30-32 by delta, 40-42 by range offset (the middle one unmapped), 50 with offset FFFF, and the end.
  const auto face = face_with(one_subtable(3, 1, words({4, 60, 0, 8, 8, 2, 0, 0x32, 0x42, 0x50, 0xFFFF, 0, 0x30, 0x40, 0x50, 0xFFFF,
                                                        5 - 0x30, 10, 0, 1, 0, 6, 0xFFFF, 0, 20, 0, 22})));
  CHECK(index_of(face->find_glyph(0x30)) == 5);
  CHECK(index_of(face->find_glyph(0x32)) == 7);
  CHECK(index_of(face->find_glyph(0x40)) == 30);
  CHECK(index_of(face->find_glyph(0x41)) == 0);
  CHECK(index_of(face->find_glyph(0x42)) == 32);
  CHECK(index_of(face->find_glyph(0x50)) == 0);
  CHECK(face->characters().size() == 5);
}

TEST_CASE("format 12 wins over format 4 and leaves glyphs out that the face has not", "[cmap]") {
  const auto groups = words({12, 0, 0, 40, 0, 0, 0, 2, 0, 0x41, 0, 0x43, 0, 3, 1, 0xF600, 1, 0xF6FF, 0, 130});
  const auto segments = words({4, 24, 0, 2, 2, 0, 0, 0xFFFF, 0, 0xFFFF, 1, 0});
  const auto face = face_with(test::joined({words({0, 2, 3, 1, 0, 20, 3, 10, 0, 44}), segments, groups}));
  CHECK(index_of(face->find_glyph(0x42)) == 4);
  CHECK(index_of(face->find_glyph(0x1F600)) == 130);
  CHECK(face->find_glyph(0x1F601) == kMissingGlyph);  // glyph 131 of 131
  CHECK(face->characters().size() == 4);
}

TEST_CASE("a face without a map, or with a damaged one, has no characters", "[cmap]") {
  test::FontBuilder none;
  none.remove("cmap");
  CHECK(none.face()->characters().empty());
  CHECK(face_with(words({0, 900}))->characters().empty());
  CHECK(face_with(one_subtable(3, 10, words({12, 0, 0, 16, 0, 0, 0x7FFF, 0xFFFF})))->characters().empty());
  CHECK(face_with(one_subtable(3, 1, words({4, 24, 0, 0xFFFE, 0, 0, 0})))->find_glyph(U'A') == kMissingGlyph);
}
