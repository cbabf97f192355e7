// SPDX-License-Identifier: MIT
// Looks files: layers, bases, units, and what is refused.
#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

namespace {

FileResult<std::vector<NamedLook>> loaded(const std::string& looks) {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("l.json"), R"({"format":"grafema-looks","version":1,"looks":)" + looks + "}")
              .has_value());
  return load_looks(folder.path("l.json"));
}

}  // namespace

TEST_CASE("the looks of the interface page are read", "[looks_file]") {
  const auto looks = loaded(
      R"({"sign": {"opacity": 0.5, "layers": [{"shift": [2, 3], "grow": 2, "blur": 4, "fill": "#000a"}, {"grow": 2, "hollow": true, "fill": "#14213d"},
    {"fill": ["#fff6d6", "#fff6d6", "#ffb703", "#ffb703"]}]}, "late": {"based_on": "sign", "layers": [{"at": 2, "fill": "#e63946"}, {"unit": "px"}]}})");
  REQUIRE(looks.has_value());
  const Look& sign = (*looks)[0].look;
  CHECK(sign.count == 3);
  CHECK(sign.opacity == 0.5F);
  CHECK(sign.layers[0].shift == PixelPoint{2, 3});
  CHECK(sign.layers[1].hollow);
  CHECK(to_string(sign.layers[2].fill.corners[3]) == "#ffb703");
  const Look& late = (*looks)[1].look;
  CHECK(late.count == 4);
  CHECK(late.opacity == 0.5F);
  CHECK(late.layers[0] == sign.layers[0]);
  CHECK(to_string(late.layers[2].fill.corners[1]) == "#e63946");
}

TEST_CASE("ems become pixels with the size of the text", "[looks_file]") {
  const auto looks =
      loaded(R"({"big": {"unit": "em", "layers": [{"shift": [0.1, 0], "grow": 0.05, "blur": 0.02}]}})");
  REQUIRE(looks.has_value());
  const Look pixels = in_pixels((*looks)[0].look, 200);
  CHECK(pixels.layers[0].grow == Approx(10));
  CHECK(pixels.layers[0].shift.x == Approx(20));
  CHECK(required_reach(pixels) == Approx(14.5F));
}

TEST_CASE("wrong looks name themselves", "[looks_file]") {
  const auto [text, named] = GENERATE(table<std::string, std::string>(
      {{R"({"a": 1})", "'a'"},
       {R"({"a": {}})", "'a'"},
       {R"({"a": {"layers": [{"fill": "ambre"}]}})", "'a'"},
       {R"({"a": {"layers": [{"grow": 1e9}]}})", "grow"},
       {R"({"a": {"layers": [{"blur": -1}]}})", "blur"},
       {R"({"a": {"layers": [{"shift": 3}]}})", "shift"},
       {R"({"a": {"layers": [{"at": 3}]}})", "at"},
       {R"({"sign": {"layers": [{}]}, "a": {"based_on": "sing"}})", "did you mean 'sign'"},
       {R"({"a": {"based_on": "b"}, "b": {"based_on": "a"}})", "not based on itself"},
       {R"({"a": {"layers": [{},{},{},{},{},{},{},{},{}]}})", "eight"},
       {R"({"a": {"unit": "cm", "layers": [{}]}})", "unit"}}));
  const auto looks = loaded(text);
  REQUIRE_FALSE(looks.has_value());
  CHECK_THAT(describe(looks.error()), Catch::Contains(named));
}

TEST_CASE("one look is found by FILE#NAME, the nearest name is offered", "[looks_file]") {
  const std::string file = GRAFEMA_SOURCE_DIR "/data/demo/looks.json";
  CHECK(load_look(file + "#sign")->count == 2);
  CHECK_THAT(describe(load_look(file + "#sing").error()), Catch::Contains("did you mean 'sign'?"));
}
