// SPDX-License-Identifier: MIT
// grafema demo from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;

TEST_CASE("the demo draws every picture, the same each time", "[tool][demo]") {
  const test::Folder folder;
  REQUIRE(test::grafema_command("demo --quiet -o " + folder.path("one")).exit == 0);
  REQUIRE(test::grafema_command("demo --quiet -o " + folder.path("two")).exit == 0);
  for (const char* name : {"board", "title", "sizes", "layout", "languages", "speech", "typed_log", "ticker",
                           "messages", "page-distance", "specimen-sans", "contact-sheet"}) {
    INFO(name);
    const auto one = load_text(folder.path("one/" + std::string(name) + ".png")),
               two = load_text(folder.path("two/" + std::string(name) + ".png"));
    REQUIRE(one.has_value());
    CHECK(*one == *two);
  }
  // Times on the board end at one column.
  const Image board = *load_png(folder.path("one/board.png"));
  CHECK(board.width() == 1280);
  CHECK(board.height() == 800);
  for (const int row : {136, 206, 276, 346, 416, 486, 556, 626}) {
    int last = 0;
    for (int y = row; y < row + 48; ++y) {
      for (int x = 0; x < board.width(); ++x) last = board.value(x, y, 0) > 200 ? std::max(last, x) : last;
    }
    CHECK(last == 1219);
  }
}
