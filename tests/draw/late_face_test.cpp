// SPDX-License-Identifier: MIT
// Faces that arrive late, fallback of another size, variation sequences in layout.
#include "grafema/draw/late_face.hpp"

#include <catch2/catch.hpp>
#include <thread>

#include "grafema/draw/text_scene.hpp"
#include "support/bytes.hpp"
#include "support/font_builder.hpp"
#include "support/scene.hpp"
#include "support/support.hpp"

using namespace grafema;

TEST_CASE("labels draw with the fallback until the face is there, then follow", "[late_face]") {
  TextContext context({built_in_face()}, nullptr);
  TextScene words(context);
  Label label = words.add("Ninth Lantern"), own = words.add("Ninth Lantern");
  const auto stack = std::make_shared<const FontStack>(FontStack{built_in_face()});
  own.set_fonts(stack);
  const auto late = std::make_shared<LateFace>();
  context.expect(late);
  CHECK_FALSE(context.take_arrivals());
  const float before = label.box().width(), own_before = own.box().width();
  std::thread([late] { late->arrive(test::dejavu()); }).join();
  CHECK(label.box().width() == before);  // not before a frame begins
  CHECK(context.take_arrivals());
  CHECK_FALSE(context.take_arrivals());
  CHECK(label.box().width() != before);
  CHECK(own.box().width() == own_before);
  Paragraph wanted;
  ShapeCache cache;
  REQUIRE(lay_out({test::dejavu()}, "Ninth Lantern", label.style(), cache, wanted).has_value());
  CHECK(label.box().width() == wanted.advance_box.width());
  CHECK(context.fonts().size() == 2);
}

TEST_CASE("a fallback face of another size is measured and inked at that size", "[font_stack][lay_out]") {
  const FontStack plain{built_in_face(), test::dejavu()};
  FontStack doubled{built_in_face()};
  doubled.add(test::dejavu(), 2);
  Paragraph a, b;
  ShapeCache cache;
  const std::string text = "\xD0\x96";  // a Cyrillic letter that only the second face has
  REQUIRE(lay_out(plain, text, {.size = 40}, cache, a).has_value());
  REQUIRE(lay_out(doubled, text, {.size = 40}, cache, b).has_value());
  CHECK(b.advance_box.width() == Approx(2 * a.advance_box.width()));
  CHECK(ink_box(doubled, b).height() == Approx(2 * ink_box(plain, a).height()));
  CHECK(b.ascent == a.ascent);  // lines stay those of the first face
}

TEST_CASE("a variation selector chooses the glyph before it and takes no room", "[lay_out]") {
  test::FontBuilder builder;
  const test::Bytes own = test::Bytes().u32(1).u24('A').u16(60);
  const test::Bytes variants = test::Bytes().u16(14).u32(0).u32(1).u24(0xFE00).u32(0).u32(21).add(own);
  const test::Bytes groups = test::Bytes().u16(12).u16(0).u32(28).u32(0).u32(1).u32(0x41).u32(0x5A).u32(34);
  builder.table("cmap") = test::Bytes()
                              .u16(0)
                              .u16(2)
                              .u16(0)
                              .u16(5)
                              .u32(20)
                              .u16(3)
                              .u16(10)
                              .u32(static_cast<long>(20 + variants.size()))
                              .add(variants)
                              .add(groups);
  const FontStack stack{builder.face()};
  Paragraph p;
  ShapeCache cache;
  REQUIRE(lay_out(stack,
                  "A\xEF\xB8\x80"
                  "B",
                  {}, cache, p)
              .has_value());
  REQUIRE(p.glyphs.size() == 2);
  CHECK(p.glyphs[0].glyph == GlyphId{60});
  CHECK(p.glyphs[1].glyph == GlyphId{35});
}
