// SPDX-License-Identifier: MIT
// Files are written whole or not at all.
#include <catch2/catch.hpp>
#include <fstream>

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
