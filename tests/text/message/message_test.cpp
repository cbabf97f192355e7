// SPDX-License-Identifier: MIT
// Messages: patterns, values, plurals, dates, lists, fallback between languages.
#include "grafema/text/message.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/text_scene.hpp"
#include "grafema/files/markup.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::string made(const std::string& language, std::string_view pattern, const MessageValues& values = {},
                 Notes* notes = nullptr) {
  MessageBook book;
  book.set_language(language);
  RichText out;
  book.format_pattern(pattern, values, out, {}, notes);
  return out.text;
}

Catalog catalog(const std::string& language,
                std::initializer_list<std::pair<const char*, const char*>> messages) {
  Catalog out{language, {}};
  for (const auto& [id, pattern] : messages) out.messages.push_back({.id = id, .pattern = pattern});
  return out;
}

constexpr const char* kLate = "{n, plural, =0 {on time} one {# minute late} other {# minutes late}}";
constexpr double kNoon = 1790942400;  // 2026-10-02 12:00 UTC, a Friday

}  // namespace

TEST_CASE("plural forms are those of the language", "[message]") {
  CHECK(made("en", kLate, {{"n", 0}}) == "on time");
  CHECK(made("en", kLate, {{"n", 1}}) == "1 minute late");
  CHECK(made("en", kLate, {{"n", 3}}) == "3 minutes late");
  constexpr const char* kPolish =
      "{n, plural, one {# minuta} few {# minuty} many {# minut} other {# minuty}}";
  CHECK(made("pl", kPolish, {{"n", 1}}) == "1 minuta");
  CHECK(made("pl", kPolish, {{"n", 3}}) == "3 minuty");
  CHECK(made("pl", kPolish, {{"n", 5}}) == "5 minut");
  CHECK(made("pl", kPolish, {{"n", 22}}) == "22 minuty");
  CHECK(made("en", "{n, selectordinal, one {#st} two {#nd} few {#rd} other {#th}} stop", {{"n", 23}}) ==
        "23rd stop");
  CHECK(made("en", "{n, plural, offset:1 =1 {you} one {you and # more} other {you and # more}}",
             {{"n", 3}}) == "you and 2 more");
}

TEST_CASE("numbers, money, shares and units are written as the language does", "[message]") {
  CHECK(made("en", "{n, number}", {{"n", 1234567.5}}) == "1,234,567.5");
  CHECK(made("de", "{n}", {{"n", 1234567}}) == "1.234.567");
  CHECK(made("hi", "{n}", {{"n", 1234567}}) == "12,34,567");
  CHECK(made("ar-EG", "{n}", {{"n", 12}}) == "\xD9\xA1\xD9\xA2");
  CHECK(made("en", "{n, number, percent}", {{"n", 0.25}}) == "25%");
  CHECK(made("en", "{n, number, ::currency/EUR}", {{"n", 2.5}}) ==
        "\xE2\x82\xAC"
        "2.50");
  CHECK(made("en", "{n, number, ::unit/minute unit-width-full-name}", {{"n", 3}}) == "3 minutes");
  CHECK(made("de", "{n, number, ::unit/minute unit-width-full-name}", {{"n", 3}}) == "3 Minuten");
  CHECK(made("en", "{n, number, #,##0.00}", {{"n", 1234.5}}) == "1,234.50");
  CHECK(made("en", "{n, spellout}", {{"n", 21}}) == "twenty-one");
  // Beyond 2^53 in digits.
  for (const char* type : {"spellout", "ordinal"}) {
    const std::string pattern = "{n, " + std::string(type) + "}";
    CHECK(made("en", pattern.c_str(), {{"n", 1e20}}) == "100,000,000,000,000,000,000");
    CHECK(made("en", pattern.c_str(), {{"n", -1e308}}).size() == 1 + 309 + 102);
  }
}

TEST_CASE("dates, times, weekdays, durations and lists", "[message]") {
  CHECK(made("en", "{t, date, ::EEEE}", {{"t", MessageValue::date(kNoon)}}) == "Friday");
  CHECK(made("de", "{t, date, ::EEEE}", {{"t", MessageValue::date(kNoon)}}) == "Freitag");
  CHECK(made("en", "{t, time, ::Hmm}", {{"t", MessageValue::date(kNoon)}}) == "12:00");
  CHECK(made("de", "{t, date, long}", {{"t", MessageValue::date(kNoon)}}) == "2. Oktober 2026");
  CHECK(made("en", "{t, duration}", {{"t", 3725}}) == "1:02:05");
  CHECK(made("en", "{t, duration, long}", {{"t", 125}}) == "2 minutes, 5 seconds");
  const MessageValue stops = MessageValue::list({"Foxglove Cross", "Pale Orchard", "Marrow Hill"});
  CHECK(made("en", "{s, list}", {{"s", stops}}) == "Foxglove Cross, Pale Orchard, and Marrow Hill");
  CHECK(made("de", "{s, list, or}", {{"s", stops}}) == "Foxglove Cross, Pale Orchard oder Marrow Hill");
  CHECK(made("en", "{who, select, she {her} he {his} other {their}} tram", {{"who", "he"}}) == "his tram");
}

TEST_CASE("a time zone moves the clock, and a clock tells when its text changes", "[message]") {
  MessageBook book;
  book.set_time_zone("America/New_York");
  RichText out;
  book.set_clock(kNoon + 61.5);
  const MessageValues values{{"now", MessageValue::clock()}};
  CHECK(book.format_pattern("{now, time, ::Hmm}", values, out) == kNoon + 120);
  CHECK(out.text == "08:01");
  CHECK(book.format_pattern("{now, time, ::Hmmss}", values, out) == kNoon + 62);
  CHECK(book.format_pattern("{now, date, ::EEEE}", values, out) == kNoon + 16 * 3600);  // midnight there
  CHECK(book.format_pattern("{now, date, ::EEEE} {now, time, ::Hmm}", values, out) == kNoon + 120);
  CHECK(std::isinf(book.format_pattern("Friday", values, out)));
  CHECK(std::isinf(book.format_pattern("{t, time, ::Hmm}", {{"t", MessageValue::date(kNoon)}}, out)));
}

TEST_CASE("values that are missing, of the wrong kind or not finite are noted and the text stays",
          "[message][hostile]") {
  const auto [pattern, words, noted] = GENERATE(
      table<const char*, const char*, const char*>({{"Line {line}", "Line {line}", "no value 'line'"},
                                                    {"{n, plural, other {# late}}", "{n}", "no value 'n'"},
                                                    {"{nan} late", "- late", "not finite"},
                                                    {"{nan, plural, other {# late}}", "- late", "not finite"},
                                                    {"{text, plural, other {late}}", "late", "no number"},
                                                    {"{one, number, ::nonsense-here}", "{one}", "skeleton"},
                                                    {"{one, fraction}", "{one}", "number, date"},
                                                    {"{nan, date, short}", "-", "not finite"}}));
  Notes notes;
  CHECK(made("en", pattern, {{"nan", NAN}, {"text", "x"}, {"one", 1}}, &notes) == words);
  REQUIRE_FALSE(notes.empty());
  CHECK(describe(notes.all()[0]).find(noted) != std::string::npos);
}

TEST_CASE("patterns that make no sense name line and column", "[message][hostile]") {
  const auto [pattern, place] =
      GENERATE(table<const char*, const char*>({{"a {n", "line 1"},
                                                {"x\n{n, plural, one {a}", "line 2"},
                                                {"{n, choice, 0#none|1#one}", "line 1, column 1"},
                                                {"{n, plural, one a}", "line 1"},
                                                {"{n n}", "line 1"}}));
  const auto message = Message::parse(pattern);
  REQUIRE_FALSE(message.has_value());
  INFO(describe(message.error()));
  CHECK(describe(message.error()).find(place) != std::string::npos);
  Notes notes;
  CHECK(made("en", pattern, {}, &notes) == pattern);
  CHECK(notes.all().size() == 1);
}

TEST_CASE("choices nested without end are refused", "[message][hostile]") {
  std::string pattern = "x";
  for (int i = 0; i < 2000; ++i) pattern = "{a,select,other{" + pattern + "}}";
  CHECK_FALSE(Message::parse(pattern).has_value());
  CHECK_FALSE(Message::parse(std::string(1 << 20, '{')).has_value());
}

TEST_CASE("arguments and words of a pattern can be asked for", "[message]") {
  const auto message =
      Message::parse("To {stop}: {n, plural, one {<b>#</b> minute} other {# minutes}} {t, time, short}");
  REQUIRE(message.has_value());
  const auto arguments = message->arguments();
  REQUIRE(arguments.size() == 3);
  CHECK(arguments[0].name == "stop");
  CHECK(arguments[1].type == "plural");
  CHECK(arguments[1].cases == std::vector<std::string>{"one", "other"});
  CHECK(arguments[2].type == "time");
}

TEST_CASE("a language falls back to its parents and then to the source", "[message]") {
  MessageBook book;
  book.add(catalog("en", {{"bye", "Bye"}, {"late", kLate}, {"only", "Only {n}"}}));
  book.add(catalog("pt", {{"bye", "Tchau"}, {"late", "{n, plural, one {# minuto} other {# minutos}}"}}));
  book.add(catalog("pt-BR", {{"bye", "Falou"}}));
  book.set_language("pt-BR");
  RichText out;
  book.format("bye", {}, out);
  CHECK(out.text == "Falou");
  book.format("late", {{"n", 2}}, out);
  CHECK(out.text == "2 minutos");
  book.format("only", {{"n", 1234}}, out);
  CHECK(out.text == "Only 1,234");  // in the numbers of the language that it is written in
  Notes notes;
  book.format("nowhere", {}, out, {}, &notes);
  CHECK(out.text == "nowhere");
  CHECK(notes.all().size() == 1);
}

TEST_CASE("markup in patterns is read, values in it are not", "[message][markup]") {
  MessageBook book;
  book.set_markup(markup_or_plain);
  Icon bell;
  const MessageValues values{{"stop", "Hemp & <Pitch> Yard"},
                             {"bell", MessageValue::icon(bell, "bell")},
                             {"inner", MessageValue::message("inner")},
                             {"n", 2}};
  book.add(catalog("en", {{"inner", "<i>{n}</i> stops"}}));
  RichText out;
  book.format_pattern("<b>{stop}</b> {bell} {inner}", values, out);
  CHECK(out.text == "Hemp & <Pitch> Yard \xEF\xBF\xBC 2 stops");
  REQUIRE(out.spans.size() == 2);
  CHECK(out.icons.size() == 1);
  CHECK(out.text.substr(out.spans[1].start, out.spans[1].end - out.spans[1].start) == "2");
  book.format_pattern("{stop} &amp; more", values, out);
  CHECK(out.text == "Hemp & <Pitch> Yard & more");
}

TEST_CASE("a name that runs against the language is kept apart from digits beside it", "[message]") {
  const std::string hebrew = "\xD7\x90\xD7\x91\xD7\x92";
  CHECK(made("en", "{name}: {n}", {{"name", "Wren"}, {"n", 3}}) == "Wren: 3");
  const std::string text = made("en", "{name}: {n}", {{"name", hebrew}, {"n", 3}});
  CHECK(text == "\xE2\x81\xA8" + hebrew + "\xE2\x81\xA9: 3");
  CHECK(made("he", "{name}: {n}", {{"name", hebrew}, {"n", 3}}) == hebrew + ": 3");
  CHECK(made("he", "{name}!", {{"name", "Wren"}}) == "\xE2\x81\xA8Wren\xE2\x81\xA9!");
  CHECK(made("he", "{name}!", {{"name", "12"}}) == "12!");
  // The digit stands on the right of the name, as in an English line.
  ShapeCache cache;
  Paragraph p;
  Notes notes;
  TextStyle style;
  style.direction = TextDirection::left_to_right;
  REQUIRE(lay_out(FontStack{test::dejavu()}, text, style, cache, p, &notes).has_value());
  CHECK(notes.empty());
  CHECK(p.glyphs.back().glyph == test::dejavu()->find_glyph(U'3'));
}

TEST_CASE("a message that holds itself ends", "[message][hostile]") {
  MessageBook book;
  book.set_markup(markup_or_plain);
  book.add(catalog("en", {{"loop", "a{loop}"}}));
  RichText out;
  book.format("loop", {{"loop", MessageValue::message("loop")}}, out);
  CHECK(out.text.size() < 100);
}

TEST_CASE("numbers in the signs of a language read as they should", "[message][number]") {
  NumberText text;
  CHECK(write_number(-1234567.891, number_format("en", 2), text) == "-1,234,567.89");
  CHECK(write_number(1234, number_format("es"), text) == "1234");  // Spanish groups from five digits on
  CHECK(write_number(12345, number_format("es"), text) == "12.345");
  CHECK(write_number(1234567, number_format("hi"), text) == "12,34,567");
  CHECK(write_number(45, number_format("ar-EG"), text) == "\xD9\xA4\xD9\xA5");
  CHECK(write_number(1e18, number_format("en", 9), text) == "1,000,000,000,000,000,000.000000000");
  CHECK(write_number(7, number_format("no such language!"), text) == "7");
}

TEST_CASE("a label follows its message: values, language, clock, catalogs", "[message][label]") {
  TextContext context(FontStack{test::dejavu()}, nullptr);
  MessageBook& book = context.messages();
  book.set_markup(markup_or_plain);
  book.add(
      catalog("en", {{"late", kLate}, {"clock", "{now, time, ::Hmmss}"}, {"mind", "Mind <b>the</b> gap"}}));
  book.add(catalog("de", {{"late", "{n, plural, one {# Minute} other {# Minuten}} zu sp\xC3\xA4t"}}));
  TextScene words(context);
  Label label = words.add();
  label.set_message("late");
  label.set_value("n", 3);
  (void)label.paragraph();
  CHECK(label.text() == "3 minutes late");
  (void)label.paragraph();
  CHECK(words.work().layouts == 1);
  label.set_value("n", 1);
  (void)label.paragraph();
  CHECK(label.text() == "1 minute late");
  book.set_language("de");
  (void)label.paragraph();
  CHECK(label.text() == "1 Minute zu sp\xC3\xA4t");
  CHECK(label.style().language == "de");
  book.add(catalog("de", {{"late", "{n} sp\xC3\xA4t"}}));
  (void)label.paragraph();
  CHECK(label.text() == "1 sp\xC3\xA4t");

  Label clock = words.add();
  clock.set_message("clock");
  clock.set_value("now", MessageValue::clock());
  book.set_language("en");
  book.set_clock(kNoon);
  CHECK(clock.next_change() == kNoon + 1);
  (void)clock.paragraph();
  const std::uint64_t layouts = words.work().layouts;
  book.set_clock(kNoon + 0.9);
  (void)clock.paragraph();
  CHECK(words.work().layouts == layouts);
  book.set_clock(kNoon + 1);
  (void)clock.paragraph();
  CHECK(clock.text() == "12:00:01");
  clock.set_message("mind");
  (void)clock.paragraph();
  CHECK(clock.rich().spans.size() == 1);
}

TEST_CASE("a label takes a named style and follows it", "[label][styles]") {
  TextContext context(FontStack{test::dejavu()}, nullptr);
  REQUIRE(context.looks().set("board", plain_look({1, 0, 0, 1})).has_value());
  NamedStyle style{.name = "board"};
  style.text.size = 20;
  style.span.look = "board";
  REQUIRE(context.styles().set(style).has_value());
  TextScene words(context);
  Label label = words.add("4 Lantern");
  CHECK_FALSE(label.use_style("baord").has_value());
  REQUIRE(label.use_style("board").has_value());
  CHECK(label.style().size == 20);
  CHECK(label.look() == *context.looks().read("board"));
  style.text.size = 30;
  REQUIRE(context.styles().set(style).has_value());
  CHECK(label.paragraph().size == 30);
}

TEST_CASE("a clock that nobody set is noted", "[message]") {
  MessageBook book;
  RichText out;
  const MessageValues values{{"now", MessageValue::clock()}};
  const auto notes = [&] {
    Notes found;
    book.format_pattern("{now, time, ::Hmm}", values, out, {}, &found);
    return found.all().size();
  };
  CHECK(notes() == 1);
  book.set_clock(kNoon);
  CHECK(notes() == 0);
}
