// SPDX-License-Identifier: MIT
// grafema bake from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;
using test::grafema_command;

TEST_CASE("a real face is baked at three sizes in both kinds", "[tool][bake]") {
  const std::string kind = GENERATE("coverage", "distance"), size = GENERATE("16", "32", "64");
  const test::Folder folder;
  const auto ran = grafema_command("bake " + test::dejavu_path() + " --kind " + kind + " --size " + size + " --charset ascii -o " + folder.path("a"));
  INFO(ran.err);
  REQUIRE(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::Contains("96 glyphs at " + size + " px as " + kind));
  const auto document = nlohmann::json::parse(*load_text(folder.path("a.json")));
  CHECK(document["strikes"][0]["kind"] == kind);
  CHECK(document["glyphs"].size() == 96);  // 95 and the missing-glyph shape
  CHECK(load_png(folder.path("a-0.png")).has_value());
}

TEST_CASE("distance is the default kind and the built-in face the default font", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --quiet -o " + folder.path("a")).out.empty());
  const auto document = nlohmann::json::parse(*load_text(folder.path("a.json")));
  CHECK(document["strikes"][0]["kind"] == "distance");
  CHECK(document["strikes"][0]["size"] == 48.0);
  CHECK(document["faces"][0]["family"] == "Quillmere Dot");
}

TEST_CASE("characters come from all their options together", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("t.json"), R"({"k": "Z"})").has_value());
  REQUIRE(grafema_command("bake --chars AB --range 30-32 --text-from " + folder.path("t.json") + " --charset digits -o " + folder.path("a")).exit == 0);
  const auto document = nlohmann::json::parse(*load_text(folder.path("a.json")));
  CHECK(document["glyphs"].size() == 1 + 2 + 10 + 1);
}

TEST_CASE("missing characters are noted, and an exit of 1 under --strict", "[tool][bake]") {
  const test::Folder folder;
  const std::string command = "bake --chars 'A\xE4\xB8\x80' -o " + folder.path("a");
  const auto plain = grafema_command(command);
  CHECK(plain.exit == 0);
  CHECK_THAT(plain.err, Catch::Contains("U+4E00"));
  CHECK(grafema_command(command + " --strict").exit == 1);
}

TEST_CASE("a page too small says for which glyph and how large it must be", "[tool][bake]") {
  const test::Folder folder;
  const auto ran = grafema_command("bake --page 20x20 -o " + folder.path("a"));
  CHECK(ran.exit == 2);
  CHECK_THAT(ran.err, Catch::Contains("needs a page of"));
  CHECK(folder.file_count() == 0);
}

TEST_CASE("option --fit fills the page that was asked for", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --fit 200x100 --kind coverage -o " + folder.path("a")).exit == 0);
  const Image page = *load_png(folder.path("a-0.png"));
  CHECK(page.width() == 200);
  CHECK(page.height() == 100);
}

TEST_CASE("option --bits 16 writes wide pages", "[tool][bake]") {
  const test::Folder folder;
  REQUIRE(grafema_command("bake --bits 16 -o " + folder.path("a")).exit == 0);
  CHECK(load_png(folder.path("a-0.png"))->format() == PixelFormat::r16);
}
