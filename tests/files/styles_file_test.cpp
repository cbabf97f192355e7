// SPDX-License-Identifier: MIT
// Style files: fields, bases, errors that name the style.
#include "grafema/files/styles_file.hpp"

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

namespace {

std::string file(const std::string& styles) {
  return R"({"format": "grafema-styles", "version": 1, "styles": {)" + styles + "}}";
}

}  // namespace

TEST_CASE("a style is what its base says and what it says itself", "[styles]") {
  const auto styles = read_styles(file(
      R"("late": {"based_on": "board", "style": "Bold", "look": "late"},
         "board": {"family": "Quillmere Sans", "size": 28, "line_spacing": 1.15, "align": "end", "box": [420, 160],
                   "overflow": "smaller", "smallest": 18, "look": "board", "features": {"tnum": 1}, "tracking": 2})"));
  REQUIRE(styles.has_value());
  const NamedStyle& late = (*styles)[0];
  CHECK(late.name == "late");
  CHECK(late.span.font.family == "Quillmere Sans");
  CHECK(late.span.font.weight == 700.0F);
  CHECK(late.span.look == "late");
  CHECK(late.span.size == 28.0F);
  CHECK(late.text.size == 28);
  CHECK(late.text.align == TextAlign::end);
  CHECK(late.text.wrap == 420.0F);
  CHECK(late.text.box_height == 160.0F);
  CHECK(late.text.overflow == Overflow::smaller);
  CHECK(late.text.min_size == 18);
  CHECK(late.text.tracking == 2);
  CHECK(late.text.features == std::vector<FeatureSetting>{{tag("tnum"), 1}});
}

TEST_CASE("a style says how lines run", "[styles]") {
  const auto styles = read_styles(file(
      R"("sign": {"writing": "vertical-rl", "stance": "upright", "digits_across": 2, "halve_ends": true, "script_gaps": true})"));
  REQUIRE(styles.has_value());
  const TextStyle& style = (*styles)[0].text;
  CHECK(style.writing == WritingMode::vertical_rl);
  CHECK(style.stance == LetterStance::upright);
  CHECK(style.digits_across == 2);
  CHECK(style.halve_ends);
  CHECK(style.script_gaps);
  CHECK_FALSE(read_styles(file(R"("sign": {"digits_across": 5})")).has_value());
  CHECK_FALSE(read_styles(file(R"("sign": {"writing": "downward"})")).has_value());
}

TEST_CASE("errors of a style file name the style and what was expected", "[styles][hostile]") {
  const auto [styles, expected] = GENERATE(table<const char*, const char*>(
      {{R"("a": {"based_on": "b"}, "b": {"based_on": "a"})", "based on itself"},
       {R"("board": {}, "a": {"based_on": "baord"})", "did you mean 'board'"},
       {R"("a": {"size": -3})", "'size'"},
       {R"("a": {"size": 1e99})", "'size'"},
       {R"("a": {"align": "middle"})", "left, center"},
       {R"("a": {"features": [1]})", "tnum"},
       {R"("a": {"features": {"toolong": 1}})", "four letters"},
       {R"("a": {"box": [1]})", "two numbers"},
       {R"("a": 3)", "an object"}}));
  const auto read = read_styles(file(styles));
  REQUIRE_FALSE(read.has_value());
  INFO(describe(read.error()));
  CHECK(describe(read.error()).find(expected) != std::string::npos);
}

TEST_CASE("a field that is not known is noted with the nearest", "[styles]") {
  Notes notes;
  REQUIRE(read_styles(file(R"("a": {"algin": "left"})"), &notes).has_value());
  REQUIRE(notes.all().size() == 1);
  CHECK(describe(notes.all()[0]).find("'align'") != std::string::npos);
}

TEST_CASE("a file that can't be read changes no style of a book", "[styles]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("good.json"), file(R"("a": {"size": 20})")).has_value());
  REQUIRE(save_text(folder.path("bad.json"), file(R"("a": {"size": 10}, "b": {"size": 0})")).has_value());
  StyleBook book;
  REQUIRE(load_styles(folder.path("good.json"), book).has_value());
  CHECK_FALSE(load_styles(folder.path("bad.json"), book).has_value());
  CHECK(book.find("a")->text.size == 20);
  CHECK(load_style(folder.path("good.json") + "#a").has_value());
  CHECK(load_style(folder.path("good.json"))->text.size == 20);
  CHECK_FALSE(load_style(folder.path("good.json") + "#b").has_value());
}
