// SPDX-License-Identifier: MIT
// Each example draws a picture, which is held against the same words by the reference renderer.
#include <catch2/catch.hpp>
#include <fstream>

#include "grafema/atlas/bake.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/files/files.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

#ifdef GRAFEMA_SANITIZED
constexpr bool kSanitized = true;
#else
constexpr bool kSanitized = false;
#endif

/// Under sanitizers, where a frame takes a second, a few: what changes over time is seen without them.
std::string frames(int count) {
  return "--frames " + std::to_string(kSanitized ? std::min(count, 12) : count);
}

Image shot_of(const std::string& example, const std::string& arguments, const std::string& path) {
  const test::Ran ran = test::run(std::string(GRAFEMA_EXAMPLES) + "/" + example + " " + arguments);
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK(ran.err.empty());
  auto image = load_png(path);
  REQUIRE(image.has_value());
  return *std::move(image);
}

/// Compares colors; the alpha of a frame is the game's own.
void make_opaque(Image& image) {
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) image.row(y)[x * 4 + 3] = 255;
  }
}

int count_lit(const Image& image, int channel, int above) {
  int lit = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) lit += image.value(x, y, channel) > above ? 1 : 0;
  }
  return lit;
}

}  // namespace

TEST_CASE("first_board draws its board", "[examples]") {
  const test::Folder folder;
  Image shot = shot_of("first_board", "--shot " + folder.path("b.png"), folder.path("b.png"));
  TextContext context(FontStack{built_in_face()}, nullptr);
  Look look;
  look.add({.shift = {0, 4}, .grow = 2, .blur = 3, .fill = Fill::solid({1, 0.4F, 0, 0.5F})});
  look.add({.fill = Fill::solid({1, 0.69F, 0, 1})});
  TextScene words(context);
  Label label = words.add("4 Lantern\nFoxglove Cross");
  REQUIRE(label.set_style({.size = 48, .align = TextAlign::center}).has_value());
  label.set_look(*context.looks().set("board", look));
  label.set_placement({.at = {320, 80}, .anchor = {0.5F, 0.5F}});
  Image expected =
      test::in_software(words, {.width = 640, .height = 160}, Blending::linear, {0.04F, 0.04F, 0.03F, 1});
  CHECK(count_lit(expected, 0, 250) > 2000);
  CHECK(test::share_that_differs(shot, expected, 110) < 0.01);  // the shadow is softer there: other pictures
}

TEST_CASE("night_scene draws the words that the reference renderer draws over the same street",
          "[examples]") {
  const test::Folder folder;
  Image shot = shot_of("night_scene",
                       "--frames 10 --shot " + folder.path("n.png") + " --reference " + folder.path("r.png"),
                       folder.path("n.png"));
  Image expected = *load_png(folder.path("r.png"));
  make_opaque(shot), make_opaque(expected);
  CHECK(count_lit(expected, 0, 200) > 5000);
  CHECK(test::share_that_differs(shot, expected, 8) < 0.002);
}

TEST_CASE("night_scene runs in a window", "[examples]") {
  // Leaks are looked for in the run without a window: drivers of the window system leave some of their own.
  const test::Ran ran = test::run("ASAN_OPTIONS=detect_leaks=0 xvfb-run -a -s '-screen 0 1280x800x24' " +
                                  std::string(GRAFEMA_EXAMPLES) + "/night_scene --frames 3");
  INFO(ran.err);
  CHECK(ran.exit == 0);
  CHECK(ran.out == "3 frames\n");
}

TEST_CASE("speech, typed_log and ticker draw what the reference renderer draws", "[examples]") {
  const auto [example, at] = GENERATE(table<const char*, const char*>(
      {{"speech", "2.1"}, {"typed_log", "0.1"}, {"ticker", "0.5"}, {"ticker", "17"}, {"ticker", "25"}}));
  const test::Folder folder;
  Image shot = shot_of(
      example,
      "--at " + std::string(at) + " --shot " + folder.path("s.png") + " --reference " + folder.path("r.png"),
      folder.path("s.png"));
  Image expected = *load_png(folder.path("r.png"));
  make_opaque(shot), make_opaque(expected);
  CHECK(count_lit(expected, 0, 100) > 2000);
  CHECK(test::share_that_differs(shot, expected, 24) < 0.003);
}

TEST_CASE("a word of a speech stands where it will stand when all is said", "[examples]") {
  const test::Folder folder;
  const Image early = shot_of("speech", "--at 0.4 --shot " + folder.path("a.png"), folder.path("a.png"));
  const Image late = shot_of("speech", "--at 4.4 --shot " + folder.path("b.png"), folder.path("b.png"));
  int more = 0, less = 0;  // letters that come, and letters that went
  for (int y = 560; y < 600; ++y) {
    for (int x = 150; x < 640; ++x) {  // before the word that shakes
      more += late.value(x, y, 0) > early.value(x, y, 0) + 40 ? 1 : 0;
      less += late.value(x, y, 0) + 40 < early.value(x, y, 0) ? 1 : 0;
    }
  }
  CHECK(less == 0);
  CHECK(count_lit(late, 1, 200) > count_lit(early, 1, 200));
  CHECK(more > 200);
}

TEST_CASE("typed_log takes keys: letters, erasing, undo, selection and the clipboard", "[examples]") {
  const test::Folder folder;
  // Escape ends it; the text is printed then.
  const std::string keys =
      "W=$(xdotool search --sync --onlyvisible --name \"The driver\" | head -1); xdotool windowfocus --sync "
      "$W; "
      "xdotool key --clearmodifiers ctrl+a; xdotool key BackSpace; xdotool type --delay 20 Rain\\ again; "
      "xdotool key Return; xdotool type --delay 20 Pale\\ Orchardx; xdotool key BackSpace; "
      "xdotool key shift+ctrl+Left; xdotool key ctrl+c; xdotool key End; xdotool key space; xdotool key "
      "ctrl+v; "
      "xdotool type \"!?\"; xdotool key BackSpace; xdotool key Escape";
  const test::Ran ran =
      test::run("ASAN_OPTIONS=detect_leaks=0 xvfb-run -a -s '-screen 0 1280x800x24' sh -c '" +
                std::string(GRAFEMA_EXAMPLES) + "/typed_log --frames 20000 & " + keys + "; wait'");
  INFO(ran.err);
  CHECK(ran.exit == 0);
  CHECK(ran.out == "Rain again\nPale Orchard Orchard!\n");
}

TEST_CASE("first_window draws what the reference renderer draws, in a window too", "[examples]") {
  const test::Folder folder;
  Image shot = shot_of("first_window", "--frames 31 --shot " + folder.path("f.png"), folder.path("f.png"));
  TextContext context(FontStack{built_in_face()}, nullptr);
  TextScene labels(context);
  Label sign = labels.add("Last tram to Quillmere");
  sign.set_look(*context.looks().set("sign", outlined_look({1, 0.7F, 0.2F, 1}, {0.3F, 0.15F, 0.5F, 1}, 4)));
  sign.set_size(72);
  // The last frame shows where it was put in the one before it.
  sign.move_to({160 + 120 * std::sin(29.0F / 60), 350});
  const View view{.width = 1280, .height = 800};
  REQUIRE(labels.update(view, 0).has_value());
  Image expected = *Image::make(1280, 800, PixelFormat::rgba8);
  fill_image(expected, {0.02F, 0.03F, 0.07F, 1});
  REQUIRE(draw_in_software(labels.memory(), Blending::linear, expected).has_value());
  make_opaque(shot), make_opaque(expected);
  CHECK(count_lit(expected, 0, 200) > 5000);
  CHECK(test::share_that_differs(shot, expected, 8) < 0.0005);
  const test::Ran ran = test::run("ASAN_OPTIONS=detect_leaks=0 xvfb-run -a -s '-screen 0 1280x800x24' " +
                                  std::string(GRAFEMA_EXAMPLES) + "/first_window --frames 3");
  INFO(ran.err);
  CHECK(ran.exit == 0);
}

TEST_CASE("first_frame draws a line of text without a window or a device", "[examples]") {
  const test::Folder folder;
  const Image frame = shot_of("first_frame", "--shot " + folder.path("f.png"), folder.path("f.png"));
  REQUIRE(frame.width() == 320);
  int first = 320, last = 0, lit = 0;
  for (int x = 0; x < 320; ++x) {
    for (int y = 0; y < 60; ++y) {
      if (frame.value(x, y, 0) > 128) continue;
      ++lit, first = std::min(first, x), last = std::max(last, x);
    }
  }
  TextContext context(FontStack{built_in_face()}, nullptr);
  TextScene words(context);
  Label label = words.add("Last tram to Quillmere");
  label.set_size(24);
  CHECK(first >= 20);
  CHECK(last + 1 <= 20 + std::ceil(label.box().width()));
  CHECK(last - first > label.box().width() - 8);  // as it was measured
  CHECK(lit > 800);
}

TEST_CASE("own_engine draws from the tables of a set what the reference renderer does", "[examples]") {
  const test::Folder folder;
  Image shot = shot_of("own_engine", "--shot " + folder.path("e.png"), folder.path("e.png"));
  TextContext context(FontStack{built_in_face()}, nullptr);
  TextScene labels(context);
  Label name = labels.add("Tomek Oyelaran"), line = labels.add("4 Lantern");
  name.set_size(48);
  line.set_size(36);
  name.move_to({30.0F + 29 * 3, 20});
  line.set_placement({.at = {320, 115}, .anchor = {0.5F, 0.5F}, .rotate = 29.0F / 4});
  const View view{.width = 640, .height = 160};
  REQUIRE(labels.update(view, 0).has_value());
  Image expected = *Image::make(640, 160, PixelFormat::rgba8);
  fill_image(expected, {to_srgb(0.9F), to_srgb(0.84F), to_srgb(0.7F), 1});
  REQUIRE(draw_in_software(labels.memory(), Blending::linear, expected).has_value());
  make_opaque(shot), make_opaque(expected);
  CHECK(count_lit(expected, 0, 200) < 640 * 160 - 2000);  // letters are black
  CHECK(test::share_that_differs(shot, expected, 48) < 0.01);
}

TEST_CASE("live_names shows its ten thousand, and letters that nobody had before", "[examples]") {
  const test::Folder folder;
  const test::Ran ran =
      test::run(std::string(GRAFEMA_EXAMPLES) + "/live_names --frames 2 --shot " + folder.path("l.png"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::StartsWith("10000 names, "));
  const Image shot = *load_png(folder.path("l.png"));
  CHECK(count_lit(shot, 2, 150) > 20000);  // names all over
  CHECK(count_lit(shot, 0, 230) > 1000);   // and strangers among them
}

TEST_CASE("the map rolls and zooms under its names, and the clock stays in its corner", "[examples]") {
  const test::Folder folder;
  const Image early = shot_of("map", "--frames 1 --shot " + folder.path("a.png"), folder.path("a.png")),
              late = shot_of("map", "--frames 50 --shot " + folder.path("b.png"), folder.path("b.png"));
  int moved = 0, clock = 0, clock_moved = 0;
  for (int y = 0; y < 800; ++y) {
    for (int x = 0; x < 1280; ++x) {
      const bool differs = std::abs(early.value(x, y, 0) - late.value(x, y, 0)) > 8,
                 corner = x > 1100 && y < 75;
      moved += differs && !corner ? 1 : 0;
      clock_moved += differs && corner ? 1 : 0;
      clock += corner && early.value(x, y, 0) > 200 ? 1 : 0;
    }
  }
  CHECK(moved > 20000);
  CHECK(clock > 300);
  CHECK(clock_moved == 0);
}

TEST_CASE("lights go over the title's letters, which stay where they are", "[examples]") {
  const test::Folder folder;
  const Image early = shot_of("title", "--frames 1 --shot " + folder.path("a.png"), folder.path("a.png")),
              late = shot_of("title", frames(140) + " --shot " + folder.path("b.png"), folder.path("b.png"));
  int lit = 0, changed = 0, outside = 0;
  for (int y = 0; y < 800; ++y) {
    for (int x = 0; x < 1280; ++x) {
      const bool is_word =
          y > 180 && y<560, differs = std::abs(early.value(x, y, 0) - late.value(x, y, 0))> 24;
      lit += is_word && early.value(x, y, 0) > 130 ? 1 : 0;
      changed += is_word && differs ? 1 : 0;
      outside += y < 150 && differs ? 1 : 0;
    }
  }
  CHECK(lit > 20000);
  if (!kSanitized) CHECK(changed > 8000);
  CHECK(outside == 0);
}

TEST_CASE("solid letters stand on a floor, lit in two colors, and throw shadows that move", "[examples]") {
  const test::Folder folder;
  const Image early = shot_of("solid_title", "--size 640x400 --frames 1 --shot " + folder.path("a.png"),
                              folder.path("a.png")),
              late =
                  shot_of("solid_title", "--size 640x400 " + frames(40) + " --shot " + folder.path("b.png"),
                          folder.path("b.png"));
  for (const Image* image : {&early, &late}) {
    int brass = 0, warm = 0, cold = 0, dark = 0;
    for (int y = 0; y < 400; ++y) {
      for (int x = 0; x < 640; ++x) {
        const int r = image->value(x, y, 0), g = image->value(x, y, 1), b = image->value(x, y, 2);
        const bool letters = y > 140 && y < 230;
        brass += letters && r > 90 && r > b * 2 ? 1 : 0;
        warm += !letters && r > 150 && r > b + 12 ? 1 : 0;
        cold += b > 80 && b > r + 25 ? 1 : 0;
        dark += y < 100 && r + g + b < 60 ? 1 : 0;
      }
    }
    CHECK(brass > 2000);
    CHECK(warm > 5000);
    CHECK(cold > 2000);
    CHECK(dark > 50000);
  }
  if (!kSanitized) CHECK(test::share_that_differs(early, late, 20) > 0.05);
}

TEST_CASE("a page hangs on a wall, and the light of a lantern goes over its heading", "[examples]") {
  const test::Folder folder;
  const Image early = shot_of("poster", "--frames 1 --shot " + folder.path("a.png"), folder.path("a.png")),
              late = shot_of("poster", frames(90) + " --shot " + folder.path("b.png"), folder.path("b.png"));
  for (const Image* image : {&early, &late}) {
    int paper = 0, red = 0, blue = 0, wall = 0;
    for (int y = 0; y < 800; ++y) {
      for (int x = 0; x < 1280; ++x) {
        const int r = image->value(x, y, 0), g = image->value(x, y, 1), b = image->value(x, y, 2);
        paper += r > 215 && g > 195 && b > 150 && r > b + 12 ? 1 : 0;
        red += r > 110 && g < r / 2 && b < r / 2 ? 1 : 0;
        blue += b >= r && r > 100 && r < 175 ? 1 : 0;
        wall += r < 120 && r > b + 8 ? 1 : 0;
      }
    }
    CHECK(paper > 60000);
    CHECK(red > 6000);
    CHECK(blue > 800);
    CHECK(wall > 150000);
  }
  if (!kSanitized) CHECK(test::share_that_differs(early, late, 20) > 0.1);
}

TEST_CASE("words lie on the sides of crates, and names are as large near and far", "[examples]") {
  const test::Folder folder;
  const Image early = shot_of("billboard", "--frames 1 --shot " + folder.path("a.png"), folder.path("a.png")),
              late =
                  shot_of("billboard", frames(200) + " --shot " + folder.path("b.png"), folder.path("b.png"));
  for (const Image* image : {&early, &late}) {
    int wood = 0, letters = 0, paper = 0;
    for (int y = 0; y < 800; ++y) {
      for (int x = 0; x < 1280; ++x) {
        const int red = image->value(x, y, 0), green = image->value(x, y, 1), blue = image->value(x, y, 2);
        wood += red > green + 20 && green > blue + 12 && red > 90 ? 1 : 0;
        letters += red < 60 && red > blue + 8 ? 1 : 0;
        paper += red > 240 && green > 230 && blue > 200 && blue < 235 ? 1 : 0;
      }
    }
    CHECK(wood > 60000);
    CHECK(letters > 3000);
    CHECK(paper > 1500);
  }
  if (!kSanitized) CHECK(test::share_that_differs(early, late, 20) > 0.1);
}

TEST_CASE("what stands at the edges is whole on every device, and badges grow with their numbers",
          "[examples]") {
  const test::Folder folder;
  const auto [size, width, height] = GENERATE(table<std::string, int, int>(
      {{"1280x800", 1280, 800}, {"844x390", 844, 390}, {"1024x1366", 1024, 1366}}));
  const std::string options = " --size " + size + " --shot ";
  const Image early = shot_of("hud", "--frames 1" + options + folder.path("a.png"), folder.path("a.png")),
              late = shot_of("hud", frames(600) + options + folder.path("b.png"), folder.path("b.png"));
  REQUIRE(early.width() == width);
  REQUIRE(early.height() == height);
  // The amber border of boxes: leftmost and rightmost, top right and bottom left; none touches the edge.
  const auto extent = [width = width, height = height](const Image& image, bool top) {
    int low = width, high = -1;
    for (int y = top ? 0 : height - 200; y < (top ? 120 : height); ++y) {
      for (int x = top ? width / 2 : 0; x < (top ? width : width / 2 + 100); ++x) {
        const bool amber = std::abs(image.value(x, y, 0) - 0xF2) < 12 &&
                           std::abs(image.value(x, y, 1) - 0xB3) < 12 &&
                           std::abs(image.value(x, y, 2) - 0x3D) < 14;
        if (amber) low = std::min(low, x), high = std::max(high, x);
      }
    }
    return std::pair(low, high);
  };
  const auto coins = extent(early, true), more = extent(late, true), tasks = extent(early, false);
  CHECK(coins.second > width - 80);
  CHECK(coins.second < width - 10);
  CHECK(more.second == coins.second);                     // pinned to its side
  if (!kSanitized) CHECK(more.first < coins.first - 10);  // 980 became 1,380
  CHECK(tasks.first > 10);
  CHECK(tasks.first < 60);
}

TEST_CASE("a window that can't be had is an error, not a crash", "[examples]") {
  const test::Ran none = test::run("env -u DISPLAY -u WAYLAND_DISPLAY ASAN_OPTIONS=detect_leaks=0 " +
                                   std::string(GRAFEMA_EXAMPLES) + "/map --frames 1");
  CHECK(none.exit == 1);
  CHECK_THAT(none.err, Catch::Contains("a window system, or --shot FILE"));
  const test::Ran nowhere =
      test::run(std::string(GRAFEMA_EXAMPLES) + "/map --frames 1 --shot /nowhere/at/all.png");
  CHECK(nowhere.exit == 1);
  for (const char* wrong : {"--frames -3", "--size 0x100 --shot s.png", "--size 100 --shot s.png",
                            "--size 100x100x1 --shot s.png", "--size 9999x1 --shot s.png"}) {
    INFO(wrong);
    CHECK(test::run(std::string(GRAFEMA_EXAMPLES) + "/map " + wrong).exit == 1);
  }
}

#ifdef GRAFEMA_COUNTER
namespace {

void check_steady_frames(const std::string& example) {
  const test::Folder folder;
  const std::string counted = folder.path("counted.txt");
  const test::Ran ran = test::run("xvfb-run -a -s '-screen 0 1280x800x24' env GRAFEMA_COUNTED=" + counted +
                                  " LD_PRELOAD=" GRAFEMA_COUNTER " " + std::string(GRAFEMA_EXAMPLES) + "/" +
                                  example + " --size 24x16 --frames 610");
  INFO(example << ": " << ran.err);
  REQUIRE(ran.exit == 0);
  long frames = 0, before = 0, steady = -1;
  std::ifstream(counted) >> frames >> before >> steady;
  CHECK(frames == 200);
  CHECK(before > 100);  // they are counted at all
  CHECK(steady == 0);
}

}  // namespace

TEST_CASE("two hundred steady frames of the examples take nothing from the heap", "[examples][allocation]") {
  check_steady_frames(GENERATE("first_window", "map", "live_names", "typed_log"));
}

TEST_CASE("two hundred steady frames of the scenes take nothing from the heap", "[examples][allocation]") {
  check_steady_frames(GENERATE("title", "hud"));
}

TEST_CASE("two hundred steady frames of walls and crates take nothing from the heap",
          "[examples][allocation]") {
  check_steady_frames(GENERATE("billboard", "poster"));
}
#endif
