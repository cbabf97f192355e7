// SPDX-License-Identifier: MIT
// The table of scripts against Unicode's own data.
#include <catch2/catch.hpp>
#include <unicode/uscript.h>

#include "grafema/face.hpp"

using namespace grafema;

TEST_CASE("every character has the script that Unicode says", "[script][property]") {
  for (char32_t c = 0; c <= 0x10FFFF; ++c) {
    UErrorCode status = U_ZERO_ERROR;
    const UScriptCode script = uscript_getScript(static_cast<UChar32>(c), &status);
    const bool common = script == USCRIPT_COMMON || script == USCRIPT_INHERITED || script == USCRIPT_UNKNOWN;
    REQUIRE((script_of(c) == Tag{}) == common);
  }
}

TEST_CASE("tags are those of OpenType", "[script]") {
  CHECK(script_of(U'A') == tag("latn"));
  CHECK(script_of(0x3B1) == tag("grek"));
  CHECK(script_of(0x416) == tag("cyrl"));
  CHECK(script_of(0x3042) == tag("kana"));
  CHECK(script_of(0x30A2) == tag("kana"));
  CHECK(script_of(0x0E81) == tag("lao"));
  CHECK(script_of(U'1') == Tag{});
}
