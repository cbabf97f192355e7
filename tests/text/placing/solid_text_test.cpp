// SPDX-License-Identifier: MIT
// Laid-out text as outlines and as solid letters.
#include "grafema/text/solid_text.hpp"

#include <catch2/catch.hpp>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/text/text_outline.hpp"
#include "support/font_builder.hpp"
#include "support/shapes.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

Paragraph laid_out(const FontStack& stack, std::string_view text) {
  ShapeCache cache;
  Paragraph out;
  REQUIRE(lay_out(stack, text, {.size = 50}, cache, out));
  return out;
}

}  // namespace

TEST_CASE("the outlines of a text lie within its ink, letter by letter", "[solid]") {
  const FontStack stack{test::dejavu()};
  const Paragraph paragraph = laid_out(stack, "Quay 4\nTram");
  std::vector<LetterOutline> letters;
  REQUIRE(outline_text(stack, paragraph, letters));
  REQUIRE(letters.size() == paragraph.glyphs.size());
  for (std::uint32_t i = 0; i < letters.size(); ++i) {
    const Rect ink = ink_box(stack, paragraph, i, i + 1);
    const FontRect box = bounds(letters[i].contours);
    CHECK(box.empty() == ink.empty());
    if (ink.empty()) continue;
    CHECK(box.x_min == Approx(ink.left).margin(0.01));
    CHECK(box.x_max == Approx(ink.right).margin(0.01));
    CHECK(-box.y_max == Approx(ink.top).margin(0.01));
    CHECK(-box.y_min == Approx(ink.bottom).margin(0.01));
  }
  Contours all;
  join_letters(letters, all);
  CHECK(bounds(all).x_max == Approx(ink_box(stack, paragraph).right).margin(0.01));
}

TEST_CASE("solid text is one closed mesh, spaces are no letters", "[solid]") {
  const FontStack stack{test::dejavu("DejaVuSans-Bold.ttf")};
  const Paragraph paragraph = laid_out(stack, "Salt & Glass");
  SolidText text;
  REQUIRE(make_solid_text(stack, paragraph, {.depth = 0.25F, .bevel = 0.03F}, text));
  CHECK(text.letters.size() == 10);
  CHECK(text.mesh.letters == 10);
  CHECK(test::is_closed(text.mesh));
  float deepest = 0;
  for (const MeshVertex& v : text.mesh.vertices) deepest = std::max(deepest, v.position[2]);
  CHECK(deepest == Approx(0.25));
  for (const SolidLetter& letter : text.letters) {
    const PixelPoint pen = paragraph.glyphs[letter.glyph].origin();
    CHECK(letter.pivot[0] == Approx(pen.x / 50));
    CHECK(letter.pivot[1] == Approx(-pen.y / 50));
  }
  const std::size_t bytes = text.mesh.vertices.size() * sizeof(MeshVertex) + text.mesh.indices.size() * 4;
  CHECK(bytes / 10 < 100'000);
  SolidText wrong;
  CHECK_FALSE(make_solid_text(stack, paragraph, {.depth = 0}, wrong).has_value());
  CHECK(wrong.mesh.vertices.empty());
}

TEST_CASE("color layers are letters of their own, each in front of the one below", "[solid]") {
  test::FontBuilder builder;
  const auto exclamation = 2;  // its number in the built-in face; '"' and '#' are 3 and 4
  // COLR 0: one base glyph of two layers, '#' in color 0 and itself in color 1; CPAL: one palette of two
  // colors, BGRA.
  builder.table("COLR") = test::words({0, 1, 0, 14, 0, 20, 2, exclamation, 0, 2, 4, 0, exclamation, 1});
  builder.table("CPAL") =
      test::joined({test::words({0, 2, 1, 2, 0, 14, 0}), test::words({0x0000, 0xFFFF, 0x00FF, 0x00FF})});
  const FontStack stack{builder.face()};
  const Paragraph paragraph = laid_out(stack, "!#");
  SolidText text;
  REQUIRE(make_solid_text(stack, paragraph, {.depth = 0.2F}, text));
  REQUIRE(text.letters.size() == 3);
  CHECK(text.letters[0].color == Color{1, 0, 0, 1});
  CHECK(text.letters[1].color == Color{0, 1, 0, 1});
  CHECK_FALSE(text.letters[2].color.has_value());
  CHECK(text.letters[1].layer == 1);
  std::array<float, 3> front{};
  for (const MeshPart& part : text.mesh.parts) {
    for (std::uint32_t i = part.first; i < part.first + part.count; ++i) {
      front[part.letter] = std::max(front[part.letter], text.mesh.vertices[text.mesh.indices[i]].position[2]);
    }
  }
  CHECK(front[0] == Approx(0.2));
  CHECK(front[1] == Approx(0.21));
  CHECK(front[2] == Approx(0.2));
  CHECK(test::is_closed(text.mesh));
  SolidText plain;
  REQUIRE(make_solid_text(stack, paragraph, {.depth = 0.2F, .colors = false}, plain));
  CHECK(plain.letters.size() == 2);
}

TEST_CASE("text of an atlas has no outlines", "[solid]") {
  AtlasRecipe recipe;
  recipe.faces = {test::dejavu()};
  recipe.characters = {U'A'};
  const auto atlas = std::make_shared<const Atlas>(*bake(recipe));
  const FontStack stack = atlas_stack(atlas);
  std::vector<LetterOutline> letters;
  const Result<void> read = outline_text(stack, laid_out(stack, "A"), letters);
  REQUIRE_FALSE(read);
  CHECK(read.error().kind == ErrorKind::bad_value);
}
