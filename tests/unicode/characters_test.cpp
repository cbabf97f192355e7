// SPDX-License-Identifier: MIT
// Facts of characters against Unicode's own data.
#include "grafema/unicode/characters.hpp"

#include <unicode/uchar.h>
#include <unicode/uscript.h>

#include <catch2/catch.hpp>

using namespace grafema;

TEST_CASE("every character has the script that Unicode says", "[characters][property]") {
  for (char32_t c = 0; c <= 0x10FFFF; ++c) {
    UErrorCode status = U_ZERO_ERROR;
    const UScriptCode script = uscript_getScript(static_cast<UChar32>(c), &status);
    const bool common = script == USCRIPT_COMMON || script == USCRIPT_INHERITED || script == USCRIPT_UNKNOWN;
    REQUIRE((script_of(c) == Tag{}) == common);
  }
}

TEST_CASE("tags are those of OpenType", "[characters]") {
  CHECK(script_of(U'A') == tag("latn"));
  CHECK(script_of(0x3B1) == tag("grek"));
  CHECK(script_of(0x416) == tag("cyrl"));
  CHECK(script_of(0x3042) == tag("kana"));
  CHECK(script_of(0x30A2) == tag("kana"));
  CHECK(script_of(0x0E81) == tag("lao"));
  CHECK(script_of(U'1') == Tag{});
}

TEST_CASE("invisible are controls and what Unicode lets be ignored", "[characters][property]") {
  for (char32_t c = 0; c <= 0x10FFFF; ++c) {
    const auto icu = static_cast<UChar32>(c);
    const bool wanted = u_charType(icu) == U_CONTROL_CHAR ||
                        u_hasBinaryProperty(icu, UCHAR_DEFAULT_IGNORABLE_CODE_POINT) != 0;
    REQUIRE(is_invisible(c) == wanted);
  }
}

TEST_CASE("variation selectors are those of Unicode", "[characters][property]") {
  for (char32_t c = 0; c <= 0x10FFFF; ++c) {
    REQUIRE(is_variation_selector(c) ==
            (u_hasBinaryProperty(static_cast<UChar32>(c), UCHAR_VARIATION_SELECTOR) != 0));
  }
}
