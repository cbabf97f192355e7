// SPDX-License-Identifier: MIT
// Captions, specimens, guides and contact sheets.
#include "grafema/draw/paint.hpp"
#include "grafema/files/files.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/sheet/contact_sheet.hpp"
#include "grafema/sheet/face_rows.hpp"
#include "grafema/sheet/guides.hpp"
#include "grafema/sheet/specimen.hpp"
#include "grafema/unicode/character_sets.hpp"

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

TEST_CASE("captions are as wide as they say and as large as they are asked to be", "[sheet]") {
  Image image = *Image::make(200, 40, PixelFormat::rgba8);
  CHECK(draw_caption(image, "N1", {3.4F, 2}, {0, 0, 0, 1}, 2) == caption_width("N1", 2));
  CHECK(caption_width("N1", 2) == 2 * caption_width("N1"));
  CHECK(image.value(3, 6, 3) == 255);  // on whole pixels
}

TEST_CASE("a specimen has a column for each face and room for every size", "[sheet]") {
  const std::shared_ptr<const Face> one[] = {test::dejavu()}, two[] = {test::dejavu(), built_in_face()};
  SpecimenOptions options;
  options.sizes = {12, 40};
  options.max_characters = 0;
  const Image narrow = *draw_specimen(one, options), wide = *draw_specimen(two, options);
  CHECK(wide.width() > narrow.width() + 200);
  options.sizes.push_back(100);
  CHECK(draw_specimen(one, options)->height() > narrow.height() + 100);
  options.sizes = {0};
  CHECK_FALSE(draw_specimen(one, options).has_value());
  CHECK_FALSE(draw_specimen({}, {}).has_value());
}

TEST_CASE("guides show boxes around the text without covering it", "[sheet]") {
  const FontStack stack{built_in_face()};
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, "Quay", {.size = 48}, cache, p).has_value());
  Image image = *Image::make(200, 120, PixelFormat::rgba8);
  draw_guides(image, stack, "Quay", p, {.at = {40, 40}}, {.width = 200, .height = 120});
  CHECK(image.value(100, 39, 2) > 200);  // the advance box's upper side, blue
  CHECK(image.value(100, 39, 3) > 200);
  const int below = 40 + static_cast<int>(p.lines[0].height) + 2;
  CHECK(image.value(45, below, 0) > image.value(45, below, 2) + 50);  // the bar of the first cluster, orange
  CHECK(image.value(60, 60, 3) == 0);                                 // nothing inside
  CHECK(image.value(100, 76, 0) > 200);                               // the baseline, red
}

TEST_CASE("pictures are made smaller by averaging light", "[sheet]") {
  Image image = *Image::make(4, 4, PixelFormat::rgba8);
  fill_image(image, {0, 0, 0, 1});
  for (int y = 0; y < 4; ++y) {
    for (int x = 0; x < 2; ++x) std::fill_n(image.row(y) + x * 4, 3, std::uint8_t{255});
  }
  const Image small = *shrunk(image, 1, 1);
  CHECK(small.width() == 1);
  CHECK(small.value(0, 0) == 188);
  CHECK(pixel_hash(*shrunk(image, 10, 10)) == pixel_hash(image));
}

TEST_CASE("a contact sheet holds every picture", "[sheet]") {
  Image white = *Image::make(100, 50, PixelFormat::rgba8);
  fill_image(white, {1, 1, 1, 1});
  const std::vector<NamedImage> list(5, NamedImage{"one", &white});
  const Image sheet = *draw_contact_sheet(list, 2, 200);
  int white_pixels = 0;
  for (int y = 0; y < sheet.height(); ++y) {
    for (int x = 0; x < sheet.width(); ++x) {
      white_pixels +=
          sheet.value(x, y) == 255 && sheet.value(x, y, 1) == 255 && sheet.value(x, y, 2) == 255 ? 1 : 0;
    }
  }
  CHECK(white_pixels == 5 * 100 * 50);
}

TEST_CASE("rows of faces show letters of one height, in as many pages as it takes", "[sheet]") {
  std::vector<std::shared_ptr<const Face>> faces;
  for (int i = 0; i < 50; ++i) faces.push_back(i % 2 == 0 ? test::dejavu() : built_in_face());
  const FaceRowsOptions options{.text = "xxx", .letter_height = 20, .height = 800};
  const std::size_t pages = count_face_pages(faces.size(), options);
  CHECK(pages > 3);
  for (std::size_t page = 0; page < pages; ++page) {
    const auto image = draw_face_rows(faces, options, page);
    REQUIRE(image.has_value());
    CHECK(image->width() == options.width);
    CHECK(image->height() <= options.height);
  }
  // In every row the dark pixels of the words are as high as an x shall be.
  const auto first = draw_face_rows(faces, options, 0);
  int run = 0, runs = 0;
  for (int y = 0; y < first->height(); ++y) {
    int dark = 0;
    for (int x = 324; x < 500; ++x) dark += first->value(x, y, 0) < 120 ? 1 : 0;
    if (dark > 0) {
      ++run;
    } else if (run > 0) {
      CHECK(std::abs(run - 20) <= 2);
      ++runs;
      run = 0;
    }
  }
  CHECK(runs == static_cast<int>(faces.size() / pages) + (faces.size() % pages != 0 ? 1 : 0));
  CHECK_FALSE(draw_face_rows(faces, options, pages).has_value());
  CHECK_FALSE(draw_face_rows(faces, {.letter_height = 0}).has_value());
  CHECK_FALSE(draw_face_rows(faces, {.width = 20}).has_value());
  CHECK_FALSE(draw_face_rows({}, {}).has_value());
}

TEST_CASE("a face without the words shows characters of its own", "[sheet]") {
  CHECK(words_for(*test::dejavu(), "Ninth Lantern") == "Ninth Lantern");
  const auto signs = open_face(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_signs.ttf");
  REQUIRE(signs.has_value());
  const std::string words = words_for(**signs, "\xD0\x94\xD0\xBE\xD1\x81\xD0\xBA\xD0\xB0", 3);
  std::vector<char32_t> characters;
  add_characters(words, characters);
  CHECK(characters.size() == 3);
  for (const char32_t c : characters) CHECK((*signs)->find_glyph(c) != kMissingGlyph);
}

TEST_CASE("a specimen of icons holds every glyph", "[sheet]") {
  const std::shared_ptr<const Face> signs[] = {
      *open_face(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_signs.ttf")};
  SpecimenOptions few, all;
  few.max_icons = 8;
  CHECK(draw_specimen(signs, all)->height() > draw_specimen(signs, few)->height());
}
