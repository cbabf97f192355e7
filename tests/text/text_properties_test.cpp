// SPDX-License-Identifier: MIT
// What must hold for any text: sums, clusters, safe places, memory that changes nothing, bounded work.
#include <unicode/ubrk.h>
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "grafema/base/utf8.hpp"
#include "grafema/text/shaped_text.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

const FontStack& faces() {
  static const FontStack stack{test::dejavu("DejaVuSerif.ttf"), test::dejavu()};
  return stack;
}

void add_utf8(char32_t c, std::string& out) {
  if (c < 0x80) {
    out += static_cast<char>(c);
  } else if (c < 0x800) {
    out += static_cast<char>(0xC0 | c >> 6);
    out += static_cast<char>(0x80 | (c & 63));
  } else {
    out += static_cast<char>(0xE0 | c >> 12);
    out += static_cast<char>(0x80 | (c >> 6 & 63));
    out += static_cast<char>(0x80 | (c & 63));
  }
}

/// Words of letters, marks, joiners and signs of several scripts.
std::string random_text(std::mt19937& random, std::size_t length) {
  const std::u32string pools[] = {U"abcdefghijklmnopfifflTAVWY.,-",
                                  U"\u0301\u0308\u0323\u0327",
                                  U"\u0627\u0628\u062A\u0633\u0644\u0645\u0646\u0647\u0648\u064A\u0640",
                                  U"\u064B\u064E\u0651\u0652",
                                  U"\u05D0\u05D1\u05D2\u05E9\u05DC\u05DD",
                                  U"\u05B0\u05B8\u05BC\u05C1",
                                  U"\u0430\u0431\u0432\u03B1\u03B2\u10D0\u0561",
                                  U"\u200C\u200D\u00AD\u2060\u202E\u202C\u2067\u2069\uFE0F",
                                  U"0123456789:/",
                                  U"     \t\n",
                                  U"\u0E01\u0E33\u0E48\u4E00\u3042\u1112\u1161\u11AB"};
  std::string text;
  std::size_t pool = 0;
  for (std::size_t i = 0; i < length; ++i) {
    if (random() % 3 == 0) pool = random() % std::size(pools);
    add_utf8(pools[pool][random() % pools[pool].size()], text);
  }
  return text;
}

struct Same {
  std::uint32_t glyph;
  float advance, x, y;
  bool operator==(const Same& o) const {
    return glyph == o.glyph && std::abs(advance - o.advance) < 0.01F && std::abs(x - o.x) < 0.01F &&
           std::abs(y - o.y) < 0.01F;
  }
};
std::vector<Same> glyphs_of(const ShapedText& text) {
  std::vector<Same> out;
  for (const ShapedGlyph& g : text.glyphs()) out.push_back({index_of(g.glyph), g.advance, g.x, g.y});
  return out;
}

}  // namespace

TEST_CASE("clusters never go back within a run, and every byte belongs to one line", "[text][property]") {
  std::mt19937 random(7);
  ShapeCache cache;
  ShapedText shaped;
  Paragraph p;
  for (int round = 0; round < 400; ++round) {
    const std::string text = random_text(random, 1 + random() % 60);
    REQUIRE(shaped.set(faces(), text, {}, cache).has_value());
    for (const ShapedRun& run : shaped.runs()) {
      std::uint32_t before = run.first;
      for (std::uint32_t g = run.first_glyph; g < run.end_glyph; ++g) {
        CHECK(shaped.glyphs()[g].cluster >= before);
        CHECK(shaped.glyphs()[g].cluster < run.end);
        before = shaped.glyphs()[g].cluster;
      }
    }
    TextStyle style{.size = 20};
    if (round % 2 == 0) style.wrap = static_cast<float>(20 + random() % 300);
    if (round % 3 == 0) style.breaking = LineBreaking::anywhere;
    REQUIRE(shaped.lay_out(style, cache, p).has_value());
    std::uint32_t at = 0;
    for (const Line& line : p.lines) {
      CHECK(line.start == at);
      at = line.end;
      float sum = 0, x = line.first_glyph < line.end_glyph ? p.glyphs[line.first_glyph].pen.x : 0;
      for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
        CHECK(p.glyphs[g].pen.x == Approx(x).margin(0.01));
        x += p.glyphs[g].advance, sum += p.glyphs[g].advance;
        CHECK((p.glyphs[g].text_start >= line.start && p.glyphs[g].text_end <= line.end));
      }
      if (!style.wrap) CHECK(line.width == Approx(sum).margin(0.02));
    }
    CHECK(at == text.size());
  }
}

TEST_CASE("a text parted at safe places and joined again is the whole", "[text][property]") {
  std::mt19937 random(11);
  ShapeCache cache;
  ShapedText whole, part;
  std::size_t parted = 0;
  for (int round = 0; round < 1500; ++round) {
    const std::string text = random_text(random, 2 + random() % 30);
    REQUIRE(whole.set(faces(), text, {}, cache).has_value());
    if (whole.runs().size() != 1 || whole.runs()[0].level != 0) continue;
    const ShapedRun run = whole.runs()[0];
    std::uint32_t last = run.first;
    for (std::uint32_t g = run.first_glyph + 1; g < run.end_glyph; ++g) {
      const ShapedGlyph& glyph = whole.glyphs()[g];
      const bool begins = glyph.cluster != whole.glyphs()[g - 1].cluster;
      if (!begins || (glyph.flags & ShapedGlyph::kNoCutBefore) != 0 || glyph.cluster == last) continue;
      last = glyph.cluster;
      const std::uint32_t byte = whole.analysis().starts[glyph.cluster];
      std::vector<Same> joined;
      for (const std::string_view piece :
           {std::string_view(text).substr(0, byte), std::string_view(text).substr(byte)}) {
        REQUIRE(part.set(faces(), piece, {}, cache).has_value());
        for (const Same& s : glyphs_of(part)) joined.push_back(s);
      }
      INFO(text << " at byte " << byte);
      CHECK(joined == glyphs_of(whole));
      ++parted;
    }
  }
  CHECK(parted > 100);
}

TEST_CASE("a wrapped line looks as its text does alone", "[text][property]") {
  // Kerning with spaces, ligatures across soft hyphens, joining letters at both ends of a line.
  std::mt19937 random(23);
  ShapeCache cache;
  ShapedText shaped, alone;
  Paragraph p, q;
  const std::string words[] = {"AV",
                               "To",
                               "office",
                               "fi\xC2\xAD"
                               "fth",
                               "Ty.",
                               "\xD8\xA7\xD9\x84\xD8\xA3\xD8\xAE\xD9\x8A\xD8\xB1",
                               "q\xCC\x81",
                               "W-A",
                               "Quay",
                               "\xD8\xA8\xD8\xA8\xD8\xA8"};
  std::size_t lines = 0;
  for (int round = 0; round < 300; ++round) {
    std::string text;
    const std::size_t first = random() % 2 == 0 ? 0 : 5;  // Latin alone, or both
    for (int i = 0; i < 12; ++i) text += words[first + random() % 5] + " ";
    TextStyle style{.size = 20, .direction = TextDirection::left_to_right};
    style.wrap = static_cast<float>(60 + random() % 200);
    REQUIRE(shaped.set(faces(), text, style, cache).has_value());
    REQUIRE(shaped.lay_out(style, cache, p).has_value());
    TextStyle plain = style;
    plain.wrap.reset();
    for (const Line& line : p.lines) {
      std::string own = text.substr(line.start, line.end - line.start);
      const bool hyphen = own.size() > 2 && own.ends_with("\xC2\xAD");
      if (hyphen) own += "\xE2\x80\x90";
      REQUIRE(alone.set(faces(), own, plain, cache).has_value());
      REQUIRE(alone.lay_out(plain, cache, q).has_value());
      REQUIRE(q.glyphs.size() == line.end_glyph - line.first_glyph);
      INFO("'" << own << "' of '" << text << "'");
      for (std::size_t g = 0; g < q.glyphs.size(); ++g) {
        const PlacedGlyph& placed = p.glyphs[line.first_glyph + g];
        CHECK(placed.glyph == q.glyphs[g].glyph);
        CHECK(placed.pen.x - line.left == Approx(q.glyphs[g].pen.x).margin(0.01));
      }
      ++lines;
    }
  }
  CHECK(lines > 1000);
}

TEST_CASE("what the cache held before changes nothing", "[text][property]") {
  std::mt19937 random(13);
  ShapeCache kept;
  ShapedText a, b;
  for (int round = 0; round < 300; ++round) {
    const std::string text = random_text(random, 1 + random() % 40);
    TextStyle style;
    if (round % 5 == 0) style.features = {{tag("liga"), 0}};
    if (round % 7 == 0) style.language = "tr";
    ShapeCache fresh;
    REQUIRE(a.set(faces(), text, style, kept).has_value());
    REQUIRE(b.set(faces(), text, style, fresh).has_value());
    CHECK(glyphs_of(a) == glyphs_of(b));
    if (round % 50 == 49) kept.clear();
  }
}

TEST_CASE("a measure is what painting covers", "[text][property]") {
  std::mt19937 random(17);
  ShapeCache cache;
  Paragraph p;
  for (int round = 0; round < 60; ++round) {
    const std::string text = random_text(random, 1 + random() % 20);
    REQUIRE(lay_out(faces(), text, {.size = 24}, cache, p).has_value());
    Rect joined;
    for (std::uint32_t g = 0; g < p.glyphs.size(); ++g)
      joined = enclosing(joined, ink_box(faces(), p, g, g + 1));
    CHECK(joined == ink_box(faces(), p));
  }
}

TEST_CASE("texts of any size and shape end in bounded time and memory", "[text][hostile]") {
  ShapeCache cache;
  Paragraph p;
  const auto lays_out = [&](const std::string& text, const TextStyle& style) {
    return lay_out(faces(), text, style, cache, p).has_value();
  };
  CHECK(lays_out(std::string(1 << 20, 'a'), {.wrap = 300.0F}));
  CHECK(lays_out(std::string(1 << 20, 'a'), {.wrap = 300.0F, .breaking = LineBreaking::anywhere}));
  CHECK(p.lines.size() > 10000);
  std::string marks = "a";
  for (int i = 0; i < 100000; ++i) marks += "\xCC\x81";
  CHECK(lays_out(marks, {.wrap = 300.0F}));
  std::string nested;
  for (int i = 0; i < 200; ++i) nested += i % 2 == 0 ? "\xE2\x80\xAA" : "\xE2\x80\xAB";
  CHECK(lays_out(nested + "tram \xD7\x99\xD7\x9D", {.wrap = 100.0F}));
  std::string joined;
  for (int i = 0; i < 50000; ++i) joined += "\xD8\xA8";  // all of one word, all of it joined
  CHECK(lays_out(joined, {.wrap = 100.0F, .breaking = LineBreaking::anywhere}));
  CHECK(lays_out(std::string(100000, '\n'), {.wrap = 100.0F}));
  CHECK(lays_out(std::string(20000, '\t'), {.wrap = 1e6F}));
  for (int i = 0; i < 256; ++i) CHECK(lays_out(std::string(3, static_cast<char>(i)) + "x", {.wrap = 0.0F}));
  CHECK(lays_out("some words", {.wrap = 0.0F, .box_height = 0.0F, .overflow = Overflow::ellipsis}));
  CHECK(lays_out("some words", {.wrap = 0.0F, .box_height = 0.0F, .overflow = Overflow::smaller}));
  CHECK(lays_out("some words", {.wrap = 0.0F, .box_height = 0.0F, .overflow = Overflow::clip}));
  for (const float bad : {-1.0F, INFINITY, NAN}) {
    CHECK_FALSE(lay_out(faces(), "a", {.leading = bad == -1.0F ? INFINITY : bad}, cache, p).has_value());
    CHECK_FALSE(lay_out(faces(), "a", {.wrap = bad == INFINITY ? -INFINITY : bad}, cache, p).has_value());
    CHECK_FALSE(lay_out(faces(), "a", {.box_height = bad == INFINITY ? NAN : bad}, cache, p).has_value());
  }
}
