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
  Label label{context};
  test::Quads quads;

  Stage() {
    Look late;
    late.add({.grow = 2, .fill = Fill::solid({0, 0, 0, 1})});
    late.add({.fill = Fill::solid({1, 0, 0, 1})});
    REQUIRE(context.looks().set("late", late).has_value());
  }
  const QuadList& emit(Notes* notes = nullptr) {
    Label* const labels[] = {&label};
    return quads.emit(context, labels, kRichLabelView, notes);
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
  const QuadList& list = stage.emit();
  REQUIRE(list.quad_count == 2 + 2 * 3);
  // First the grown layer of the three letters, then the plain two and the fills of the three.
  for (std::size_t q = 0; q < 3; ++q) CHECK(list.records[list.quads[q].record].grow > 0);
  for (std::size_t q = 3; q < 8; ++q) CHECK(list.records[list.quads[q].record].grow == 0);
  CHECK(list.batch_count == 1);
}

TEST_CASE("names of looks and motions that a context lacks are noted and the text stays",
          "[label][rich_text]") {
  Stage stage;
  SpanStyle style;
  style.look = "lat", style.motion = "ratle";
  stage.label.set_rich(one("ab", "cde", style));
  Notes notes;
  CHECK(stage.emit(&notes).quad_count == 5);
  REQUIRE(notes.all().size() == 2);
  CHECK(describe(notes.all()[0]).find("did you mean 'late'") != std::string::npos);
  CHECK(describe(notes.all()[1]).find("did you mean 'rattle'") != std::string::npos);
}

TEST_CASE("a motion of a span moves its letters alone", "[label][rich_text]") {
  Stage stage;
  SpanStyle style;
  style.motion = "rattle";
  stage.label.set_rich(one("ab", "cde", style));
  stage.label.set_time(1);
  stage.emit();
  const std::vector<GlyphQuad> first = stage.quads.quads;
  stage.label.set_time(1.7);
  stage.emit();
  for (std::size_t q = 0; q < 5; ++q) {
    CHECK((first[q].origin == stage.quads.quads[q].origin) == (q < 2));
  }
}

TEST_CASE("underlines are drawn in every layer of the look", "[label][rich_text]") {
  Stage stage;
  SpanStyle style = late();
  style.underline = true;
  stage.label.set_rich(one("", "men", style));
  const QuadList& list = stage.emit();
  std::size_t bars = 0;
  for (const Batch& batch : list.batches.first(list.batch_count)) {
    bars += batch.kind == QuadKind::bar ? batch.count : 0;
  }
  CHECK(bars == 2);
}

TEST_CASE("a painted rich text and a drawn one are the same picture", "[label][rich_text][property]") {
  Stage stage;
  SpanStyle style = late();
  style.underline = true, style.font.slant = Slant::italic, style.scale = 1.3F;
  const RichText text = one("Pale ", "Orchard", style);
  stage.label.set_rich(text);
  REQUIRE(stage.label.set_size(40).has_value());
  REQUIRE(stage.label.set_placement({.at = {10, 20}}).has_value());
  Label* const labels[] = {&stage.label};
  const Color backdrop{0.4F, 0.5F, 0.7F, 1};
  const Image drawn = test::in_software(stage.context, labels, kRichLabelView, Blending::linear, backdrop);
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
  REQUIRE(stage.label.set_placement({.at = {10, 20}}).has_value());
  const Paragraph& p = stage.label.paragraph();
  const float y = 20 + p.lines[0].baseline - 5;
  CHECK(stage.label.link_at({10 + p.glyphs[5].pen.x + 1, y}, kRichLabelView) == "stop-4");
  CHECK(stage.label.link_at({11, y}, kRichLabelView).empty());
  std::vector<Rect> boxes;
  stage.label.link_boxes("stop-4", boxes);
  REQUIRE(boxes.size() == 1);
  CHECK(boxes[0].left == Approx(p.glyphs[3].pen.x));
  CHECK(boxes[0].right == Approx(p.glyphs.back().pen.x + p.glyphs.back().advance).margin(0.01));
  stage.label.link_boxes("stop-5", boxes);
  CHECK(boxes.empty());
  CHECK(stage.label.link_at({10 + p.glyphs[5].pen.x + 1, 110}, kRichLabelView).empty());
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
    const QuadList& list = stage.emit();
    std::size_t glyphs = 0;
    for (const Batch& batch : list.batches.first(list.batch_count)) {
      glyphs += batch.kind == QuadKind::bar ? 0 : batch.count;
    }
    CHECK(glyphs >= last);
    last = glyphs;
    CHECK(stage.label.paragraph().glyphs == whole.glyphs);
    if (n == 0) CHECK(list.quad_count == 0);
  }
  stage.label.set_revealed(Label::kAll);
  stage.emit();
  CHECK(stage.label.work().layouts == 1);
}
