// SPDX-License-Identifier: MIT
// grafema view, off screen and in a real window, and draw through labels.
#include <catch2/catch.hpp>

#include "support/scene.hpp"
#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("a shot through OpenGL is the picture that draw makes", "[tool][view]") {
  const test::Folder folder;
  const std::string options = " " + test::dejavu_path() +
                              " --text 'Marrow Hill' --size 60 --look " GRAFEMA_SOURCE_DIR
                              "/data/demo/looks.json#title --backdrop '#6f8fb0' --guides --rotate 10 ";
  const auto shot = test::grafema_command("view" + options + "--shot " + folder.path("a.png"));
  INFO(shot.err);
  REQUIRE(shot.exit == 0);
  REQUIRE(test::grafema_command("draw" + options + "-o " + folder.path("b.png")).exit == 0);
  CHECK(test::share_that_differs(*load_png(folder.path("a.png")), *load_png(folder.path("b.png")), 3) <=
        0.002);
}

TEST_CASE("the window answers its keys and tells the command for the same picture", "[tool][view]") {
  const test::Folder folder;
  // A window system's own libraries leave memory behind that is not ours.
  const auto ran = test::run("ASAN_OPTIONS=detect_leaks=0 xvfb-run -a -s '-screen 0 1280x800x24' " +
                             std::string(GRAFEMA_TOOL) +
                             " view --text \"Tinker's\" --size 40 --look " GRAFEMA_SOURCE_DIR
                             "/data/demo/looks.json#sign --keys ++AGBSDL --frames 10");
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::StartsWith("grafema draw --text 'Tinker'\\''s' --size 46 ") &&
                          Catch::Contains("--guides") && Catch::Contains("--safe 40") &&
                          Catch::Contains("--canvas 1280x800"));
  REQUIRE(test::run("cd " + folder.path() + " && " + std::string(GRAFEMA_TOOL) + ran.out.substr(7)).exit ==
          0);
  CHECK(load_png(folder.path("label.png"))->width() == 1280);
}

TEST_CASE("without a window system view says what to do", "[tool][view]") {
  const auto ran = test::run("env -u DISPLAY -u WAYLAND_DISPLAY " + std::string(GRAFEMA_TOOL) +
                             " view --text a --frames 1");
  CHECK(ran.exit == 4);
  CHECK_THAT(ran.err, Catch::Contains("--shot PNG draws without one"));
}

TEST_CASE("an atlas alone measures and draws", "[tool][draw]") {
  const test::Folder folder;
  REQUIRE(
      test::grafema_command("bake " + test::dejavu_path() + " --quiet --charset ascii -o " + folder.path("a"))
          .exit == 0);
  const auto whole = test::json_of("measure " + test::dejavu_path() + " --text 'Ty. LT' --json"),
             alone = test::json_of("measure --atlas " + folder.path("a.json") + " --text 'Ty. LT' --json");
  CHECK(alone["width"].get<double>() == Approx(whole["width"].get<double>()).epsilon(1e-5));
  REQUIRE(test::grafema_command("draw --atlas " + folder.path("a.json") + " --text Quay --size 40 -o " +
                                folder.path("q.png"))
              .exit == 0);
  CHECK(load_png(folder.path("q.png"))->width() > 100);
  const auto clamped =
      test::grafema_command("draw --atlas " + folder.path("a.json") +
                            " --text Quay --size 48 --outline 9,red -o " + folder.path("q.png"));
  CHECK(clamped.exit == 0);
  CHECK_THAT(clamped.err, Catch::Contains("bake with --reach 9.5"));
}

TEST_CASE("pins, scales and motions are read, and wrong ones refused", "[tool][draw]") {
  const test::Folder folder;
  const std::string out = " -o " + folder.path("p.png");
  REQUIRE(
      test::grafema_command(
          "draw --text '|' --size 24 --canvas 100x100 --pin 1,1 --safe 10 --scale 2 --backdrop white" + out)
          .exit == 0);
  const Image image = *load_png(folder.path("p.png"));
  int right = 0;
  for (int x = 0; x < 100; ++x) right = image.value(x, 70) < 128 ? x : right;
  CHECK(right ==
        85);  // the label's box ends at 90, its ink a bearing of one pixel of the face, here four, earlier
  CHECK(test::grafema_command("draw --text l --motion swai" + out).exit == 2);
  CHECK(test::grafema_command("draw --text l --safe 1,2" + out).exit == 2);
  CHECK(test::grafema_command("draw --text l --scale 1,2,3" + out).exit == 2);
  CHECK(test::grafema_command("draw --text l --look " GRAFEMA_SOURCE_DIR "/data/demo/looks.json#sing" + out)
            .exit == 3);
}
