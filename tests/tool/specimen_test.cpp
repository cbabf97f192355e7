// SPDX-License-Identifier: MIT
// grafema specimen from the outside.
#include <catch2/catch.hpp>

#include <filesystem>

#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("a specimen of two faces is written", "[tool][specimen]") {
  const test::Folder folder;
  const auto ran =
      test::grafema_command("specimen " + test::dejavu_path() + " " + test::dejavu_path("DejaVuSerif.ttf") +
                            " --text 'Ninth Lantern' --sizes 12,24,48 -o " + folder.path("s.png"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK(load_png(folder.path("s.png"))->width() > 600);
  CHECK(test::grafema_command("specimen --sizes 12,,4 -o " + folder.path("t.png")).exit == 2);
}

TEST_CASE("a specimen shows every face of a folder", "[tool][specimen]") {
  const test::Folder folder;
  std::filesystem::create_directory(folder.path("faces"));
  const auto width = [&] {
    const auto ran = test::grafema_command("specimen " + folder.path("faces") +
                                           " --text Ninth --sizes 24 -o " + folder.path("s.png"));
    INFO(ran.err);
    REQUIRE(ran.exit == 0);
    return load_png(folder.path("s.png"))->width();
  };
  int before = 0;
  for (const std::string name : {"DejaVuSans.ttf", "DejaVuSans-Bold.ttf", "DejaVuSansMono.ttf"}) {
    std::filesystem::copy(test::dejavu_path(name), folder.path("faces/" + name));
    const int now = width();
    CHECK(now > before);  // a column more
    before = now;
  }
}

TEST_CASE("many faces are rows in pages of one width, and names are told as JSON", "[tool][specimen]") {
  const test::Folder folder;
  std::filesystem::create_directory(folder.path("faces"));
  for (int i = 0; i < 70; ++i) {
    std::filesystem::copy(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_signs.ttf",
                          folder.path("faces/" + std::to_string(i) + ".ttf"));
  }
  const auto ran = test::grafema_command("specimen " + folder.path("faces") + " --text Ninth --json -o " +
                                         folder.path("s.png"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK(load_png(folder.path("s-1.png"))->width() == load_png(folder.path("s-4.png"))->width());
  CHECK_FALSE(std::filesystem::exists(folder.path("s-5.png")));
  const auto document = nlohmann::json::parse(ran.out);
  REQUIRE(document["faces"].size() == 70);
  const auto& glyphs = document["faces"][0]["glyphs"];
  const auto signs = open_face(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_signs.ttf");
  REQUIRE(glyphs.size() == (*signs)->glyph_count());
  CHECK(glyphs[5]["name"] == (*signs)->glyph_name(GlyphId{5}));
  CHECK(test::grafema_command("specimen " + test::dejavu_path() + " --rows --letter-height 900 -o " +
                              folder.path("t.png"))
            .exit == 2);
}
