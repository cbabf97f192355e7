// SPDX-License-Identifier: MIT
// Labels of rich text: looks and motions by name, links, reveal, bars in every layer.
#include <catch2/catch.hpp>

#include "grafema/draw/paint.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kRichLabelView{.width = 400, .height = 120};

struct Stage {
  test::WhiteContext context{FontStack{test::dejavu()}, nullptr};
  TextScene words{context};
  Label label = words.add();

  Stage() {
    Look late;
    late.add({.grow = 2, .fill = Fill::solid({0, 0, 0, 1})});
    late.add({.fill = Fill::solid({1, 0, 0, 1})});
    REQUIRE(context.looks().set("late", late).has_value());
  }
  std::vector<test::DrawnGlyph> drawn(Notes* notes = nullptr) {
    REQUIRE(words.update(kRichLabelView, 0, notes).has_value());
    return test::all_drawn(words.memory());
  }
};

RichText one(std::string_view before, std::string_view inside, const SpanStyle& style) {
  RichText text;
  text.append(before).append(inside, style);
  return text;
}

SpanStyle late() {
  SpanStyle style;
  style.look = "late";
  return style;
}

}  // namespace

TEST_CASE("layers of all looks end together: the front ones are painted last", "[label][rich_text]") {
  Stage stage;
  stage.label.set_rich(one("ab", "cde", late()));
  const std::vector<test::DrawnGlyph> drawn = stage.drawn();
  REQUIRE(drawn.size() == 2 + 2 * 3);
  // First the grown layer of the three letters, then the plain two and the fills of the three.
  for (std::size_t q = 0; q < 3; ++q) CHECK(drawn[q].layer.grow > 0);
  for (std::size_t q = 3; q < 8; ++q) CHECK(drawn[q].layer.grow == 0);
  CHECK(stage.words.memory().batches().size() == 1);
}

TEST_CASE("names of looks and motions that a context lacks are noted and the text stays",
          "[label][rich_text]") {
  Stage stage;
  SpanStyle style;
  style.look = "lat", style.motion = "ratle";
  stage.label.set_rich(one("ab", "cde", style));
  Notes notes;
  CHECK(stage.drawn(&notes).size() == 5);
  REQUIRE(notes.all().size() == 2);
  CHECK(describe(notes.all()[0]).find("did you mean 'late'") != std::string::npos);
  CHECK(describe(notes.all()[1]).find("did you mean 'rattle'") != std::string::npos);
}

TEST_CASE("a motion of a span moves its letters alone", "[label][rich_text]") {
  Stage stage;
  SpanStyle style;
  style.motion = "rattle";
  stage.label.set_rich(one("ab", "cde", style));
  stage.label.move_to({10, 20});
  const auto at = [&](double seconds) {
    return test::in_software(stage.words, kRichLabelView, Blending::linear, {0, 0, 0, 1}, seconds);
  };
  const Image first = at(1), later = at(1.7);
  const Paragraph& p = stage.label.paragraph();
  const auto differs_from = [&](float left, float right) {
    int count = 0;
    for (int y = 0; y < first.height(); ++y) {
      for (int x = static_cast<int>(10 + left); x < static_cast<int>(10 + right); ++x)
        count += std::abs(first.value(x, y) - later.value(x, y)) > 8 ? 1 : 0;
    }
    return count;
  };
  const float begin = p.glyphs[2].pen.x;
  CHECK(differs_from(-10, begin - 3) == 0);
  CHECK(differs_from(begin, p.box.width()) > 20);
}

TEST_CASE("underlines are drawn in every layer of the look", "[label][rich_text]") {
  Stage stage;
  SpanStyle style = late();
  style.underline = true;
  stage.label.set_rich(one("", "men", style));
  std::size_t bars = 0;
  for (const test::DrawnGlyph& d : stage.drawn()) bars += d.kind == TexelKind::bar ? 1 : 0;
  CHECK(bars == 2);
}

TEST_CASE("a painted rich text and a drawn one are the same picture", "[label][rich_text][property]") {
  Stage stage;
  SpanStyle style = late();
  style.underline = true, style.font.slant = Slant::italic, style.scale = 1.3F;
  const RichText text = one("Pale ", "Orchard", style);
  stage.label.set_rich(text);
  stage.label.set_size(40);
  stage.label.move_to({10, 20});
  const Color backdrop{0.4F, 0.5F, 0.7F, 1};
  const Image drawn = test::in_software(stage.words, kRichLabelView, Blending::linear, backdrop);
  Image painted = *Image::make(400, 120, PixelFormat::rgba8);
  fill_image(painted, backdrop);
  const Paragraph& p = stage.label.paragraph();
  const Look& red = stage.context.looks().get(*stage.context.looks().read("late"));
  REQUIRE(paint(painted, stage.context.fonts(), p, plain_look({1, 1, 1, 1}), {10, 20}, nullptr, {},
                [&](std::size_t s) { return p.styles[s].look == 0 ? &red : nullptr; })
              .has_value());
  CHECK(test::share_that_differs(drawn, painted, 40) < 0.012);
  CHECK(test::share_that_differs(drawn, painted, 1) > 0);  // two ways of painting, not one
}

TEST_CASE("the link under a pixel is that of its span", "[label][rich_text]") {
  Stage stage;
  SpanStyle style;
  style.link = "stop-4";
  stage.label.set_rich(one("to ", "Pale Orchard", style));
  stage.label.move_to({10, 20});
  REQUIRE(stage.words.update(kRichLabelView, 0).has_value());
  const Paragraph& p = stage.label.paragraph();
  const float y = 20 + p.lines[0].baseline - 5;
  CHECK(stage.label.link_at({10 + p.glyphs[5].pen.x + 1, y}) == "stop-4");
  CHECK(stage.label.link_at({11, y}).empty());
  std::vector<Rect> boxes;
  stage.label.link_boxes("stop-4", boxes);
  REQUIRE(boxes.size() == 1);
  CHECK(boxes[0].left == Approx(p.glyphs[3].pen.x));
  CHECK(boxes[0].right == Approx(p.glyphs.back().pen.x + p.glyphs.back().advance).margin(0.01));
  stage.label.link_boxes("stop-5", boxes);
  CHECK(boxes.empty());
  CHECK(stage.label.link_at({10 + p.glyphs[5].pen.x + 1, 110}).empty());
}

TEST_CASE("characters that show nothing are not waited for", "[label][rich_text]") {
  Stage stage;
  stage.label.set_text(
      "a\xE2\x81\xA8"
      "b\xE2\x81\xA9");  // U+2068 and U+2069 around b
  CHECK(stage.label.clusters().size() == 2);
}

TEST_CASE("revealing shows clusters in the order of the text and moves nothing",
          "[label][rich_text][property]") {
  Stage stage;
  const char* const text = GENERATE("Next stop: Pale Orchard",
                                    "e\xCC\x81"
                                    "a tram",
                                    "\xD7\x94\xD7\xA2\xD7\xA8\xD7\xA4\xD7\x9C tram 7");
  SpanStyle style;
  style.underline = true;
  stage.label.set_rich(one("", text, style));
  const Paragraph whole = stage.label.paragraph();
  const std::size_t clusters = stage.label.clusters().size();
  std::size_t last = 0;
  for (std::size_t n = 0; n <= clusters; ++n) {
    stage.label.set_revealed(n);
    const std::vector<test::DrawnGlyph> drawn = stage.drawn();
    std::size_t glyphs = 0;
    for (const test::DrawnGlyph& d : drawn) glyphs += d.kind == TexelKind::bar ? 0 : 1;
    CHECK(glyphs >= last);
    last = glyphs;
    CHECK(stage.label.paragraph().glyphs == whole.glyphs);
    if (n == 0) CHECK(drawn.empty());
  }
  stage.label.set_revealed(Label::kAll);
  (void)stage.drawn();
  CHECK(stage.words.work().layouts == 1);
}
