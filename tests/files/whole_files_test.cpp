// SPDX-License-Identifier: MIT
// Files are written whole or not at all.
#include <sys/stat.h>

#include <catch2/catch.hpp>
#include <fstream>
#include <thread>

#include "grafema/files/files.hpp"
#include "support/support.hpp"

using namespace grafema;

TEST_CASE("a file is replaced whole and nothing is left beside it", "[output]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("a.txt"), "one").has_value());
  REQUIRE(save_text(folder.path("a.txt"), "two").has_value());
  CHECK(*load_text(folder.path("a.txt")) == "two");
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a folder that does not exist is named, and nothing is written", "[output]") {
  const test::Folder folder;
  const auto saved = save_text(folder.path("none/a.txt"), "x");
  REQUIRE_FALSE(saved.has_value());
  CHECK(saved.error().error.kind == ErrorKind::file_unwritable);
  CHECK_THAT(describe(saved.error()),
             Catch::Contains(folder.path("none/a.txt")) && Catch::Contains("make it first"));
  CHECK(folder.file_count() == 0);
}

TEST_CASE("an output that is a folder leaves no half-written file", "[output]") {
  const test::Folder folder;
  std::filesystem::create_directory(folder.path("taken"));
  CHECK_FALSE(save_text(folder.path("taken"), "x").has_value());
  CHECK(folder.file_count() == 1);
}

TEST_CASE("a missing input is named by its absolute path", "[output]") {
  const auto loaded = load_text("no-such-file.txt");
  REQUIRE_FALSE(loaded.has_value());
  CHECK_THAT(describe(loaded.error()),
             Catch::StartsWith("/") && Catch::Contains("no-such-file.txt can't be read"));
}

TEST_CASE("files are refused by their size, folders and devices by what they are", "[files]") {
  const test::Folder folder;
  const std::string path = folder.path("size.txt");
  REQUIRE(save_text(path, std::string(2000, 'x')).has_value());
  CHECK(FontData::read(path, 2000).has_value());
  CHECK_FALSE(FontData::read(path, 1999).has_value());
  CHECK_FALSE(load_text(path, 100).has_value());
  CHECK_THAT(describe(load_text(path, 100).error()), Catch::Contains("2000 bytes"));
  CHECK_THAT(describe(load_text("/dev/zero").error()), Catch::Contains("a device"));
  CHECK_THAT(describe(load_text("/").error()), Catch::Contains("a folder"));
  const std::string pipe = folder.path("pipe");
  REQUIRE(mkfifo(pipe.c_str(), 0600) == 0);
  CHECK_THAT(describe(load_text(pipe).error()), Catch::Contains("a pipe"));
  std::thread writer([&pipe] { std::ofstream(pipe) << "through a pipe"; });
  FileResult<std::string> text = load_text(pipe);
  for (int i = 0; i < 1000 && !text; ++i) {  // until the writer is there
    std::this_thread::sleep_for(std::chrono::milliseconds(2));
    text = load_text(pipe);
  }
  writer.join();
  REQUIRE(text.has_value());
  CHECK(*text == "through a pipe");
}

TEST_CASE("a face is opened by its path, or the error names it", "[files]") {
  const auto face = open_face("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf");
  REQUIRE(face.has_value());
  CHECK((*face)->title() == "DejaVu Sans Book");
  CHECK_THAT(describe(open_face("no/such.ttf").error()), Catch::Contains("no/such.ttf"));
}

TEST_CASE("a face that can't be opened is the built-in one, with a note that says why", "[files]") {
  Notes notes;
  CHECK(face_or_built_in("/no/such/face.ttf", &notes)->glyph_count() == built_in_face()->glyph_count());
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::built_in_face);
  CHECK_THAT(describe(notes.all()[0]), Catch::Contains("/no/such/face.ttf"));
  notes = Notes();
  CHECK(face_or_built_in(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans.ttf", &notes)->names().family ==
        "Quillmere Sans");
  CHECK(notes.empty());
}

TEST_CASE("a name with a zero byte is refused, and no file of the name before it is touched", "[files]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("a"), "kept").has_value());
  const std::string name = folder.path("a") + std::string("\0b", 2);
  const auto loaded = load_text(name);
  REQUIRE_FALSE(loaded.has_value());
  CHECK(describe(loaded.error()).find("a\\x00b can't be read: expected a file name without a zero byte") !=
        std::string::npos);
  CHECK_FALSE(FontData::map(name).has_value());
  CHECK_FALSE(save_text(name, "other").has_value());
  CHECK(load_text(folder.path("a")).value_or("") == "kept");
  CHECK(folder.file_count() == 1);
}
