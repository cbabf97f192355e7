// SPDX-License-Identifier: MIT
// grafema looks from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("looks draws the looks of a file, or the ready-made ones, and notes what can't be read",
          "[tool][looks]") {
  const test::Folder folder;
  const std::string ready = folder.path("ready.png"), demo = folder.path("demo.png");
  const auto of_ready =
      test::grafema_command("looks --font \"" + test::dejavu_path() + "\" --strict -o " + ready);
  INFO(of_ready.err);
  CHECK(of_ready.exit == 0);  // none of them is hard to read
  const auto of_file =
      test::grafema_command("looks " + std::string(GRAFEMA_SOURCE_DIR) + "/data/demo/looks.json -o " + demo);
  CHECK(of_file.exit == 0);
  CHECK_THAT(of_file.err,
             Catch::Contains("the look 'plain' has a contrast of") && Catch::Contains("on a light backdrop"));
  CHECK(load_png(ready)->height() > load_png(demo)->height());
  CHECK(test::grafema_command("looks " + std::string(GRAFEMA_SOURCE_DIR) +
                              "/data/demo/looks.json --strict -o " + demo)
            .exit == 1);
  for (const std::string wrong :
       {"looks nowhere.json -o a.png", "looks --size 4 -o a.png", "looks -o a.jpg", "looks"}) {
    const auto ran = test::grafema_command(wrong);
    INFO(wrong);
    CHECK(ran.exit > 1);
    CHECK_FALSE(ran.err.empty());
  }
}
