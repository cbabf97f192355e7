// SPDX-License-Identifier: MIT
// Color glyphs: palettes, layers, paint graphs with all their paints, embedded pictures.
#include <catch2/catch.hpp>

#include "font/color/color_tables.hpp"
#include "support/bytes.hpp"
#include "support/cff_builder.hpp"
#include "support/color_builder.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::colr;

namespace {

using Table = std::vector<std::byte>;

const Bytes kSolid = Bytes().u8(2).u16(3).f2dot14(0.5);

PaintGraph graph(const Table& table, const std::vector<float>& place = {}) {
  const auto read = detail::read_paint_graph({tag("COLR"), table}, 5, place);
  REQUIRE(read.has_value());
  REQUIRE(read->has_value());
  return **read;
}

/// The transform of a paint of this format whose child is a solid.
FontTransform transform(int format, const Bytes& numbers) {
  const PaintGraph g =
      graph(colr(Bytes().u8(format).u24(static_cast<long>(4 + numbers.size())).add(numbers).add(kSolid)));
  REQUIRE(g.paints[0].kind == PaintKind::transform);
  CHECK(g.paints[g.paints[0].children.at(0)].kind == PaintKind::solid);
  return g.paints[0].transform;
}

FontPoint apply(const FontTransform& m, FontPoint p) {
  return {m.xx * p.x + m.xy * p.y + m.dx, m.yx * p.x + m.yy * p.y + m.dy};
}

void check_near(FontPoint a, FontPoint b) {
  CHECK(a.x == Approx(b.x).margin(0.02));
  CHECK(a.y == Approx(b.y).margin(0.02));
}

}  // namespace

TEST_CASE("palettes and layers of version 0", "[color]") {
  const Table cpal = Bytes()
                         .u16(1)
                         .u16(2)
                         .u16(2)
                         .u16(4)
                         .u32(36)
                         .u16(0)
                         .u16(2)
                         .u32(28)
                         .u32(0)
                         .u32(0)
                         .u32(1)
                         .u32(2)
                         .u8(0)
                         .u8(0)
                         .u8(255)
                         .u8(255)
                         .u8(10)
                         .u8(20)
                         .u8(30)
                         .u8(51)
                         .u8(255)
                         .u8(0)
                         .u8(0)
                         .u8(255)
                         .u8(0)
                         .u8(255)
                         .u8(0)
                         .u8(0);
  const auto palettes = detail::read_palettes({tag("CPAL"), cpal});
  REQUIRE(palettes.size() == 2);
  CHECK(palettes[0].colors.at(0) == Color{1, 0, 0, 1});
  CHECK(palettes[0].colors.at(1).alpha == Approx(0.2));
  CHECK(palettes[1].colors.at(0) == Color{0, 0, 1, 1});
  CHECK((palettes[0].for_light_backgrounds && palettes[1].for_dark_backgrounds));
  const Table layers =
      Bytes().u16(0).u16(2).u32(14).u32(26).u16(3).words(5, 0, 2, 9, 2, 1).words(20, 0, 21, 0xFFFF, 22, 1);
  const auto found = detail::read_color_layers({tag("COLR"), layers}, 5);
  CHECK(found ==
        std::vector<ColorLayer>{{GlyphId{20}, {0, 1}}, {GlyphId{21}, {PaletteColor::kTextColor, 1}}});
  CHECK(detail::read_color_layers({tag("COLR"), layers}, 9).size() == 1);
  CHECK(detail::read_color_layers({tag("COLR"), layers}, 6).empty());
}

TEST_CASE("solids, glyphs, layers, references and composites", "[color]") {
  const PaintGraph solid = graph(colr(kSolid));
  CHECK(solid.paints.at(0).color == PaletteColor{3, 0.5F});
  const PaintGraph glyph = graph(colr(Bytes().u8(10).u24(6).u16(17).add(kSolid)));
  CHECK((glyph.paints.at(0).kind == PaintKind::glyph && glyph.paints.at(0).glyph == GlyphId{17}));
  CHECK(glyph.paints.at(0).children == std::vector<std::uint32_t>{1});
  const PaintGraph layers =
      graph(colr(Bytes().u8(1).u8(2).u32(0), {kSolid, Bytes().u8(10).u24(6).u16(18).add(kSolid)}));
  CHECK(layers.paints.at(0).children == std::vector<std::uint32_t>{1, 2});
  CHECK(layers.paints.at(2).glyph == GlyphId{18});
  const PaintGraph composite = graph(colr(Bytes().u8(32).u24(8).u8(6).u24(13).add(kSolid).add(kSolid)));
  CHECK(composite.paints.at(0).mode == CompositeMode::destination_in);
  CHECK(composite.paints.at(0).children.size() == 2);
}

TEST_CASE("gradients have their stops in order, points, radii and angles", "[color]") {
  const Bytes line = Bytes().u8(1).u16(2).f2dot14(1).u16(7).f2dot14(1).f2dot14(0).u16(6).f2dot14(0.5);
  const Paint linear = graph(colr(Bytes().u8(4).u24(16).words(1, 2, 3, 4, 5, 6).add(line))).paints.at(0);
  CHECK(linear.kind == PaintKind::linear_gradient);
  CHECK(linear.extend == GradientExtend::repeat);
  CHECK(linear.stops == std::vector<ColorStop>{{0, {6, 0.5F}}, {1, {7, 1}}});
  CHECK(linear.points == std::array<FontPoint, 3>{FontPoint{1, 2}, {3, 4}, {5, 6}});
  const Paint radial = graph(colr(Bytes().u8(6).u24(16).words(1, 2, 40000, -3, 4, 5).add(line))).paints.at(0);
  CHECK(radial.radii == std::array<float, 2>{40000, 5});
  CHECK(radial.points[1] == FontPoint{-3, 4});
  const Paint sweep =
      graph(colr(Bytes().u8(8).u24(12).words(10, 20).f2dot14(-1).f2dot14(0.5).add(line))).paints.at(0);
  CHECK(sweep.kind == PaintKind::sweep_gradient);
  CHECK(sweep.angles == std::array<float, 2>{0, 270});
}

TEST_CASE("all transforms become one matrix", "[color]") {
  const Bytes affine = Bytes().fixed(1).fixed(2).fixed(3).fixed(4).fixed(5).fixed(6);
  const PaintGraph g = graph(colr(Bytes().u8(12).u24(7).u24(12).add(kSolid).add(affine)));
  CHECK(g.paints.at(0).transform == FontTransform{1, 2, 3, 4, 5, 6});
  CHECK(transform(14, Bytes().words(10, -20)) == FontTransform{1, 0, 0, 1, 10, -20});
  CHECK(transform(16, Bytes().f2dot14(0.5).f2dot14(1.5)) == FontTransform{0.5F, 0, 0, 1.5F, 0, 0});
  check_near(apply(transform(18, Bytes().f2dot14(0.5).f2dot14(1.5).words(100, 200)), {100, 200}), {100, 200});
  CHECK(transform(20, Bytes().f2dot14(0.5)).yy == 0.5F);
  check_near(apply(transform(22, Bytes().f2dot14(0.5).words(100, 200)), {200, 200}), {150, 200});
  check_near(apply(transform(24, Bytes().f2dot14(0.5)), {10, 0}),
             {0, 10});  // a quarter turn counter-clockwise
  check_near(apply(transform(26, Bytes().f2dot14(0.5).words(100, 0)), {110, 0}), {100, 10});
  check_near(apply(transform(28, Bytes().f2dot14(0.25).f2dot14(0)), {0, 10}), {-10, 10});
  check_near(apply(transform(30, Bytes().f2dot14(0).f2dot14(0.25).words(100, 0)), {110, 0}), {110, 10});
}

TEST_CASE("clip boxes and variation", "[color][variations]") {
  const Bytes clips = Bytes().u8(1).u32(1).u16(5).u16(6).u24(12).u8(1).words(-10, -20, 30, 40);
  CHECK(graph(colr(kSolid, {}, clips)).paints.at(0).clip == FontRect{-10, -20, 30, 40});
  const Table store = test::make_variation_store({{{{0, 1, 1}}}}, {{100}, {-8192}});
  const Table moving = colr(Bytes().u8(15).u24(12).words(10, 20).u32(0).add(kSolid), {}, {}, store);
  CHECK(graph(moving, {0.5F}).paints.at(0).transform == FontTransform{1, 0, 0, 1, 60, 20 - 4096});
  CHECK(graph(moving).paints.at(0).transform.dx == 10);
  const Table fading = colr(Bytes().u8(3).u16(3).f2dot14(0.75).u32(1), {}, {}, store);
  CHECK(graph(fading, {1.0F}).paints.at(0).color.alpha == 0.25F);
}

TEST_CASE("graphs that hold themselves or multiply without end are refused", "[color]") {
  const auto refused = [](const Table& table) {
    const auto read = detail::read_paint_graph({tag("COLR"), table}, 5, {});
    return !read.has_value() && read.error().table == tag("COLR");
  };
  CHECK(refused(colr(Bytes().u8(11).u16(5))));                 // a reference to itself
  CHECK(refused(colr(Bytes().u8(10).u24(0).u16(1))));          // a child that is its parent
  CHECK(refused(colr(Bytes().u8(10).u24(0xFFFFFF).u16(1))));   // outside
  CHECK(refused(colr(Bytes().u8(33))));                        // no such format
  CHECK(refused(colr(Bytes().u8(1).u8(1).u32(7), {kSolid})));  // no such layer
  CHECK(refused(colr(Bytes().u8(32).u24(8).u8(28).u24(13).add(kSolid).add(kSolid))));
  std::vector<Table> layers;  // each layer holds two copies of the next
  for (int i = 0; i < 30; ++i) {
    layers.push_back(Bytes().u8(32).u24(8).u8(3).u24(14).u8(1).u8(1).u32(i + 1).u8(1).u8(1).u32(i + 1));
  }
  layers.push_back(kSolid);
  CHECK(refused(colr(Bytes().u8(1).u8(1).u32(0), layers)));
  const auto none = detail::read_paint_graph({tag("COLR"), colr(kSolid)}, 6, {});
  CHECK((none.has_value() && !none->has_value()));
}

TEST_CASE("pictures of sbix, and glyphs that look as another", "[color]") {
  test::FontBuilder builder;
  builder.table("sbix") = test::sbix();
  const auto face = builder.face();
  CHECK(face->color_kinds().sbix);
  CHECK(face->bitmap_sizes() == std::vector<std::uint16_t>{64});
  const auto bitmap = face->find_bitmap(GlyphId{3}, 20);
  REQUIRE(bitmap.has_value());
  CHECK((bitmap->format == BitmapFormat::png && bitmap->from_bottom && bitmap->pixels_per_em == 64));
  CHECK(bitmap->bytes.size() == 7);
  CHECK(bitmap->offset == PixelPoint{3, 4});
  CHECK_FALSE(face->find_bitmap(GlyphId{4}, 64).has_value());
}

TEST_CASE("pictures of CBDT in every index and image format", "[color]") {
  const int index_format = GENERATE(1, 2, 3, 4, 5);
  const int image_format = index_format == 2 || index_format == 5 ? 19 : GENERATE(17, 18);
  test::FontBuilder builder;
  test::add_bitmaps(builder, index_format, image_format);
  const auto face = builder.face();
  const auto bitmap = face->find_bitmap(GlyphId{8}, 200);
  REQUIRE(bitmap.has_value());
  CHECK(bitmap->bytes.size() == 3);
  CHECK(bitmap->pixels_per_em == 109);
  CHECK((bitmap->width == 12 && bitmap->height == 10 && bitmap->advance == 13));
  CHECK(bitmap->offset == PixelPoint{2, -9});
  CHECK_FALSE(face->find_bitmap(GlyphId{9}, 109).has_value());
}

TEST_CASE("gradients share no more than a bounded number of stops", "[color]") {
  // A hundred layers, each a gradient of a thousand stops.
  Bytes line = Bytes().u8(0).u16(1000);
  for (int i = 0; i < 1000; ++i) line.f2dot14(0.5).u16(1).f2dot14(1);
  const Bytes gradient = Bytes().u8(4).u24(16).words(1, 2, 3, 4, 5, 6).add(line);
  const auto read = detail::read_paint_graph(
      {tag("COLR"), colr(Bytes().u8(1).u8(100).u32(0), std::vector<Table>(100, gradient))}, 5, {});
  REQUIRE_FALSE(read.has_value());
  CHECK(describe(read.error()).find("color stops") != std::string::npos);
}
