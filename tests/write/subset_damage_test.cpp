// SPDX-License-Identifier: MIT
// Subsets of damaged faces: an error, or a font that opens and is wrong where its source was.
#include <catch2/catch.hpp>
#include <random>

#include "grafema/files/files.hpp"
#include "grafema/files/web_font_file.hpp"
#include "grafema/write/make_subset.hpp"
#include "support/cff_builder.hpp"
#include "support/color_builder.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

using Table = std::vector<std::byte>;

/// Glyphs that call `subroutine` by its number, the one glyph 34 ('A') alone by `of_a`.
test::FontBuilder face_with_calls(int of_a, int others, bool with_subroutines) {
  test::FontBuilder builder;
  builder.remove("glyf"), builder.remove("loca");
  test::CffDrawing drawing;
  for (int g = 0; g < 131; ++g) {
    test::Charstring code;
    code.op({10.0 + g, 20}, 21);
    if (g > 1) code.number(g == 34 ? of_a : others).op({}, g % 2 == 0 ? 10 : 29);
    drawing.glyphs.push_back(code.op({5, 0, 0, 7}, 5).op({}, 14).get());
    if (g > 0) drawing.names.push_back("g" + std::to_string(g));
  }
  if (with_subroutines) {
    drawing.local = {test::Charstring().op({100, 50}, 6).op({}, 11).get(),
                     test::Charstring().op({80, 40}, 7).op({}, 11).get()};
    drawing.global = drawing.local;
  }
  builder.table("CFF ") = test::make_cff(drawing);
  return builder;
}

/// A dozen letters whose weight varies.
Table small_variable_face() {
  const auto face = open_face(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans_variable.ttf");
  REQUIRE(face.has_value());
  SubsetRecipe recipe;
  recipe.characters = {U'A', U'B', U'C', U'V', U'a', U'f', U'i', U'\u00E9', U'1', U'2', U'/', U' '};
  const auto subset = make_subset(**face, recipe);
  REQUIRE(subset.has_value());
  return subset->font;
}

/// Every flavor of subset of a face, each of which opens if it was made. Returns how many were made.
int reduce_in_all_ways(const Face& face) {
  int made = 0;
  std::u32string some;
  for (const auto& [character, glyph] : face.characters()) {
    if (some.size() < 40) some += character;
  }
  for (unsigned flavor = 0; flavor < 16; ++flavor) {
    SubsetRecipe recipe;
    recipe.permit = true;
    recipe.characters = {some.begin(), some.end()};
    recipe.all_characters = (flavor & 1U) != 0;
    recipe.lean = (flavor & 2U) != 0;
    if ((flavor & 4U) != 0) recipe.features.emplace();
    if ((flavor & 8U) != 0) {
      for (const Axis& axis : face.axes()) recipe.pins.push_back({axis.tag, axis.max});
      if (recipe.pins.empty()) continue;
    }
    const auto subset = make_subset(face, recipe);
    if (!subset) continue;
    ++made;
    const auto open = Face::open(FontData::borrow(subset->font));
    REQUIRE(open.has_value());
    CHECK((*open)->glyph_count() == subset->glyphs.size());
    if (flavor == 2) {
      const auto packed = make_web_font(subset->font);
      if (packed) CHECK(Face::open(FontData::borrow(*packed)).has_value());
    }
  }
  return made;
}

}  // namespace

TEST_CASE("a call of a subroutine that is not there stays an error in a subset", "[subset][cff][damage]") {
  for (const bool some : {false, true}) {
    INFO("subroutines: " << some);
    const auto face = face_with_calls(12, some ? -107 : 12, some).face();
    SubsetRecipe recipe;
    recipe.characters = {U'A', U'B', U'C'};
    const auto subset = make_subset(*face, recipe);
    REQUIRE(subset.has_value());
    const auto open = Face::open(FontData::borrow(subset->font));
    REQUIRE(open.has_value());
    Contours was, is;
    for (const char32_t c : recipe.characters) {
      const bool read = face->read_outline(face->find_glyph(c), was).has_value();
      CHECK(read == (some && c != U'A'));
      REQUIRE((*open)->read_outline((*open)->find_glyph(c), is).has_value() == read);
      if (read) CHECK(was.points == is.points);
    }
  }
}

TEST_CASE("damage anywhere in a font makes an error or a subset that opens", "[subset][damage][property]") {
  std::mt19937 random(Catch::rngSeed());
  test::FontBuilder colored(test::dot_bytes());
  colored.table("sbix") = test::sbix();
  test::add_bitmaps(colored, 1, 17);
  const std::vector<Table> sources = {face_with_calls(-107, -106, true).bytes(),
                                      face_with_calls(3, 3, false).bytes(), colored.bytes(),
                                      small_variable_face()};
  int made = 0;
  for (const Table& source : sources) {
    for (int i = 0; i < 40; ++i) {
      Table damaged = source;
      for (int changes = 1 + static_cast<int>(random() % 6); changes > 0; --changes) {
        damaged[random() % damaged.size()] = static_cast<std::byte>(random());
      }
      if (const auto face = Face::open(FontData::borrow(damaged))) made += reduce_in_all_ways(**face);
    }
  }
  CHECK(made > 100);
}

TEST_CASE("a damaged loca or gvar does not make a subset larger than its face", "[subset][damage]") {
  const Table whole = small_variable_face();
  const std::string name = GENERATE(std::string("loca"), std::string("gvar"));
  CAPTURE(name);
  test::FontBuilder builder(whole);
  const std::size_t glyphs = builder.face()->glyph_count();
  // Every second glyph claims all bytes that follow its own place: the offsets that end the others are the
  // table's end.
  Table& table = builder.table(name);
  const bool is_loca = name == "loca";
  const int flags = static_cast<int>(is_loca ? builder.table("head")[51] : table[15]);
  const bool wide = (flags & 1) != 0;
  const std::size_t at = is_loca ? 0 : 20, size = wide ? 4 : 2;
  for (std::size_t g = 2; g < glyphs; g += 2) {
    for (std::size_t i = 0; i < size; ++i) table[at + g * size + i] = table[at + glyphs * size + i];
  }
  const auto face = builder.face();
  SubsetRecipe recipe;
  recipe.all_characters = true, recipe.permit = true;
  const auto subset = make_subset(*face, recipe);
  REQUIRE(subset.has_value());
  CHECK(subset->font.size() <= builder.bytes().size() + 64);
  // What could be read is drawn as before.
  const auto open = Face::open(FontData::borrow(subset->font));
  REQUIRE(open.has_value());
  int same = 0;
  for (const auto& [character, glyph] : face->characters()) {
    Contours was, is;
    if (!face->read_outline(glyph, was)) continue;
    REQUIRE((*open)->read_outline((*open)->find_glyph(character), is).has_value());
    CHECK(was.points == is.points);
    same += was.points.empty() ? 0 : 1;
  }
  CHECK(same > 4);
}
