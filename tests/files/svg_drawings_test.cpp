// SPDX-License-Identifier: MIT
// Drawings of SVG documents: shapes, styles, places, and what is refused.
#include "grafema/files/svg_drawings.hpp"

#include <fmt/format.h>

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

namespace {

std::string svg(const std::string& inside, const std::string& attributes = "") {
  return "<svg xmlns=\"http://www.w3.org/2000/svg\" " + attributes + ">\n" + inside + "\n</svg>\n";
}

std::vector<CharacterDrawing> drawings_of(const std::string& inside, const std::string& attributes = "") {
  const auto read = read_svg_drawings(svg(inside, attributes), SvgSheet::groups);
  INFO((read ? std::string() : describe(read.error())));
  REQUIRE(read.has_value());
  return *read;
}

DrawnShape shape_of(const std::string& element, const std::string& attributes = "") {
  const auto drawings = drawings_of("<g id=\"a\">" + element + "</g>", attributes);
  REQUIRE(drawings.size() == 1);
  REQUIRE(drawings[0].shapes.size() == 1);
  return drawings[0].shapes[0];
}

FontRect placed_box(const DrawnShape& shape) {
  Contours placed = shape.path;
  for (FontPoint& p : placed.points) {
    const PixelPoint q = shape.to_drawing(p.x, p.y);
    p = {q.x, q.y};
  }
  return bounds(placed);
}

}  // namespace

TEST_CASE("basic shapes have the boxes that SVG gives them", "[svg][make-font]") {
  const auto check = [](const std::string& element, FontRect box) {
    INFO(element);
    const FontRect found = placed_box(shape_of(element));
    CHECK(found.x_min == Approx(box.x_min).margin(0.01));
    CHECK(found.y_min == Approx(box.y_min).margin(0.01));
    CHECK(found.x_max == Approx(box.x_max).margin(0.01));
    CHECK(found.y_max == Approx(box.y_max).margin(0.01));
  };
  check("<rect x=\"1\" y=\"2\" width=\"30\" height=\"40\"/>", {1, 2, 31, 42});
  check("<rect x=\"1\" y=\"2\" width=\"30\" height=\"40\" rx=\"5\"/>", {1, 2, 31, 42});
  check("<circle cx=\"10\" cy=\"20\" r=\"5\"/>", {5, 15, 15, 25});
  check("<ellipse cx=\"10\" cy=\"20\" rx=\"5\" ry=\"7\"/>", {5, 13, 15, 27});
  check("<polygon points=\"0,0 10,0 5-8\"/>", {0, -8, 10, 0});
  check("<polyline points=\"0 0 10 0 5 8\" fill=\"none\" stroke=\"black\"/>", {0, 0, 10, 8});
  check("<line x1=\"1\" y1=\"2\" x2=\"9\" y2=\"4\" stroke=\"black\"/>", {1, 2, 9, 4});
  check("<rect width=\"1in\" height=\"72pt\"/>", {0, 0, 96, 96});
  check("<path d=\"M0 0A10 10 0 0 1 20 0Z\"/>", {0, -10, 20, 0});
  check("<rect width=\"2\" height=\"1\" transform=\"translate(5 6) scale(10,-10) rotate(90)\"/>",
        {-5, -14, 5, 6});
  check(
      "<g transform=\"translate(100)\"><rect width=\"2\" height=\"1\" transform=\"matrix(1 0 0 1 3 "
      "4)\"/></g>",
      {103, 4, 105, 5});
}

TEST_CASE("styles are inherited, and a style attribute wins", "[svg][make-font]") {
  const DrawnShape stroked =
      shape_of("<path d=\"M0 0h9\" style=\"stroke-width: 3px; stroke-linecap:square\" stroke-width=\"7\"/>",
               "fill=\"none\" stroke=\"#ff0000\" stroke-linejoin=\"round\"");
  CHECK_FALSE(stroked.filled);
  CHECK(stroked.stroked);
  CHECK(stroked.stroke == Color{1, 0, 0, 1});
  CHECK(stroked.cap == StrokeCap::square);
  CHECK(stroked.join == StrokeJoin::round);
  CHECK(shape_of("<rect width=\"1\" height=\"1\" fill-rule=\"evenodd\"/>").even_odd);
}

TEST_CASE("names of drawings give their characters", "[svg][make-font]") {
  const std::string rect = "<rect width=\"9\" height=\"9\"/></g>";
  const auto drawings =
      drawings_of("<g id=\"layer\"><g id=\"A\" transform=\"translate(999 0)\">" + rect + "<g id=\"U+0416\">" +
                  rect + "<g id=\"tram\" data-characters=\"\xEE\x80\x81\" data-advance=\"12\">" + rect +
                  "<g id=\"a.alt\" data-left=\"1\" data-right=\"2\">" + rect + "</g>");
  REQUIRE(drawings.size() == 4);
  CHECK(drawings[0].characters == std::vector<char32_t>{U'A'});
  CHECK(placed_box(drawings[0].shapes[0]).x_min == 0);  // where it stands on the sheet does not count
  CHECK(drawings[1].characters == std::vector<char32_t>{0x416});
  CHECK(drawings[2].characters == std::vector<char32_t>{0xE001});
  CHECK(drawings[2].advance == 12.0F);
  CHECK(drawings[3].characters.empty());
  CHECK(drawings[3].right == 2.0F);
}

TEST_CASE("use places what it names, anchors and guides are no ink", "[svg][make-font]") {
  const auto drawings = drawings_of(
      "<defs><rect id=\"box\" width=\"4\" height=\"2\"/></defs>"
      "<g id=\"a\"><use href=\"#box\" x=\"10\" transform=\"scale(2)\"/><path data-guide=\"yes\" d=\"M0 "
      "0h999\"/>"
      "<circle data-anchor=\"top\" cx=\"3\" cy=\"-7\" r=\"2\"/></g>");
  REQUIRE(drawings[0].shapes.size() == 1);
  const FontRect box = placed_box(drawings[0].shapes[0]);
  CHECK(box.x_min == 20);
  CHECK(box.x_max == 28);
  REQUIRE(drawings[0].anchors.size() == 1);
  CHECK(drawings[0].anchors[0].name == "top");
  CHECK(drawings[0].anchors[0].at.x == Approx(3));
  CHECK(drawings[0].anchors[0].at.y == Approx(-7));
}

TEST_CASE("what a font can't hold is refused with element and line", "[svg][make-font][damaged]") {
  struct Wrong {
    const char* element;
    const char* found;
    ErrorKind kind;
  };
  const Wrong wrongs[] = {
      {"<path d=\"M0 0L9 0L9 9\"/>", "<path", ErrorKind::damaged},  // not closed
      {"<path d=\"\"/>", "<path", ErrorKind::damaged},
      {"<path/>", "<path", ErrorKind::damaged},
      {"<path d=\"M0 0Lx\" id=\"odd\"/>", "id=\"odd\"", ErrorKind::damaged},
      {"<rect width=\"0\" height=\"4\"/>", "<rect", ErrorKind::damaged},
      {"<circle r=\"-1\"/>", "<circle", ErrorKind::damaged},
      {"<polygon points=\"1 2 3\"/>", "<polygon", ErrorKind::damaged},
      {"<line x2=\"9\" stroke=\"red\" stroke-width=\"0\"/>", "'0'", ErrorKind::damaged},
      {"<line x2=\"9\" stroke=\"red\" stroke-dasharray=\"2 2\"/>", "stroke-dasharray",
       ErrorKind::unsupported},
      {"<rect width=\"1\" height=\"1\" fill=\"url(#g)\"/>", "url(#g)", ErrorKind::unsupported},
      {"<rect width=\"1\" height=\"1\" filter=\"url(#f)\"/>", "filter", ErrorKind::unsupported},
      {"<rect width=\"1\" height=\"1\" style=\"mask:url(#m)\"/>", "mask", ErrorKind::unsupported},
      {"<rect width=\"1\" height=\"1\" transform=\"scale(0)\"/>", "<rect", ErrorKind::damaged},
      {"<rect width=\"1\" height=\"1\" transform=\"spin(4)\"/>", "spin(4)", ErrorKind::damaged},
      {"<text>a</text>", "<text>", ErrorKind::unsupported},
      {"<image href=\"a.png\"/>", "<image>", ErrorKind::unsupported},
      {"<style>path{fill:red}</style>", "<style>", ErrorKind::unsupported},
      {"<linearGradient/>", "<linearGradient>", ErrorKind::unsupported},
      {"<use href=\"#none\"/>", "none", ErrorKind::damaged},
      {"<g id=\"b\"><use href=\"#b\"/><rect width=\"1\" height=\"1\"/></g>", "<use>", ErrorKind::damaged},
  };
  for (const Wrong& wrong : wrongs) {
    INFO(wrong.element);
    const auto read = read_svg_drawings(
        svg(std::string("<g id=\"a\"><title>t</title>\n") + wrong.element + "</g>"), SvgSheet::groups);
    REQUIRE_FALSE(read.has_value());
    CHECK(read.error().kind == wrong.kind);
    CHECK_THAT(std::string(read.error().found.data()),
               Catch::Contains(wrong.found) && Catch::Contains("line 3"));
  }
  const auto kind_of = [](const std::string& text) {
    const auto read = read_svg_drawings(text, SvgSheet::groups);
    REQUIRE_FALSE(read.has_value());
    return read.error().kind;
  };
  CHECK(kind_of(svg("<g><rect width=\"1\" height=\"1\"/></g>")) == ErrorKind::damaged);  // nameless
  CHECK(kind_of(svg("<rect id=\"a\" width=\"1\" height=\"1\"/>")) == ErrorKind::damaged);
  CHECK(kind_of(svg("<g id=\"U+D800\"/>")) == ErrorKind::damaged);
  CHECK(kind_of("<svg><g id=\"a\">") == ErrorKind::damaged);
  CHECK(kind_of("<html/>") == ErrorKind::damaged);
  CHECK(kind_of("") == ErrorKind::damaged);
}

TEST_CASE("uses that multiply and entities that grow are refused or stay small",
          "[svg][make-font][damaged]") {
  std::string all = "<rect id=\"u0\" width=\"1\" height=\"1\"/>";
  for (int i = 1; i <= 30; ++i) {
    all += fmt::format("<g id=\"u{}\"><use href=\"#u{}\"/><use href=\"#u{}\"/></g>", i, i - 1, i - 1);
  }
  const auto bomb = read_svg_drawings(svg("<defs>" + all + "</defs><g id=\"a\"><use href=\"#u30\"/></g>"),
                                      SvgSheet::groups);
  REQUIRE_FALSE(bomb.has_value());
  CHECK(bomb.error().kind == ErrorKind::unsupported);
  const auto entities = read_svg_drawings(
      "<!DOCTYPE svg [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;\">]><svg><g id=\"&b;&b;\"><rect "
      "width=\"1\" height=\"1\"/></g></svg>",
      SvgSheet::groups);
  if (entities) CHECK((*entities)[0].name.size() < 40);
}
