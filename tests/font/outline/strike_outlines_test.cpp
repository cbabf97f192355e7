// SPDX-License-Identifier: MIT
// Faces that have pixels alone: the edges of the pixels that are crisp at a size.
#include <catch2/catch.hpp>

#include "grafema/draw/paint.hpp"
#include "support/bytes.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;

namespace {

constexpr int kInked = 34;  // the glyph of A in the built-in face

/// One strike of A: its pixels, rows from the top, in image format 1 (small metrics, rows of whole bytes), 2
/// (the same, rows of bits) or 5 (metrics in the index).
struct DrawnStrike {
  int size = 0, width = 0, height = 0, top = 0, format = 1;
  std::vector<int> bytes;
};

std::shared_ptr<const Face> face_with(const std::vector<DrawnStrike>& strikes, std::size_t cut = 0) {
  Bytes index, data;
  index.u32(0x20000).u32(static_cast<std::uint32_t>(strikes.size()));
  data.u32(0x20000);
  std::size_t array = 8 + strikes.size() * 48;
  for (const DrawnStrike& s : strikes) {
    index.u32(static_cast<std::uint32_t>(array)).u32(40).u32(1).u32(0);
    for (int i = 0; i < 24; ++i) index.u8(0);  // line metrics
    index.u16(kInked).u16(kInked).u8(s.size).u8(s.size).u8(1).u8(1);
    array += s.format == 5 ? 28 : 24;
  }
  for (const DrawnStrike& s : strikes) {
    const auto begin = static_cast<std::uint32_t>(data.get().size());
    const auto size = static_cast<std::uint32_t>(s.bytes.size() + (s.format == 5 ? 0 : 5));
    index.u16(kInked).u16(kInked).u32(8);
    if (s.format == 5) {
      index.u16(2).u16(5).u32(begin).u32(size);
      index.u8(s.height).u8(s.width).u8(1).u8(s.top).u8(s.width + 1).u8(0).u8(0).u8(0);
    } else {
      index.u16(1).u16(s.format).u32(begin).u32(0).u32(size);
      data.u8(s.height).u8(s.width).u8(1).u8(s.top).u8(s.width + 1);
    }
    for (const int byte : s.bytes) data.u8(byte);
  }
  test::FontBuilder builder;
  builder.remove("glyf"), builder.remove("loca");
  builder.table("EBLC") = index.get();
  builder.table("EBDT") = data.get();
  if (cut > 0) builder.table("EBDT").resize(builder.table("EBDT").size() - cut);
  return builder.face();
}

// A ring of 3 x 3 pixels, and an L of 2 x 4.
const DrawnStrike kRing{8, 3, 3, 5, 1, {0xE0, 0xA0, 0xE0}};
const DrawnStrike kCorner{12, 2, 4, 4, 2, {0xAB}};  // rows 10 10 10 11

/// How many pixels the outline covers, in pixels of the strike.
float area(const Face& face, float size, float strike) {
  Contours outline;
  REQUIRE(face.read_outline(GlyphId{kInked}, outline, size).has_value());
  float twice = 0;
  FontPoint first, last;
  std::size_t at = 0;
  for (const PathCommand command : outline.commands) {
    const bool closes = command == PathCommand::closepath;
    const FontPoint p = closes ? first : outline.points[at++];
    if (command == PathCommand::moveto) {
      first = p;
    } else {
      twice += last.x * p.y - p.x * last.y;
    }
    last = p;
  }
  const float unit = face.units_per_em() / strike;
  return twice / 2 / (unit * unit);
}

}  // namespace

TEST_CASE("a face of pixels says so, and at which sizes they are crisp", "[strikes]") {
  const auto face = face_with({kRing, kCorner});
  const FaceFacts facts = face->facts();
  CHECK(facts.outlines == OutlineKind::strikes);
  CHECK(facts.strikes == std::vector<std::uint16_t>{8, 12});
  CHECK(test::dejavu()->facts().strikes.empty());
}

TEST_CASE("outlines are the edges of the pixels that are crisp at the size", "[strikes]") {
  const auto face = face_with({kRing, kCorner});
  CHECK(std::abs(area(*face, 8, 8)) == Approx(8));  // nine pixels and a hole
  CHECK(std::abs(area(*face, 12, 12)) == Approx(5));
  CHECK(std::abs(area(*face, 16, 8)) == Approx(8));   // twice 8
  CHECK(std::abs(area(*face, 24, 12)) == Approx(5));  // twice 12, not three times 8
  CHECK(std::abs(area(*face, 0, 12)) == Approx(5));   // the largest
  CHECK(std::abs(area(*face, 9, 12)) == Approx(5));   // the nearest above
  CHECK(std::abs(area(*face, 100, 12)) == Approx(5));
  Contours outline;
  REQUIRE(face->read_outline(GlyphId{kInked}, outline, 8).has_value());
  const FontRect box = bounds(outline);
  const float unit = face->units_per_em() / 8;
  CHECK(box.x_min == Approx(unit));  // one pixel on its left
  CHECK(box.y_max == Approx(5 * unit));
  CHECK(box.y_min == Approx(2 * unit));
  REQUIRE(face->read_outline(GlyphId{kInked + 1}, outline, 8).has_value());
  CHECK(outline.commands.empty());
}

TEST_CASE("pictures with rows of bits, and metrics in the index, are read alike", "[strikes]") {
  DrawnStrike bits = kRing, shared = kRing;
  bits.format = 2, bits.bytes = {0xF7, 0x80};  // 111 101 111
  shared.format = 5, shared.bytes = {0xF7, 0x80};
  Contours plain, other;
  REQUIRE(face_with({kRing})->read_outline(GlyphId{kInked}, plain, 8).has_value());
  for (const DrawnStrike& strike : {bits, shared}) {
    REQUIRE(face_with({strike})->read_outline(GlyphId{kInked}, other, 8).has_value());
    CHECK(plain.commands == other.commands);
    CHECK(plain.points == other.points);
  }
}

TEST_CASE("a face of pixels paints exactly its pixels", "[strikes]") {
  const FontStack stack{face_with({kRing})};
  ShapeCache cache;
  Paragraph paragraph;
  REQUIRE(lay_out(stack, "A", {.size = 16}, cache, paragraph).has_value());
  Image image = *Image::make(24, 32, PixelFormat::rgba8);
  const float baseline = 20;
  REQUIRE(
      paint(image, stack, paragraph, plain_look({1, 1, 1, 1}), {0, baseline - paragraph.ascent}).has_value());
  int full = 0, partly = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      full += image.value(x, y, 3) == 255 ? 1 : 0;
      partly += image.value(x, y, 3) != 0 && image.value(x, y, 3) != 255 ? 1 : 0;
    }
  }
  CHECK(full == 8 * 4);  // every pixel twice as wide and high
  CHECK(partly == 0);
}

TEST_CASE("pictures that end too early are damage", "[strikes]") {
  const auto face = face_with({kRing}, 2);
  Contours outline;
  const auto read = face->read_outline(GlyphId{kInked}, outline, 8);
  REQUIRE_FALSE(read.has_value());
  CHECK(read.error().kind == ErrorKind::damaged);
}
