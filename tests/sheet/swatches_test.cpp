// SPDX-License-Identifier: MIT
// Contrast of looks, and ready-made looks that stand out from every ground.
#include "grafema/sheet/swatches.hpp"

#include <catch2/catch.hpp>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_looks.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Swatch swatch_of(const Look& look, const char* name = "it") { return {name, look, {}}; }

}  // namespace

TEST_CASE("the contrast ratio is that of WCAG 2", "[looks][contrast]") {
  CHECK(contrast_ratio({1, 1, 1, 1}, {0, 0, 0, 1}) == Approx(21).margin(0.001));
  CHECK(contrast_ratio({0, 0, 0, 1}, {1, 1, 1, 1}) == Approx(21).margin(0.001));
  CHECK(contrast_ratio({0.3F, 0.5F, 0.7F, 1}, {0.3F, 0.5F, 0.7F, 1}) == Approx(1));
  // Known pairs: #767676 on white is the darkest gray that passes, 4.54; pure red on white 4.0.
  CHECK(contrast_ratio(*read_color("#767676"), {1, 1, 1, 1}) == Approx(4.54).margin(0.01));
  CHECK(contrast_ratio({1, 0, 0, 1}, {1, 1, 1, 1}) == Approx(4.0).margin(0.01));
}

TEST_CASE("a plain look has the contrast of its color and the ground", "[looks][contrast]") {
  const FontStack fonts{test::dejavu()};
  Swatch swatches[] = {swatch_of(plain_look({1, 1, 1, 1})), swatch_of(plain_look({0, 0, 0, 1})),
                       swatch_of(plain_look({1, 1, 1, 0}))};
  REQUIRE(find_contrasts(swatches, fonts, {.size = 60}).has_value());
  const auto ground = [](SwatchGround g) {
    const Image image = *make_ground(g, 4, 4);
    return Color{static_cast<float>(image.value(0, 0, 0)) / 255,
                 static_cast<float>(image.value(0, 0, 1)) / 255,
                 static_cast<float>(image.value(0, 0, 2)) / 255, 1};
  };
  for (const SwatchGround g : {SwatchGround::light, SwatchGround::dark}) {
    const auto i = static_cast<std::size_t>(g);
    CHECK(swatches[0].contrast[i] == Approx(contrast_ratio({1, 1, 1, 1}, ground(g))).epsilon(0.02));
    CHECK(swatches[1].contrast[i] == Approx(contrast_ratio({0, 0, 0, 1}, ground(g))).epsilon(0.05));
    CHECK(swatches[2].contrast[i] == Approx(1).margin(0.01));  // nothing is painted
  }
}

TEST_CASE("an outline makes a look readable where its letters alone are not", "[looks][contrast]") {
  const FontStack fonts{test::dejavu()};
  Look outlined;
  outlined.add({.grow = 4, .fill = Fill::solid({0, 0, 0.2F, 1})});
  outlined.add({.fill = Fill::solid({1, 1, 1, 1})});
  Swatch swatches[] = {swatch_of(plain_look({1, 1, 1, 1}), "plain"), swatch_of(outlined, "outlined")};
  Notes notes;
  REQUIRE(find_contrasts(swatches, fonts, {}, &notes).has_value());
  CHECK(swatches[0].contrast[0] < 1.3F);
  for (const float contrast : swatches[1].contrast) CHECK(contrast > 12);
  REQUIRE_FALSE(notes.empty());
  for (const Note& note : notes.all()) {
    CHECK(note.kind == NoteKind::low_contrast);
    CHECK(note.look == "plain");
  }
  CHECK_THAT(describe(notes.all()[0]), Catch::Contains("on a light backdrop; 4.5 to 1 can be read"));
}

TEST_CASE("letters and an outline of like colors are held against what is behind both", "[looks][contrast]") {
  Look pale;
  pale.add({.grow = 3, .fill = Fill::solid({1, 1, 0.97F, 1})});
  pale.add({.fill = Fill::solid({0.95F, 0.95F, 0.95F, 1})});
  Swatch swatches[] = {swatch_of(pale, "pale")};
  REQUIRE(find_contrasts(swatches, {test::dejavu()}).has_value());
  const auto on = [&](SwatchGround ground) { return swatches[0].contrast[static_cast<std::size_t>(ground)]; };
  CHECK(on(SwatchGround::dark) > 7);
  CHECK(on(SwatchGround::light) < 2);  // pale on pale stays hard to read
}

TEST_CASE("every ready-made look can be read on every ground", "[looks][contrast]") {
  CHECK(look_names().size() >= 12);
  std::vector<Swatch> swatches;
  for (const std::string_view name : look_names())
    swatches.push_back({std::string(name), *read_ready_look(name), {}});
  for (const FontStack& fonts : {FontStack{test::dejavu()}, FontStack{built_in_face()}}) {
    REQUIRE(find_contrasts(swatches, fonts).has_value());
    for (const Swatch& swatch : swatches) {
      for (const float contrast : swatch.contrast) {
        INFO(swatch.name << " " << contrast);
        CHECK(contrast >= kMinContrast);
        CHECK(contrast <= 21.001F);
      }
    }
  }
  CHECK_THAT(describe(read_ready_look("lamplite").error()), Catch::Contains("did you mean 'lamplight'?"));
  LookBook book;
  add_ready_looks(book);
  CHECK(book.size() == look_names().size() + 1);
  CHECK(book.read("night-tram").has_value());
}

TEST_CASE("sheets of swatches show each look, and what can't be is refused", "[looks][contrast]") {
  const FontStack fonts{test::dejavu()};
  std::vector<Swatch> swatches = {swatch_of(*read_ready_look("ferry"), "ferry"),
                                  swatch_of(*read_ready_look("ember"), "ember")};
  REQUIRE(find_contrasts(swatches, fonts).has_value());
  const Image one = *draw_swatches(std::span(swatches).first(1), fonts),
              two = *draw_swatches(swatches, fonts);
  CHECK(two.width() == one.width());
  CHECK(two.height() > one.height());
  CHECK(two.height() <= 2 * one.height());
  CHECK_FALSE(draw_swatches({}, fonts).has_value());
  CHECK_FALSE(draw_swatches(swatches, fonts, {.size = 7}).has_value());
  CHECK_FALSE(draw_swatches(swatches, fonts, {.size = std::nanf("")}).has_value());
  CHECK_FALSE(find_contrasts(swatches, fonts, {.size = 500}).has_value());
  const std::vector<Swatch> many(2000, swatches[0]);
  CHECK_FALSE(draw_swatches(many, fonts).has_value());
  // A text without ink has no contrast.
  REQUIRE(find_contrasts(swatches, fonts, {.text = "   "}).has_value());
  CHECK(swatches[0].contrast[0] == 1);
}
