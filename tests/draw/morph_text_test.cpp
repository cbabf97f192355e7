// SPDX-License-Identifier: MIT
// Labels whose word melts: drawn as their outlines are, laid out once.
#include "grafema/draw/morph_text.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/draw/paint.hpp"
#include "grafema/render/software_renderer.hpp"
#include "support/scene.hpp"
#include "support/shapes.hpp"

using namespace grafema;

namespace {

std::unique_ptr<MorphText> melting(const std::vector<std::string>& texts, const MorphTextOptions& options) {
  Result<std::unique_ptr<MorphText>> made = MorphText::make(FontStack{test::dejavu()}, texts, options);
  INFO((made ? std::string() : describe(made.error())));
  REQUIRE(made);
  return *std::move(made);
}

/// White on black, the label's corner at 10, 10.
Image picture_of(TextScene& words, int width, int height) {
  const View view{.width = static_cast<float>(width), .height = static_cast<float>(height)};
  REQUIRE(words.update(view, 0));
  Image image = *Image::make(width, height, PixelFormat::rgba8);
  for (int y = 0; y < height; ++y) {
    for (int x = 0; x < width; ++x) image.row(y)[4 * x + 3] = 255;
  }
  REQUIRE(draw_in_software(words.memory(), Blending::linear, image));
  return image;
}

double sum_of(const Image& image) {
  double sum = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) sum += to_linear(image.value(x, y, 0) / 255.0F);
  }
  return sum;
}

}  // namespace

TEST_CASE("a melting label covers what its outline covers, at every time", "[morph]") {
  const auto kind = GENERATE(PictureKind::coverage, PictureKind::distance);
  const auto morph =
      melting({"Larkspur", "Salt & Glass", "Quay"}, {.style = {.size = 40}, .kind = kind, .reach = 4});
  CHECK(morph->changes() == 2);
  test::WhiteContext context(morph->fonts(), morph->source());
  TextScene words(context);
  Label label = words.add(morph->text());
  REQUIRE(label.set_style(morph->label_style()));
  label.set_placement({.at = {10, 10}});
  label.set_look(*context.looks().set("white", plain_look({1, 1, 1, 1})));
  Contours outline;
  Triangles triangles;
  for (const float t : {0.0F, 0.3F, 0.7F, 1.0F, 1.5F, 2.0F, 0.3F, -1.0F, 9.0F}) {
    INFO("at " << t);
    morph->show(t);
    const Image image = picture_of(words, 340, 80);
    morph->outline(t, outline);
    REQUIRE(triangulate(outline, 0.02F, triangles));
    // Letters that lie over each other for a moment are drawn one over the other.
    CHECK(sum_of(image) == Approx(triangles.area()).epsilon(kind == PictureKind::coverage ? 0.01 : 0.03));
  }
}

TEST_CASE("at its ends a melting label looks as the text itself", "[morph]") {
  const auto morph = melting({"Marrow Hill", "Tinsel Quay"}, {.style = {.size = 32}});
  const FontStack stack{test::dejavu()};
  test::WhiteContext context(morph->fonts(), morph->source());
  TextScene words(context);
  Label label = words.add(morph->text());
  REQUIRE(label.set_style(morph->label_style()));
  label.set_placement({.at = {10, 10}});
  const Look white = plain_look({1, 1, 1, 1});
  label.set_look(*context.looks().set("white", white));
  ShapeCache cache;
  Paragraph paragraph;
  for (const auto& [t, text] : {std::pair(0.0F, "Marrow Hill"), std::pair(1.0F, "Tinsel Quay")}) {
    morph->show(t);
    const Image image = picture_of(words, 240, 64);
    REQUIRE(lay_out(stack, text, {.size = 32}, cache, paragraph));
    Image plain = *Image::make(240, 64, PixelFormat::rgba8);
    REQUIRE(paint(plain, stack, paragraph, white, {10, 10}));
    for (int y = 0; y < 64; ++y) {
      for (int x = 0; x < 240; ++x)
        REQUIRE(std::abs(to_linear(image.value(x, y, 0) / 255.0F) - plain.value(x, y, 3) / 255.0F) <
                0.06F);  // straight pieces leave curves by a twentieth
    }
  }
}

TEST_CASE("what a renderer has to load is what changed", "[morph]") {
  const auto morph = melting({"AAAA", "ABAA"}, {.style = {.size = 30}, .stagger = 0});
  GlyphSource& source = *morph->source();
  const std::uint64_t epoch = source.epoch(), revision = source.pages()[0].revision;
  morph->show(0.5F);
  std::array<PixelRect, 8> changed;
  // Only the letter that changes; the others are where they were and not painted again.
  CHECK(source.epoch() == epoch);
  CHECK(source.pages()[0].revision == revision + 1);
  CHECK(source.changes_since(0, revision, changed) >= 1);
  CHECK(source.changes_since(0, source.pages()[0].revision, changed) == 0);
  const std::uint64_t now = source.pages()[0].revision;
  morph->show(0.5F);
  CHECK(source.pages()[0].revision == now);
}

TEST_CASE("lines and dots stand where outlines do", "[morph]") {
  const auto filled = melting({"SO", "XY"}, {.style = {.size = 60}}),
             line = melting({"SO", "XY"},
                            {.style = {.size = 60}, .drawing = MorphDrawing::line, .line_width = 2}),
             dots = melting(
                 {"SO", "XY"},
                 {.style = {.size = 60}, .drawing = MorphDrawing::dots, .line_width = 3, .dot_step = 9});
  const auto area = [](MorphText& morph, float t) {
    morph.show(t);
    const ImageView page = morph.source()->pixels(0);
    double sum = 0;
    for (int i = 0; i < page.width * page.height; ++i) sum += page.data[i];
    return sum / 255;
  };
  for (const float t : {0.0F, 0.5F, 1.0F}) {
    CHECK(area(*line, t) > 100);
    CHECK(area(*dots, t) > 100);
    CHECK(area(*dots, t) < area(*line, t) * 1.5);
  }
  CHECK(area(*filled, 0) > area(*line, 0));
}

TEST_CASE("easings begin at 0 and end at 1", "[morph]") {
  for (const MorphEasing easing : {MorphEasing::even, MorphEasing::soft, MorphEasing::fall,
                                   MorphEasing::brake, MorphEasing::overshoot}) {
    CHECK(ease(easing, 0) == Approx(0).margin(1e-6));
    CHECK(ease(easing, 1) == 1);
    CHECK(ease(easing, 0.5F) > 0);
  }
}

TEST_CASE("letters that go too far are not cut at their cells, and come back", "[morph]") {
  const auto even = melting({"II", "WW"}, {.style = {.size = 60}, .easing = MorphEasing::even, .stagger = 0}),
             far = melting({"II", "WW"},
                           {.style = {.size = 60}, .easing = MorphEasing::overshoot, .stagger = 0}),
             own =
                 melting({"II", "WW"},
                         {.style = {.size = 60}, .own_easing = [](float t) { return 1 - t; }, .stagger = 0});
  Contours a, b;
  Triangles triangles;
  far->show(0.75F);
  far->outline(0.75F, a);
  even->outline(1, b);
  CHECK(bounds(a).x_max > bounds(b).x_max + 0.5F);
  REQUIRE(triangulate(a, 0.02F, triangles));
  const ImageView page = far->source()->pixels(0);
  double sum = 0;
  for (int i = 0; i < page.width * page.height; ++i) sum += page.data[i] / 255.0;
  CHECK(sum >= triangles.area() * 0.99);  // more where letters lie over each other
  own->outline(1, a);
  even->outline(0, b);
  CHECK(bounds(a).x_max == Approx(bounds(b).x_max).margin(0.01));
}

TEST_CASE("wrong options of melting labels are refused", "[morph]") {
  const FontStack stack{test::dejavu()};
  const auto kind_of = [&](const std::vector<std::string>& texts, const MorphTextOptions& options) {
    const auto made = MorphText::make(stack, texts, options);
    REQUIRE_FALSE(made);
    return made.error().kind;
  };
  CHECK(kind_of({"one"}, {}) == ErrorKind::bad_value);
  CHECK(kind_of({"a", "b"}, {.kind = PictureKind::color}) == ErrorKind::bad_value);
  CHECK(kind_of({"a", "b"}, {.stagger = 1}) == ErrorKind::bad_value);
  CHECK(kind_of({"a", "b"}, {.reach = 0}) == ErrorKind::bad_value);
  CHECK(kind_of({"a", "b"}, {.line_width = 0}) == ErrorKind::bad_value);
  const auto none = melting({"", "  "}, {});
  none->show(0.5F);
}
