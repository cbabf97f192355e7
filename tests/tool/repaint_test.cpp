// SPDX-License-Identifier: MIT
// grafema repaint from the outside.
#include <catch2/catch.hpp>

#include "grafema/draw/paint.hpp"
#include "tool/tool.hpp"

using namespace grafema;
using test::grafema_command;

TEST_CASE("a page painted by a script comes back and is drawn", "[tool][repaint]") {
  const test::Folder folder;
  REQUIRE(
      grafema_command("bake --kind coverage --size 24 --padding 4 --chars ABC -o " + folder.path("a")).exit ==
      0);
  const Image page = *load_png(folder.path("a-0.png"));
  Image painted = *Image::make(page.width(), page.height(), PixelFormat::rgba8);
  for (int y = 0; y < page.height(); ++y) {
    for (int x = 0; x < page.width(); ++x) {
      std::uint8_t* to = painted.row(y) + x * 4;
      to[0] = static_cast<std::uint8_t>(255 - y % 24 * 8), to[1] = 120, to[3] = page.row(y)[x];
    }
  }
  REQUIRE(save_png(folder.path("p.png"), painted).has_value());
  const auto ran =
      grafema_command("repaint " + folder.path("a.json") + " --painted 0=" + folder.path("p.png") +
                      " --guide -o " + folder.path("b"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK(load_png(folder.path("b-difference-0.png")).has_value());
  CHECK(load_png(folder.path("b-guide-0.png"))->width() == page.width() * 4);
  REQUIRE(grafema_command("draw --atlas " + folder.path("b.json") +
                          " --size 24 --text CAB --backdrop white -o " + folder.path("c.png"))
              .exit == 0);
  const Image drawn = *load_png(folder.path("c.png"));
  int warm = 0;
  for (int y = 0; y < drawn.height(); ++y) {
    for (int x = 0; x < drawn.width(); ++x) warm += drawn.value(x, y, 0) > drawn.value(x, y, 2) + 60 ? 1 : 0;
  }
  CHECK(warm > 100);
}

TEST_CASE("spilled paint is named and answered with 1", "[tool][repaint]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --kind coverage --size 24 --gap 2 --chars A -o " + folder.path("a")).exit ==
          0);
  Image page = *load_png(folder.path("a-0.png"));
  page.row(0)[0] = 255;
  REQUIRE(save_png(folder.path("p.png"), page).has_value());
  const auto ran = grafema_command("repaint " + folder.path("a.json") +
                                   " --painted 0=" + folder.path("p.png") + " -o " + folder.path("b"));
  CHECK(ran.exit == 1);
  CHECK_THAT(ran.err, Catch::Contains("1 pixel of paint outside the cell of"));
}

TEST_CASE("letters painted without a font become an atlas", "[tool][repaint]") {
  const test::Folder folder;
  Image sheet = *Image::make(32, 16, PixelFormat::rgba8);
  fill_image(sheet, {0.2F, 0.6F, 0.3F, 1});
  REQUIRE(save_png(folder.path("leaf.png"), sheet).has_value());
  REQUIRE(
      save_text(
          folder.path("leaf.json"),
          R"({"format": "grafema-painted-letters", "version": 1, "image": "leaf.png", "size": 16, "ascent": 13, "descent": 3,
    "letters": [{"characters": "a", "cell": [0, 0, 16, 16]}, {"characters": "b", "cell": [16, 0, 16, 16], "advance": 14}], "kerning": {"ab": -2}})")
          .has_value());
  REQUIRE(grafema_command("repaint " + folder.path("leaf.json") + " -o " + folder.path("out")).exit == 0);
  const auto document =
      test::json_of("measure --atlas " + folder.path("out.json") + " --size 16 --text ab --json");
  CHECK(document["width"] == 17 - 2 + 14);
  REQUIRE(
      save_text(
          folder.path("leaf.json"),
          R"({"format": "grafema-painted-letters", "image": "../leaf.png", "size": 16, "ascent": 13, "letters": []})")
          .has_value());
  CHECK(grafema_command("repaint " + folder.path("leaf.json") + " -o " + folder.path("out")).exit == 3);
}

TEST_CASE("wrong painted pages are refused before anything is written", "[tool][repaint]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --kind distance --chars A -o " + folder.path("d")).exit == 0);
  REQUIRE(grafema_command("bake --kind coverage --chars A -o " + folder.path("a")).exit == 0);
  const std::size_t files = folder.file_count();
  const std::string out = " -o " + folder.path("z");
  CHECK(grafema_command("repaint " + folder.path("d.json") + " --painted 0=" + folder.path("d-0.png") + out)
            .exit == 3);
  CHECK(grafema_command("repaint " + folder.path("a.json") + " --painted 0=" + folder.path("d-0.png") + out)
            .exit == 3);
  CHECK(grafema_command("repaint " + folder.path("a.json") + " --painted x.png" + out).exit ==
        3);  // one page, no such file
  CHECK(grafema_command("repaint " + folder.path("a.json") + " --enlarge 3" + out).exit == 2);
  CHECK(folder.file_count() == files);
}
