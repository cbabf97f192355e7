// SPDX-License-Identifier: MIT
// Fonts written and read back.
#include "grafema/write/make_font.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/support.hpp"
#include "write/table_writer.hpp"

using namespace grafema;

namespace {

FontDrawing drawing_of(std::initializer_list<char32_t> characters) {
  FontDrawing drawing;
  drawing.names = {"Ferry", "Bold", "", "Version 2.5", "Nobody", "Free", "https://example.org"};
  drawing.weight_class = 700;
  drawing.lines = {900, 250, 100};
  drawing.glyphs.emplace_back();
  for (const char32_t c : characters) {
    DrawnGlyph glyph;
    glyph.characters = {c};
    glyph.advance = 100 + static_cast<float>(c % 500);
    glyph.outline.move_to({10, 0});
    glyph.outline.line_to({10, 700});
    glyph.outline.quad_to({300, 700}, {300, 350 - static_cast<float>(c % 90)});
    glyph.outline.close();
    drawing.glyphs.push_back(glyph);
  }
  return drawing;
}

std::shared_ptr<const Face> written(const FontDrawing& drawing) {
  const auto bytes = make_font(drawing);
  REQUIRE(bytes.has_value());
  const auto face = Face::open(FontData::own(*bytes));
  REQUIRE(face.has_value());
  return *face;
}

}  // namespace

TEST_CASE("what is drawn is read back the same", "[make_font][property]") {
  FontDrawing drawing = drawing_of({U'B', U'A', 0x416, 0x1F68B, U'z'});
  drawing.kerning = {{U'A', U'B', -42}, {U'z', U'A', 17}};
  const auto face = written(drawing);
  CHECK(face->names().family == "Ferry");
  CHECK(face->names().full_name == "Ferry Bold");
  CHECK(face->names().license_url == "https://example.org");
  CHECK(face->facts().weight_class == 700);
  CHECK(face->line_metrics() == LineMetrics{900, 250, 100});
  CHECK(face->characters().size() == 5);
  for (std::size_t i = 1; i < drawing.glyphs.size(); ++i) {
    const GlyphId glyph = face->find_glyph(drawing.glyphs[i].characters[0]);
    REQUIRE(glyph != kMissingGlyph);
    CHECK(face->advance(glyph) == drawing.glyphs[i].advance);
    Contours c;
    REQUIRE(face->read_outline(glyph, c).has_value());
    CHECK(c == drawing.glyphs[i].outline);
  }
  CHECK(face->kerning(face->find_glyph(U'A'), face->find_glyph(U'B'), tag("latn")) == -42);
  CHECK(face->kerning(face->find_glyph(U'z'), face->find_glyph(U'A'), tag("latn")) == 17);
}

TEST_CASE("the whole file sums to the number that head asks for", "[make_font]") {
  CHECK(detail::checksum(*make_font(drawing_of({U'a', U'b'}))) == 0xB1B0AFBAU);
}

TEST_CASE("the same drawing gives the same bytes", "[make_font]") {
  CHECK(*make_font(drawing_of({U'a', U'c'})) == *make_font(drawing_of({U'a', U'c'})));
}

TEST_CASE("drawings that TrueType can't hold are refused", "[make_font]") {
  const auto refused = [](auto change) {
    FontDrawing drawing = drawing_of({U'a', U'b'});
    change(drawing);
    const auto bytes = make_font(drawing);
    REQUIRE_FALSE(bytes.has_value());
    return bytes.error().kind;
  };
  CHECK(refused([](FontDrawing& d) { d.glyphs.clear(); }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) { d.units_per_em = 8; }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) { d.glyphs[1].advance = NAN; }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) { d.glyphs[2].characters = {U'a'}; }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) { d.kerning = {{U'a', U'Q', 1}}; }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) { d.kerning = {{U'a', U'b', 1e9F}}; }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) { d.glyphs[1].outline.points[1] = {1e6F, 0}; }) == ErrorKind::bad_value);
  CHECK(refused([](FontDrawing& d) {
          d.glyphs[1].outline.cubic_to({0, 0}, {1, 1}, {2, 2});
        }) == ErrorKind::unsupported);
}
