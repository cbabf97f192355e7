// SPDX-License-Identifier: MIT
// Pictures of a game's own between words.
#include "grafema/files/picture_icon.hpp"

#include <catch2/catch.hpp>

#include "grafema/draw/paint.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// A PNG of one color.
std::vector<std::byte> picture_of(int width, int height, const Color& color) {
  Image image = *Image::make(width, height, PixelFormat::rgba8);
  fill_image(image, color);
  return *make_png(image);
}

}  // namespace

TEST_CASE("a picture stands between words, as high as it is asked to be, in its own colors", "[icons]") {
  const auto icon = make_picture_icon(picture_of(24, 12, {1, 0, 0, 1}));
  REQUIRE(icon.has_value());
  RichText rich;
  rich.text = "a" + std::string(kIconCharacter) + "b";
  PlacedIcon placed;
  placed.position = 1, placed.icon = *icon;
  rich.icons.push_back(placed);
  ShapeCache cache;
  Paragraph paragraph;
  const FontStack stack{test::dejavu()};
  REQUIRE(lay_out(stack, rich, {.size = 40}, cache, paragraph).has_value());
  REQUIRE(paragraph.icons.size() == 1);
  CHECK(paragraph.icons[0].box.height() == Approx(40));
  CHECK(paragraph.icons[0].box.width() == Approx(80));  // twice as wide as high
  Image image = *Image::make(200, 100, PixelFormat::rgba8);
  fill_image(image, {1, 1, 1, 1});
  REQUIRE(paint(image, *paragraph.rich_fonts, paragraph, plain_look({0, 0, 0, 1}), {20, 20}, nullptr,
                {.read_picture = read_png})
              .has_value());
  int red = 0, black = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      red += image.value(x, y, 0) > 250 && image.value(x, y, 1) < 5 ? 1 : 0;
      black += image.value(x, y, 0) < 5 ? 1 : 0;
    }
  }
  CHECK(std::abs(red - 80 * 40) < 450);  // its edges fade over half a texel
  CHECK(black > 50);                     // the letters beside it
}

TEST_CASE("pictures that can't be icons are refused", "[icons]") {
  CHECK_FALSE(make_picture_icon({}).has_value());
  std::vector<std::byte> cut = picture_of(8, 8, {1, 0, 0, 1});
  cut.resize(cut.size() / 2);
  CHECK_FALSE(make_picture_icon(cut).has_value());
  const auto thin = make_picture_icon(picture_of(400, 2, {1, 0, 0, 1}));
  REQUIRE_FALSE(thin.has_value());
  CHECK(thin.error().kind == ErrorKind::bad_value);
  const auto none = load_picture_icon("none.png");
  REQUIRE_FALSE(none.has_value());
  CHECK_THAT(describe(none.error()), Catch::Contains("none.png"));
}
