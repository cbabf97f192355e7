// SPDX-License-Identifier: MIT
// grafema subset: what it writes, what it says, what it refuses.
#include <catch2/catch.hpp>

#include "support/same_face.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::run;

namespace {

const std::string kSubsetTool = GRAFEMA_TOOL;

std::string sans() { return " " + test::dejavu_path() + " "; }

}  // namespace

TEST_CASE("subset writes a smaller font and says what it saved", "[tool][subset]") {
  const test::Folder folder;
  const std::string file = folder.path("small.ttf");
  const auto ran = run(kSubsetTool + " subset" + sans() + "--chars 'Larkspur Halt é' -o " + file);
  CHECK(ran.exit == 0);
  CHECK(ran.err.find("FFTM, which only other programs read") != std::string::npos);
  const auto face = open_face(file);
  REQUIRE(face.has_value());
  const auto whole = test::dejavu();
  CHECK((*face)->glyph_count() < 40);
  CHECK((*face)->characters().size() == 12);
  CHECK((*face)->advance((*face)->find_glyph(U'k')) == whole->advance(whole->find_glyph(U'k')));
  CHECK(ran.out.find("12 characters") != std::string::npos);
  CHECK(ran.out.find(" of 6") != std::string::npos);  // glyphs of the whole face, some 6,000
  CHECK(run(kSubsetTool + " measure " + file + " --text 'Halt'").out ==
        run(kSubsetTool + " measure" + sans() + "--text 'Halt'").out);
}

TEST_CASE("subset packs for the web and pins axes", "[tool][subset]") {
  const test::Folder folder;
  const std::string file = folder.path("bold.woff2"),
                    variable = GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans_variable.ttf";
  const auto ran =
      run(kSubsetTool + " subset " + variable + " --charset ascii --axes wght=700 -o " + file + " --tables");
  CHECK(ran.exit == 0);
  CHECK(ran.out.find("gvar") != std::string::npos);
  const auto face = open_face(file);
  REQUIRE(face.has_value());
  CHECK((*face)->axes().empty());
  CHECK((*face)->names().style == "Bold");
}

TEST_CASE("subset takes the characters of text files", "[tool][subset]") {
  const test::Folder folder;
  const std::string text = folder.path("de.json"), file = folder.path("de.ttf");
  REQUIRE(save_text(text, R"({"door": "Tür"})").has_value());
  CHECK(run(kSubsetTool + " subset" + sans() + "--text-from " + text + " -o " + file).exit == 0);
  const auto face = open_face(file);
  REQUIRE(face.has_value());
  CHECK((*face)->find_glyph(U'ü') != kMissingGlyph);
  CHECK((*face)->find_glyph(U'd') == kMissingGlyph);  // a key, not a text
}

TEST_CASE("subset says what is missing in one line", "[tool][subset]") {
  const test::Folder folder;
  const std::string file = folder.path("a.ttf");
  const auto ran = run(kSubsetTool + " subset" + sans() + "--range 41-5A,4E00-4F00 -o " + file + " --quiet");
  CHECK(ran.exit == 0);
  CHECK(ran.out == "");
  CHECK(ran.err.substr(0, ran.err.find('\n') + 1) ==
        "note: the face lacks 257 of the characters: U+4E00, U+4E01, U+4E02, U+4E03, U+4E04, "
        "U+4E05, U+4E06, U+4E07, ...\n");
  CHECK(run(kSubsetTool + " subset" + sans() + "--chars A\u4E00 -o " + file + " --strict").exit == 1);
}

TEST_CASE("subset refuses what makes no sense, and writes nothing", "[tool][subset][errors]") {
  const test::Folder folder;
  const std::string file = folder.path("a.ttf");
  const auto refused = [&](const std::string& options, int exit, const std::string& words) {
    const auto ran = run(kSubsetTool + " subset" + options);
    INFO(ran.err);
    return ran.exit == exit && ran.err.find(words) != std::string::npos && folder.file_count() == 0;
  };
  CHECK(refused(sans() + "-o " + file, 2, "say which characters"));
  CHECK(refused(sans() + "--chars \u4E00 -o " + file, 3, "at least one character that the face has"));
  CHECK(refused(sans() + "--chars A -o " + folder.path("a.png"), 2, ".woff2"));
  CHECK(refused(sans() + sans() + "--chars A -o " + file, 2, "one face at a time"));
  CHECK(refused(sans() + "--chars A --features toolong -o " + file, 2, "--features"));
  CHECK(
      refused(sans() + "--chars A --features x=1 -o " + file, 2, "--features"));  // on or off is for drawing
  CHECK(refused(" " + folder.path("none.ttf") + " --chars A -o " + file, 3, "can't be read"));
}
