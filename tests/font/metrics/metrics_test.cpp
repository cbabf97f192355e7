// SPDX-License-Identifier: MIT
// Vertical metrics, strokes, glyph names, and files that are wrong in the ways of real ones.
#include <catch2/catch.hpp>

#include "support/bytes.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;

TEST_CASE("vertical metrics come from vhea, vmtx and VORG, else from the line", "[metrics]") {
  test::FontBuilder builder;
  const auto plain = builder.face();
  const GlyphId a = plain->find_glyph(U'A');
  CHECK_FALSE(plain->vertical_line_metrics().has_value());
  CHECK(plain->vertical_advance(a) == plain->line_metrics().ascent + plain->line_metrics().descent);
  CHECK(plain->vertical_origin(a) == FontPoint{plain->advance(a) / 2, plain->line_metrics().ascent});
  builder.table("vhea") = Bytes().u32(0x00010000).words(500, -400, 30).zeros(24).u16(1);
  builder.table("vmtx") = Bytes().words(1000, 60, 70, 80);  // one advance; glyph 1 has a bearing of 70
  const auto vertical = builder.face();
  CHECK(*vertical->vertical_line_metrics() == LineMetrics{500, 400, 30});
  CHECK(vertical->vertical_advance(a) == 1000);
  const GlyphId second{2};  // an exclamation mark: it has an outline
  CHECK(vertical->vertical_origin(second).y == vertical->glyph_box(second).y_max + 80);
  builder.table("VORG") = Bytes().u16(1).u16(0).u16(880).u16(1).u16(2).u16(-5);
  CHECK(builder.face()->vertical_origin(second).y == -5);
  CHECK(builder.face()->vertical_origin(a).y == 880);
}

TEST_CASE("heights that the table leaves out are measured from the letters", "[metrics]") {
  test::FontBuilder builder;
  builder.table("OS/2").resize(78);
  builder.put16("OS/2", 0, 1);
  const FaceFacts facts = builder.face()->facts(), whole = built_in_face()->facts();
  CHECK(facts.cap_height == built_in_face()->glyph_box(built_in_face()->find_glyph(U'H')).y_max);
  CHECK(facts.x_height == whole.x_height);
}

TEST_CASE("strokes and slant", "[metrics]") {
  test::FontBuilder builder;
  builder.put16("OS/2", 26, 90);
  builder.put16("OS/2", 28, 400);
  std::vector<std::byte>& post = builder.table("post");
  const Bytes angle = Bytes().fixed(-12.5);
  std::copy(angle.get().begin(), angle.get().end(), post.begin() + 4);
  const FaceFacts facts = builder.face()->facts();
  CHECK((facts.strikeout_thickness == 90 && facts.strikeout_position == 400 && facts.slant == 12.5F));
}

TEST_CASE("glyphs are named by post", "[metrics]") {
  test::FontBuilder builder;
  builder.table("post") =
      Bytes().u32(0x00020000).zeros(28).u16(131).u16(0).u16(258).u16(36).zeros(256).u8(7).text("lantern");
  const auto face = builder.face();
  CHECK(face->glyph_name(GlyphId{0}) == ".notdef");
  CHECK(face->glyph_name(GlyphId{1}) == "lantern");
  CHECK(face->glyph_name(GlyphId{2}) == "A");
  CHECK(face->glyph_name(GlyphId{500}).empty());
  builder.table("post") = Bytes().u32(0x00030000).zeros(28);
  CHECK(builder.face()->glyph_name(GlyphId{2}).empty());
}

TEST_CASE("weights from 1 to 9 are those of old fonts", "[metrics]") {
  test::FontBuilder builder;
  builder.put16("OS/2", 4, 7);
  CHECK(builder.face()->facts().weight_class == 700);
}

TEST_CASE("a loca that lacks its last entry still draws the last glyph", "[glyf]") {
  test::FontBuilder builder;
  const auto whole = builder.face();
  const GlyphId last{whole->glyph_count() - 1};
  std::vector<std::byte>& loca = builder.table("loca");
  const bool wide = builder.table("head").at(51) != std::byte{0};
  loca.resize(loca.size() - (wide ? 4 : 2));
  Contours a, b;
  REQUIRE(whole->read_outline(last, a).has_value());
  REQUIRE(builder.face()->read_outline(last, b).has_value());
  CHECK(a == b);
}

TEST_CASE("tables that are too long for their counts are read as far as the counts go", "[metrics]") {
  test::FontBuilder builder;
  for (const char* table : {"loca", "hmtx", "glyf"}) {
    builder.table(table).resize(builder.table(table).size() + 100);
  }
  const auto face = builder.face();
  CHECK(face->glyph_count() == built_in_face()->glyph_count());
  CHECK(face->advance(GlyphId{40}) == built_in_face()->advance(GlyphId{40}));
}

TEST_CASE("any table of the file can be had as it is", "[face]") {
  test::FontBuilder builder;
  builder.table("TRAM") = Bytes().text("N1");
  CHECK(builder.face()->table(tag("TRAM")).size() == 2);
  CHECK(builder.face()->table(tag("NONE")).empty());
}
