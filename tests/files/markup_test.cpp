// SPDX-License-Identifier: MIT
// Markup becomes text with spans; what is not markup is an error with line and column.
#include "grafema/files/markup.hpp"

#include <catch2/catch.hpp>

#include "grafema/text/shaped_text.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

RichText read_words(std::string_view text, const MarkupNames& names = {}, Notes* notes = nullptr) {
  const auto rich = read_markup(text, names, notes);
  if (!rich) FAIL(describe(rich.error()));
  return *rich;
}

std::string error_of(std::string_view text) {
  const auto rich = read_markup(text);
  REQUIRE_FALSE(rich.has_value());
  return describe(rich.error());
}

}  // namespace

TEST_CASE("elements become spans over the bytes of the plain text", "[markup]") {
  const RichText rich = read_words("Mind <b>the <i>gap</i></b>, x<sup>2</sup>");
  CHECK(rich.text == "Mind the gap, x2");
  REQUIRE(rich.spans.size() == 3);
  CHECK(rich.spans[0].start == 5);
  CHECK(rich.spans[0].end == 12);
  CHECK(rich.spans[0].style.font.weight == 700.0F);
  CHECK(rich.spans[1].start == 9);
  CHECK(rich.spans[1].style.font.slant == Slant::italic);
  CHECK(rich.spans[2].start == 15);
  CHECK(rich.spans[2].style.raise > 0);
}

TEST_CASE("every element of the language is read", "[markup]") {
  StyleBook styles;
  SpanStyle shout;
  shout.scale = 2;
  REQUIRE(styles.set({.name = "shout", .span = shout}).has_value());
  IconBook icons;
  icons.set("bell", Icon{});
  const auto value = [](std::string_view name, RichText& out) {
    if (name != "minutes") return false;
    out.append("3");
    return true;
  };
  Notes notes;
  const RichText rich = read_words(
      "<u>u</u><s>s</s><sub>b</sub><small>m</small><br/><span class=\"shout\" lang=\"de\" "
      "motion=\"rattle\">S</span>"
      "<a href=\"stop-4\">link</a><img src=\"bell\"/><var name=\"minutes\"/><wait s=\"0.5\"/>end",
      {&styles, &icons, value}, &notes);
  CHECK(rich.text ==
        "usbm\nSlink\xEF\xBF\xBC"
        "3end");
  CHECK(rich.spans[0].style.underline);
  CHECK(rich.spans[1].style.strike);
  CHECK(rich.spans[4].style.scale == 2);
  CHECK(rich.spans[4].style.language == "de");
  CHECK(rich.spans[4].style.motion == "rattle");
  CHECK(rich.spans[5].style.link == "stop-4");
  REQUIRE(rich.icons.size() == 1);
  CHECK(rich.icons[0].name == "bell");
  REQUIRE(rich.pauses.size() == 1);
  CHECK(rich.pauses[0].seconds == 0.5F);
  CHECK(rich.pauses[0].position == rich.text.size() - 3);
  CHECK(notes.empty());
}

TEST_CASE("references stand for their characters, and comments for nothing", "[markup]") {
  CHECK(read_words("Hemp &amp; Pitch &lt;Yard&gt; &#x416;&#1078; &quot;&apos;<!-- no -->.").text ==
        "Hemp & Pitch <Yard> \xD0\x96\xD0\xB6 \"'.");
  CHECK(read_words("<b><![CDATA[a < b & c]]></b>").text == "a < b & c");
}

TEST_CASE("text that is escaped and read again is the same", "[markup][property]") {
  const std::string text = GENERATE(as<std::string>{}, "a < b && c > d", "<b>no</b>", "\"quoted\" 'text'",
                                    "&amp;", "\xD0\x96 4 Lantern\nN1");
  CHECK(read_words(escape_markup(text)).text == text);
}

TEST_CASE("what is not well-formed names line and column and what was expected", "[markup][hostile]") {
  const auto [text, place, expected] = GENERATE(table<const char*, const char*, const char*>(
      {{"a\nb <b>c</i>", "line 2", "end tag"},
       {"<b>never ended", "", "end tag"},
       {"tea & biscuits", "line 1, column 5", "&amp;"},
       {"<b>&nope;</b>", "line 1, column 4", "&nope;"},
       {"<smal>x</smal>", "line 1, column 2", "did you mean 'small'"},
       {"<span clas=\"x\">y</span>", "line 1, column 7", "'class'"},
       {"<span class=\"x\" class=\"y\">y</span>", "line 1, column 17", "again"},
       {"<span class=x>y</span>", "line 1", "name=\"value\""},
       {"<img/>", "line 1, column 2", "src"},
       {"<wait s=\"soon\"/>", "line 1", "seconds"},
       {"<br>x</br>", "line 1", "empty element"},
       {"<!DOCTYPE x [<!ENTITY a \"b\">]><b>&a;</b>", "", "DOCTYPE"},
       {"<?xml version=\"1.0\"?>x", "", "declaration"},
       {"1 < 2 <b>x</b>", "line 1", "&lt;"},
       {"<b>&#0;</b>", "line 1", "&#x41;"},
       {"<b>&#xD800;</b>", "line 1", "&#x41;"}}));
  const std::string error = error_of(text);
  INFO(text << " -> " << error);
  CHECK(error.find(place) != std::string::npos);
  CHECK(error.find(expected) != std::string::npos);
}

TEST_CASE("names that are not known are noted with the nearest, and the text stays", "[markup]") {
  StyleBook styles;
  REQUIRE(styles.set({.name = "shout"}).has_value());
  IconBook icons;
  icons.set("bell", Icon{});
  Notes notes;
  const RichText rich = read_words("<span class=\"shuot\">Mind</span> <img src=\"bel\"/> <var name=\"n\"/>",
                                   {&styles, &icons}, &notes);
  CHECK(rich.text == "Mind \xEF\xBF\xBC {n}");
  REQUIRE(notes.all().size() == 3);
  CHECK(describe(notes.all()[0]).find("did you mean 'shout'") != std::string::npos);
  CHECK(describe(notes.all()[1]).find("did you mean 'bell'") != std::string::npos);
  CHECK(describe(notes.all()[2]).find("line 1, column") != std::string::npos);
}

TEST_CASE("markup that can't be read shows its plain text with a note", "[markup]") {
  Notes notes;
  const RichText rich = markup_or_plain("Mind <b>the gap<br/>now &amp; then", {}, &notes);
  CHECK(rich.text == "Mind the gap\nnow & then");
  CHECK(rich.spans.empty());
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::bad_markup);
}

TEST_CASE("deep nesting, long attributes and nuls are refused or bounded", "[markup][hostile]") {
  std::string deep;
  for (int i = 0; i < 10000; ++i) deep += "<b>";
  deep += "x";
  for (int i = 0; i < 10000; ++i) deep += "</b>";
  CHECK(error_of(deep).find("64 deep") != std::string::npos);
  const std::string name(1 << 20, 'n');
  Notes notes;
  CHECK(read_words("<span class=\"" + name + "\">x</span>", {}, &notes).text == "x");
  CHECK(error_of(std::string("a<b>\0</b>", 9)).find("U+0000") != std::string::npos);
  CHECK(markup_or_plain(deep).text == "x");
}
