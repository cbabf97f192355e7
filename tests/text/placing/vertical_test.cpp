// SPDX-License-Identifier: MIT
// Lines from top to bottom: against the same text lying, turned; and spacing of East Asian text.
#include <algorithm>
#include <cmath>

#include "grafema/atlas/bake.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/text/shaped_text.hpp"
#include "support/same_face.hpp"
#include "support/scene.hpp"
#include "support/scripts.hpp"

using namespace grafema;
using Catch::Detail::Approx;

namespace {

constexpr const char* kGothic = "../opentype/ipaexfont-gothic/ipaexg.ttf";
std::shared_ptr<const Face> gothic() { return test::face_at(kGothic); }

Paragraph lay(const std::shared_ptr<const Face>& face, std::string_view text, const TextStyle& style) {
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(FontStack{face}, text, style, cache, p).has_value());
  return p;
}
TextStyle vertical(WritingMode mode = WritingMode::vertical_rl, LetterStance stance = LetterStance::mixed) {
  return {.size = 40, .writing = mode, .stance = stance};
}
bool has_turned(const Paragraph& p) {
  return std::any_of(p.glyphs.begin(), p.glyphs.end(), [](const PlacedGlyph& g) { return g.turned; });
}

/// The picture, a quarter turn clockwise.
Image turned(const Image& image) {
  Image out = *Image::make(image.height(), image.width(), image.format());
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      for (int c = 0; c < 4; ++c) out.row(x)[(image.height() - 1 - y) * 4 + c] = image.row(y)[x * 4 + c];
    }
  }
  return out;
}
Image painted(const std::shared_ptr<const Face>& face, const Paragraph& p, int width, int height,
              PixelPoint at) {
  Image image = *Image::make(width, height, PixelFormat::rgba8);
  fill_image(image, {1, 1, 1, 1});
  REQUIRE(paint(image, FontStack{face}, p, plain_look({0, 0, 0, 1}), at).has_value());
  return image;
}

constexpr const char* kText = "The last tram\nfrom Quay: 12";
constexpr const char* kSign = "終電\n真夜中";

}  // namespace

TEST_CASE("letters on their side are the lying text, turned", "[vertical][property]") {
  const auto sans = test::dejavu();
  for (const TextAlign align : {TextAlign::start, TextAlign::center, TextAlign::end}) {
    TextStyle lying{.size = 32, .align = align};
    TextStyle standing = lying;
    standing.writing = WritingMode::vertical_rl, standing.stance = LetterStance::sideways;
    const Paragraph a = lay(sans, kText, lying), b = lay(sans, kText, standing);
    REQUIRE(a.glyphs.size() == b.glyphs.size());
    CHECK(b.box.right == a.box.bottom);
    CHECK(b.box.bottom == a.box.right);
    for (std::size_t g = 0; g < a.glyphs.size(); ++g) {
      CHECK(b.glyphs[g].turned);
      CHECK(b.glyphs[g].advance == a.glyphs[g].advance);
      CHECK(b.glyphs[g].pen.x == Approx(a.box.bottom - a.glyphs[g].pen.y));
      CHECK(b.glyphs[g].pen.y == Approx(a.glyphs[g].pen.x));
    }
    const Rect lies = ink_box(FontStack{sans}, a), stands = ink_box(FontStack{sans}, b);
    CHECK(stands.left == Approx(a.box.bottom - lies.bottom));
    CHECK(stands.right == Approx(a.box.bottom - lies.top));
    CHECK(stands.top == Approx(lies.left));
    CHECK(stands.bottom == Approx(lies.right));
  }
}

TEST_CASE("painted and drawn, letters on their side are the lying picture, turned", "[vertical][property]") {
  const auto sans = test::dejavu();
  TextStyle lying{.size = 32};
  TextStyle standing = lying;
  standing.writing = WritingMode::vertical_rl, standing.stance = LetterStance::sideways;
  const Paragraph a = lay(sans, kText, lying), b = lay(sans, kText, standing);
  constexpr int kWidth = 300, kHeight = 100;
  // The box of the standing text is turned about the picture's corner, so that both land on the same pixels.
  const Image flat = turned(painted(sans, a, kWidth, kHeight, {0, 0}));
  const Image upright = painted(sans, b, kHeight, kWidth, {static_cast<float>(kHeight) - a.box.bottom, 0});
  CHECK(test::first_difference(flat, upright, 1).empty());

  test::Scene scene(test::atlas_of(sans, PictureKind::distance, 48));
  View view{.width = kHeight, .height = kWidth};
  Label label = scene.words.add(kText);
  REQUIRE(label.set_style(standing).has_value());
  label.set_placement({.at = {static_cast<float>(kHeight) - a.box.bottom, 0}});
  label.set_look(*scene.context.looks().set("ink", plain_look({0, 0, 0, 1})));
  const Image drawn = test::in_software(scene.words, view, Blending::linear, {1, 1, 1, 1});
  CHECK(test::share_that_differs(drawn, upright, 90) < 0.004);
}

TEST_CASE("ideographs stand one below the other, lines from right to left or left to right", "[vertical]") {
  const auto face = gothic();
  const Paragraph rl = lay(face, kSign, vertical()),
                  lr = lay(face, kSign, vertical(WritingMode::vertical_lr));
  for (const Paragraph* p : {&rl, &lr}) {
    CHECK_FALSE(has_turned(*p));
    REQUIRE(p->lines.size() == 2);
    for (const Line& line : p->lines) {
      for (std::uint32_t g = line.first_glyph; g + 1 < line.end_glyph; ++g) {
        CHECK(p->glyphs[g + 1].pen.x == p->glyphs[g].pen.x);
        CHECK(p->glyphs[g + 1].pen.y == Approx(p->glyphs[g].pen.y + p->glyphs[g].advance));
      }
      const Rect box = line_box(line), ink = ink_box(FontStack{face}, *p, line.first_glyph, line.end_glyph);
      CHECK(ink.left >= box.left - 1);
      CHECK(ink.right <= box.right + 1);
      CHECK(ink.top >= box.top - 1);
      CHECK(ink.bottom <= box.bottom + 1);
      CHECK((box.left + box.right) / 2 == Approx((ink.left + ink.right) / 2).margin(4));
    }
  }
  CHECK(rl.lines[0].left > rl.lines[1].left);
  CHECK(lr.lines[0].left < lr.lines[1].left);
  CHECK(rl.lines[0].left + rl.lines[0].width == Approx(rl.box.right));
}

TEST_CASE("Latin lies on its side among ideographs unless it is to stand", "[vertical]") {
  const auto face = gothic();
  const Paragraph mixed = lay(face, "終電 Tram", vertical());
  for (const PlacedGlyph& glyph : mixed.glyphs) CHECK(glyph.turned == (glyph.text_start >= 6));
  const Paragraph standing = lay(face, "Tram", vertical(WritingMode::vertical_rl, LetterStance::upright));
  CHECK_FALSE(has_turned(standing));
  REQUIRE(standing.glyphs.size() == 4);
  // Letters of different widths stand over each other's middles.
  const auto middle = [&](std::uint32_t g) {
    const Rect ink = ink_box(FontStack{face}, standing, g, g + 1);
    return (ink.left + ink.right) / 2;
  };
  for (std::uint32_t g = 1; g < 4; ++g) CHECK(middle(g) == Approx(middle(0)).margin(2.5));
}

TEST_CASE("vertical forms of punctuation are taken, and brackets without one are turned", "[vertical]") {
  const auto face = gothic();
  const Paragraph lying = lay(face, "電、", {.size = 40}), standing = lay(face, "電、", vertical());
  CHECK(lying.glyphs[0].glyph == standing.glyphs[0].glyph);
  CHECK(lying.glyphs[1].glyph != standing.glyphs[1].glyph);
  const auto plain = test::face_without(kGothic, "GSUB");
  CHECK(lay(plain, "「電」", vertical()).glyphs[0].turned);
  CHECK_FALSE(lay(face, "「電」", vertical()).glyphs[0].turned);
}

TEST_CASE("glyphs of vertical lines are in the atlas and in the subset", "[vertical]") {
  const auto face = gothic();
  const std::u32string characters = U"\u96FB\u3001\u300C\u300D\u30FC\u30C3";
  const std::string text = test::utf8(characters);
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters.assign(characters.begin(), characters.end());
  recipe.size = 16;
  const auto atlas = bake(recipe);
  REQUIRE(atlas.has_value());
  const Paragraph whole = lay(face, text, vertical());
  for (const PlacedGlyph& glyph : whole.glyphs) {
    CHECK_FALSE(glyph.turned);
    CHECK(std::any_of(atlas->glyphs.begin(), atlas->glyphs.end(),
                      [&](const AtlasGlyph& g) { return g.glyph == glyph.glyph; }));
  }
  const test::Reduced reduced = test::reduce(*face, characters);
  const Paragraph part = lay(reduced.face, text, vertical());
  REQUIRE(part.glyphs.size() == whole.glyphs.size());
  for (std::size_t g = 0; g < part.glyphs.size(); ++g) {
    CHECK(part.glyphs[g].pen == whole.glyphs[g].pen);
    CHECK(part.glyphs[g].offset == whole.glyphs[g].offset);
    CHECK_FALSE(part.glyphs[g].turned);
  }
}

TEST_CASE("a few digits stand side by side as one letter", "[vertical]") {
  const auto face = gothic();
  TextStyle style = vertical();
  style.digits_across = 2;
  const Paragraph p = lay(face, "終12電123", style);
  REQUIRE(p.glyphs.size() == 7);
  CHECK(p.glyphs[1].text_start == 3);
  CHECK(p.glyphs[1].text_end == 5);
  CHECK(p.glyphs[2].text_start == 3);
  CHECK(p.glyphs[1].advance == 0);
  CHECK(p.glyphs[2].advance == Approx(40));
  CHECK(p.glyphs[1].pen == p.glyphs[2].pen);
  CHECK_FALSE(p.glyphs[1].turned);
  CHECK(p.glyphs[1].origin().x < p.glyphs[2].origin().x);
  const Rect digits = ink_box(FontStack{face}, p, 1, 3), before = ink_box(FontStack{face}, p, 0, 1);
  CHECK((digits.left + digits.right) / 2 == Approx((before.left + before.right) / 2).margin(2));
  CHECK(digits.top >= before.bottom - 1);
  for (std::size_t g = 4; g < 7; ++g) CHECK(p.glyphs[g].turned);  // three are too many
  // They are as an ideograph: no gap stands beside them.
  style.script_gaps = true;
  CHECK(lay(face, "終12電", style).advance_box.height() == Approx(120));
  CHECK(lay(face, "終123電", style).advance_box.height() >
        lay(face, "終123", style).advance_box.height() + 40);
}

TEST_CASE("vertical lines wrap at a height, and carets and boxes go down", "[vertical]") {
  const auto face = gothic();
  TextStyle style = vertical();
  style.wrap = 130.0F;
  const std::string text = "終電は真夜中に出ます";
  const Paragraph p = lay(face, text, style);
  REQUIRE(p.lines.size() == 4);
  for (const Line& line : p.lines) CHECK(line.height <= 130.0F);
  CHECK(p.box.bottom == 130.0F);
  std::vector<CaretStop> stops;
  caret_stops(p, text, stops);
  for (std::size_t i = 1; i < stops.size(); ++i) {
    if (stops[i].line == stops[i - 1].line) CHECK(stops[i].x >= stops[i - 1].x);
  }
  std::vector<Rect> boxes;
  range_boxes(p, 0, static_cast<std::uint32_t>(text.size()), boxes);
  REQUIRE(boxes.size() == p.lines.size());
  for (std::size_t l = 0; l < boxes.size(); ++l) {
    const Rect line = line_box(p.lines[l]);
    CHECK(boxes[l].left == line.left);
    CHECK(boxes[l].right == line.right);
    CHECK(boxes[l].top == Approx(line.top).margin(0.01));
    CHECK(boxes[l].bottom == Approx(line.bottom).margin(0.01));
  }
  // What does not fit is cut as in lying lines.
  style.box_height = 60.0F, style.overflow = Overflow::ellipsis;
  const Paragraph cut = lay(face, text, style);
  CHECK(cut.lines.size() == 1);
  CHECK(cut.lines[0].height <= 130.0F);
  CHECK(cut.writing == WritingMode::vertical_rl);
}

TEST_CASE("a gap stands between ideographs and other letters, and not at the end of a line", "[spacing]") {
  const auto face = gothic();
  TextStyle plain{.size = 40}, gaps{.size = 40, .script_gaps = true};
  const std::string text = "終電N1です";
  CHECK(lay(face, text, gaps).advance_box.width() ==
        Approx(lay(face, text, plain).advance_box.width() + 2 * 10.0F));
  CHECK(lay(face, "終電です", gaps).advance_box.width() == lay(face, "終電です", plain).advance_box.width());
  CHECK(lay(face, "N1 終", gaps).advance_box.width() == lay(face, "N1 終", plain).advance_box.width());
  // Two lines: the gap between them is gone.
  gaps.wrap = 81.0F;
  const Paragraph p = lay(face, "終電N", gaps);
  REQUIRE(p.lines.size() == 2);
  CHECK(p.lines[0].width == Approx(80));
  float sum = 0;
  for (std::uint32_t g = p.lines[0].first_glyph; g < p.lines[0].end_glyph; ++g) sum += p.glyphs[g].advance;
  CHECK(sum == Approx(p.lines[0].width));
}

TEST_CASE("punctuation that ends a line may take half its width", "[spacing]") {
  const auto face = gothic();
  TextStyle style{.size = 40};
  const float full = lay(face, "終電、", style).advance_box.width();
  style.halve_ends = true;
  CHECK(lay(face, "終電、", style).advance_box.width() == Approx(full - 20));
  CHECK(lay(face, "、終電", style).advance_box.width() == Approx(full));
  // With it, the mark finds room on a line that it would have left.
  style.wrap = 105.0F;
  CHECK(lay(face, "終電、夜", style).lines[0].end == 9);
  style.halve_ends = false;
  CHECK(lay(face, "終電、夜", style).lines[0].end < 9);
}

TEST_CASE("no line begins with closing punctuation, as strictly as is asked for", "[spacing]") {
  const auto face = gothic();
  TextStyle style{.size = 40, .language = "ja", .wrap = 81.0F};
  const auto ends = [&](const std::string& text) {
    std::vector<std::uint32_t> out;
    for (const Line& line : lay(face, text, style).lines) out.push_back(line.end);
    return out;
  };
  CHECK(ends("終電。夜")[0] == 3);
  CHECK(ends("終電」夜")[0] == 3);
  // A small kana may begin a line unless the rules are strict, and an iteration mark where they are loose.
  style.breaking = LineBreaking::strict;
  CHECK(ends("終シャツ")[0] == 3);
  style.breaking = LineBreaking::normal;
  CHECK(ends("終シャツ")[0] == 6);
  CHECK(ends("終人々夜")[0] == 3);
  style.breaking = LineBreaking::loose;
  CHECK(ends("終人々夜")[0] == 6);
}

TEST_CASE("thin spaces before French punctuation keep it on its line", "[spacing]") {
  const auto sans = test::dejavu();
  for (const char* space : {"\u202F", "\u00A0"}) {
    const std::string text = std::string("Le tram") + space + "? Oui";
    const Paragraph p = lay(sans, text, {.size = 20, .wrap = 80.0F});
    CHECK(text.substr(p.lines[0].start, p.lines[0].end - p.lines[0].start) == "Le ");
  }
}

TEST_CASE("lines under vertical letters run down, and links are found where their letters stand",
          "[vertical]") {
  const auto sans = test::dejavu();
  test::Scene scene(test::atlas_of(sans, PictureKind::distance, 40));
  RichText text;
  text.text = "Tram to Quay";
  Span span;
  span.start = 5, span.end = 7;
  span.style.underline = true, span.style.link = "stop-4";
  text.spans.push_back(span);
  TextStyle style{.size = 40, .writing = WritingMode::vertical_rl};
  Label label = scene.words.add("");
  REQUIRE(label.set_style(style).has_value());
  label.set_rich(text);
  label.set_placement({.at = {20, 10}});
  const Paragraph& p = label.paragraph();
  REQUIRE(p.bars.size() == 1);
  const Rect bar = p.bars[0].box, line = line_box(p.lines[0]);
  CHECK(bar.height() > 4 * bar.width());
  CHECK(bar.left >= line.left);
  CHECK(bar.right <= line.right);
  CHECK(bar.top == Approx(p.glyphs[5].pen.y).margin(0.01));
  const View view{.width = 200, .height = 400};
  REQUIRE(scene.words.update(view, 0).has_value());
  const float x = 20 + (line.left + line.right) / 2;
  CHECK(label.link_at({x, 10 + p.glyphs[5].pen.y + 3}) == "stop-4");
  CHECK(label.link_at({x, 10 + p.glyphs[2].pen.y + 3}).empty());
  CHECK(label.link_at({20 + line.right + 5, 10 + p.glyphs[5].pen.y + 3}).empty());
}
