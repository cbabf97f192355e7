// SPDX-License-Identifier: MIT
// Bad input from the outside: its exit code, one sentence, nothing half-written.
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>

#include "tool/tool.hpp"

using namespace grafema;

namespace {

/// The command must end with `exit`, say one line, and leave the folder with `files` files.
void check_refused(const test::Folder& folder, const std::string& arguments, int exit,
                   const std::string& words, std::size_t files = 1) {
  const auto ran = test::grafema_command(arguments);
  INFO(arguments << "\n" << ran.err);
  CHECK(ran.exit == exit);
  CHECK(ran.out.empty());
  CHECK_THAT(ran.err, Catch::Contains(words));
  CHECK(folder.file_count() == files);
}

}  // namespace

TEST_CASE("input files that are missing, empty, cut or no fonts end with 3", "[tool][errors]") {
  const test::Folder folder;
  const std::string bad = folder.path("bad.ttf"), out = " -o " + folder.path("out");
  const std::string contents = GENERATE("", "This is no font.", "\x89PNG\r\n\x1a\n");
  REQUIRE(save_text(bad, contents).has_value());
  check_refused(folder, "inspect " + bad, 3, bad + " is not a font file");
  check_refused(folder, "bake --chars a " + bad + out, 3, "is not a font file");
  check_refused(folder, "draw " + bad + " --text a" + out + ".png", 3, "is not a font file");
  check_refused(folder, "measure " + folder.path("none.ttf") + " --text a", 3,
                folder.path("none.ttf") + " can't be read");
  const std::string whole = *load_text(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.ttf");
  REQUIRE(save_text(bad, whole.substr(0, 300)).has_value());
  check_refused(folder, "measure " + bad + " --text a", 3, "is damaged in table");
}

TEST_CASE("a backdrop that is no PNG ends with 3", "[tool][errors]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("b.png"), "no picture").has_value());
  check_refused(folder, "draw --text a --backdrop " + folder.path("b.png") + " -o " + folder.path("o.png"), 3,
                "is not a picture");
}

TEST_CASE("command lines that are wrong end with 2", "[tool][errors]") {
  const test::Folder folder;
  const std::string out = " -o " + folder.path("o.png");
  const auto [arguments, words] = GENERATE(table<std::string, std::string>(
      {{"draw --text a --size 0", "--size"},
       {"draw --text a --size -4", "--size"},
       {"draw --text a --size nan", "--size"},
       {"draw --text a --size 1e9", "--size"},
       {"draw --text a --size 12px", "--size"},
       {"draw --text a --size ''", "--size"},
       {"draw --text a --fill ambre", "--fill"},
       {"draw --text a --fill red,red", "--fill"},
       {"draw --text a --outline 3", "--outline"},
       {"draw --text a --shadow 1,2,-3,red", "--shadow"},
       {"draw --text a --canvas 0x5", "--canvas"},
       {"draw --text a --canvas 5", "--canvas"},
       {"draw --text a --at 1", "--at"},
       {"draw --text a --align sideways", "--align"},
       {"draw --text a --anchor middling", "top-left"},
       {"draw --text a --anchor left,right,top", "--anchor"},
       {"draw --text a --size 20pt", "without a unit (sizes and lengths are pixels)"},
       {"draw --text 'a\\q'", "expected \\n, \\t or \\\\ at byte 1, found '\\q'"},
       {"draw --text 'a\\'", "--text"},
       {"draw --text a --bold", "FONT#Bold; --embolden PX"},
       {"draw --text a --color red", "here it is: --fill COLOR"},
       {"draw --text a --font x.ttf", "a word of its own"},
       {"draw --text a --gradient red", "linear-gradient(gold"},
       {"draw --text a --motion 'swell(period)'", "growth=N and period=N"},
       {"draw --text a --motion 'swell(period=0)'", "values that a motion can have"},
       {"draw --text a --motion 'swell(period=1'", "closing parenthesis"},
       {"draw --text a --motion jig", "still, sway, rattle, hop"},
       {"draw --text a --features ligature=1", "--features"},
       {"draw --text a --tabs 40sideways", "--tabs"},
       {"draw --text a --break never", "--break"},
       {"draw --text a --opacity 2", "--opacity"},
       {"draw --text a --face 3", "face 0"},
       {"draw --text a --no-such-option", "--no-such-option"},
       {"bake --chars a --kind pretty", "--kind"},
       {"bake --chars a --size 0", "--size"},
       {"bake --chars a --bits 9", "bits"},
       {"bake --charset klingon", "klingon"},
       {"bake --range Z", "hexadecimal"},
       {"bake --chars a --reach 0", "--reach"},
       {"bake --chars a --page 1x", "--page"},
       {"specimen --sizes 0", "--sizes"},
       {"draw --text \"$(printf 'ab\\377')\"", "not UTF-8 at byte 2"}}));
  check_refused(folder, arguments + out, 2, words, 0);
}

TEST_CASE("unknown commands end with 2; the command alone and help show the overview", "[tool][errors]") {
  const auto alone = test::grafema_command(""), help = test::grafema_command("help");
  CHECK(alone.exit == 0);
  CHECK_THAT(alone.out, Catch::Contains("measure") && Catch::Contains("usage: grafema COMMAND"));
  CHECK(help.out == alone.out);
  CHECK(test::grafema_command("help draw").out == test::grafema_command("draw --help").out);
  CHECK(test::grafema_command("help fly").exit == 2);
  CHECK(test::grafema_command("help draw bake").exit == 2);
  CHECK(test::grafema_command("fly").exit == 2);
  CHECK_THAT(test::grafema_command("--version").out, Catch::StartsWith("grafema 0."));
  for (const char* command :
       {"", "inspect ", "specimen ", "bake ", "measure ", "draw ", "make-font ", "demo "}) {
    const auto ran = test::grafema_command(std::string(command) + "--help");
    CHECK(ran.exit == 0);
    if (*command != '\0') CHECK_THAT(ran.out, Catch::Contains("Example: grafema "));
  }
}

TEST_CASE("folders of outputs are made, and are gone again where the command fails", "[tool][errors]") {
  const test::Folder folder;
  const std::string out = " -o " + folder.path("new/er/a");
  check_refused(folder, "draw --text a no-such-font.ttf" + out + ".png", 3, "no-such-font.ttf", 0);
  CHECK_FALSE(std::filesystem::exists(folder.path("new")));
  check_refused(folder, "draw --text a -o /proc/none/a.png", 4, "can't be made", 0);
  check_refused(folder, "demo -o /proc/none", 4, "can't be made", 0);
  check_refused(folder, "bake --chars a -o /proc/none/a", 4, "can't be made", 0);
  for (const std::string command : {"draw --text a -o ", "specimen -o ", "bake --chars a --quiet -o "}) {
    const std::string name = folder.path("of " + command.substr(0, 4) + "/er/a");
    INFO(command << name);
    const std::string ending = command.starts_with("bake") ? "" : ".png";
    CHECK(test::grafema_command(command + "'" + name + ending + "'").exit == 0);
    CHECK(std::filesystem::exists(name + (ending.empty() ? ".json" : ending)));
  }
}

TEST_CASE("outputs name what can be written", "[tool][errors]") {
  const test::Folder folder;
  check_refused(folder, "draw --text a -o " + folder.path("a.jpg"), 2, ".png", 0);
  check_refused(folder, "specimen -o " + folder.path("a"), 2, ".png", 0);
  check_refused(folder,
                "make-font " GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.png -o " + folder.path("a.woff"),
                2, ".ttf", 0);
  check_refused(folder, "bake --chars a -o -", 2, "several files", 0);
  CHECK(test::grafema_command("draw --text a -o " + folder.path("A.PNG")).exit == 0);
}

TEST_CASE("without text or characters there is nothing to do", "[tool][errors]") {
  const test::Folder folder;
  check_refused(folder, "measure", 2, "--text", 0);
  check_refused(folder, "draw -o " + folder.path("a.png"), 2, "--text", 0);
  check_refused(folder, "bake -o " + folder.path("a"), 2, "--chars", 0);
  check_refused(folder, "missing", 2, "--text", 0);
  CHECK(test::grafema_command("measure --text ''").exit == 0);
}

TEST_CASE("a font comes from standard input, and what can't be read to an end is refused", "[tool][errors]") {
  const test::Folder folder;
  const std::string face = test::dejavu_path();
  const auto ran = test::run(GRAFEMA_TOOL " inspect - < " + face);
  CHECK(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::Contains("DejaVu Sans"));
  check_refused(folder, "inspect /dev/zero", 3, "a device", 0);
  check_refused(folder, "measure --text-from /dev/zero", 3, "a device", 0);
  std::ofstream(folder.path("large.txt")) << std::string(5 << 20, 'a');
  check_refused(folder, "measure --text-from " + folder.path("large.txt"), 3, "at most 4194304");
  CHECK_THAT(test::grafema_command("measure --help").out, Catch::Contains("at most 4 MB"));
  REQUIRE(save_text(folder.path("p"), "x").has_value());
  REQUIRE(test::grafema_command("bake --chars a --kind coverage -o " + folder.path("b")).exit == 0);
  const auto painted =
      test::grafema_command("repaint " + folder.path("b.json") + " --painted 0=" + folder.path("none.png") +
                            " -o " + folder.path("c"));
  CHECK(painted.exit == 3);
  CHECK_THAT(painted.err, Catch::Contains(folder.path("none.png")));
}

TEST_CASE("a terminal gets words in color, and no pictures", "[tool][errors]") {
  const test::Folder folder;
  // script runs a command in a terminal of its own.
  const auto in_terminal = [](const std::string& arguments) {
    return test::run("TERM=xterm script -qec '" GRAFEMA_TOOL " " + arguments + "' /dev/null < /dev/null");
  };
  const auto picture = in_terminal("draw --text a -o -");
  CHECK(picture.exit == 2);
  CHECK_THAT(picture.out, Catch::Contains("is a terminal") && Catch::Contains("\x1b["));
  CHECK_THAT(in_terminal("measure --text \xE2\x98\x83").out, Catch::Contains("\x1b["));
  CHECK_THAT(test::grafema_command("measure --text \xE2\x98\x83").err, !Catch::Contains("\x1b["));
}

TEST_CASE("a text file that is not UTF-8 names the byte", "[tool][errors]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("t.txt"), "abc\xC3").has_value());
  check_refused(folder, "bake --text-from " + folder.path("t.txt") + " -o " + folder.path("o"), 3,
                "is not UTF-8 at byte 3");
}

TEST_CASE("a face that forbids embedding ends with 1", "[tool][errors]") {
  const test::Folder folder;
  std::string font = *load_text(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.ttf");
  const std::size_t record = font.find("OS/2");
  const auto byte = [&](std::size_t i) {
    return static_cast<std::size_t>(static_cast<unsigned char>(font[record + 8 + i]));
  };
  font[(byte(0) << 24 | byte(1) << 16 | byte(2) << 8 | byte(3)) + 9] = 2;
  REQUIRE(save_text(folder.path("f.ttf"), font).has_value());
  check_refused(folder, "bake --chars a " + folder.path("f.ttf") + " -o " + folder.path("o"), 1, "embedding");
}
