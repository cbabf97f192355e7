// SPDX-License-Identifier: MIT
// Catalogs as JSON and PO, and what is found by holding them against each other.
#include "grafema/files/catalog_file.hpp"

#include <catch2/catch.hpp>

#include "grafema/files/markup.hpp"
#include "grafema/text/message_check.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

const CatalogMessage* find(const Catalog& catalog, const std::string& id) {
  for (const CatalogMessage& message : catalog.messages) {
    if (message.id == id) return &message;
  }
  return nullptr;
}

Catalog catalog_of(const std::string& text, const std::string& language = "en") {
  const auto read = read_json_catalog(text, language);
  if (!read) FAIL(describe(read.error()));
  return *read;
}

std::vector<MessageFault> faults(std::vector<Catalog> catalogs, MessageCheck check = {}) {
  check.markup = markup_or_plain;
  return check_messages(catalogs, check);
}

bool has(const std::vector<MessageFault>& all, MessageFaultKind kind, const std::string& id,
         const std::string& words = {}) {
  return std::any_of(all.begin(), all.end(), [&](const MessageFault& f) {
    return f.kind == kind && f.id == id && f.text.find(words) != std::string::npos;
  });
}

}  // namespace

TEST_CASE("a JSON catalog has nested ids, messages with style and example, and lines", "[catalog]") {
  const Catalog catalog = catalog_of(R"({
    "bye": "Bye",
    "board": {"late": "Late",
              "next": {"text": "Next: {stop}", "style": "sign", "example": {"stop": "Pale Orchard", "n": 3,
                       "when": {"date": "2026-10-02T12:00:00Z"}, "all": ["a", "b"]}}}})");
  REQUIRE(catalog.messages.size() == 3);
  CHECK(find(catalog, "bye")->line == 2);
  CHECK(find(catalog, "board.late")->pattern == "Late");
  const CatalogMessage* next = find(catalog, "board.next");
  CHECK(next->line == 4);
  CHECK(next->style == "sign");
  CHECK(next->example.find("stop")->text() == "Pale Orchard");
  CHECK(next->example.find("n")->number() == 3);
  CHECK(next->example.find("when")->number() == 1790942400);
  CHECK(next->example.find("all")->texts().size() == 2);
}

TEST_CASE("JSON catalogs that make no sense are refused with the id", "[catalog][hostile]") {
  const auto [text, expected] = GENERATE(table<std::string, std::string>(
      {{R"({"a": "x", "a": "y"})", "'a' again in line 1"},
       {R"({"a": 3})", "'a'"},
       {R"({"a": {"text": "x", "stlye": "y"}})", "'stlye'"},
       {R"({"a": {"text": "x", "example": {"t": {"date": "tomorrow"}}}})", "2026-10-02"},
       {R"(["a"])", "an object"},
       {"{\"a\": \"\xFF\"}", "UTF-8"},
       {"\xFF\xFE{\0}", "UTF-8"}}));
  const auto read = read_json_catalog(text, "en");
  REQUIRE_FALSE(read.has_value());
  INFO(describe(read.error()));
  CHECK(describe(read.error()).find(expected) != std::string::npos);
}

TEST_CASE("a PO catalog takes contexts for ids, joins strings and leaves out what is not translated",
          "[catalog]") {
  const auto read = read_po_catalog(R"(# a comment
msgid ""
msgstr ""
"Language: pt_BR\n"
"Content-Type: text/plain; charset=UTF-8\n"

#: board.cpp:3
msgctxt "board.late"
msgid "Late"
msgstr ""
"Atra"
"sado\n\"hoje\""

msgid "Bye"
msgstr "Tchau"

#, fuzzy
msgid "Old"
msgstr "Velho"

msgid "New"
msgstr ""

#~ msgid "Gone"
#~ msgstr "Foi"
)");
  REQUIRE(read.has_value());
  CHECK(read->language == "pt-BR");
  REQUIRE(read->messages.size() == 2);
  CHECK(read->messages[0].id == "board.late");
  CHECK(read->messages[0].pattern == "Atrasado\n\"hoje\"");
  CHECK(read->messages[1].id == "Bye");
}

TEST_CASE("PO files that make no sense name the line", "[catalog][hostile]") {
  const auto [text, expected] = GENERATE(table<const char*, const char*>(
      {{"msgid \"a\"\n", "msgstr behind msgid"},
       {"msgstr \"a\"\n", "line 1"},
       {"msgid \"a\nmsgstr \"b\"\n", "line 1"},
       {"msgid \"a\\q\"\nmsgstr \"\"", "line 1"},
       {"msgid \"a\"\nmsgid_plural \"b\"\n", "plural"},
       {"msgid \"a\"\nmsgstr \"b\"\n\nmsgid \"a\"\nmsgstr \"c\"\n", "again in line 4"},
       {"hello\n", "line 1"},
       {"msgid \"\"\nmsgstr \"Content-Type: text/plain; charset=latin1\\n\"\n", "UTF-8"}}));
  const auto read = read_po_catalog(text);
  REQUIRE_FALSE(read.has_value());
  INFO(describe(read.error()));
  CHECK(describe(read.error()).find(expected) != std::string::npos);
}

TEST_CASE("ids that a PO file lacks are put behind it, and it stays readable", "[catalog][property]") {
  const Catalog source = catalog_of(R"({"a": "one \"two\"\n{n}", "b": "B\\t"})");
  const std::string old = "msgctxt \"b\"\nmsgid \"B\"\nmsgstr \"Be\"\n";
  const std::string text = add_to_po(old, source, "de");
  CHECK(text.substr(0, old.size()) == old);
  CHECK(add_to_po(text, source, "de") == text);
  CHECK(read_po_catalog(text)->messages.size() == 1);
  const std::string fresh = add_to_po("", source, "de");
  const auto read = read_po_catalog(fresh);
  REQUIRE(read.has_value());
  CHECK(read->language == "de");
  CHECK(fresh.find("msgid \"one \\\"two\\\"\\n{n}\"") != std::string::npos);
}

TEST_CASE("a file's name says its language", "[catalog]") {
  CHECK(language_of_file("data/pt-BR.json") == "pt-BR");
  CHECK(language_of_file("pt_BR.po") == "pt-BR");
  CHECK(language_of_file("strings_de.json") == "de");
  CHECK(language_of_file("game.en.json") == "en");
  CHECK(language_of_file("messages.json").empty());
}

TEST_CASE("what a catalog lacks, has too much or says otherwise is found", "[catalog][check]") {
  const Catalog en =
      catalog_of(R"({"late": "{n, plural, one {# minute} other {# minutes}} <b>late</b>", "bye": "Bye {who}",
                              "gone": "x"})");
  const Catalog pl =
      catalog_of(R"({"late": "{n, plural, one {# minuta} other {# minuty}}", "bye": "Pa {kto}", "more": "y",
                              "bad": "{"})",
                 "pl");
  const auto all = faults({en, pl});
  CHECK(has(all, MessageFaultKind::missing, "gone"));
  CHECK(has(all, MessageFaultKind::spare, "more"));
  CHECK(has(all, MessageFaultKind::pattern, "bad", "line 1"));
  CHECK(has(all, MessageFaultKind::values, "bye", "'who'"));
  CHECK(has(all, MessageFaultKind::values, "bye", "'kto'"));
  CHECK(has(all, MessageFaultKind::plural_form, "late", "few, many"));
  CHECK(has(all, MessageFaultKind::markup, "late", "<b>"));
  CHECK(std::none_of(all.begin(), all.end(), [](const MessageFault& f) { return f.language == "en"; }));
}

TEST_CASE("numbers by themselves cover a plural form that is theirs alone", "[catalog][check]") {
  const Catalog en = catalog_of(R"({"late": "{n, plural, =1 {a minute} other {# minutes}}"})");
  CHECK(faults({en}).empty());
}

TEST_CASE("markup that is damaged in one plural form alone is found", "[catalog][check]") {
  const Catalog en = catalog_of(R"({"a": "{n, plural, one {<b>one</b>} other {<b>many}}"})");
  CHECK(has(faults({en}), MessageFaultKind::markup, "a", "end tag"));
}

TEST_CASE("text that does not fit its box is found with the pixels that stand out", "[catalog][check]") {
  StyleBook styles;
  NamedStyle box{.name = "box"};
  box.text.size = 20, box.text.wrap = 100, box.text.box_height = 30;
  REQUIRE(styles.set(box).has_value());
  MessageCheck check;
  check.fonts = FontStack{test::dejavu()};
  check.styles = &styles;
  const Catalog en = catalog_of(R"({"fits": {"text": "Bye", "style": "box"},
                              "wide": {"text": "Donaudampfschifffahrt", "style": "box"},
                              "high": {"text": "Bye bye bye bye {who}", "style": "box", "example": {"who": "Tomek"}},
                              "lost": {"text": "x", "style": "bxo"}})");
  const auto all = faults({en}, check);
  REQUIRE(all.size() == 3);
  const auto of = [&](const std::string& id) {
    return *std::find_if(all.begin(), all.end(), [&](const MessageFault& f) { return f.id == id; });
  };
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(check.fonts, "Donaudampfschifffahrt", {.size = 20}, cache, p).has_value());
  CHECK(of("wide").over_x == Approx(p.advance_box.width() - 100));
  CHECK(of("wide").over_y == 0);
  CHECK(of("high").over_y > 10);
  CHECK(of("high").shown.text == "Bye bye bye bye Tomek");
  CHECK(of("lost").kind == MessageFaultKind::name);
}

TEST_CASE("characters that no face has are found by message", "[catalog][check]") {
  MessageCheck check;
  check.fonts = FontStack{built_in_face()};
  const auto all = faults({catalog_of("{\"a\": \"\xE0\xA4\x95\", \"b\": \"b\"}")}, check);
  REQUIRE(all.size() == 1);
  CHECK(has(all, MessageFaultKind::character, "a", "U+0915"));
}

TEST_CASE("the invented language is longer, accented, and asks for the same", "[catalog][check][property]") {
  const Catalog en = catalog_of(
      R"({"a": "Mind the <b>gap</b> &amp; {name}, it''s {n, plural, offset:1 =0 {now} one {# minute} other {# minutes}}",
          "b": "{w, select, a {it is # 1} other {'{'no'}'}} {t, time, ::Hmm}"})");
  const Catalog pseudo = make_pseudo(en);
  REQUIRE(pseudo.messages.size() == 2);
  CHECK(pseudo.messages[0].pattern.find("<b>") != std::string::npos);
  CHECK(faults({en, pseudo}).empty());
  MessageBook book;
  RichText plain, odd;
  const MessageValues values{{"name", "X"}, {"n", 4}, {"w", "b"}, {"t", 0}};
  for (std::size_t i = 0; i < 2; ++i) {
    book.format_pattern(en.messages[i].pattern, values, plain);
    book.format_pattern(pseudo.messages[i].pattern, values, odd);
    CHECK(odd.text.size() > plain.text.size());
    CHECK(odd.text != plain.text);
  }
  CHECK(odd.text.find("{\xC3\xB1") != std::string::npos);  // a quoted brace stays one, its letters accented
}
