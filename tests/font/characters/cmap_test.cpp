// SPDX-License-Identifier: MIT
// Characters to glyphs.
#include "font/characters/cmap.hpp"

#include <catch2/catch.hpp>

#include "support/bytes.hpp"
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
  // Segments: 30-32 by delta, 40-42 by range offset (the middle one unmapped), 50 with offset FFFF, and the
  // end.
  const auto face = face_with(one_subtable(
      3, 1, words({4,    60,     0,        8,  8, 2, 0, 0x32, 0x42,   0x50, 0xFFFF, 0, 0x30, 0x40,
                   0x50, 0xFFFF, 5 - 0x30, 10, 0, 1, 0, 6,    0xFFFF, 0,    20,     0, 22})));
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

namespace {

using test::Bytes;

/// A cmap with these subtables by platform and encoding.
std::vector<std::byte> cmap_of(const std::vector<std::tuple<int, int, std::vector<std::byte>>>& subtables) {
  Bytes head = Bytes().u16(0).u16(static_cast<long>(subtables.size())), bodies;
  for (const auto& [platform, encoding, table] : subtables) {
    head.u16(platform).u16(encoding).u32(static_cast<long>(4 + subtables.size() * 8 + bodies.size()));
    bodies.add(table);
  }
  return head.add(bodies);
}

std::uint32_t glyph_of(const std::vector<std::byte>& cmap, char32_t c) {
  const auto map = detail::CharacterMap::read({tag("cmap"), cmap}, 1000);
  REQUIRE(map.has_value());
  const std::uint32_t found = index_of(map->find(c));
  // What is found is listed, and the other way round.
  std::uint32_t listed = 0;
  for (const auto& [character, glyph] : map->all()) listed = character == c ? index_of(glyph) : listed;
  CHECK(listed == found);
  return found;
}

Bytes format0(int code, int glyph) {
  Bytes out = Bytes().words(0, 262, 0);
  for (int i = 0; i < 256; ++i) out.u8(i == code ? glyph : 0);
  return out;
}

}  // namespace

TEST_CASE("trimmed arrays of formats 6 and 10", "[cmap]") {
  CHECK(glyph_of(cmap_of({{3, 1, Bytes().words(6, 14, 0, 0x40, 2, 7, 8)}}), 0x41) == 8);
  CHECK(glyph_of(cmap_of({{3, 1, Bytes().words(6, 14, 0, 0x40, 2, 7, 8)}}), 0x42) == 0);
  const auto wide =
      cmap_of({{3, 10, Bytes().u16(10).u16(0).u32(24).u32(0).u32(0x1F600).u32(2).u16(7).u16(9)}});
  CHECK(glyph_of(wide, 0x1F601) == 9);
  CHECK(glyph_of(wide, 0x1F602) == 0);
}

TEST_CASE("many to one by format 13, mixed widths by format 8", "[cmap]") {
  const auto last_resort =
      cmap_of({{0, 6, Bytes().u16(13).u16(0).u32(28).u32(0).u32(1).u32(0x100).u32(0x1FF).u32(5)}});
  CHECK(glyph_of(last_resort, 0x100) == 5);
  CHECK(glyph_of(last_resort, 0x1FF) == 5);
  const auto mixed = [](std::uint32_t start) {
    return cmap_of({{0, 4,
                     Bytes()
                         .u16(8)
                         .u16(0)
                         .u32(8232)
                         .u32(0)
                         .zeros(8192)
                         .u32(2)
                         .u32(0x41)
                         .u32(0x42)
                         .u32(3)
                         .u32(start)
                         .u32(start + 1)
                         .u32(20)}});
  };
  CHECK(glyph_of(mixed(0x1F600), 0x42) == 4);
  CHECK(glyph_of(mixed(0x1F600), 0x1F601) == 21);
  CHECK(glyph_of(mixed(0xD83DDE00), 0x1F601) == 21);  // the same as a pair of surrogates
}

TEST_CASE("symbol fonts answer to both of their code points", "[cmap]") {
  const auto segment = [](int first) {
    return Bytes().words(4, 32, 0, 4, 0, 0, 0, first + 1, 0xFFFF, 0, first, 0xFFFF, 7 - first, 1, 0, 0);
  };
  const auto paged = cmap_of({{3, 0, segment(0xF041)}}), plain = cmap_of({{3, 0, segment(0x41)}});
  for (const auto& map : {paged, plain}) {
    CHECK(glyph_of(map, 0x41) == 7);
    CHECK(glyph_of(map, 0xF042) == 8);
    CHECK(glyph_of(map, 0x43) == 0);
  }
  CHECK(glyph_of(cmap_of({{3, 0, segment(0xF041)}, {3, 1, format0(0x41, 9)}}), 0x41) ==
        9);  // Unicode comes before
}

TEST_CASE("Macintosh subtables are asked by Unicode", "[cmap]") {
  CHECK(glyph_of(cmap_of({{1, 0, format0(0x8A, 12)}}), 0xE4) == 12);  // a with dieresis in Mac OS Roman
  CHECK(glyph_of(cmap_of({{1, 0, format0(0x41, 12)}}), U'A') == 12);
  CHECK(glyph_of(cmap_of({{1, 7, format0(0x80, 12)}}), 0x410) == 12);  // Cyrillic
  CHECK(glyph_of(cmap_of({{1, 6, format0(0xE1, 12)}}), 0x3B1) == 12);  // Greek alpha
}

TEST_CASE("Shift JIS by format 2", "[cmap]") {
  // Lead byte 0x82 has subheader 1: second bytes 0xA0 and 0xA1 (the Hiragana a and small i), single bytes
  // subheader 0.
  Bytes table = Bytes().words(2, 0, 0);
  for (int lead = 0; lead < 256; ++lead) table.u16(lead == 0x82 ? 8 : 0);
  table.words(0x41, 1, 0, 10).words(0xA0, 2, 3, 4).words(30, 40, 41);
  const auto map = cmap_of({{3, 2, table}});
  CHECK(glyph_of(map, 0x3042) == 43);
  CHECK(glyph_of(map, U'A') == 30);
  CHECK(glyph_of(map, U'B') == 0);
}

TEST_CASE("variation sequences have glyphs of their own or stay as they are", "[cmap]") {
  const Bytes own = Bytes().u32(1).u24(0x4E00).u16(77), same = Bytes().u32(1).u24(0x4E10).u8(2);
  const Bytes table = Bytes()
                          .u16(14)
                          .u32(0)
                          .u32(1)
                          .u24(0xFE00)
                          .u32(21)
                          .u32(static_cast<long>(21 + same.size()))
                          .add(same)
                          .add(own);
  Bytes groups = Bytes().u16(12).u16(0).u32(28).u32(0).u32(1).u32(0x4E00).u32(0x4E20).u32(100);
  const auto cmap = cmap_of({{0, 5, table}, {3, 10, groups}});
  const auto map = detail::CharacterMap::read({tag("cmap"), cmap}, 1000);
  REQUIRE(map.has_value());
  CHECK(map->find_variant(0x4E00, 0xFE00) == GlyphId{77});
  CHECK(map->find_variant(0x4E12, 0xFE00) == GlyphId{118});
  CHECK_FALSE(map->find_variant(0x4E13, 0xFE00).has_value());
  CHECK_FALSE(map->find_variant(0x4E00, 0xFE01).has_value());
  test::FontBuilder builder;
  builder.table("cmap") = cmap;
  CHECK(builder.face()->find_variant(0x4E00, 0xFE00) == GlyphId{77});
  CHECK(builder.face()->find_variant(0x4E01, 0xFE00) == builder.face()->find_glyph(0x4E01));
}

TEST_CASE("a damaged subtable makes way for the next best", "[cmap]") {
  const Bytes broken = Bytes().words(4, 32, 0, 0x4000, 0, 0, 0, 0);
  CHECK(glyph_of(cmap_of({{3, 1, broken}, {1, 0, format0(0x41, 12)}}), U'A') == 12);
  const auto only = detail::CharacterMap::read({tag("cmap"), cmap_of({{3, 1, broken}})}, 1000);
  REQUIRE_FALSE(only.has_value());
  CHECK(only.error().table == tag("cmap"));
}

TEST_CASE("segments that do not ascend are found all the same", "[cmap]") {
  const Bytes table = Bytes()
                          .words(4, 40, 0, 6, 0, 0, 0)
                          .words(0x62, 0x42, 0xFFFF, 0, 0x61, 0x41, 0xFFFF)
                          .words(5 - 0x61, 9 - 0x41, 1)
                          .words(0, 0, 0);
  const auto map = cmap_of({{3, 1, table}});
  CHECK(glyph_of(map, 0x42) == 10);
  CHECK(glyph_of(map, 0x61) == 5);
}
