// SPDX-License-Identifier: MIT
// Outputs of the command: full disks, devices, inputs that must stay, and runs that end in the middle.
#include <sys/stat.h>
#include <sys/sysmacros.h>

#include <filesystem>

#include "tool/tool.hpp"

using namespace grafema;
namespace fs = std::filesystem;

namespace {

const std::string kSansFile = GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans.ttf";

std::string bytes_at(const std::string& path) { return load_text(path).value_or("(nothing)"); }

}  // namespace

TEST_CASE("a full disk behind standard output is an error of every report", "[tool][outputs]") {
  for (const std::string& arguments :
       {"measure " + kSansFile + " --text Quillmere --json", "inspect " + kSansFile,
        "inspect " + kSansFile + " --json", "contours " + kSansFile + " --text Q --json",
        "missing " + kSansFile + " --chars Q --json", "draw " + kSansFile + " --text Q -o -",
        std::string("--help"), std::string("help draw"), std::string("draw --help"),
        std::string("--version")}) {
    INFO(arguments);
    const test::Ran ran = test::run(std::string(GRAFEMA_TOOL) + " " + arguments + " >/dev/full");
    CHECK(ran.exit == 4);
    CHECK_THAT(ran.err, Catch::Contains("standard output") && !Catch::Contains("standard input"));
  }
}

TEST_CASE("an output onto a device leaves it a device", "[tool][outputs]") {
  const test::Folder folder;
  if (::mknod(folder.path("null").c_str(), S_IFCHR | 0600, ::makedev(1, 3)) != 0) return;
  REQUIRE(::mknod(folder.path("full").c_str(), S_IFCHR | 0600, ::makedev(1, 7)) == 0);
  const std::string draw = "draw " + kSansFile + " --text Q -o ";
  CHECK(test::grafema_command(draw + folder.path("null")).exit == 0);
  CHECK(test::grafema_command(draw + folder.path("full")).exit == 4);
  CHECK(fs::is_character_file(folder.path("null")));
  CHECK(fs::is_character_file(folder.path("full")));
  CHECK(folder.file_count() == 2);
}

TEST_CASE("no output replaces an input or another output", "[tool][outputs]") {
  const test::Folder folder;
  const std::string sheet = folder.path("dot.png"), description = folder.path("dot.json"),
                    font = folder.path("f.ttf"), data = std::string(GRAFEMA_SOURCE_DIR) + "/data/faces/";
  fs::copy(data + "quillmere_dot.png", sheet), fs::copy(data + "quillmere_dot.json", description);
  fs::copy(kSansFile, font), fs::create_hard_link(font, folder.path("same.ttf"));
  fs::create_symlink("dot.json", folder.path("link.json"));
  REQUIRE(save_text(folder.path("words.txt"), "Quillmere").has_value());
  const auto before = std::vector{bytes_at(sheet), bytes_at(description), bytes_at(font)};
  const std::size_t files = folder.file_count();
  const std::string text = " --text-from " + folder.path("words.txt");
  for (const std::string& arguments :
       {"make-font " + sheet + " --propose-kerning " + description,
        "make-font " + sheet + " --propose-kerning " + folder.path("link.json"),
        "make-font " + sheet + " --proof " + sheet + " -o " + folder.path("new.ttf"),
        "make-font " + sheet + " --proof " + folder.path("p.png") + " -o " + folder.path("p.png"),
        "bake " + font + " --chars Q --depfile " + font + " -o " + folder.path("a"),
        "bake " + font + " --chars Q --header " + folder.path("same.ttf") + " -o " + folder.path("a"),
        "bake " + font + " --chars Q --header " + folder.path("h.hpp") + " --depfile " +
            folder.path("h.hpp") + " -o " + folder.path("a"),
        "subset " + font + " --chars Q -o " + folder.path("same.ttf"),
        "subset " + font + " --chars Q -o " + font,
        "extrude " + font + text + " -o " + folder.path("m.obj") + " --collision " + folder.path("m.mtl")}) {
    INFO(arguments);
    const test::Ran ran = test::grafema_command(arguments);
    CHECK(ran.exit != 0);
    CHECK(std::vector{bytes_at(sheet), bytes_at(description), bytes_at(font)} == before);
    CHECK(folder.file_count() == files);
  }
  // What is no input may be replaced, again and again.
  for (int i = 0; i < 2; ++i) {
    CHECK(test::grafema_command("bake " + font + " --chars Q --again --quiet -o " + folder.path("a")).exit ==
          0);
    CHECK(test::grafema_command("subset " + font + " --chars Q --quiet -o " + folder.path("s.ttf")).exit ==
          0);
  }
}

TEST_CASE("a command that fails in the middle leaves none of its outputs", "[tool][outputs]") {
  const test::Folder folder;
  // The seventh frame can't be written.
  fs::create_directory(folder.path("f6.png"));
  REQUIRE(save_text(folder.path("file"), "no folder").has_value());
  const test::Ran frames = test::grafema_command(
      "draw " + kSansFile + " --text Q --motion sway --frames 10 -o " + folder.path("f%d.png"));
  CHECK(frames.exit == 4);
  CHECK(folder.file_count() == 2);
  CHECK(test::grafema_command("bake " + kSansFile + " --chars Q --depfile " + folder.path("file/d") + " -o " +
                              folder.path("a"))
            .exit == 4);
  CHECK(test::grafema_command("extrude " + kSansFile + " --text Q --preview " + folder.path("file/p.png") +
                              " -o " + folder.path("m.obj"))
            .exit != 0);
  CHECK(folder.file_count() == 2);
}
