// SPDX-License-Identifier: MIT
// Fonts written and read back.
#include "grafema/write/make_font.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "support/support.hpp"
#include "write/tables/table_writer.hpp"

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
    glyph.outline.quadratic_curve_to({300, 700}, {300, 350 - static_cast<float>(c % 90)});
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
          d.glyphs[1].outline.curve_to({0, 0}, {1, 1}, {2, 2});
        }) == ErrorKind::unsupported);
}

TEST_CASE("numbers and texts that 16 bits can't hold are refused, the largest that fit read back",
          "[make_font]") {
  const FontDrawing good = drawing_of({U'a', U'b'});
  const auto refused = [](const FontDrawing& drawing) {
    const auto made = make_font(drawing);
    return !made && made.error().kind == ErrorKind::bad_value;
  };
  FontDrawing d = good;
  d.lines.ascent = 32767, d.lines.descent = 32768, d.lines.line_gap = 0;
  CHECK(written(d)->line_metrics() == LineMetrics{32767, 32768, 0});
  for (float LineMetrics::*field : {&LineMetrics::ascent, &LineMetrics::descent, &LineMetrics::line_gap}) {
    for (const float v : {40000.0F, -40000.0F, NAN, INFINITY}) {
      d = good;
      d.lines.*field = v;
      CHECK(refused(d));
    }
  }
  d = good;
  d.names.license = std::string(30000, 'x');
  CHECK(written(d)->names().license == d.names.license);
  d.names.license = std::string(40000, 'x');
  CHECK(refused(d));
  d = good;
  for (DrawnGlyph& glyph : d.glyphs) glyph.advance = 60000;
  CHECK(refused(d));
  d = good;
  d.weight_class = 5000;
  CHECK(refused(d));
  d = good;
  d.glyphs[1].outline.points[0].x = -17000;
  CHECK(refused(d));
}

TEST_CASE("more runs of characters than cmap can count are refused", "[make_font]") {
  FontDrawing d = drawing_of({});
  for (char32_t c = 0x100; c < 0x100 + 2 * 8188; c += 2) d.glyphs.push_back({{c}, {}, 10});
  const auto face = written(d);
  CHECK(face->find_glyph(0x100) != kMissingGlyph);
  CHECK(face->find_glyph(0x100 + 2 * 8187) != kMissingGlyph);
  CHECK(face->find_glyph(0x101) == kMissingGlyph);
  d.glyphs.push_back({{0xFF00}, {}, 10});
  CHECK_FALSE(make_font(d).has_value());
}
