// SPDX-License-Identifier: MIT
// grafema draw from the outside.
#include <algorithm>
#include <array>
#include <catch2/catch.hpp>

#include "support/scene.hpp"
#include "tool/tool.hpp"

using namespace grafema;

namespace {

/// Draws and loads the picture.
Image drawn(const std::string& arguments) {
  const test::Folder folder;
  const auto ran = test::grafema_command("draw -o " + folder.path("a.png") + " " + arguments);
  INFO(arguments << "\n" << ran.err);
  REQUIRE(ran.exit == 0);
  auto image = load_png(folder.path("a.png"));
  REQUIRE(image.has_value());
  return *std::move(image);
}

}  // namespace

TEST_CASE("the default canvas is the label with a border of half its size", "[tool][draw]") {
  const Image image = drawn("--text H --size 24");
  CHECK(image.width() == 12 + 24);
  CHECK(image.height() == 24 + 24);
  CHECK(image.value(0, 0, 3) == 0);
  CHECK(image.value(12, 12 + 4, 3) == 255);
  CHECK(image.value(12, 12 + 4, 0) == 0);
}

TEST_CASE("an anchor stands where --at says", "[tool][draw]") {
  const Image image = drawn("--text H --size 12 --canvas 40x40 --backdrop white --at 30,40 --anchor 1,1");
  CHECK(image.value(24, 30) == 0);  // the label's box is 6 x 12, its ink rows 2 to 8
  CHECK(image.value(23, 30) == 255);
  CHECK(image.value(24, 29) == 255);
}

TEST_CASE("without --at the anchor's own place of the canvas is taken", "[tool][draw]") {
  const Image image = drawn("--text l --size 12 --canvas 30x30 --backdrop '#fff' --anchor 0,1");
  CHECK(image.value(0, 30 - 12 + 2) == 0);
}

TEST_CASE("layers are painted back to front", "[tool][draw]") {
  const Image image = drawn(
      "--text l --size 96 --fill '#00f' --outline '4,rgb(255, 0, 0)' --shadow 30,0,0,lime --glow 12,#ff0 "
      "--backdrop white --canvas 120x120 --at 40,10");
  CHECK(image.value(43, 50, 2) == 255);  // the fill
  CHECK(image.value(37, 50, 0) == 255);  // the outline left of it
  CHECK(image.value(37, 50, 1) == 0);
  CHECK(image.value(33, 50, 2) < 200);   // the glow beyond
  CHECK(image.value(78, 50, 1) == 255);  // the shadow
  CHECK(image.value(78, 50, 0) < 50);
}

TEST_CASE("option --embolden widens strokes and --opacity weakens them", "[tool][draw]") {
  const Image bold = drawn("--text l --size 96 --embolden 2 --canvas 60x100 --at 20,0 --backdrop white");
  CHECK(bold.value(18, 40) < 60);
  const Image faint = drawn("--text l --size 96 --opacity 0.5 --canvas 60x100 --at 20,0 --backdrop white");
  CHECK(std::abs(static_cast<int>(faint.value(23, 40)) - 188) <= 1);
}

TEST_CASE("a picture is a backdrop and gives the canvas its size", "[tool][draw]") {
  const test::Folder folder;
  Image sky = *Image::make(50, 20, PixelFormat::rgb8);
  sky.row(19)[49 * 3 + 2] = 200;
  REQUIRE(save_png(folder.path("sky.png"), sky).has_value());
  const Image image = drawn("--text ' ' --backdrop " + folder.path("sky.png"));
  CHECK(image.width() == 50);
  CHECK(image.value(49, 19, 2) == 200);
}

TEST_CASE("guides are drawn over the label", "[tool][draw]") {
  const Image plain = drawn("--text Quay --size 48"), guides = drawn("--text Quay --size 48 --guides");
  CHECK(pixel_hash(plain) != pixel_hash(guides));
  CHECK(guides.width() == plain.width() + 20);  // the rulers stand beside the text
}

TEST_CASE("a real face is drawn with effects that nothing cuts", "[tool][draw]") {
  const Image image = drawn(test::dejavu_path() + " --text Jay --size 20 --shadow 30,40,6,black");
  for (int x = 0; x < image.width(); ++x) CHECK(image.value(x, image.height() - 1, 3) <= 2);
  for (int y = 0; y < image.height(); ++y) CHECK(image.value(image.width() - 1, y, 3) <= 2);
}

TEST_CASE("missing characters draw their shape and are noted", "[tool][draw]") {
  const test::Folder folder;
  const auto ran = test::grafema_command("draw --text '\xE4\xB8\x80' -o " + folder.path("a.png"));
  CHECK(ran.exit == 0);
  CHECK_THAT(ran.err, Catch::Contains("no face has U+4E00"));
  const Image image = *load_png(folder.path("a.png"));
  int painted = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) painted += image.value(x, y, 3) > 0 ? 1 : 0;
  }
  CHECK(painted > 50);
}

TEST_CASE("frames hold letters wherever their motion takes them", "[tool][draw][motion]") {
  for (const std::string motion : {"hop", "scatter", "lantern", "\"whole spin\"", "stairs+swell"}) {
    const test::Folder folder;
    const auto ran = test::grafema_command("draw --text \"Pale Orchard\" --size 24 --motion " + motion +
                                           " --frames 12 --fps 8 -o " + folder.path("f-%d.png"));
    INFO(motion << "\n" << ran.err);
    REQUIRE(ran.exit == 0);
    Image first = *load_png(folder.path("f-00.png"));
    bool differs = false;
    for (int i = 0; i < 12; ++i) {
      const Image frame = *load_png(folder.path((i < 10 ? "f-0" : "f-") + std::to_string(i) + ".png"));
      REQUIRE(frame.width() == first.width());
      REQUIRE(frame.height() == first.height());
      differs = differs || frame.bytes() != first.bytes();
      bool cut = false;
      for (int x = 0; x < frame.width(); ++x) {
        cut = cut || frame.value(x, 0, 3) > 0 || frame.value(x, frame.height() - 1, 3) > 0;
      }
      for (int y = 0; y < frame.height(); ++y) {
        cut = cut || frame.value(0, y, 3) > 0 || frame.value(frame.width() - 1, y, 3) > 0;
      }
      CHECK_FALSE(cut);
    }
    CHECK(differs);
  }
}

TEST_CASE("frames make one animated PNG, from --time on", "[tool][draw][motion]") {
  const test::Folder folder;
  const std::string common = "draw --text Weir --size 24 --motion sway --canvas 96x48 ";
  REQUIRE(test::grafema_command(common + "--time 1 --frames 5 --fps 10 -o " + folder.path("a.png")).exit ==
          0);
  REQUIRE(test::grafema_command(common + "--time 1 -o " + folder.path("still.png")).exit == 0);
  CHECK(load_png(folder.path("a.png"))->bytes() == load_png(folder.path("still.png"))->bytes());
  const std::string bytes = *load_text(folder.path("a.png"));
  std::size_t frames = 0;
  for (std::size_t at = bytes.find("fcTL"); at != std::string::npos; at = bytes.find("fcTL", at + 1))
    ++frames;
  CHECK(frames == 5);
  for (const char* wrong : {"--frames 0", "--frames 10001", "--frames 3 --fps 0", "--frames 3 --guides",
                            "--motion hopp --frames 3", "--canvas 8000x8000 --frames 9000"}) {
    const auto ran =
        test::grafema_command("draw --text Weir --size 24 -o " + folder.path("b.png") + " " + wrong);
    INFO(wrong << ": " << ran.err);
    CHECK(ran.exit != 0);
    CHECK_FALSE(ran.err.empty());
    CHECK_FALSE(load_png(folder.path("b.png")).has_value());
  }
}

namespace {

/// How many rows and columns at each side of a picture are empty: left, top, right, bottom.
std::array<int, 4> free_sides(const Image& image) {
  int left = image.width(), top = image.height(), right = -1, bottom = -1;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      if (image.value(x, y, 3) < 8) continue;
      left = std::min(left, x), right = std::max(right, x), top = std::min(top, y),
      bottom = std::max(bottom, y);
    }
  }
  return {left, top, image.width() - 1 - right, image.height() - 1 - bottom};
}

}  // namespace

TEST_CASE("a canvas has a border of half the size around letters on a path, and no more",
          "[tool][draw][path]") {
  for (const char* path : {"arc:0,0,120,180,360", "arc:500,300,120,180,0", "line:0,0,200,90"}) {
    CAPTURE(path);
    const std::string call = "--text Pale --size 40 --align center --path " + std::string(path);
    for (const std::string look : {"", " --outline 3,#102040 --shadow 4,6,3,#000"}) {
      for (const int side : free_sides(drawn(call + look))) {
        CHECK(side >= 8);
        CHECK(side <= 36);
      }
    }
  }
  CHECK(free_sides(drawn("--text Pale --size 40 --path line:0,0,200,90 --upright"))[0] >= 8);
}

TEST_CASE("a panel is drawn whole behind its label, whatever it is filled with", "[tool][draw][panel]") {
  const Image plain = drawn("--text Weir --size 30 --fill white --panel '#c02020,0,9'");
  const std::array<int, 4> sides = free_sides(plain);
  CHECK(plain.value(sides[0] + 3, sides[1] + 3, 0) > 180);
  CHECK(plain.value(sides[0] + 3, sides[1] + 3, 1) < 50);
  const Image round = drawn("--text Weir --size 30 --panel 'linear-gradient(red, blue),12,9'");
  CHECK(round.value(free_sides(round)[0], free_sides(round)[1], 3) == 0);  // a corner is round
  CHECK(round.value(round.width() / 2, free_sides(round)[1] + 1, 0) > 200);
  CHECK(round.value(round.width() / 2, round.height() - 2 - free_sides(round)[3], 2) > 200);
}

TEST_CASE("gradients and parameters are said on the command line; what is wrong names itself",
          "[tool][draw]") {
  const Image image = drawn("--text HHHH --size 48 --fill 'linear-gradient(to right, red, blue)'");
  const auto [left, top, right, bottom] = free_sides(image);
  CHECK(image.value(left + 2, top + 4, 0) > 200);
  CHECK(image.value(image.width() - 3 - right, top + 4, 2) > 200);
  const std::string effects = GRAFEMA_SOURCE_DIR "/data/demo/effects.json#team-sign";
  const Image red = drawn("--text H --size 60 --look " + effects),
              blue = drawn("--text H --size 60 --set team=#2040ff --look " + effects);
  CHECK(test::share_that_differs(red, blue, 40) > 0.02);
  const auto [arguments, named] = GENERATE_COPY(
      table<std::string, std::string>({{"--look " + effects + " --set teem=red", "did you mean 'team'"},
                                       {"--look " + effects + " --set team", "a name and a value"},
                                       {"--fill 'linear-gradient(red)'", "two colors"},
                                       {"--path arc:1,2", "5 values"},
                                       {"--path arc:0,0,0,0,90", "radius above 0"},
                                       {"--panel reddish", "found reddish"},
                                       {"--panel red,-1", "--panel"}}));
  const auto ran = test::grafema_command("draw --text H --size 24 -o /tmp/x.png " + arguments);
  INFO(arguments);
  CHECK(ran.exit == 2);
  CHECK_THAT(ran.err, Catch::Contains(named));
}

TEST_CASE("a canvas is as much larger as its label, and holds one that is turned", "[tool][draw]") {
  const Image plain = drawn("--text Pale --size 24"), larger = drawn("--text Pale --size 24 --scale 3,2");
  CHECK(larger.width() == plain.width() * 3);
  CHECK(larger.height() == plain.height() * 2);
  for (const int side : free_sides(drawn("--text Pale --size 24 --scale 2 --rotate 35"))) CHECK(side >= 12);
}

TEST_CASE("pixelated text has whole pixels of one size", "[tool][draw]") {
  const Image one = drawn("--text 'Pale 28' --size 12"),
              five = drawn("--text 'Pale 28' --size 12 --scale 4.7 --pixelated");
  REQUIRE(five.width() == one.width() * 5);
  REQUIRE(five.height() == one.height() * 5);
  int differ = 0;
  for (int y = 0; y < five.height(); ++y) {
    for (int x = 0; x < five.width(); ++x)
      differ += five.value(x, y, 3) != one.value(x / 5, y / 5, 3) ? 1 : 0;
  }
  CHECK(differ == 0);
}

TEST_CASE("places are words or fractions, and a pin takes an offset", "[tool][draw]") {
  const test::Folder folder;
  const auto drawn = [&](const std::string& options) {
    const auto ran = test::grafema_command("draw --text Quay --size 24 --canvas 200x100 --backdrop white " +
                                           options + " -o " + folder.path("o.png"));
    INFO(options << "\n" << ran.err);
    REQUIRE(ran.exit == 0);
    return *load_png(folder.path("o.png"));
  };
  const std::pair<const char*, const char*> same[] = {
      {"--anchor center", "--anchor 0.5,0.5"},
      {"--anchor bottom", "--anchor 0.5,1"},
      {"--anchor top-right", "--anchor 1,0"},
      {"--anchor left,bottom", "--anchor 0,1"},
      {"--pin right --safe 5", "--pin 1,0.5 --safe 5"},
      {"--align middle --wrap 150", "--align center --wrap 150"},
      {"--pin 0,0 --at 7,9", "--at 7,9"}};
  for (const auto& [words, numbers] : same) {
    INFO(words);
    CHECK(test::share_that_differs(drawn(words), drawn(numbers), 0) == 0);
    CHECK(test::share_that_differs(drawn(words), drawn("--at 60,40"), 8) > 0.005);
  }
}

TEST_CASE("ready-made looks are drawn by their names", "[tool][draw]") {
  const test::Folder folder;
  const auto plain = test::grafema_command("draw --text Quay -o " + folder.path("p.png"));
  const auto lamp = test::grafema_command("draw --text Quay --look lamplight -o " + folder.path("l.png"));
  INFO(lamp.err);
  REQUIRE(lamp.exit == 0);
  CHECK(test::share_that_differs(*load_png(folder.path("p.png")), *load_png(folder.path("l.png")), 8) > 0.05);
  CHECK(test::grafema_command("draw --text Quay --look lamplihgt -o " + folder.path("n.png")).exit == 3);
  CHECK_THAT(test::grafema_command("draw --help").out, Catch::Contains("lamplight"));
}

TEST_CASE("pictures beside the text's file stand between its words", "[tool][draw]") {
  const test::Folder folder;
  Image coin = *Image::make(16, 16, PixelFormat::rgba8);
  for (int y = 0; y < 16; ++y) {
    for (int x = 0; x < 16; ++x) coin.row(y)[x * 4] = coin.row(y)[x * 4 + 3] = 255;
  }
  REQUIRE(save_png(folder.path("coin.png"), coin).has_value());
  REQUIRE(save_text(folder.path("price.txt"), "40 <img src=\"coin.png\"/> each\n").has_value());
  const std::string command =
      "draw --markup --text-from " + folder.path("price.txt") + " --size 40 --backdrop white -o ";
  for (const std::string more : {"", " --rotate 10"}) {  // painted exactly, and through pictures of glyphs
    const auto ran = test::grafema_command(command + folder.path("p.png") + more);
    INFO(ran.err);
    REQUIRE(ran.exit == 0);
    const Image picture = *load_png(folder.path("p.png"));
    int red = 0;
    for (int y = 0; y < picture.height(); ++y) {
      for (int x = 0; x < picture.width(); ++x)
        red += picture.value(x, y, 0) > 240 && picture.value(x, y, 1) < 15 ? 1 : 0;
    }
    CHECK(std::abs(red - 40 * 40) < 250);
  }
  std::filesystem::remove(folder.path("coin.png"));
  const auto missing = test::grafema_command(command + folder.path("q.png"));
  CHECK(missing.exit == 3);
  CHECK_THAT(missing.err, Catch::Contains("coin.png"));
}

TEST_CASE("text that leaves its picture and pixels off their grid are told", "[tool][draw]") {
  const test::Folder folder;
  const auto notes = [&](const std::string& options) {
    const auto ran =
        test::grafema_command("draw --text Lantern " + options + " --strict -o " + folder.path("d.png"));
    return std::pair(ran.exit, ran.err);
  };
  CHECK(notes("--size 48").first == 0);
  const auto [wide, told] = notes("--size 48 --canvas 100x80 --at 10,10");
  CHECK(wide == 1);
  CHECK_THAT(told, Catch::Contains("leaves the picture on the right by"));
  CHECK_THAT(notes("--size 48 --canvas 400x80 --at -30,10").second, Catch::Contains("on the left by"));
  const auto [uneven, grid] = notes("--size 50");
  CHECK(uneven == 1);
  CHECK_THAT(grid, Catch::Contains("crisp at multiples of 12 px"));
  CHECK(notes("--size 12 --scale 3").first == 0);
  CHECK(notes("built-in:sans --size 50").first == 0);
}
