// SPDX-License-Identifier: MIT
// grafema make-font from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("the committed drawings become the committed fonts", "[tool][make-font]") {
  const test::Folder folder;
  struct Made {
    const char *from, *options, *font;
  };
  for (const Made& made : {Made{"quillmere_dot.png", "", "quillmere_dot.ttf"},
                           Made{"quillmere_dot_europe.png", "", "quillmere_dot_europe.ttf"},
                           Made{"quillmere_sans.svg", "", "quillmere_sans.ttf"},
                           Made{"quillmere_sans.svg", " --style Bold", "quillmere_sans_bold.ttf"},
                           Made{"quillmere_sans.svg", " --variable", "quillmere_sans_variable.ttf"},
                           Made{"quillmere_signs.svg", "", "quillmere_signs.ttf"}}) {
    INFO(made.font);
    const std::string faces = GRAFEMA_SOURCE_DIR "/data/faces/";
    const auto ran = test::grafema_command("make-font " + faces + made.from + made.options + " -o " +
                                           folder.path(made.font));
    REQUIRE(ran.exit == 0);
    CHECK(*load_text(folder.path(made.font)) == *load_text(faces + made.font));
  }
  const std::string latin = folder.path("quillmere_sans_latin.ttf");
  REQUIRE(test::grafema_command(
              "subset " GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans.ttf --lean --quiet -o " + latin +
              " --range 20-7E,A0-17F,1E80-1EF9,2010-2044,20A0-20BF,2116,2122,2190-2193,300-341")
              .exit == 0);
  CHECK(*load_text(latin) == *load_text(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans_latin.ttf"));
  CHECK(test::json_of("inspect --json " + folder.path("quillmere_dot.ttf"))["faces"][0]["crisp_sizes"][0] ==
        12.0);
}

TEST_CASE("proposed kerning can be taken over as it is, and proved", "[tool][make-font]") {
  const test::Folder folder;
  REQUIRE(
      save_text(
          folder.path("s.svg"),
          R"(<svg fill="none" stroke="black" stroke-width="80"><g id="A"><path d="M0 0L250 -700L500 0"/></g>
<g id="V"><path d="M0 -700L250 0L500 -700"/></g><g id="H"><path d="M0 0V-700M400 0V-700M0 -350H400"/></g></svg>)")
          .has_value());
  const std::string head = R"({"format": "grafema-font-sheet", "names": {"family": "Ferry"})";
  REQUIRE(save_text(folder.path("s.json"), head + "}").has_value());
  REQUIRE(test::grafema_command("make-font " + folder.path("s.svg") + " --propose-kerning " +
                                folder.path("k.json"))
              .exit == 0);
  const std::string proposed = *load_text(folder.path("k.json"));
  CHECK_THAT(proposed, Catch::Contains("\"A V\": -"));
  REQUIRE(save_text(folder.path("s.json"), head + "," + proposed.substr(1)).has_value());
  const auto ran = test::grafema_command("make-font " + folder.path("s.svg") + " -o " + folder.path("f.ttf") +
                                         " --proof " + folder.path("p.png"));
  CHECK_THAT(ran.err, Catch::Contains("Ferry Regular"));
  REQUIRE(ran.exit == 0);
  CHECK(load_png(folder.path("p.png"))->width() == 1280);
  const auto report = test::json_of("measure --json --size 1000 --text AV " + folder.path("f.ttf"));
  const auto plain =
      test::json_of("measure --json --size 1000 --no-kerning --text AV " + folder.path("f.ttf"));
  CHECK(report["width"].get<float>() < plain["width"].get<float>() - 20);
}

TEST_CASE("wrong drawings end with 3, name element and line, and write nothing", "[tool][make-font]") {
  const test::Folder folder;
  REQUIRE(
      save_text(folder.path("s.json"), R"({"format": "grafema-font-sheet", "names": {"family": "Ferry"}})")
          .has_value());
  REQUIRE(save_text(folder.path("s.svg"), "<svg>\n<g id=\"a\">\n<text>a</text></g></svg>").has_value());
  const auto ran = test::grafema_command("make-font " + folder.path("s.svg") + " -o " + folder.path("f.ttf"));
  CHECK(ran.exit == 3);
  CHECK_THAT(ran.err, Catch::Contains("<text> in line 3") && Catch::Contains("s.svg"));
  CHECK(folder.file_count() == 2);
  const auto style = test::grafema_command("make-font " GRAFEMA_SOURCE_DIR
                                           "/data/faces/quillmere_sans.svg --style Thin -o " +
                                           folder.path("f.ttf"));
  CHECK(style.exit != 0);
  CHECK_THAT(style.err, Catch::Contains("Regular, Bold"));
}

TEST_CASE("a wrong sheet ends with 3, names the cell, and writes nothing", "[tool][make-font]") {
  const test::Folder folder;
  REQUIRE(save_png(folder.path("s.png"), *Image::make(10, 4, PixelFormat::r8)).has_value());
  REQUIRE(
      save_text(
          folder.path("s.json"),
          R"({"format":"grafema-font-sheet","cell":[4,4],"rows":["ab"],"baseline":3,"names":{"family":"F"}})")
          .has_value());
  const auto ran =
      test::grafema_command("make-font " + folder.path("s.png") + " -o " + folder.path("out.ttf"));
  CHECK(ran.exit == 3);
  CHECK_THAT(ran.err, Catch::Contains("multiple of the cell") && Catch::Contains(folder.path("s.png")));
  CHECK(folder.file_count() == 2);
}

TEST_CASE("lint tells cells and pixels, and ends with 1 where there are faults", "[tool][make-font]") {
  const auto ran =
      test::grafema_command("make-font " GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.png --lint");
  CHECK(ran.exit == 1);
  CHECK_THAT(ran.out, Catch::Contains("missing, though their other case or side is there: "));
  CHECK_THAT(ran.err, Catch::Contains("faults"));
}

TEST_CASE("a folder is a font, and drawings that no text shows are told", "[tool][make-font]") {
  const test::Folder folder;
  std::filesystem::create_directory(folder.path("icons"));
  REQUIRE(
      save_text(
          folder.path("icons/U+2B.svg"),
          R"(<svg viewBox="0 0 24 24"><path d="M3 12h18M12 3v18" fill="none" stroke="black" stroke-width="2"/></svg>)")
          .has_value());
  REQUIRE(save_text(folder.path("icons/box.svg"),
                    R"(<svg viewBox="0 0 24 24"><rect x="2" y="2" width="20" height="20" rx="4"/></svg>)")
              .has_value());
  REQUIRE(
      save_text(folder.path("icons.json"),
                R"({"format": "grafema-font-sheet", "names": {"family": "Icons"}, "em": 24, "baseline": 20})")
          .has_value());
  const auto ran = test::grafema_command("make-font " + folder.path("icons") + " -o " + folder.path("f.ttf"));
  CHECK(ran.exit == 0);
  CHECK_THAT(ran.err, Catch::Contains("no text shows the drawing 'box'") && !Catch::Contains("U_2B"));
  CHECK(test::json_of("measure --json --size 24 --text + " + folder.path("f.ttf"))["ink"]["right"]
            .get<float>() > 19);
}

TEST_CASE("an anchor that no accent takes is told", "[tool][make-font]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("s.svg"), R"(<svg fill="none" stroke="black" stroke-width="80">
<g id="A"><path d="M0 0L250 -700L500 0"/><circle data-anchor="topp" cx="250" cy="-760" r="10"/></g></svg>)")
              .has_value());
  REQUIRE(
      save_text(folder.path("s.json"), R"({"format": "grafema-font-sheet", "names": {"family": "Ferry"}})")
          .has_value());
  const auto ran = test::grafema_command("make-font " + folder.path("s.svg") + " -o " + folder.path("s.ttf"));
  INFO(ran.err);
  CHECK(ran.exit == 0);
  CHECK(ran.err.find("no accent attaches to the anchor 'topp', which 'A' has") != std::string::npos);
}

TEST_CASE("a picture without a description gets one, with its grid and baseline", "[tool][make_font]") {
  const test::Folder folder;
  std::filesystem::copy(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.png", folder.path("dot.png"));
  const auto ran =
      test::grafema_command("make-font " + folder.path("dot.png") + " -o " + folder.path("dot.ttf"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  const auto known = nlohmann::json::parse(*load_text(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.json")),
             made = nlohmann::json::parse(*load_text(folder.path("dot.json")));
  CHECK(made["cell"] == known["cell"]);
  CHECK(made["baseline"] == known["baseline"]);
  CHECK(made["rows"][1] == known["rows"][1]);
  CHECK_THAT(ran.err, Catch::Contains("dot.json describes cells of"));
  // A description that is there is not written over.
  REQUIRE(save_text(folder.path("dot.json"), "{}").has_value());
  CHECK(test::grafema_command("make-font " + folder.path("dot.png") + " -o " + folder.path("d.ttf")).exit ==
        3);
  CHECK(*load_text(folder.path("dot.json")) == "{}");
}
