// SPDX-License-Identifier: MIT
// grafema make-font from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("the committed sheet becomes the committed font", "[tool][make-font]") {
  const test::Folder folder;
  const auto ran = test::grafema_command("make-font " GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.png -o " +
                                         folder.path("dot.ttf"));
  REQUIRE(ran.exit == 0);
  CHECK(*load_text(folder.path("dot.ttf")) == *load_text(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.ttf"));
  CHECK(test::json_of("inspect --json " + folder.path("dot.ttf"))["faces"][0]["crisp_sizes"][0] == 12.0);
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
