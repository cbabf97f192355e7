// SPDX-License-Identifier: MIT
// Fonts from drawn shapes: strokes against their distance, weights, compositions, rules.
#include "grafema/write/shape_sheet.hpp"

#include <fmt/format.h>

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/files/svg_drawings.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/write/make_font.hpp"
#include "grafema/write/propose_kerning.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

ShapeSheet sheet_of(const std::string& drawings, const std::string& attributes = "") {
  ShapeSheet sheet;
  sheet.names.family = "Ferry";
  auto read = read_svg_drawings("<svg " + attributes + ">" + drawings + "</svg>", SvgSheet::groups);
  INFO((read ? std::string() : describe(read.error())));
  REQUIRE(read.has_value());
  sheet.drawings = *std::move(read);
  return sheet;
}

FontDrawing drawn(const ShapeSheet& sheet, std::size_t style = 0) {
  auto drawing = draw_from_shapes(sheet, style);
  INFO((drawing ? std::string() : describe(drawing.error())));
  REQUIRE(drawing.has_value());
  return *std::move(drawing);
}

std::shared_ptr<const Face> written_sheet(const FontDrawing& drawing) {
  const auto bytes = make_font(drawing);
  INFO((bytes ? std::string() : describe(bytes.error())));
  REQUIRE(bytes.has_value());
  const auto face = Face::open(FontData::own(*bytes));
  REQUIRE(face.has_value());
  return *face;
}

const DrawnGlyph& glyph_of(const FontDrawing& drawing, char32_t c) {
  for (const DrawnGlyph& glyph : drawing.glyphs) {
    if (std::find(glyph.characters.begin(), glyph.characters.end(), c) != glyph.characters.end())
      return glyph;
  }
  FAIL("no such glyph");
  return drawing.glyphs[0];
}

/// The non-zero rule, by straight pieces.
int winding(const std::vector<Segment>& pieces, double x, double y) {
  int sum = 0;
  for (const Segment& s : pieces) {
    if ((s.y0 <= y) == (s.y1 <= y)) continue;
    const double at = s.x0 + (s.x1 - s.x0) * (y - s.y0) / (s.y1 - s.y0);
    if (at > x) sum += s.y1 > s.y0 ? 1 : -1;
  }
  return sum;
}

double distance(const std::vector<Segment>& pieces, double x, double y) {
  double least = 1e9;
  for (const Segment& s : pieces) {
    const double dx = s.x1 - s.x0, dy = s.y1 - s.y0, length = dx * dx + dy * dy;
    const double t = length > 0 ? std::clamp(((x - s.x0) * dx + (y - s.y0) * dy) / length, 0.0, 1.0) : 0;
    least = std::min(least, std::hypot(x - s.x0 - t * dx, y - s.y0 - t * dy));
  }
  return least;
}

/// The skeleton's own pieces, without the line that would close it.
std::vector<Segment> skeleton_pieces(const std::string& path) {
  std::vector<Segment> pieces;
  const auto sheet = sheet_of("<g id=\"a\" data-advance=\"1000\"><path d=\"" + path +
                              "\" fill=\"none\" stroke=\"black\"/></g>");
  const DrawnShape& shape = sheet.drawings[0].shapes[0];
  flatten(shape.path, Transform{1, 0, 0, -1, 0, 0}, 0.01, pieces);
  const bool closed = shape.path.commands.back() == PathCommand::closepath;
  if (!closed && !pieces.empty()) pieces.pop_back();
  return pieces;
}

}  // namespace

TEST_CASE("a round stroke covers what lies within half its width", "[shapes][make-font][property]") {
  const char* const paths[] = {
      "M100 -100L700 -100",
      "M100 -100L400 -700L700 -100",                    // a sharp corner
      "M100 -100C100 -700 700 -700 700 -100",           // an arch
      "M100 -400C900 -900 -100 -900 700 -400",          // a tight double bend
      "M100 -400C700 -420 700 -380 100 -360",           // a hairpin, tighter than the pen
      "M100 -100Q400 -900 700 -100L700 -300L500 -300",  // corners both ways
      "M300 -100C300 -600 500 -600 500 -300S200 -100 200 -500",
  };
  for (const char* path : paths) {
    for (const double width : {40.0, 120.0, 260.0}) {
      INFO(path << " " << width);
      const auto sheet = sheet_of(fmt::format("<g id=\"a\" data-advance=\"1000\"><path d=\"{}\"/></g>", path),
                                  fmt::format("fill=\"none\" stroke=\"black\" stroke-width=\"{}\" "
                                              "stroke-linecap=\"round\" stroke-linejoin=\"round\"",
                                              width));
      const FontDrawing drawing = drawn(sheet);
      std::vector<Segment> ink;
      flatten(glyph_of(drawing, U'a').outline, Transform{}, 0.05, ink);
      const std::vector<Segment> line = skeleton_pieces(path);
      int wrong = 0;
      for (double y = -300; y <= 1000; y += 13) {
        for (double x = -250; x <= 1050; x += 13) {
          const double off = distance(line, x, y) - width / 2;
          if (std::abs(off) < 1.6) continue;  // half a unit, and rounding to whole ones
          wrong += (off < 0) != (winding(ink, x, y) != 0) ? 1 : 0;
        }
      }
      CHECK(wrong == 0);
    }
  }
}

TEST_CASE("caps and joins reach as far as SVG says", "[shapes][make-font]") {
  const auto box_of = [](const std::string& cap, const std::string& join) {
    const auto sheet = sheet_of(
        "<g id=\"a\" data-advance=\"900\"><path d=\"M100 -100H500V-500\" fill=\"none\" stroke=\"black\" "
        "stroke-width=\"100\" stroke-linecap=\"" +
        cap + "\" stroke-linejoin=\"" + join + "\"/></g>");
    return bounds(glyph_of(drawn(sheet), U'a').outline);
  };
  CHECK(box_of("butt", "miter").x_min == 100);
  CHECK(box_of("round", "miter").x_min == 50);
  CHECK(box_of("square", "miter").x_min == 50);
  CHECK(box_of("butt", "miter").x_max == 550);
  const auto area_of = [&](const std::string& join) {
    const auto sheet = sheet_of(
        "<g id=\"a\" data-advance=\"900\"><path d=\"M100 -100H500V-500\" fill=\"none\" stroke=\"black\" "
        "stroke-width=\"100\" stroke-linejoin=\"" +
        join + "\"/></g>");
    std::vector<Segment> pieces;
    flatten(glyph_of(drawn(sheet), U'a').outline, Transform{1, 0, 0, -1, 0, 0}, 0.01, pieces);
    return signed_area(pieces);
  };
  const double strips = 2 * 400 * 100 - 50 * 50;  // two lines and the square that both cover
  CHECK(area_of("miter") == Approx(strips + 50 * 50).epsilon(0.001));
  CHECK(area_of("bevel") == Approx(strips + 50 * 50 / 2.0).epsilon(0.001));
  CHECK(area_of("round") == Approx(strips + 50 * 50 * 3.14159265 / 4).epsilon(0.001));
}

TEST_CASE("dots, even-odd holes and mirrored shapes keep their ink", "[shapes][make-font]") {
  const auto area_of = [](const std::string& inside) {
    const auto sheet = sheet_of("<g id=\"a\">" + inside + "</g>");
    std::vector<Segment> pieces;
    flatten(glyph_of(drawn(sheet), U'a').outline, Transform{1, 0, 0, -1, 0, 0}, 0.01, pieces);
    return signed_area(pieces);
  };
  CHECK(area_of("<path d=\"M200 -200h0\" stroke=\"black\" stroke-width=\"100\" stroke-linecap=\"round\"/>") ==
        Approx(3.14159 * 2500).epsilon(0.01));
  CHECK(area_of("<path fill-rule=\"evenodd\" d=\"M0 0H300V-300H0ZM100 -100H200V-200H100Z\"/>") ==
        Approx(80000));
  CHECK(area_of("<path d=\"M0 0H300V-300H0ZM100 -100H200V-200H100Z\"/>") == Approx(90000));
  CHECK(area_of("<g transform=\"scale(-1 1)\"><path d=\"M0 0H300V-300H0Z\"/></g>") == Approx(90000));
  CHECK(area_of(
            "<g transform=\"scale(-1 2)\"><path d=\"M0 0H300\" stroke=\"black\" stroke-width=\"10\"/></g>") ==
        Approx(6000));
  CHECK(area_of("<rect width=\"200\" height=\"100\"/><rect x=\"100\" width=\"200\" height=\"100\"/>") ==
        Approx(30000));
  const auto crossed = draw_from_shapes(sheet_of(
      "<g id=\"a\"><path fill-rule=\"evenodd\" d=\"M0 0H300V-300H0ZM100 -100H400V-200H100Z\"/></g>"));
  REQUIRE_FALSE(crossed.has_value());
  CHECK(crossed.error().kind == ErrorKind::bad_value);
}

TEST_CASE("a bolder style reaches the same heights with more ink", "[shapes][make-font][property]") {
  ShapeSheet sheet = sheet_of(
      "<g id=\"n\"><path d=\"M0 -460V-40M0 -290C0 -400 70 -460 170 -460C280 -460 340 -400 340 "
      "-300V-40\"/></g>"
      "<g id=\"b\"><path d=\"M0 -700V-40M0 -250C0 -390 80 -460 190 -460S390 -380 390 -250S310 -40 190 -40S0 "
      "-110 0 -250\"/></g>",
      "fill=\"none\" stroke=\"black\" stroke-width=\"80\" stroke-linecap=\"round\" "
      "stroke-linejoin=\"round\"");
  sheet.heights = {0, 500, 740};
  sheet.styles = {{}, {.name = "Bold", .weight_class = 700, .pen = 1.7F, .widen = 1.08F}};
  const FontDrawing regular = drawn(sheet, 0), bold = drawn(sheet, 1);
  CHECK(bold.names.style == "Bold");
  CHECK(bold.weight_class == 700);
  for (const char32_t c : {U'n', U'b'}) {
    const FontRect a = bounds(glyph_of(regular, c).outline), b = bounds(glyph_of(bold, c).outline);
    CHECK(b.y_min == Approx(a.y_min).margin(1.5));
    CHECK(b.y_max == Approx(a.y_max).margin(1.5));
    CHECK(b.x_max - b.x_min > a.x_max - a.x_min + 50);
  }
}

namespace {

const char* const kLetters =
    "<g id=\"A\"><path d=\"M0 0L250 -700L500 0Z\"/><circle data-anchor=\"top\" cx=\"250\" cy=\"-700\" "
    "r=\"1\"/></g>"
    "<g id=\"V\"><path d=\"M0 -700L250 0L500 -700Z\"/></g>"
    "<g id=\"H\"><path d=\"M0 0V-700H400V0Z\"/></g><g id=\"n\"><path d=\"M0 0V-500H300V0Z\"/></g>"
    "<g id=\"i\"><path d=\"M0 0V-500H80V0Z\"/></g><g id=\"t\"><path d=\"M0 0V-600H90V0Z\"/></g>"
    "<g id=\"dotless\" data-characters=\"\xC4\xB1\"><path d=\"M0 0V-480H80V0Z\"/><circle data-anchor=\"top\" "
    "cx=\"40\" cy=\"-480\" r=\"1\"/></g>"
    "<g id=\"acute\" data-characters=\"\xCC\x81\" data-advance=\"0\"><path d=\"M-30 -720L50 -800L80 -780Z\"/>"
    "<circle data-attach=\"top\" cx=\"0\" cy=\"-700\" r=\"1\"/><circle data-anchor=\"top\" cx=\"0\" "
    "cy=\"-820\" r=\"1\"/></g>"
    "<g id=\"tin\" data-characters=\"\xEE\x80\x80\"><path d=\"M0 0V-300H600V0Z\"/></g>"
    "<g id=\"one\" data-characters=\"1\"><path d=\"M0 0V-700H100V0Z\"/></g><g id=\"four\" "
    "data-characters=\"4\"><path d=\"M0 0V-700H420V0Z\"/></g>";

}  // namespace

TEST_CASE("compositions are their parts where anchors meet", "[shapes][make-font]") {
  ShapeSheet sheet = sheet_of(kLetters);
  sheet.rules.compose = {{0xC1, U'A', 0x301}, {0xED, U'i', 0x301}};
  const FontDrawing drawing = drawn(sheet);
  const auto face = written_sheet(drawing);
  for (const auto& [whole, letter] : {std::pair<char32_t, char32_t>{0xC1, U'A'}, {0xED, 0x131}}) {
    const GlyphId composed = face->find_glyph(whole), base = face->find_glyph(letter),
                  mark = face->find_glyph(0x301);
    REQUIRE(composed != kMissingGlyph);
    CHECK(face->advance(composed) == face->advance(base));
    Contours all, one;
    REQUIRE(face->read_outline(composed, all).has_value());
    REQUIRE(face->read_outline(base, one).has_value());
    const std::size_t of_base = one.points.size();
    CHECK(std::equal(one.points.begin(), one.points.end(), all.points.begin()));
    REQUIRE(face->read_outline(mark, one).has_value());
    REQUIRE(all.points.size() == of_base + one.points.size());
    // The accent's attaching point, 0 and 700, came to stand on the letter's.
    const float lifted = all.points[of_base].y - one.points[0].y;
    CHECK(lifted == (letter == U'A' ? 0.0F : -220.0F));
  }
  // Typed letter by letter the accent stands in the same place.
  Paragraph paragraph;
  ShapeCache cache;
  REQUIRE(lay_out(FontStack{face}, "\xC4\xB1\xCC\x81\xCC\x81", {.size = 1000}, cache, paragraph).has_value());
  REQUIRE(paragraph.glyphs.size() == 3);
  CHECK(paragraph.glyphs[1].origin().y - paragraph.glyphs[0].origin().y == Approx(220).margin(0.5));
  CHECK(paragraph.glyphs[2].origin().y - paragraph.glyphs[1].origin().y == Approx(-120).margin(0.5));
}

TEST_CASE("class kerning says the same in GPOS and in kern, pairs stand before it",
          "[shapes][make-font][property]") {
  ShapeSheet sheet = sheet_of(kLetters);
  sheet.rules.compose = {{0xC1, U'A', 0x301}};
  sheet.rules.left_groups = {{"A", {"A"}}, {"V", {"V"}}, {"H", {"H", "n"}}};
  sheet.rules.right_groups = {{"A", {"A"}}, {"V", {"V"}}, {"i", {"i", "t", "n"}}};
  sheet.rules.group_kerning = {{"A", "V", -90}, {"V", "A", -80}, {"V", "i", -20}, {"H", "V", 7}};
  sheet.kerning = {{U'V', U't', 5}};
  const FontDrawing drawing = drawn(sheet);
  const auto bytes = make_font(drawing);
  REQUIRE(bytes.has_value());
  std::vector<std::byte> old = *bytes;  // the same file without GPOS
  for (std::size_t i = 12; i + 4 < 400; i += 16) {
    if (std::memcmp(old.data() + i, "GPOS", 4) == 0) std::memcpy(old.data() + i, "GPO_", 4);
  }
  const auto with_gpos = *Face::open(FontData::own(*bytes)), with_kern = *Face::open(FontData::own(old));
  REQUIRE(with_gpos->kerning_source() == KerningSource::gpos);
  REQUIRE(with_kern->kerning_source() == KerningSource::kern);
  for (const char32_t a : std::u32string(U"AVHnit\u00C11")) {
    for (const char32_t b : std::u32string(U"AVHnit\u00C11")) {
      const GlyphId left = with_gpos->find_glyph(a), right = with_gpos->find_glyph(b);
      CHECK(with_gpos->kerning(left, right, tag("latn")) == with_kern->kerning(left, right, tag("latn")));
    }
  }
  const auto kern = [&](char32_t a, char32_t b) {
    return with_gpos->kerning(with_gpos->find_glyph(a), with_gpos->find_glyph(b), tag("latn"));
  };
  CHECK(kern(U'A', U'V') == -90);
  CHECK(kern(0xC1, U'V') == -90);  // follows its letter
  CHECK(kern(U'V', U'i') == -20);
  CHECK(kern(U'V', U't') == 5);
  CHECK(kern(U'n', U'V') == 7);
}

TEST_CASE("names become ligatures, figures get one width, languages their letters", "[shapes][make-font]") {
  ShapeSheet sheet = sheet_of(kLetters);
  sheet.rules.ligatures_of_names = true;
  sheet.rules.tabular = U"14";
  sheet.rules.alternates = {{tag("locl"), "n", "t", tag("latn"), tag("SRB")}};
  const auto face = written_sheet(drawn(sheet));
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(FontStack{face}, "tin", {.size = 1000}, cache, p).has_value());
  REQUIRE(p.glyphs.size() == 1);
  CHECK(p.glyphs[0].glyph == face->find_glyph(0xE000));
  TextStyle tabular{.size = 1000};
  tabular.features = {{tag("tnum"), 1}};
  REQUIRE(lay_out(FontStack{face}, "1", tabular, cache, p).has_value());
  const float one = p.lines[0].width;
  REQUIRE(lay_out(FontStack{face}, "4", tabular, cache, p).has_value());
  CHECK(one == p.lines[0].width);
  REQUIRE(lay_out(FontStack{face}, "1", {.size = 1000}, cache, p).has_value());
  CHECK(p.lines[0].width < one);
  TextStyle serbian{.size = 1000};
  serbian.language = "sr";
  REQUIRE(lay_out(FontStack{face}, "n", serbian, cache, p).has_value());
  CHECK(p.glyphs[0].glyph == face->find_glyph(U't'));
}

TEST_CASE("a CFF file draws what a TrueType file draws", "[shapes][make-font][property]") {
  const std::string letters = std::string(kLetters) +
                              "<g id=\"o\"><path d=\"M0 -250C0 -390 80 -478 200 -478S400 -390 400 -250S320 "
                              "-20 200 -20S0 -110 0 -250Z\"/></g>";
  ShapeSheet sheet = sheet_of(letters);
  sheet.units_per_em = 2000;
  const FontDrawing quadratic = drawn(sheet);
  sheet.cff = true;
  const auto cff = written_sheet(drawn(sheet)), glyf = written_sheet(quadratic);
  CHECK(cff->facts().outlines == OutlineKind::cff);
  REQUIRE(cff->facts().glyph_count == glyf->facts().glyph_count);
  for (const char32_t c : std::u32string(U"AVHo1\u0301")) {
    const GlyphId a = cff->find_glyph(c), b = glyf->find_glyph(c);
    CHECK(cff->advance(a) == Approx(glyf->advance(b)).margin(1));
    Contours one, two;
    REQUIRE(cff->read_outline(a, one).has_value());
    REQUIRE(glyf->read_outline(b, two).has_value());
    const FontRect x = bounds(one), y = bounds(two);
    CHECK(x.x_min == Approx(y.x_min).margin(1));
    CHECK(x.y_max == Approx(y.y_max).margin(1));
    std::vector<Segment> p, q;
    flatten(one, Transform{}, 0.05, p), flatten(two, Transform{}, 0.05, q);
    CHECK(signed_area(p) == Approx(signed_area(q)).epsilon(0.002));
  }
}

TEST_CASE("colored shapes become layers from back to front", "[shapes][make-font]") {
  ShapeSheet sheet = sheet_of(
      "<g id=\"a\"><rect width=\"300\" height=\"300\" y=\"-300\" fill=\"#ffb000\"/>"
      "<rect x=\"50\" y=\"-250\" width=\"100\" height=\"100\" fill=\"#0030a0\"/></g>");
  sheet.color = true;
  const auto face = written_sheet(drawn(sheet));
  CHECK(face->color_layers(face->find_glyph(U'a')).size() == 2);
  const FontDrawing drawing = drawn(sheet);
  REQUIRE(glyph_of(drawing, U'a').layers.size() == 2);
  CHECK(glyph_of(drawing, U'a').layers[0].color == *read_color("#ffb000"));
}

TEST_CASE("white between letters is made equal", "[kerning][make-font][property]") {
  const FontDrawing drawing = drawn(sheet_of(kLetters));
  const auto proposal = propose_kerning(drawing);
  REQUIRE(proposal.has_value());
  const auto value = [&](const std::string& left, const std::string& right) {
    for (const GroupPair& pair : proposal->pairs) {
      if (pair.left == left && pair.right == right) return pair.value;
    }
    return 0.0F;
  };
  CHECK(value("A", "V") < -50);
  CHECK(value("V", "A") < -50);
  CHECK(value("H", "H") == 0);
  // Straight sides are one group: H, and n and the others in theirs.
  bool together = false;
  for (const KerningGroup& group : proposal->left_groups) {
    together = together || (std::count(group.members.begin(), group.members.end(), "n") > 0 &&
                            std::count(group.members.begin(), group.members.end(), "i") > 0);
  }
  CHECK(together);
  FontDrawing empty = drawing;
  empty.glyphs.resize(1);
  CHECK_FALSE(propose_kerning(empty).has_value());
}

TEST_CASE("sheets that make no font are refused by name", "[shapes][make-font][damaged]") {
  const auto refused = [](auto change) {
    ShapeSheet sheet = sheet_of(kLetters);
    change(sheet);
    const auto drawing = draw_from_shapes(sheet);
    REQUIRE_FALSE(drawing.has_value());
    CHECK(drawing.error().kind == ErrorKind::bad_value);
    return std::string(drawing.error().found.data());
  };
  CHECK_THAT(refused([](ShapeSheet& s) { s.drawings[1].characters = {U'A'}; }), Catch::Contains("id=\"V\""));
  CHECK_THAT(refused([](ShapeSheet& s) {
               s.rules.compose = {{0xC0, U'A', 0x300}};
             }),
             Catch::Contains("U+0300"));
  CHECK_THAT(refused([](ShapeSheet& s) {
               s.rules.compose = {{0x106, U'C', 0x301}};
             }),
             Catch::Contains("U+0043"));
  CHECK_THAT(refused([](ShapeSheet& s) {
               s.rules.compose = {{0x1E2E, U'H', 0x301}};
             }),
             Catch::Contains("'top'"));
  CHECK_THAT(refused([](ShapeSheet& s) {
               s.rules.left_groups = {{"x", {"x"}}}, s.rules.group_kerning = {{"x", "x", 1}};
             }),
             Catch::Contains("'x'"));
  CHECK_THAT(refused([](ShapeSheet& s) { s.rules.group_kerning = {{"q", "r", 1}}; }), Catch::Contains("q r"));
  CHECK_THAT(refused([](ShapeSheet& s) {
               s.rules.ligatures = {{{"A", "Z"}, "tin"}};
             }),
             Catch::Contains("tin"));
  CHECK_THAT(refused([](ShapeSheet& s) { s.rules.tabular = U"7"; }), Catch::Contains("'7'"));
  CHECK_THAT(refused([](ShapeSheet& s) { s.drawings[0].advance = 70000.0F; }), Catch::Contains("id=\"A\""));
  CHECK_THAT(refused([](ShapeSheet& s) { s.em = 0.01F; }), Catch::Contains("id="));
  refused([](ShapeSheet& s) { s.em = 0; });
  refused([](ShapeSheet& s) { s.drawings.clear(); });
  refused([](ShapeSheet& s) { s.styles[0].pen = -1; });
}

TEST_CASE("a variable face is its weights where they stand, and between them between",
          "[shapes][make-font][property]") {
  const auto loaded = load_shape_sheet({GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans.svg"});
  REQUIRE(loaded.has_value());
  const auto drawing = draw_variable_from_shapes(*loaded);
  REQUIRE(drawing.has_value());
  const auto face = written_sheet(*drawing);
  REQUIRE(face->axes().size() == 1);
  const auto area_of = [](const Face& f, GlyphId glyph) {
    Contours outline;
    REQUIRE(f.read_outline(glyph, outline).has_value());
    outline.united = false;
    unite(outline);
    std::vector<Segment> pieces;
    flatten(outline, Transform{1, 0, 0, -1, 0, 0}, 0.1, pieces);
    return signed_area(pieces);
  };
  const auto at = [&](float weight) {
    const std::vector<AxisValue> place = {{tag("wght"), weight}};
    return face->instance(place);
  };
  const auto light = at(400), middle = at(550), heavy = at(700);
  const auto regular = written_sheet(drawn(*loaded, 0)), bold = written_sheet(drawn(*loaded, 1));
  for (const char32_t c : std::u32string(U"angR8&@\u00C9\u1EA5\u0436\u03BE.")) {
    INFO(static_cast<unsigned>(c));
    const GlyphId v = face->find_glyph(c), r = regular->find_glyph(c), b = bold->find_glyph(c);
    CHECK(light->advance(v) == Approx(regular->advance(r)).margin(1));
    CHECK(heavy->advance(v) == Approx(bold->advance(b)).margin(2));
    CHECK(area_of(*light, v) == Approx(area_of(*regular, r)).epsilon(0.006));
    CHECK(area_of(*heavy, v) == Approx(area_of(*bold, b)).epsilon(0.006));
    CHECK(area_of(*middle, v) > area_of(*light, v));
    CHECK(area_of(*middle, v) < area_of(*heavy, v));
    CHECK(middle->advance(v) == Approx((light->advance(v) + heavy->advance(v)) / 2).margin(0.6));
  }
}

TEST_CASE("a scribble of thousands of curves ends with what it was refused for",
          "[shapes][make-font][damaged]") {
  std::string path = "M0 0";
  std::uint32_t noise = 7;
  const auto next = [&] { return (noise = noise * 1664525 + 1013904223) >> 22; };
  for (int i = 0; i < 5000; ++i) path += fmt::format("Q{} -{} {} -{}", next(), next(), next(), next());
  const auto sheet = sheet_of("<g id=\"a\"><path d=\"" + path + "\"/></g>",
                              "fill=\"none\" stroke=\"black\" stroke-width=\"12\" stroke-linejoin=\"round\"");
  const auto drawing = draw_from_shapes(sheet);
  REQUIRE(drawing.has_value());
  const auto font = make_font(*drawing);
  REQUIRE_FALSE(font.has_value());
  CHECK(font.error().kind == ErrorKind::bad_value);
}
