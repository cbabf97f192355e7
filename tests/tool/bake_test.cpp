// SPDX-License-Identifier: MIT
// grafema bake from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;
using test::grafema_command;

TEST_CASE("a real face is baked at three sizes in every kind", "[tool][bake]") {
  const std::string kind = GENERATE("coverage", "distance", "distance_rgb", "distance_rgba", "color"),
                    size = GENERATE("16", "32", "64");
  const test::Folder folder;
  const auto ran = grafema_command("bake " + test::dejavu_path() + " --charset ascii --no-closure --kind " +
                                   kind + " --size " + size + " --charset ascii -o " + folder.path("a"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::Contains("96 glyphs at " + size + " px as " + kind));
  const auto document = nlohmann::json::parse(*load_text(folder.path("a.json")));
  CHECK(document["strikes"][0]["kind"] == kind);
  CHECK(document["glyphs"].size() == 96);  // 95 and the missing-glyph shape
  CHECK(load_png(folder.path("a-0.png")).has_value());
}

TEST_CASE("distance_rgba is the default kind and the built-in face the default font", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --charset ascii --quiet -o " + folder.path("a")).out.empty());
  const auto document = nlohmann::json::parse(*load_text(folder.path("a.json")));
  CHECK(document["strikes"][0]["kind"] == "distance_rgba");
  CHECK(load_png(folder.path("a-0.png"))->format() == PixelFormat::rgba8);
  CHECK(document["strikes"][0]["size"] == 48.0);
  CHECK(document["faces"][0]["family"] == "Quillmere Dot");
}

TEST_CASE("characters come from all their options together", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("t.json"), R"({"k": "Z"})").has_value());
  REQUIRE(grafema_command("bake --chars AB --range 30-32 --text-from " + folder.path("t.json") +
                          " --charset digits -o " + folder.path("a"))
              .exit == 0);
  const auto document = nlohmann::json::parse(*load_text(folder.path("a.json")));
  CHECK(document["glyphs"].size() == 1 + 2 + 10 + 1);
}

TEST_CASE("missing characters are noted, and an exit of 1 under --strict", "[tool][bake]") {
  const test::Folder folder;
  const std::string command = "bake --chars 'A\xE4\xB8\x80' -o " + folder.path("a");
  const auto plain = grafema_command(command);
  CHECK(plain.exit == 0);
  CHECK_THAT(plain.err, Catch::Contains("U+4E00"));
  CHECK(grafema_command(command + " --again --strict").exit == 1);
}

TEST_CASE("a page too small says for which glyph and how large it must be", "[tool][bake]") {
  const test::Folder folder;
  const auto ran = grafema_command("bake --charset ascii --page 20x20 -o " + folder.path("a"));
  CHECK(ran.exit == 2);
  CHECK_THAT(ran.err, Catch::Contains("needs a page of"));
  CHECK(folder.file_count() == 0);
}

TEST_CASE("option --fit fills the page that was asked for", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --charset ascii --fit 200x100 --kind coverage -o " + folder.path("a")).exit ==
          0);
  const Image page = *load_png(folder.path("a-0.png"));
  CHECK(page.width() == 200);
  CHECK(page.height() == 100);
}

TEST_CASE("option --bits 16 writes wide pages", "[tool][bake]") {
  const test::Folder folder;
  const auto [kind, format] =
      GENERATE(table<std::string, PixelFormat>({{"distance", PixelFormat::r16},
                                                {"distance_rgb", PixelFormat::rgb16},
                                                {"distance_rgba", PixelFormat::rgba16}}));
  REQUIRE(grafema_command("bake --bits 16 --chars AB --kind " + kind + " -o " + folder.path("a")).exit == 0);
  CHECK(load_png(folder.path("a-0.png"))->format() == format);
  CHECK(grafema_command("bake --charset ascii --bits 16 --kind color -o " + folder.path("b")).exit == 2);
}

TEST_CASE("a bake that would give the same is not done again", "[tool][bake]") {
  const test::Folder folder;
  const std::string command = "bake --chars ABC -o " + folder.path("a");
  CHECK_THAT(grafema_command(command).out, !Catch::Contains("nothing has changed"));
  CHECK_THAT(grafema_command(command).out, Catch::Contains("nothing has changed"));
  CHECK_THAT(grafema_command(command + " --reach 5").out, !Catch::Contains("nothing has changed"));
  REQUIRE(save_text(folder.path("a-0.png"), "no picture").has_value());
  CHECK_THAT(grafema_command(command + " --reach 5").out, !Catch::Contains("nothing has changed"));
  CHECK(load_png(folder.path("a-0.png")).has_value());
}

TEST_CASE("several sizes are strikes of one atlas, and text takes the one that suits", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake " + test::dejavu_path() + " --kind coverage --size 16,32 --chars Tram -o " +
                          folder.path("a"))
              .exit == 0);
  const auto atlas = load_atlas(folder.path("a.json"));
  REQUIRE(atlas.has_value());
  CHECK(atlas->strikes.size() == 2);
  CHECK(atlas->strikes[1].size == 32);
  const std::string draw =
      "draw --atlas " + folder.path("a.json") + " --text Tram -o " + folder.path("a.png") + " --size ";
  CHECK(grafema_command(draw + "32").err.empty());
  CHECK(grafema_command(draw + "16").err.empty());
  CHECK_THAT(grafema_command(draw + "24").err, Catch::Contains("made for 32 px are drawn at 24 px"));
}

TEST_CASE("glyphs that shaping makes are baked along, unless that is refused", "[tool][bake]") {
  const test::Folder folder;
  const auto rows = [&folder](const std::string& options) {
    REQUIRE(
        grafema_command("bake " + test::dejavu_path() + " --chars fi " + options + " -o " + folder.path("a"))
            .exit == 0);
    return load_atlas(folder.path("a.json"))->glyphs.size();
  };
  CHECK(rows("--no-closure") == 3);
  CHECK(rows("") > 3);
  CHECK(rows("--features liga=0") < rows(""));
}

TEST_CASE("the note on a missing character says which file asked for it", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("strings.json"), R"({"k": "\u4e00"})").has_value());
  CHECK_THAT(
      grafema_command("bake --text-from " + folder.path("strings.json") + " -o " + folder.path("a")).err,
      Catch::Contains("U+4E00 is asked for by " + folder.path("strings.json")));
}

TEST_CASE("a depfile names what the atlas was made from", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("a text.txt"), "Tram").has_value());
  REQUIRE(grafema_command("bake " + test::dejavu_path() + " --text-from '" + folder.path("a text.txt") +
                          "' --depfile " + folder.path("d") + " -o " + folder.path("a"))
              .exit == 0);
  const std::string text = *load_text(folder.path("d"));
  CHECK_THAT(text, Catch::StartsWith(folder.path("a.json") + ":"));
  CHECK_THAT(text, Catch::Contains(test::dejavu_path()));
  CHECK_THAT(text, Catch::Contains("a\\ text.txt"));
}

TEST_CASE("a look is painted into color pictures and refused for others", "[tool][bake]") {
  const test::Folder folder;
  const std::string look =
      "--chars A --size 40 --fill '#f2b33d' --outline 2,black --shadow 3,3,1,#0008 -o " + folder.path("a");
  REQUIRE(grafema_command("bake --kind color " + look).exit == 0);
  const auto atlas = load_atlas(folder.path("a.json"));
  REQUIRE(atlas.has_value());
  const Image& page = atlas->pages[0].image;
  int amber = 0, black = 0;
  for (int y = 0; y < page.height(); ++y) {
    for (int x = 0; x < page.width(); ++x) {
      amber += page.value(x, y, 0) == 0xF2 && page.value(x, y, 1) == 0xB3 && page.value(x, y, 2) == 0x3D &&
                       page.value(x, y, 3) == 255
                   ? 1
                   : 0;
      black += page.value(x, y, 0) == 0 && page.value(x, y, 3) == 255 ? 1 : 0;
    }
  }
  CHECK(amber > 100);
  CHECK(black > 50);
  CHECK(grafema_command("bake --kind distance " + look).exit == 2);
}

TEST_CASE("Ctrl-C ends a long bake with nothing written", "[tool][bake]") {
  const test::Folder folder;
  const auto ran = test::run("bash -c '" GRAFEMA_TOOL " bake " + test::dejavu_path() +
                             " --all --size 300 --page 16384x16384 -o " + folder.path("a") +
                             " & sleep 0.3; kill -INT $!; wait $!'");
  CHECK(ran.exit == 130);
  CHECK(folder.file_count() == 0);
}

TEST_CASE("a letter is baked of every face that a cluster makes show it", "[tool][bake]") {
  const test::Folder folder;
  const std::string dot = GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.ttf";
  const auto ran = test::grafema_command("bake " + dot + " " + test::dejavu_path() +
                                         " --no-closure --text 'q q\xCC\x81' -o " + folder.path("a"));
  REQUIRE(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::Contains("glyphs of DejaVu Sans"));
  const Atlas atlas = *load_atlas(folder.path("a.json"));
  std::size_t letters = 0;
  for (const AtlasGlyph& glyph : atlas.glyphs) {
    letters += std::count(glyph.codepoints.begin(), glyph.codepoints.end(), U'q') > 0 ? 1U : 0U;
  }
  CHECK(letters == 2);
}
