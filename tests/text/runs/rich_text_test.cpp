// SPDX-License-Identifier: MIT
// Spans, icons, made styles and lines under letters, measured and laid out.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/text/shaped_text.hpp"
#include "grafema/text/style_book.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

struct LaidRichText {
  Paragraph p;
  Notes notes;
};

const FontStack& rich_text_sans() {
  static const FontStack stack{test::dejavu()};
  return stack;
}

LaidRichText lay_rich(const RichText& text, const TextStyle& style = {}, const FontBook* book = nullptr,
                      const FontStack& stack = rich_text_sans()) {
  LaidRichText out;
  ShapeCache cache;
  REQUIRE(lay_out(stack, text, style, cache, out.p, &out.notes, book).has_value());
  return out;
}

LaidRichText lay_plain(std::string_view text, const TextStyle& style = {},
                       const FontStack& stack = rich_text_sans()) {
  LaidRichText out;
  ShapeCache cache;
  REQUIRE(lay_out(stack, text, style, cache, out.p, &out.notes).has_value());
  return out;
}

std::size_t count(const Notes& notes, NoteKind kind) {
  return static_cast<std::size_t>(
      std::count_if(notes.all().begin(), notes.all().end(), [&](const Note& n) { return n.kind == kind; }));
}

SpanStyle colored(const char* look) {
  SpanStyle style;
  style.look = look;
  return style;
}
SpanStyle weighing(float weight) {
  SpanStyle style;
  style.font.weight = weight;
  return style;
}
SpanStyle scaled(float scale, float raise = 0) {
  SpanStyle style;
  style.scale = scale, style.raise = raise;
  return style;
}

}  // namespace

TEST_CASE("a text without spans is laid out as the plain one is", "[rich_text][property]") {
  const TextStyle style{.size = 24, .wrap = 300};
  const char* const words = "Passengers for Pale Orchard may ride the ferry.";
  const LaidRichText rich = lay_rich(RichText(words), style), plain = lay_plain(words, style);
  CHECK(rich.p.glyphs == plain.p.glyphs);
  CHECK(rich.p.lines == plain.p.lines);
}

TEST_CASE("a span that changes only color changes no place, and kerning and ligatures go on across it",
          "[rich_text][property]") {
  const std::string words = "AVAToffice Tinker's Weir";
  const LaidRichText plain = lay_plain(words, {.size = 40});
  for (std::uint32_t cut = 1; cut < words.size(); ++cut) {
    RichText text(words);
    text.spans.push_back({0, cut, colored("late")});
    const LaidRichText rich = lay_rich(text, {.size = 40});
    REQUIRE(rich.p.glyphs.size() == plain.p.glyphs.size());
    for (std::size_t g = 0; g < rich.p.glyphs.size(); ++g) {
      CHECK(rich.p.glyphs[g].glyph == plain.p.glyphs[g].glyph);
      CHECK(rich.p.glyphs[g].pen == plain.p.glyphs[g].pen);
      const PlacedStyle& style = rich.p.styles[rich.p.glyphs[g].style];
      CHECK((style.look == 0) == (rich.p.glyphs[g].text_start < cut));
    }
  }
}

TEST_CASE("Arabic letters join across a span that changes their size", "[rich_text]") {
  const std::string word = "\xD8\xA8\xD8\xA8\xD8\xA8\xD8\xA8";  // four of beh
  RichText text(word);
  text.spans.push_back({0, 4, scaled(1.5F)});
  const LaidRichText rich = lay_rich(text), plain = lay_plain(word);
  REQUIRE(rich.p.glyphs.size() == 4);
  for (std::size_t g = 0; g < 4; ++g) CHECK(rich.p.glyphs[g].glyph == plain.p.glyphs[g].glyph);
}

TEST_CASE("a span's width is what its words take at its size", "[rich_text][property]") {
  const float scale = GENERATE(0.5F, 0.8F, 1.5F, 3.0F);
  RichText text;
  text.append("Pale ").append("Orchard", scaled(scale)).append(" now");
  const LaidRichText rich = lay_rich(text, {.size = 30});
  const auto width = [](const char* words, float size) {
    return lay_plain(words, {.size = size}).p.advance_box.width();
  };
  CHECK(rich.p.advance_box.width() ==
        Approx(width("Pale ", 30) + width("Orchard", 30 * scale) + width(" now", 30)).margin(0.01));
}

TEST_CASE("lines take the largest heights on them and no more", "[rich_text][property]") {
  RichText text;
  text.append("small\n", scaled(0.5F))
      .append("normal\n")
      .append("a ")
      .append("large", scaled(2))
      .append(" word");
  const LaidRichText rich = lay_rich(text, {.size = 20});
  const LaidRichText plain = lay_plain("x", {.size = 20});
  REQUIRE(rich.p.lines.size() == 3);
  const float height = plain.p.lines[0].height;
  CHECK(rich.p.lines[0].height == Approx(height * 0.5F));
  CHECK(rich.p.lines[1].height == Approx(height));
  CHECK(rich.p.lines[2].height == Approx(height * 2));
  for (std::size_t i = 1; i < 3; ++i) {
    CHECK(rich.p.lines[i].top == Approx(rich.p.lines[i - 1].top + rich.p.lines[i - 1].height).margin(0.6));
  }
  CHECK(rich.p.advance_box.bottom == Approx(rich.p.lines[2].top + rich.p.lines[2].height));
}

TEST_CASE("raised and lowered letters keep the lines where they are", "[rich_text]") {
  RichText text;
  text.append("H").append("2", scaled(0.65F, -0.15F)).append("O x").append("3", scaled(0.65F, 0.35F));
  const LaidRichText rich = lay_rich(text, {.size = 40});
  CHECK(rich.p.lines[0].height == lay_plain("x", {.size = 40}).p.lines[0].height);
  CHECK(rich.p.glyphs[1].offset.y == Approx(6));
  CHECK(rich.p.glyphs.back().offset.y == Approx(-14));
}

TEST_CASE("the later and inner span counts, and styles around it go on behind it", "[rich_text]") {
  RichText text("0123456789");
  text.spans = {{0, 10, scaled(2)}, {2, 6, scaled(0.5F)}, {4, 8, colored("late")}};
  const LaidRichText rich = lay_rich(text);
  const auto style = [&](std::size_t g) { return rich.p.styles[rich.p.glyphs[g].style]; };
  CHECK(style(0).scale == 2);
  CHECK(style(3).scale == 1);
  CHECK(style(3).look == PlacedStyle::kNone);
  CHECK(style(5).scale == 1);
  CHECK(style(5).look == 2);
  CHECK(style(7).scale == 2);
  CHECK(style(7).look == 2);
  CHECK(style(9).look == PlacedStyle::kNone);
}

TEST_CASE("spans that are no range of the text are noted and change nothing", "[rich_text][hostile]") {
  const std::string words = "Caf\xC3\xA9 Orv";
  const Span bad = GENERATE(Span{5, 2, scaled(3)}, Span{0, 400, scaled(3)}, Span{4, 6, scaled(3)},
                            Span{0, 3, scaled(NAN)}, Span{0, 3, scaled(-1)}, Span{0, 3, scaled(1e9F)});
  RichText text(words);
  text.spans.push_back(bad);
  const LaidRichText rich = lay_rich(text);
  CHECK(count(rich.notes, NoteKind::bad_span) == 1);
  CHECK(rich.p.advance_box.width() == Approx(lay_plain(words).p.advance_box.width()));
}

TEST_CASE("a span inside a cluster begins with the next one", "[rich_text]") {
  RichText text("e\xCC\x81x");  // e with a combining acute
  text.spans.push_back({1, 4, colored("late")});
  const LaidRichText rich = lay_rich(text);
  CHECK(rich.p.styles[rich.p.glyphs.front().style].look == PlacedStyle::kNone);
  CHECK(rich.p.styles[rich.p.glyphs.back().style].look == 0);
}

TEST_CASE("thousands of nested spans are bounded", "[rich_text][hostile]") {
  RichText text(std::string(20000, 'a'));
  for (std::uint32_t i = 0; i < 20000; ++i) text.spans.push_back({i / 2, 20000 - i / 2, scaled(1.0001F)});
  const LaidRichText rich = lay_rich(text, {.size = 4});
  CHECK(rich.p.glyphs.size() == 20000);
  CHECK(count(rich.notes, NoteKind::bad_span) > 0);
  CHECK(std::any_of(rich.notes.all().begin(), rich.notes.all().end(), [](const Note& note) {
    return describe(note).find("a text has at most 16384") != std::string::npos;
  }));
}

TEST_CASE("spans that grow or shrink within each other stay within the sizes of text",
          "[rich_text][hostile]") {
  const float scale = GENERATE(900.0F, 0.02F);
  RichText text("ab");
  for (int i = 0; i < 200; ++i) text.spans.push_back({0, 1, scaled(scale, 900)});
  const LaidRichText rich = lay_rich(text, {.size = 20});
  CHECK(rich.p.glyph_size(rich.p.glyphs[0]) == Approx(scale > 1 ? kMaxSize : kMinSize));
  CHECK(std::isfinite(rich.p.glyphs[0].origin().y));
  CHECK(std::isfinite(rich.p.advance_box.height()));
}

TEST_CASE("tracking of a span stands between its clusters and not behind the last of a line",
          "[rich_text][property]") {
  SpanStyle wide;
  wide.tracking = 5;
  RichText text;
  text.append("tram", wide);
  const LaidRichText rich = lay_rich(text);
  CHECK(rich.p.advance_box.width() == Approx(lay_plain("tram", {.tracking = 5}).p.advance_box.width()));
  RichText mixed;
  mixed.append("tram", wide).append("way");
  CHECK(lay_rich(mixed).p.advance_box.width() ==
        Approx(lay_plain("tramway").p.advance_box.width() + 20).margin(0.01));
}

TEST_CASE("a bold that the family has is taken; one that it lacks is made, wider and noted", "[rich_text]") {
  RichText text;
  text.append("Mind the gap", weighing(700));
  FontBook book;
  Family family("DejaVu Sans");
  family.add(test::dejavu());
  family.add(test::dejavu("DejaVuSans-Bold.ttf"));
  book.add(family);
  const LaidRichText real = lay_rich(text, {}, &book);
  CHECK(count(real.notes, NoteKind::made_bold) == 0);
  CHECK(real.p.advance_box.width() ==
        Approx(lay_plain("Mind the gap", {}, FontStack{test::dejavu("DejaVuSans-Bold.ttf")})
                   .p.advance_box.width()));
  const LaidRichText made = lay_rich(text);
  CHECK(count(made.notes, NoteKind::made_bold) == 1);
  const PlacedFace& face = made.p.faces[made.p.glyphs[0].face];
  // DejaVu's own bold is the judge: strokes of 'l' 0.18 ems wide against 0.09.
  CHECK(face.grow > 0.01F);
  CHECK(face.grow < 0.05F);
  const float plain = lay_plain("Mind the gap").p.advance_box.width();
  CHECK(made.p.advance_box.width() == Approx(plain + 12 * 2 * face.grow * 32).margin(0.05));
}

TEST_CASE("a bold is never made twice, nor of a bold face", "[rich_text]") {
  RichText text("gap");
  text.spans = {{0, 3, weighing(700)}, {0, 3, weighing(700)}};
  const LaidRichText once = lay_rich(text);
  RichText single("gap");
  single.spans = {{0, 3, weighing(700)}};
  CHECK(once.p.advance_box.width() == lay_rich(single).p.advance_box.width());
  const LaidRichText bold = lay_rich(single, {}, nullptr, FontStack{test::dejavu("DejaVuSans-Bold.ttf")});
  CHECK(count(bold.notes, NoteKind::made_bold) == 0);
}

TEST_CASE("a made bold of a face whose letters are all as wide keeps their columns", "[rich_text]") {
  RichText text;
  text.append("Line 12", weighing(700));
  const FontStack mono{test::dejavu("DejaVuSansMono.ttf")};
  const LaidRichText made = lay_rich(text, {}, nullptr, mono);
  CHECK(count(made.notes, NoteKind::made_bold) == 1);
  CHECK(made.p.faces[made.p.glyphs[0].face].grow > 0);
  CHECK(made.p.advance_box.width() == lay_plain("Line 12", {}, mono).p.advance_box.width());
}

TEST_CASE("a made italic leans about the baseline and takes no more room", "[rich_text]") {
  SpanStyle italic;
  italic.font.slant = Slant::italic;
  RichText text;
  text.append("lH", italic);
  const LaidRichText made = lay_rich(text, {.size = 100});
  CHECK(count(made.notes, NoteKind::made_italic) == 1);
  const LaidRichText plain = lay_plain("lH", {.size = 100});
  CHECK(made.p.advance_box.width() == plain.p.advance_box.width());
  const Rect upright = ink_box(rich_text_sans(), plain.p), leaning = ink_box(rich_text_sans(), made.p);
  CHECK(leaning.top == upright.top);
  CHECK(leaning.left == Approx(upright.left).margin(0.01));  // what stands on the baseline stays
  const float cap = made.p.lines[0].baseline - upright.top;
  CHECK(leaning.right - upright.right == Approx(std::tan(12 * 3.14159265 / 180) * 72.9).margin(0.6));
  CHECK(cap > 70);
}

TEST_CASE("small capitals are made of capitals where the face has none", "[rich_text]") {
  SpanStyle small;
  small.small_capitals = true;
  RichText text;
  text.append("Weir", small);
  const LaidRichText made = lay_rich(text, {.size = 50});
  CHECK(count(made.notes, NoteKind::made_small_capitals) == 1);
  REQUIRE(made.p.glyphs.size() == 4);
  for (std::size_t g = 0; g < 4; ++g) {
    CHECK(made.p.glyphs[g].glyph == test::dejavu()->find_glyph(U"WEIR"[g]));
    CHECK(made.p.styles[made.p.glyphs[g].style].scale == Approx(g == 0 ? 1 : 0.76));
  }
  CHECK(made.p.lines[0].height == lay_plain("W", {.size = 50}).p.lines[0].height);
}

TEST_CASE("small capitals of a shortened line are as small as they were", "[rich_text]") {
  SpanStyle small;
  small.small_capitals = true;
  RichText text;
  text.append("To ").append("Pale Orchard by the canal", small);
  const LaidRichText cut =
      lay_rich(text, {.size = 20, .wrap = 150, .max_lines = 1, .overflow = Overflow::clip});
  const LaidRichText whole = lay_rich(text, {.size = 20});
  REQUIRE(cut.p.glyphs.size() > 6);
  for (std::size_t g = 0; g < cut.p.glyphs.size(); ++g) {
    REQUIRE(cut.p.glyphs[g].style < cut.p.styles.size());
    CHECK(cut.p.glyphs[g].glyph == whole.p.glyphs[g].glyph);
    CHECK(cut.p.glyph_size(cut.p.glyphs[g]) == whole.p.glyph_size(whole.p.glyphs[g]));
  }
}

TEST_CASE("an icon keeps room as wide as it is, and its line grows around it", "[rich_text]") {
  Icon room;
  room.width = 2, room.height = 3, room.align = IconAlign::baseline;
  RichText text;
  text.append("a").append(room, "bell").append("b");
  const LaidRichText rich = lay_rich(text, {.size = 20});
  CHECK(rich.p.advance_box.width() == Approx(lay_plain("a", {.size = 20}).p.advance_box.width() + 40 +
                                             lay_plain("b", {.size = 20}).p.advance_box.width()));
  REQUIRE(rich.p.icons.size() == 1);
  const Rect box = rich.p.icons[0].box;
  CHECK(box.width() == Approx(40));
  CHECK(box.height() == Approx(60));
  CHECK(box.bottom == Approx(rich.p.lines[0].baseline));
  CHECK(box.top == Approx(rich.p.lines[0].top).margin(0.01));
}

TEST_CASE("an icon's glyph is as high as asked, and its middle is that of capitals", "[rich_text]") {
  Icon icon;
  icon.face = test::dejavu("DejaVuSans-Bold.ttf");
  icon.glyph = icon.face->find_glyph(U'@');
  icon.height = 1.5F;
  RichText text;
  text.append("Hx ").append(icon).append(" y");
  const LaidRichText rich = lay_rich(text, {.size = 40});
  std::uint32_t g = 0;
  while (rich.p.glyphs[g].text_start != 3) ++g;
  const Rect ink = ink_box(rich_text_sans(), rich.p, g, g + 1),
             capital = ink_box(rich_text_sans(), rich.p, 0, 1);
  CHECK(ink.height() == Approx(60).margin(0.01));
  CHECK((ink.top + ink.bottom) / 2 == Approx((capital.top + capital.bottom) / 2).margin(0.3));
}

TEST_CASE("an underline is one line across spans, as long as its words, with the face's thickness",
          "[rich_text]") {
  SpanStyle line;
  line.underline = true, line.skip_descenders = false;
  RichText text("see Pale Orchard now");
  text.spans = {{4, 16, line}, {4, 8, weighing(700)}, {9, 12, colored("late")}};
  const LaidRichText rich = lay_rich(text, {.size = 40});
  REQUIRE(rich.p.bars.size() == 1);
  const Rect bar = rich.p.bars[0].box;
  float left = 1e9F, right = 0;
  for (const PlacedGlyph& glyph : rich.p.glyphs) {
    if (glyph.text_start < 4 || glyph.text_start >= 16) continue;
    left = std::min(left, glyph.pen.x), right = std::max(right, glyph.pen.x + glyph.advance);
  }
  CHECK(bar.left == Approx(left));
  CHECK(bar.right == Approx(right).margin(0.01));
  const FaceFacts facts = test::dejavu()->facts();
  CHECK(bar.height() == Approx(facts.underline_thickness * 40 / 2048));
  CHECK(bar.top == Approx(rich.p.lines[0].baseline - facts.underline_position * 40 / 2048));
}

TEST_CASE("an underline leaves room around descenders and nowhere else", "[rich_text]") {
  SpanStyle line;
  line.underline = true;
  RichText flat, deep;
  flat.append("carrion", line);
  deep.append("aga", line);
  CHECK(lay_rich(flat, {.size = 40}).p.bars.size() == 1);
  const LaidRichText rich = lay_rich(deep, {.size = 40});
  REQUIRE(rich.p.bars.size() == 2);
  const Rect g = ink_box(rich_text_sans(), rich.p, 1, 2);
  CHECK(rich.p.bars[0].box.right < g.right);
  CHECK(rich.p.bars[0].box.right < rich.p.bars[1].box.left);
}

TEST_CASE("each wrapped line has its own stretch of underline, strike and overline", "[rich_text]") {
  SpanStyle line;
  line.underline = line.strike = line.overline = true, line.skip_descenders = false;
  RichText text;
  text.append("Passengers for Pale Orchard may ride", line);
  const LaidRichText rich = lay_rich(text, {.size = 20, .wrap = 150});
  CHECK(rich.p.bars.size() == rich.p.lines.size() * 3);
  for (const PlacedBar& bar : rich.p.bars) CHECK(bar.box.right <= 150.01F);
}

TEST_CASE("a shortened line keeps the styles of what is left", "[rich_text]") {
  RichText text;
  text.append("Pale ").append("Orchard by the long canal", colored("late"));
  const LaidRichText rich =
      lay_rich(text, {.size = 20, .wrap = 150, .max_lines = 1, .overflow = Overflow::ellipsis});
  for (const PlacedGlyph& glyph : rich.p.glyphs) {
    CHECK((rich.p.styles[glyph.style].look == 0) == (glyph.text_start >= 5));
  }
  CHECK(rich.p.lines[0].width <= 150);
}

TEST_CASE("an ellipsis at the start or in the middle of spans has a style too", "[rich_text][hostile]") {
  RichText text;
  text.append("Pale Orchard ", colored("a")).append("by the long canal", colored("b"));
  TextStyle style{.size = 20, .wrap = 120, .max_lines = 1, .overflow = Overflow::ellipsis};
  style.ellipsis = GENERATE(EllipsisPlace::start, EllipsisPlace::middle);
  const LaidRichText rich = lay_rich(text, style);
  for (const PlacedGlyph& glyph : rich.p.glyphs) CHECK(rich.p.styles[glyph.style].look != PlacedStyle::kNone);
  CHECK(rich.p.styles[rich.p.glyphs.back().style].look == 1);
}

TEST_CASE("text that shrinks to its box shrinks its spans with it", "[rich_text]") {
  RichText text;
  text.append("Pale ").append("Orchard", scaled(2));
  const LaidRichText rich =
      lay_rich(text, {.size = 40, .wrap = 150, .max_lines = 1, .overflow = Overflow::smaller});
  CHECK(rich.p.size < 40);
  CHECK(rich.p.lines[0].width <= 150.01F);
  CHECK(rich.p.glyph_size(rich.p.glyphs.back()) == Approx(rich.p.size * 2));
}

TEST_CASE("style books find by name and tell the nearest", "[rich_text]") {
  StyleBook book;
  REQUIRE(book.set({.name = "shout", .span = scaled(2)}).has_value());
  const std::uint64_t before = book.revision();
  REQUIRE(book.set({.name = "shout", .span = scaled(2)}).has_value());
  CHECK(book.revision() == before);
  CHECK(book.find("shout")->span.scale == 2);
  const auto wrong = book.read("shuot");
  REQUIRE_FALSE(wrong.has_value());
  CHECK(std::string(wrong.error().found.data()).find("'shout'") != std::string::npos);
}
