// SPDX-License-Identifier: MIT
// grafema contours, extrude and draw --morph-to from the outside.
#include <catch2/catch.hpp>
#include <fstream>
#include <pugixml.hpp>
#include <sstream>

#include "grafema/files/svg_path.hpp"
#include "support/scene.hpp"
#include "support/shapes.hpp"
#include "tool/tool.hpp"

using namespace grafema;
using test::json_of;

namespace {

const std::string kFace = test::dejavu_path();

std::size_t size_of(const std::string& path) { return std::filesystem::file_size(path); }

}  // namespace

TEST_CASE("outlines are printed in font units as the face has them", "[tool][contours]") {
  const auto document = json_of("contours " + kFace + " --text Iq --json");
  CHECK(document["units_per_em"] == 2048);
  REQUIRE(document["glyphs"].size() == 2);
  const auto& glyph = document["glyphs"][0];
  CHECK(glyph["x"] == 0);
  CHECK(glyph["contours"].size() == 1);
  CHECK(glyph["contours"][0][0] == nlohmann::json::array({"M", 201, 1493}));
  CHECK(glyph["contours"][0].back() == nlohmann::json::array({"Z"}));
  CHECK(document["glyphs"][1]["x"] == glyph["advance"]);
  CHECK(document["glyphs"][1]["text_start"] == 1);
}

TEST_CASE("points are as many as asked for, with tangents and places along", "[tool][contours]") {
  const auto document = json_of("contours " + kFace + " --text OB --points 30 --json");
  for (const auto& glyph : document["glyphs"]) {
    REQUIRE(glyph["points"].size() == 30);
    for (const auto& p : glyph["points"]) {
      CHECK(std::hypot(p["tangent"][0].get<double>(), p["tangent"][1].get<double>()) ==
            Approx(1).margin(1e-5));
      CHECK(p["at"].get<double>() < 1);
    }
  }
  CHECK(json_of("contours " + kFace + " --text O --step 100 --corners --json")["glyphs"][0]["points"].size() >
        50);
}

TEST_CASE("an SVG file holds the same outlines, lines and marks", "[tool][contours]") {
  const test::Folder folder;
  const std::string svg = folder.path("a.svg");
  const auto [options, area] =
      GENERATE(table<std::string, double>({{"", 0},
                                           {"--stroke 4", 1},
                                           {"--step 200 --marks dot --mark-size 4", 2},
                                           {"--points 12 --marks Ab --mark-size 8 --along", 2}}));
  const auto ran =
      test::grafema_command("contours " + kFace + " --text S --size 100 --svg " + svg + " " + options);
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  pugi::xml_document document;
  REQUIRE(document.load_file(svg.c_str()));
  const auto path = document.child("svg").child("path");
  const auto read = read_svg_path(path.attribute("d").value());
  REQUIRE(read);
  Triangles shape, letter;
  REQUIRE(triangulate(*read, 1, shape));
  REQUIRE(triangulate(test::outline_of(*test::dejavu(), U'S'), 1, letter));
  if (area == 0) CHECK(shape.area() == Approx(letter.area()).epsilon(1e-3));
  if (area > 0) CHECK(shape.area() < letter.area());
  CHECK(shape.area() > 1000);
}

TEST_CASE("extrude writes models and collision shapes", "[tool][extrude]") {
  const test::Folder folder;
  const std::string to = " -o " + folder.path("t.glb");
  const auto figures = json_of("extrude " + kFace +
                               " --text 'Quay 4' --depth 0.3 --bevel 0.02,0.03 --letters --front "
                               "'#f2b33d,1,0.3' --side 'rgb(10, 20, 30),0.5' --json --collision " +
                               folder.path("c.json") + to);
  CHECK(figures["letters"] == 5);
  CHECK(size_of(folder.path("t.glb")) > figures["bytes"].get<std::size_t>());
  std::ifstream file(folder.path("c.json"));
  const auto pieces = nlohmann::json::parse(file);
  REQUIRE(pieces["letters"].size() == 5);
  for (const auto& letter : pieces["letters"]) {
    for (const auto& piece : letter["pieces"]) {
      CHECK(piece.size() >= 3);
      CHECK(piece.size() <= 8);
    }
  }
  CHECK(test::grafema_command("extrude --text A --depth 0.2 -o " + folder.path("a.obj")).exit == 0);
  CHECK(size_of(folder.path("a.mtl")) > 0);
  const auto wide = test::grafema_command("extrude " + kFace + " --text i --bevel 0.4 --strict" + to);
  CHECK(wide.exit == 1);
  CHECK_THAT(wide.err, Catch::Contains("bevel"));
  for (const char* wrong : {"--depth 0", "--depth -1", "--bevel x", "--bevel 1,2,3", "--bevel-shape bent",
                            "--segments 0", "--front 12", "--front red,2", "-o t.stl"}) {
    INFO(wrong);
    CHECK(test::grafema_command("extrude --text A " + std::string(wrong) +
                                (std::string_view(wrong)[1] == 'o' ? "" : to))
              .exit == 2);
  }
  CHECK(test::grafema_command("extrude --text ' '" + to).exit != 0);
}

TEST_CASE("a model stands where and is as large as it is asked to, and has a preview", "[tool][extrude]") {
  const test::Folder folder;
  struct Extent {
    float low = 1e9F, high = -1e9F;
  };
  const auto extent = [&](const std::string& options) {
    const auto ran = test::grafema_command("extrude " + kFace + " --text HH --depth 0.2 " + options + " -o " +
                                           folder.path("sign.obj"));
    INFO(ran.err);
    REQUIRE(ran.exit == 0);
    Extent x;
    std::ifstream file(folder.path("sign.obj"));
    for (std::string line; std::getline(file, line);) {
      if (!line.starts_with("v ")) continue;
      const float value = std::stof(line.substr(2));
      x.low = std::min(x.low, value), x.high = std::max(x.high, value);
    }
    return x;
  };
  const Extent plain = extent(""), large = extent("--size 3"), centered = extent("--origin center");
  CHECK(large.high - large.low == Approx(3 * (plain.high - plain.low)));
  CHECK(plain.low > 0);
  CHECK(centered.low == Approx(-centered.high).margin(0.02));
  CHECK(centered.high - centered.low == Approx(plain.high - plain.low));
  // Materials are named after the model, so that two models in a scene do not share them.
  std::ifstream materials(folder.path("sign.mtl"));
  const std::string text{std::istreambuf_iterator<char>(materials), {}};
  CHECK_THAT(text, Catch::Contains("newmtl sign-front"));
  extent("--front '#ff0000' --side '#0000ff' --preview " + folder.path("p.png"));
  const Image picture = *load_png(folder.path("p.png"));
  int red = 0, blue = 0;
  for (int y = 0; y < picture.height(); ++y) {
    for (int x = 0; x < picture.width(); ++x) {
      red += picture.value(x, y, 0) > 100 && picture.value(x, y, 2) < 90 ? 1 : 0;
      blue += picture.value(x, y, 2) > 30 && picture.value(x, y, 0) < 30 ? 1 : 0;
    }
  }
  CHECK(red > picture.width() * picture.height() / 20);
  CHECK(blue > 1000);
  CHECK(test::grafema_command("extrude --text A --origin somewhere -o " + folder.path("t.glb")).exit == 2);
}

TEST_CASE("texts melt over frames, from the one to the other", "[tool][draw]") {
  const test::Folder folder;
  const std::string base =
      "draw " + kFace + " --size 30 --text Halt --morph-to 'Quay 4' --backdrop black --fill white ";
  const std::string as = GENERATE("", "--morph-as line,2", "--morph-as dots,3", "--outline 2,red");
  REQUIRE(test::grafema_command(base + as + " --frames 5 -o " + folder.path("m%d.png")).exit == 0);
  const auto first = load_png(folder.path("m0.png")), middle = load_png(folder.path("m2.png")),
             last = load_png(folder.path("m4.png"));
  REQUIRE((first && middle && last));
  CHECK(test::share_that_differs(*first, *middle, 60) > 0.01);
  CHECK(test::share_that_differs(*last, *middle, 60) > 0.01);
  if (as.empty()) {
    REQUIRE(
        test::grafema_command("draw " + kFace +
                              " --size 30 --text Halt --reserve 'Quay 4' --backdrop black --fill white -o " +
                              folder.path("plain.png"))
            .exit == 0);
    const auto plain = load_png(folder.path("plain.png"));
    REQUIRE(plain);
    REQUIRE(plain->width() == first->width());
    CHECK(test::share_that_differs(*plain, *first, 12) < 0.001);
  }
}

TEST_CASE("wrong options of contours and morphs are told", "[tool][contours]") {
  const test::Folder folder;
  const std::string png = " -o " + folder.path("a.png");
  for (const std::string& wrong :
       {std::string("contours --text A --points 3 --step 4"), std::string("contours --text A --marks dot"),
        std::string("contours --text A --points 0"), std::string("contours --text A --step 0"),
        std::string("contours --text A --stroke -1"), std::string("contours --text A --stroke 1 --cap flat"),
        std::string("contours --text A --svg a.png"), std::string("contours --text A --stroke 1 --drawn 0,2"),
        "draw --text A --morph-to B" + png, "draw --text A --morph-to B --frames 2 --morph-easing odd" + png,
        "draw --text A --morph-to B --frames 2 --morph-stagger 1" + png,
        "draw --text A --morph-to B --frames 2 --morph-as mist" + png,
        "draw --text A --morph-to B --frames 2 --motion wave" + png}) {
    INFO(wrong);
    CHECK(test::grafema_command(wrong).exit == 2);
  }
}
