// SPDX-License-Identifier: MIT
// Lines in a box: breaking, alignment, justification, tabs, overflow, reserved widths, carets.
#include <catch2/catch.hpp>
#include <cmath>
#include <numeric>

#include "grafema/text/shaped_text.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

struct Laid {
  std::string text;
  Paragraph p;
  Notes notes;

  std::vector<std::string> lines() const {
    std::vector<std::string> out;
    for (const Line& line : p.lines) out.push_back(text.substr(line.start, line.end - line.start));
    return out;
  }
};

const FontStack& sans() {
  static const FontStack stack{test::dejavu()};
  return stack;
}

Laid lay(std::string text, const TextStyle& style, const FontStack& stack = sans()) {
  Laid out;
  out.text = std::move(text);
  ShapeCache cache;
  REQUIRE(lay_out(stack, out.text, style, cache, out.p, &out.notes).has_value());
  return out;
}
float width(const std::string& text, TextStyle style = {}) { return lay(text, style).p.advance_box.width(); }
bool has(const Notes& notes, NoteKind kind) {
  return std::any_of(notes.all().begin(), notes.all().end(), [&](const Note& n) { return n.kind == kind; });
}

const std::string kNotice = "Passengers for Pale Orchard may ride the ferry with a tram ticket.";

}  // namespace

TEST_CASE("wrapped lines fit, and hold every byte once", "[lines][property]") {
  const float wrap = GENERATE(90.0F, 180.0F, 333.0F, 1000.0F);
  const std::string text = GENERATE_COPY(
      as<std::string>{}, kNotice, kNotice + "\n\n" + kNotice + "\n", std::string("a b  c   "),
      std::string("\xD7\x94\xD7\xA2\xD7\xA8\xD7\xA4\xD7\x9C tram 7, \xD7\x99\xD7\x95\xD7\xA8\xD7\x93 4."));
  const Laid laid = lay(text, {.size = 20, .wrap = wrap});
  std::uint32_t at = 0;
  for (const Line& line : laid.p.lines) {
    CHECK(line.start == at);
    at = line.end;
    std::string own = laid.text.substr(line.start, line.end - line.start);
    while (!own.empty() && (own.back() == ' ' || own.back() == '\n')) own.pop_back();
    INFO("'" << own << "'");
    if (own.find(' ') != std::string::npos) CHECK(line.width <= wrap + 0.01F);
  }
  CHECK(at == text.size());
}

TEST_CASE("a line takes all the words that fit", "[lines]") {
  const float both = width("Passengers for"), three = width("Passengers for Pale");
  CHECK(lay(kNotice, {.wrap = both + 0.1F}).lines()[0] == "Passengers for ");
  CHECK(lay(kNotice, {.wrap = three - 0.1F}).lines()[0] == "Passengers for ");
  CHECK(lay(kNotice, {.wrap = three + 0.1F}).lines()[0] == "Passengers for Pale ");
  CHECK(lay(kNotice, {.wrap = both + 0.1F}).p.lines[0].width == Approx(both));
}

TEST_CASE("words wider than their line stand out, or are broken between clusters", "[lines]") {
  const std::string word =
      "Stra\xC3\x9F"
      "enbahnhaltestelle";
  const Laid whole = lay(word, {.wrap = 100.0F});
  CHECK(whole.p.lines.size() == 1);
  CHECK(has(whole.notes, NoteKind::text_overflow));
  const Laid broken = lay(word, {.wrap = 100.0F, .breaking = LineBreaking::anywhere});
  CHECK(broken.p.lines.size() > 2);
  for (const Line& line : broken.p.lines) CHECK(line.width <= 100.01F);
  CHECK(lay("ab", {.wrap = 1.0F, .breaking = LineBreaking::anywhere}).lines() ==
        std::vector<std::string>{"a", "b"});
}

TEST_CASE("a soft hyphen shows where a line ends at it", "[lines]") {
  const std::string text =
      "con\xC2\xAD"
      "duc\xC2\xAD"
      "tor";
  CHECK(lay(text, {}).p.glyphs.size() == 9);
  const Laid laid = lay(text, {.wrap = width("conduc-") + 1});
  REQUIRE(laid.p.lines.size() == 2);
  CHECK(laid.p.lines[0].width == Approx(width("conduc\xE2\x80\x90")));
  const PlacedGlyph& last = laid.p.glyphs[laid.p.lines[0].end_glyph - 1];
  CHECK(last.glyph == test::dejavu()->find_glyph(0x2010));
}

TEST_CASE("lines stand where alignment says, in a box of any size", "[lines]") {
  const float box = 600;
  const auto left = [&](TextAlign align, const std::string& text = "Quay") {
    return lay(text, {.align = align, .wrap = box}).p.lines[0].left;
  };
  const float own = width("Quay");
  CHECK(left(TextAlign::left) == 0);
  CHECK(left(TextAlign::center) == Approx((box - own) / 2));
  CHECK(left(TextAlign::right) == Approx(box - own));
  CHECK(left(TextAlign::start) == 0);
  const std::string hebrew = "\xD7\x99\xD7\x9D";
  CHECK(left(TextAlign::start, hebrew) == Approx(box - width(hebrew)));
  CHECK(left(TextAlign::end, hebrew) == 0);
  CHECK(left(TextAlign::justify) == 0);
  for (const VerticalAlign align : {VerticalAlign::top, VerticalAlign::middle, VerticalAlign::bottom}) {
    const Laid laid = lay("Quay\nWeir", {.vertical_align = align, .box_height = 300.0F});
    const Rect& around = laid.p.advance_box;
    const float above = around.top, below = 300 - around.bottom;
    if (align == VerticalAlign::top) CHECK(above == 0);
    if (align == VerticalAlign::middle) CHECK(above == Approx(below));
    if (align == VerticalAlign::bottom) CHECK(below == Approx(0).margin(1e-3));
  }
  const Laid capitals = lay("H", {.vertical_align = VerticalAlign::cap_middle, .box_height = 300.0F});
  const Rect ink = ink_box(sans(), capitals.p);
  CHECK(ink.top == Approx(300 - ink.bottom).margin(0.1));
  CHECK(lay("H", {.vertical_align = VerticalAlign::baseline}).p.lines[0].baseline == 0);
}

TEST_CASE("a line separator ends a line and no paragraph", "[lines]") {
  const std::string hebrew = "\xD7\x99\xD7\x9D";
  const Laid same = lay(hebrew + "\xE2\x80\xA8tram", {}), other = lay(hebrew + "\ntram", {});
  REQUIRE(same.p.lines.size() == 2);
  CHECK(same.p.lines[1].right_to_left);
  CHECK_FALSE(other.p.lines[1].right_to_left);
}

TEST_CASE("justified lines fill their box, but for the last one", "[lines][property]") {
  const float box = GENERATE(200.0F, 320.0F, 475.0F);
  const Laid laid = lay(kNotice, {.size = 20, .align = TextAlign::justify, .wrap = box});
  for (std::size_t i = 0; i < laid.p.lines.size(); ++i) {
    const Line& line = laid.p.lines[i];
    float right = 0;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      const PlacedGlyph& glyph = laid.p.glyphs[g];
      if (laid.text[glyph.text_start] != ' ') right = std::max(right, glyph.pen.x + glyph.advance);
    }
    CHECK(right == Approx(line.left + line.width).margin(0.02));
    if (i + 1 < laid.p.lines.size()) CHECK(line.width == Approx(box));
  }
  CHECK(laid.p.lines.back().width < box);
  CHECK(lay("a b", {.align = TextAlign::justify, .wrap = 500.0F, .justify_last = true}).p.lines[0].width ==
        500);
}

TEST_CASE("justified CJK text widens between clusters", "[lines]") {
  const std::string path = "/usr/share/fonts/truetype/vlgothic/VL-Gothic-Regular.ttf";
  const auto data = FontData::read(path);
  REQUIRE(data.has_value());
  const FontStack gothic{*Face::open(*data)};
  const std::string text =
      "\xE6\x9C\x80\xE7\xB5\x82\xE9\x9B\xBB\xE8\xBB\x8A\xE7\x99\xBA\xE8\xBB\x8A";  // six characters
  const Laid laid = lay(text, {.size = 20, .align = TextAlign::justify, .wrap = 89.0F}, gothic);
  REQUIRE(laid.p.lines.size() == 2);
  CHECK(laid.p.lines[0].width == Approx(89));
  CHECK(laid.p.glyphs[1].pen.x == Approx(20 + 9.0F / 3));
  CHECK(laid.p.glyphs[3].pen.x == Approx(69));
}

TEST_CASE("balanced lines need no more lines and are about equally wide", "[lines]") {
  const TextStyle plain{.size = 20, .wrap = 400.0F};
  TextStyle balanced = plain;
  balanced.balance = true;
  const Laid a = lay(kNotice, plain), b = lay(kNotice, balanced);
  REQUIRE(a.p.lines.size() == b.p.lines.size());
  const auto spread = [](const Paragraph& p) {
    float least = 1e9F, most = 0;
    for (const Line& line : p.lines) least = std::min(least, line.width), most = std::max(most, line.width);
    return most - least;
  };
  CHECK(spread(b.p) < spread(a.p));
  CHECK(spread(b.p) < 60);
}

TEST_CASE("no paragraph ends in a lone word where that is asked", "[lines]") {
  const std::string text = "The last tram is late tonight";
  const float wrap = width("The last tram is late") + 2;
  CHECK(lay(text, {.wrap = wrap}).lines().back() == "tonight");
  CHECK(lay(text, {.wrap = wrap, .keep_last_words = true}).lines().back() == "late tonight");
}

TEST_CASE("tab stops align what follows them", "[lines]") {
  TextStyle style;
  style.tabs = {
      {100, TabAlign::left}, {300, TabAlign::right}, {400, TabAlign::center}, {600, TabAlign::decimal}};
  const Laid laid = lay("4\tWeir\t12\tx\t3.50", style);
  const auto at = [&](std::size_t byte) {
    for (const PlacedGlyph& g : laid.p.glyphs) {
      if (g.text_start == byte) return g.pen.x;
    }
    return -1.0F;
  };
  CHECK(at(2) == Approx(100));
  CHECK(at(7) == Approx(300 - width("12")));
  CHECK(at(10) == Approx(400 - width("x") / 2));
  CHECK(at(13) == Approx(600));  // the point
  CHECK(laid.p.tab_stops == std::vector<float>{100, 300, 400, 600});
  // Behind the last stop, at every fourth space.
  const float space = width(" ");
  CHECK(lay("\tx", {}).p.glyphs[1].pen.x == Approx(4 * space));
  CHECK(lay("abc\tx", {}).p.glyphs[4].pen.x == Approx(std::ceil(width("abc") / (4 * space)) * 4 * space));
}

TEST_CASE("a quarter of a million tabs, with and without letters, are laid out", "[lines][hostile]") {
  const std::string tabs(250000, '\t');
  std::string letters;
  for (int i = 0; i < 100000; ++i) letters += "a\t";
  for (const std::string& text : {tabs, letters}) {
    CHECK(lay(text, {}).p.glyphs.size() == text.size());
    CHECK(lay(text, {.wrap = 500.0F}).p.glyphs.size() == text.size());
  }
  // Lines break behind tabs, which hang over their edge as spaces do.
  const Laid wrapped = lay(letters, {.wrap = 500.0F});
  CHECK(wrapped.p.lines.size() > 1000);
  for (const PlacedGlyph& glyph : wrapped.p.glyphs) {
    if (letters[glyph.text_start] == 'a' && glyph.pen.x + glyph.advance > 500.01F)
      FAIL_CHECK(glyph.text_start);
  }
}

TEST_CASE("a million marks on one letter are laid out", "[lines][hostile]") {
  std::string text = "a";
  for (int i = 0; i < 1000000; ++i) text += "\xCC\x81";
  CHECK(lay(text, {}).p.glyphs.size() > 900000);
}

TEST_CASE("spacing of lines, paragraphs, words and letters", "[lines]") {
  CHECK(lay("a\nb", {.leading = 50.0F}).p.lines[1].baseline -
            lay("a\nb", {.leading = 50.0F}).p.lines[0].baseline ==
        Approx(50));
  const Laid spaced = lay("a\nb", {.paragraph_spacing = 9});
  CHECK(spaced.p.lines[1].baseline == Approx(lay("a\nb", {}).p.lines[1].baseline + 9));
  CHECK(width("a b c", {.word_spacing = 5}) == Approx(width("a b c") + 10));
  CHECK(width("abc", {.tracking = 5}) == Approx(width("abc") + 10));
  const Laid indented = lay("one\ntwo", {.first_indent = 30});
  CHECK(indented.p.lines[0].left == 30);
  const Laid hanging = lay(kNotice, {.indent = 25, .wrap = 300.0F});
  CHECK(hanging.p.lines[0].left == 0);
  CHECK(hanging.p.lines[1].left == 25);
  CHECK(lay("a", {.baseline_shift = 4}).p.glyphs[0].offset.y == -4);
}

TEST_CASE("lines that collide are noted with their numbers", "[lines]") {
  CHECK_FALSE(has(lay("a\nb", {}).notes, NoteKind::lines_collide));
  CHECK_FALSE(has(lay(std::string(60000, '\n'), {}).notes, NoteKind::lines_collide));  // far down, too
  const Laid tight = lay("a\nb\nc", {.line_spacing = 0.5F});
  REQUIRE(has(tight.notes, NoteKind::lines_collide));
  CHECK(describe(tight.notes.all()[0]).find("lines 1 and 2 overlap") != std::string::npos);
}

TEST_CASE("text that does not fit is shown with a note that names a box that would do", "[overflow]") {
  const Laid laid = lay(kNotice, {.size = 20, .wrap = 200.0F, .box_height = 30.0F});
  REQUIRE(has(laid.notes, NoteKind::text_overflow));
  const Note& note = laid.notes.all()[0];
  const Laid again = lay(kNotice, {.size = 20, .wrap = note.wanted, .box_height = note.given});
  CHECK_FALSE(has(again.notes, NoteKind::text_overflow));
  CHECK(laid.p.lines.size() > 1);
}

TEST_CASE("an ellipsis stands for what is left out, at the end, the middle or the start", "[overflow]") {
  const auto place = GENERATE(EllipsisPlace::end, EllipsisPlace::middle, EllipsisPlace::start);
  const std::string text =
      GENERATE_COPY(as<std::string>{}, kNotice,
                    std::string("\xD7\x94\xD7\xA2\xD7\xA8\xD7\xA4\xD7\x9C \xD7\x99\xD7\x95\xD7\xA8\xD7\x93 "
                                "\xD7\xA2\xD7\x9C \xD7\x94\xD7\xAA\xD7\xA2\xD7\x9C\xD7\x94"),
                    std::string("e\xCC\x81q\xCC\x81q\xCC\x81q\xCC\x81q\xCC\x81q\xCC\x81q\xCC\x81q\xCC\x81q"
                                "\xCC\x81q\xCC\x81q\xCC\x81q\xCC\x81"));
  TextStyle style{
      .size = 20, .wrap = 120.0F, .max_lines = 1, .overflow = Overflow::ellipsis, .ellipsis = place};
  const Laid laid = lay(text, style);
  REQUIRE(laid.p.lines.size() == 1);
  CHECK(laid.p.lines[0].width <= 120.01F);
  CHECK(laid.p.lines[0].width > 80);
  CHECK_FALSE(has(laid.notes, NoteKind::text_overflow));
  const GlyphId dots = test::dejavu()->find_glyph(0x2026);
  CHECK(std::count_if(laid.p.glyphs.begin(), laid.p.glyphs.end(),
                      [&](const PlacedGlyph& g) { return g.glyph == dots; }) == 1);
  // Nothing of the shown clusters is lost or torn: what is shown is where the whole text has it.
  std::uint32_t first = 0xFFFFFFFF, last = 0;
  for (const PlacedGlyph& g : laid.p.glyphs) {
    if (g.glyph != dots) first = std::min(first, g.text_start), last = std::max(last, g.text_end);
  }
  if (place != EllipsisPlace::start) CHECK(first == 0);
  if (place != EllipsisPlace::end) CHECK(last == text.size());
}

TEST_CASE("a line stands for the paragraphs behind it, with the features of its own bytes", "[overflow]") {
  const Laid two = lay("First\nSecond", {.wrap = 400.0F, .max_lines = 1, .overflow = Overflow::ellipsis});
  REQUIRE(two.p.lines.size() == 1);
  CHECK(two.p.glyphs.size() == 6);  // First and the ellipsis
  CHECK(two.p.lines[0].end == 12);
  TextStyle style{.size = 20, .wrap = 80.0F, .max_lines = 2, .overflow = Overflow::ellipsis};
  style.features = {{tag("liga"), 0, 6, 9}};  // of the second word alone
  const Laid ranged = lay("AAAAA ffi ffi AAAAAAAA", style);
  const GlyphId plain = test::dejavu()->find_glyph(U'f');
  const auto shown = std::find_if(ranged.p.glyphs.begin(), ranged.p.glyphs.end(),
                                  [](const PlacedGlyph& g) { return g.text_start == 6; });
  REQUIRE(shown != ranged.p.glyphs.end());
  CHECK(shown->glyph == plain);
}

TEST_CASE("clipping leaves out lines and clusters that stand out", "[overflow]") {
  TextStyle style{.size = 20, .wrap = 200.0F, .box_height = 50.0F, .overflow = Overflow::clip};
  const Laid laid = lay(kNotice, style);
  CHECK(laid.p.lines.size() == 2);
  CHECK(laid.p.advance_box.bottom <= 50);
  // The note names the box of the whole text, in which nothing is left out.
  REQUIRE(has(laid.notes, NoteKind::text_overflow));
  const Note& note = laid.notes.all()[0];
  style.wrap = note.wanted, style.box_height = note.given;
  const Laid whole = lay(kNotice, style);
  CHECK_FALSE(has(whole.notes, NoteKind::text_overflow));
  CHECK(whole.p.glyphs.back().text_end == std::string(kNotice).size());
  const Laid narrow =
      lay("Lantern", {.size = 40, .wrap = 20.0F, .max_lines = 1, .overflow = Overflow::ellipsis});
  REQUIRE(has(narrow.notes, NoteKind::text_overflow));
  CHECK(narrow.notes.all()[0].wanted == Approx(lay("Lantern", {.size = 40}).p.advance_box.width()));
  const Laid word =
      lay("Stra\xC3\x9F"
          "enbahnhaltestelle",
          {.wrap = 100.0F, .overflow = Overflow::clip});
  CHECK(word.p.lines[0].width <= 100.01F);
  CHECK(word.p.glyphs.size() > 3);
}

TEST_CASE("text shrinks or closes up until it fits, no further than allowed", "[overflow]") {
  TextStyle smaller{.size = 40, .wrap = 300.0F, .box_height = 60.0F, .overflow = Overflow::smaller};
  const Laid small = lay(kNotice, smaller);
  CHECK(small.p.size < 40);
  CHECK(small.p.size == std::round(small.p.size * 4) / 4);
  CHECK(small.p.advance_box.height() <= 60.01F);
  CHECK_FALSE(has(small.notes, NoteKind::text_overflow));
  smaller.size = small.p.size + 0.25F, smaller.overflow = Overflow::show;
  CHECK(has(lay(kNotice, smaller).notes, NoteKind::text_overflow));
  const float own = width("Foxglove Cross");
  const Laid tight =
      lay("Foxglove\xC2\xA0"
          "Cross",
          {.wrap = own - 10, .overflow = Overflow::tighten});
  CHECK(tight.p.advance_box.width() <= own - 10 + 0.01F);
  CHECK(tight.p.advance_box.width() > own - 13);
  CHECK(has(lay("Foxglove\xC2\xA0"
                "Cross",
                {.wrap = own / 2, .overflow = Overflow::tighten})
                .notes,
            NoteKind::text_overflow));
}

TEST_CASE("a reserved width keeps changing values from moving", "[lines]") {
  TextStyle style{.align = TextAlign::right};
  style.reserve = {"88:88", "late"};
  const float reserved = std::max(width("88:88"), width("late"));
  for (const std::string value : {"1:11", "23:59", "late"}) {
    const Laid laid = lay(value, style);
    CHECK(laid.p.box.width() == Approx(reserved));
    CHECK(laid.p.lines[0].left + laid.p.lines[0].width == Approx(reserved));
    CHECK(laid.p.advance_box.left == Approx(0).margin(1e-3));
    CHECK(laid.p.advance_box.right == Approx(reserved));
  }
}

TEST_CASE("a new width gives what a fresh layout gives", "[lines][property]") {
  ShapeCache cache;
  ShapedText shaped;
  const std::string text = kNotice +
                           " fi\xC2\xAD"
                           "fth office \xD7\x99\xD7\x95\xD7\xA8\xD7\x93 tram.";
  REQUIRE(shaped.set(sans(), text, {}, cache).has_value());
  for (float wrap = 40; wrap < 900; wrap += 37) {
    Paragraph p;
    REQUIRE(shaped.lay_out({.wrap = wrap}, cache, p).has_value());
    const Laid fresh = lay(text, {.wrap = wrap});
    CHECK(p.glyphs == fresh.p.glyphs);
    CHECK(p.lines == fresh.p.lines);
  }
}

TEST_CASE("carets stand on either side of every cluster and between the parts of a ligature", "[caret]") {
  std::vector<CaretStop> stops;
  const Laid latin = lay("abc", {});
  caret_stops(latin.p, latin.text, stops);
  REQUIRE(stops.size() == 6);
  CHECK(stops[0].x == 0);
  CHECK(stops[1].position == 1);
  CHECK(stops[5].x == Approx(width("abc")));
  const Laid hebrew = lay("\xD7\x99\xD7\x9D", {});
  caret_stops(hebrew.p, hebrew.text, stops);
  REQUIRE(stops.size() == 4);
  CHECK(stops[0].position == 4);  // the text ends on the left
  CHECK(stops[3].position == 0);
  CHECK(stops[3].right_to_left);
  const Laid office = lay("ffi", {});
  caret_stops(office.p, office.text, stops);
  REQUIRE_FALSE(stops.empty());
  CHECK(std::any_of(stops.begin(), stops.end(), [](const CaretStop& s) { return s.position == 1; }));
  caret_stops(lay("", {}).p, "", stops);
  CHECK(stops.size() == 1);
}

TEST_CASE("a range of bytes has a box for each stretch that is seen together", "[lines]") {
  std::vector<Rect> boxes;
  const Laid laid = lay("Tram 7", {});
  range_boxes(laid.p, 0, 4, boxes);
  REQUIRE(boxes.size() == 1);
  CHECK(boxes[0].right == Approx(width("Tram")).margin(0.5));
  const Laid mixed = lay("ab \xD7\x99\xD7\x9D", {});
  range_boxes(mixed.p, 1, 5, boxes);  // "b " and the first Hebrew letter, which stands on the far right
  CHECK(boxes.size() == 2);
}
