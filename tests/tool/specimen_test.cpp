// SPDX-License-Identifier: MIT
// grafema specimen from the outside.
#include <catch2/catch.hpp>

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
