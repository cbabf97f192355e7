// SPDX-License-Identifier: MIT
// Subsets of color faces: layers, paint graphs with all their paints, embedded pictures.
#include <catch2/catch.hpp>

#include "grafema/write/make_font.hpp"
#include "support/bytes.hpp"
#include "support/cff_builder.hpp"
#include "support/color_builder.hpp"
#include "support/same_face.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::colr;

namespace {

using Table = std::vector<std::byte>;

const Bytes kSolid = Bytes().u8(2).u16(3).f2dot14(0.5);
/// Glyph 5 of the built-in face, which the paints of `colr` are for.
constexpr char32_t kFive = U'$';

std::shared_ptr<const Face> painted(const Table& table) {
  test::FontBuilder builder;
  builder.table("COLR") = table;
  auto face = builder.face();
  REQUIRE(face->find_glyph(kFive) == GlyphId{5});
  return face;
}

/// A variable face with one axis whose places change nothing but colors.
std::shared_ptr<const Face> varied(const Table& table) {
  test::FontBuilder builder;
  builder.table("COLR") = table;
  builder.table("fvar") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(16)
                              .u16(2)
                              .u16(1)
                              .u16(20)
                              .u16(0)
                              .u16(8)
                              .text("wght")
                              .fixed(100)
                              .fixed(400)
                              .fixed(900)
                              .u16(0)
                              .u16(256);
  return builder.face();
}

}  // namespace

TEST_CASE("every kind of paint stays what it was", "[subset][color]") {
  const Bytes line = Bytes().u8(1).u16(2).f2dot14(1).u16(7).f2dot14(1).f2dot14(0).u16(6).f2dot14(0.5);
  const Bytes affine = Bytes().fixed(1).fixed(2).fixed(3).fixed(4).fixed(5).fixed(6);
  const Bytes inside = Bytes().u8(10).u24(6).u16(18).add(kSolid);
  const Bytes clips = Bytes().u8(1).u32(1).u16(4).u16(6).u24(12).u8(1).words(-10, -20, 30, 40);
  std::vector<Table> tables = {colr(kSolid, {}, clips),
                               colr(Bytes().u8(10).u24(6).u16(17).add(kSolid)),
                               colr(Bytes().u8(1).u8(2).u32(1), {kSolid, inside, kSolid}),
                               colr(Bytes().u8(32).u24(8).u8(6).u24(13).add(kSolid).add(kSolid)),
                               colr(Bytes().u8(4).u24(16).words(1, 2, 3, 4, 5, 6).add(line)),
                               colr(Bytes().u8(6).u24(16).words(1, 2, 40000, -3, 4, 5).add(line)),
                               colr(Bytes().u8(8).u24(12).words(10, 20).f2dot14(-1).f2dot14(0.5).add(line)),
                               colr(Bytes().u8(12).u24(7).u24(12).add(kSolid).add(affine)),
                               colr(Bytes().u8(14).u24(8).words(10, -20).add(inside))};
  for (const int format : {16, 18, 20, 22, 24, 26, 28, 30}) {
    const int numbers = format == 16 || format == 28   ? 2
                        : format == 18 || format == 30 ? 4
                        : format == 20 || format == 24 ? 1
                                                       : 3;
    Bytes values;
    for (int i = 0; i < numbers; ++i) values.f2dot14(0.25 + i * 0.125);
    tables.push_back(colr(Bytes().u8(format).u24(4 + numbers * 2).add(values).add(inside)));
  }
  for (const Table& table : tables) {
    const auto face = painted(table);
    INFO("format " << static_cast<int>(table[44]));
    const test::Reduced reduced = test::reduce(*face, std::u32string(1, kFive) + U"Z");
    test::check_glyphs(*face, reduced, std::u32string_view(U"Z"));
    CHECK(reduced.face->read_paint(reduced.face->find_glyph(kFive))->has_value());
    CHECK(reduced.face->table(tag("COLR")).size() <= table.size());
  }
  // Without that glyph nothing of it is left.
  CHECK(test::reduce(*painted(tables[1]), U"Z").face->table(tag("COLR")).empty());
}

TEST_CASE("colors that vary do so still, or stand where they are pinned", "[subset][color][variations]") {
  const Table store = test::make_variation_store({{{{0, 1, 1}}}}, {{100}, {-8192}, {40}, {-60}, {3}, {4096}});
  const Bytes stops =
      Bytes().u8(0).u16(2).f2dot14(0).u16(7).f2dot14(1).u32(1).f2dot14(1).u16(6).f2dot14(0.5).u32(4);
  const Bytes affine = Bytes().fixed(1).fixed(0).fixed(0).fixed(1).fixed(5).fixed(6).u32(0);
  const std::vector<Table> tables = {
      colr(Bytes().u8(15).u24(12).words(10, 20).u32(2).add(kSolid), {}, {}, store),
      colr(Bytes().u8(3).u16(3).f2dot14(0.75).u32(1), {}, {}, store),
      colr(Bytes().u8(5).u24(20).words(1, 2, 3, 4, 5, 6).u32(0).add(stops), {}, {}, store),
      colr(Bytes().u8(13).u24(7).u24(12).add(kSolid).add(affine), {}, {}, store),
      colr(kSolid, {}, Bytes().u8(1).u32(1).u16(5).u16(5).u24(12).u8(2).words(-10, -20, 30, 40).u32(2),
           store)};
  for (const Table& table : tables) {
    const auto face = varied(table);
    REQUIRE(face->axes().size() == 1);
    const test::Reduced reduced = test::reduce(*face, std::u32string(1, kFive));
    for (const float weight : {400.0F, 650.0F, 900.0F}) {
      const AxisValue place[] = {{tag("wght"), weight}};
      const test::Reduced moved{reduced.subset, reduced.face->instance(place)};
      test::check_glyphs(*face->instance(place), moved, {});
    }
    SubsetRecipe recipe;
    recipe.characters = {kFive};
    recipe.pins = {{tag("wght"), 900}};
    const test::Reduced pinned = test::reduce(*face, recipe);
    CHECK(pinned.face->axes().empty());
    test::check_glyphs(*face->instance(recipe.pins), pinned, {});
  }
}

TEST_CASE("layers of version 0 come along with their glyphs", "[subset][color]") {
  test::FontBuilder builder;
  builder.table("COLR") =
      Bytes().u16(0).u16(2).u32(14).u32(26).u16(3).words(5, 0, 2, 7, 2, 1).words(20, 0, 21, 1, 22, 0xFFFF);
  builder.table("CPAL") = Bytes().u16(0).u16(2).u16(1).u16(2).u32(14).u16(0).u32(0x102030FF).u32(0x405060FF);
  const auto face = builder.face();
  REQUIRE(face->color_layers(GlyphId{5}).size() == 2);
  const test::Reduced reduced = test::reduce(*face, U"$");
  test::check_glyphs(*face, reduced, std::u32string_view(U"$"));
  CHECK(reduced.subset.glyphs == std::vector<GlyphId>{GlyphId{0}, GlyphId{5}, GlyphId{20}, GlyphId{21}});
  CHECK(reduced.face->palettes().size() == face->palettes().size());
}

TEST_CASE("pictures come along, and those that others show", "[subset][color]") {
  test::FontBuilder builder;
  builder.table("sbix") = test::sbix();
  const auto face = builder.face();
  const test::Reduced reduced = test::reduce(*face, U"\"A");  // glyph 3 looks as glyph 2
  REQUIRE(face->find_bitmap(GlyphId{3}, 64).has_value());
  test::check_glyphs(*face, reduced, std::u32string_view(U"\"A"));
  CHECK(reduced.subset.glyphs.size() == 4);
  CHECK(test::reduce(*face, U"A").face->bitmap_sizes().empty());
}

TEST_CASE("pictures of CBDT stay in every format", "[subset][color]") {
  const int index_format = GENERATE(1, 2, 3, 4, 5);
  const int image_format = index_format == 2 || index_format == 5 ? 19 : GENERATE(17, 18);
  test::FontBuilder builder;
  test::add_bitmaps(builder, index_format, image_format);
  const auto face = builder.face();
  const test::Reduced reduced = test::reduce(*face, U"&'()");
  REQUIRE(face->find_bitmap(face->find_glyph(U'\''), 109).has_value());
  test::check_glyphs(*face, reduced, std::u32string_view(U"&'()"));
}
