// SPDX-License-Identifier: MIT
// grafema inspect from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("inspect prints facts of a real face as JSON", "[tool][inspect]") {
  const auto document = test::json_of("inspect --json " + test::dejavu_path());
  CHECK(document["file"] == "DejaVuSans.ttf");
  const auto& face = document["faces"][0];
  CHECK(face["family"] == "DejaVu Sans");
  CHECK(face["glyph_count"] == 6253);
  CHECK(face["kerning"] == "gpos");
  CHECK(face["cap_height"] == 1493);
  CHECK(face["codepoint_count"] == face["codepoint_count"].get<int>());
  bool greek = false;
  for (const auto& block : face["blocks"]) greek = greek || block["name"] == "Greek and Coptic";
  CHECK(greek);
}

TEST_CASE("inspect reads with pleasure, and shows the built-in face by default", "[tool][inspect]") {
  const auto ran = test::grafema_command("inspect");
  CHECK(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::StartsWith("Quillmere Dot Regular") && Catch::Contains("crisp at      12 px") && Catch::Contains("installable"));
}
