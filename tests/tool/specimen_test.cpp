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
