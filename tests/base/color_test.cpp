// SPDX-License-Identifier: MIT
// Colors in CSS notation and the sRGB curve.
#include "grafema/base/color.hpp"

#include <catch2/catch.hpp>
#include <cmath>

using namespace grafema;

TEST_CASE("every notation of a color is read", "[color]") {
  const auto [text, expected] =
      GENERATE(table<std::string, std::string>({{"#fb0", "#ffbb00"},
                                                {"#fb08", "#ffbb0088"},
                                                {"#1b2350", "#1b2350"},
                                                {"#1b235080", "#1b235080"},
                                                {"White", "#ffffff"},
                                                {"rebeccapurple", "#663399"},
                                                {"transparent", "#00000000"},
                                                {"rgb(255, 128, 0)", "#ff8000"},
                                                {"rgb(100% 50% 0% / 50%)", "#ff800080"},
                                                {"rgba(1,2,3,0.5)", "#01020380"},
                                                {"hsl(120, 100%, 25%)", "#008000"},
                                                {"hsl(-120deg 100% 50%)", "#0000ff"},
                                                {"hsl(0 0% 50%)", "#808080"},
                                                {"oklch(1 0 0)", "#ffffff"},
                                                {"oklch(0 0 0)", "#000000"},
                                                {"oklch(62.8% 0.2577 29.23)", "#ff0000"},
                                                {"oklch(0.8664 0.2948 142.5)", "#00ff00"}}));
  const Result<Color> color = read_color(text);
  REQUIRE(color.has_value());
  INFO(text);
  const std::string made = to_string(*color);
  REQUIRE(made.size() == expected.size());
  for (std::size_t i = 1; i < made.size(); i += 2) {  // one step off is rounding of the notation's digits
    CHECK(std::abs(std::stoi(made.substr(i, 2), nullptr, 16) -
                   std::stoi(expected.substr(i, 2), nullptr, 16)) <= 1);
  }
}

TEST_CASE("what is no color is refused", "[color]") {
  const std::string text =
      GENERATE("", "#", "#12", "#12345", "#xyzxyz", "ambre", "rgb(1,2)", "rgb(1,2,3,4,5)", "rgb(nan,0,0)",
               "hsl(inf 1 1)", "rgb(0x10,0,0)", "(1,2,3)", "lab(1 2 3)", "#1234567890");
  const Result<Color> color = read_color(text);
  REQUIRE_FALSE(color.has_value());
  CHECK(color.error().kind == ErrorKind::bad_value);
}

TEST_CASE("all names are found and written in order", "[color]") {
  for (const char* name : {"aliceblue", "black", "crimson", "gold", "oldlace", "yellowgreen"}) {
    CHECK(read_color(name).has_value());
  }
}

TEST_CASE("the sRGB curve matches its definition and turns back", "[color][property]") {
  for (int i = 0; i <= 1000; ++i) {
    const float v = static_cast<float>(i) / 1000;
    const double expected = v <= 0.04045F ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    CHECK(to_linear(v) == Approx(expected).margin(1e-7));
    CHECK(to_srgb(to_linear(v)) == Approx(v).margin(2e-6));
  }
  CHECK(to_srgb(-1) == 0);
  CHECK(to_srgb(2) == Approx(1));
}
