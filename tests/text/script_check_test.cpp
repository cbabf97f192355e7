// SPDX-License-Identifier: MIT
// Whether faces are told to write scripts when they do, and not when tables are gone.
#include "grafema/text/script_check.hpp"

#include "grafema/unicode/characters.hpp"
#include "support/scripts.hpp"

using namespace grafema;

namespace {

std::vector<char32_t> block(const test::ScriptFace& script) {
  std::vector<char32_t> out;
  for (char32_t c = script.first; c <= script.last; ++c) out.push_back(c);
  return out;
}
CheckedScript check(const Face& face, const test::ScriptFace& script, std::string_view language = {}) {
  std::vector<char32_t> characters;
  for (const char32_t c : block(script)) {
    if (face.find_glyph(c) != kMissingGlyph && script_of(c) == script_of(script.letter))
      characters.push_back(c);
  }
  const std::vector<CheckedScript> all = check_scripts(face, characters, language);
  REQUIRE(all.size() == 1);
  return all[0];
}

}  // namespace

TEST_CASE("every face of a script writes it", "[script-check]") {
  for (const test::ScriptFace& script : test::script_faces()) {
    const CheckedScript checked = check(*test::face_of(script), script);
    INFO(script.name << ": " << describe(checked));
    CHECK(checked.shapes());
    CHECK(checked.supplied == checked.characters);
    CHECK_FALSE(checked.met.empty());
  }
}

TEST_CASE("a face without its tables has the letters but can't join them", "[script-check]") {
  for (const char* name :
       {"Devanagari", "Bengali", "Tamil", "Malayalam", "Sinhala", "Khmer", "Myanmar", "Tibetan"}) {
    const test::ScriptFace& script = test::script_face(name);
    const CheckedScript checked = check(*test::face_without(script.path, "GSUB"), script);
    INFO(describe(checked));
    CHECK_FALSE(checked.shapes());
    CHECK(describe(checked) == "has the letters of " + std::string(name) +
                                   ", but can't join them: it has no rules for the script");
  }
  const test::ScriptFace& script = test::script_face("Devanagari");
  const CheckedScript hindi = check(*test::face_without(script.path, "GSUB"), script, "hi");
  CHECK(describe(hindi) == "has the letters of Hindi, but can't join them: it has no rules for the script");
}

TEST_CASE("marks that nothing places are told, and letters that are not there", "[script-check]") {
  const test::ScriptFace& script = test::script_face("Hebrew");
  const CheckedScript bare = check(*test::face_without(script.path, "GPOS"), script);
  CHECK(bare.unmet == std::vector<ScriptNeed>{ScriptNeed::marks});
  CHECK(describe(bare) == "has the letters of Hebrew, but does not place its marks");
  const auto sans = test::dejavu();
  const std::u32string hindi = U"\u0928\u092E\u0938\u094D\u0924\u0947";
  const auto checked = check_scripts(*sans, hindi);
  REQUIRE(checked.size() == 1);
  CHECK_FALSE(checked[0].shapes());
  CHECK(describe(checked[0]) == "has no letters of Devanagari");
}

TEST_CASE("scripts of letters alone need nothing, and come in the order of the text", "[script-check]") {
  const std::u32string text = U"12 \u03B1\u03B2 abc \u0430 \u03B3";
  const auto checked = check_scripts(*test::dejavu(), text);
  REQUIRE(checked.size() == 3);
  CHECK(checked[0].name == "Greek");
  CHECK(checked[0].characters == 3);
  CHECK(checked[1].name == "Latin");
  CHECK(checked[2].name == "Cyrillic");
  for (const CheckedScript& script : checked) {
    CHECK(script.shapes());
    CHECK(script.met.empty());
  }
}
