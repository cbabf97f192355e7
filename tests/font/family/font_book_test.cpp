// SPDX-License-Identifier: MIT
// Families by name, fallback, and what stands in for a style that a family lacks.
#include "grafema/font/font_book.hpp"

#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

namespace {

FontBook book_of(bool with_bold) {
  Family sans("DejaVu Sans"), serif("DejaVu Serif");
  sans.add(test::dejavu());
  if (with_bold) sans.add(test::dejavu("DejaVuSans-Bold.ttf"));
  serif.add(test::dejavu("DejaVuSerif.ttf"));
  FontBook book;
  book.add(sans), book.add(serif);
  Family mono("DejaVu Sans Mono");
  mono.add(test::dejavu("DejaVuSansMono.ttf"));
  book.add(mono, false);
  return book;
}

std::size_t count(const Notes& notes, NoteKind kind) {
  return static_cast<std::size_t>(
      std::count_if(notes.all().begin(), notes.all().end(), [&](const Note& n) { return n.kind == kind; }));
}

}  // namespace

TEST_CASE("a stack has a face of each family of the fallback, in its order", "[font_book]") {
  const FontBook book = book_of(true);
  const FontStack stack = book.make_stack("Bold");
  REQUIRE(stack.size() == 2);  // the family outside of the fallback is found by name alone
  CHECK(stack[0]->id() == test::dejavu("DejaVuSans-Bold.ttf")->id());
  CHECK(stack[0].grow == 0);
  CHECK(stack[1]->id() == test::dejavu("DejaVuSerif.ttf")->id());
  CHECK(stack[1].grow > 0);
}

TEST_CASE("a family is found by its name in any case, and by its faces", "[font_book]") {
  const FontBook book = book_of(true);
  CHECK(book.find("dejavu SANS mono") != nullptr);
  CHECK(book.find("DejaVu") == nullptr);
  CHECK(book.family_of(*test::dejavu("DejaVuSans-Bold.ttf"))->name() == "DejaVu Sans");
  CHECK(book.family_of(*built_in_face()) == nullptr);
}

TEST_CASE("a family that a book lacks is noted with the nearest, and nothing changes", "[font_book]") {
  const FontBook book = book_of(true);
  Notes notes;
  const FontStack stack = restyle(FontStack{test::dejavu()}, {.family = "DejaVu Serf"}, &book, &notes);
  CHECK(stack[0]->id() == test::dejavu()->id());
  REQUIRE(count(notes, NoteKind::unknown_name) == 1);
  CHECK(describe(notes.all()[0]).find("did you mean 'DejaVu Serif'") != std::string::npos);
}

TEST_CASE("another family goes first and the fallback stays", "[font_book]") {
  const FontBook book = book_of(true);
  const FontStack stack =
      restyle(FontStack{test::dejavu(), built_in_face()}, {.family = "DejaVu Serif"}, &book);
  CHECK(stack[0]->id() == test::dejavu("DejaVuSerif.ttf")->id());
  CHECK(stack[stack.size() - 1]->id() == built_in_face()->id());
}

TEST_CASE("bold inside italic keeps both, made or drawn", "[font_book]") {
  const bool drawn = GENERATE(false, true);
  const FontBook book = book_of(drawn);
  Notes notes;
  const FontStack stack =
      restyle(FontStack{test::dejavu()}, {.weight = 700.0F, .slant = Slant::italic}, &book, &notes);
  CHECK(stack[0].slant > 0);
  CHECK((stack[0].grow > 0) == !drawn);
  CHECK(count(notes, NoteKind::made_bold) == (drawn ? 0 : 1));
  CHECK(count(notes, NoteKind::made_italic) == 1);
  const FontStack back = restyle(stack, {.weight = 400.0F, .slant = Slant::upright}, &book);
  CHECK(back[0]->id() == test::dejavu()->id());
  CHECK(back[0].grow == 0);
  CHECK(back[0].slant == 0);
}

TEST_CASE("what a bold is grown by follows its strokes and the weight that is asked for",
          "[font_book][property]") {
  const auto regular = test::dejavu(), light = test::dejavu("DejaVuSans-ExtraLight.ttf");
  CHECK(made_bold(*regular, 400, 700) > made_bold(*regular, 400, 600));
  CHECK(made_bold(*regular, 400, 400) == 0);
  CHECK(made_bold(*light, 400, 700) < made_bold(*regular, 400, 700));
}

TEST_CASE("the revision of a book tells its contents apart", "[font_book]") {
  FontBook one = book_of(true);
  const FontBook copy = one;
  CHECK(copy.revision() == one.revision());
  CHECK(book_of(true).revision() != one.revision());
  one.match_x_height(true);
  CHECK(copy.revision() != one.revision());
}
