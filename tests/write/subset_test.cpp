// SPDX-License-Identifier: MIT
// Subsets of real faces: they measure, draw and shape as the face does; what they keep, and what they refuse.
#include "grafema/write/make_subset.hpp"

#include <algorithm>
#include <catch2/catch.hpp>

#include "font/characters/cmap.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/write/make_font.hpp"
#include "support/font_builder.hpp"
#include "support/same_face.hpp"
#include "support/support.hpp"
#include "write/tables/glyph_tables.hpp"

using namespace grafema;
using test::Reduced;

namespace {

std::shared_ptr<const Face> shipped(const std::string& name) {
  auto face = open_face(GRAFEMA_SOURCE_DIR "/data/faces/" + name);
  REQUIRE(face.has_value());
  return *face;
}

SubsetRecipe recipe_of(std::u32string_view characters) {
  SubsetRecipe recipe;
  recipe.characters.assign(characters.begin(), characters.end());
  return recipe;
}

bool holds(const std::vector<Tag>& tags, const char* name) {
  return std::find(tags.begin(), tags.end(), tag(name)) != tags.end();
}

/// The built-in face with other permission bits.
std::shared_ptr<const Face> with_permission(int bits) {
  test::FontBuilder builder;
  builder.put16("OS/2", 8, bits);
  return builder.face();
}

}  // namespace

TEST_CASE("any ten characters measure, draw and shape as before", "[subset][property]") {
  std::vector<std::shared_ptr<const Face>> faces;
  for (const char* name :
       {"DejaVuSans.ttf", "DejaVuSans-Bold.ttf", "DejaVuSansMono.ttf", "DejaVuSerif.ttf"}) {
    faces.push_back(test::dejavu(name));
  }
  for (const char* name : {"quillmere_sans.ttf", "quillmere_sans_variable.ttf", "quillmere_signs.ttf"}) {
    faces.push_back(shipped(name));
  }
  faces.push_back(built_in_face());
  std::mt19937 random(Catch::rngSeed());
  for (const auto& face : faces) {
    INFO(face->title());
    for (int i = 0; i < 12; ++i) {
      const std::vector<char32_t> ten = test::ten_of(*face, random, i % 2 == 0);
      INFO(test::to_utf8(ten));
      SubsetRecipe recipe;
      recipe.characters = ten;
      const Reduced reduced = test::reduce(*face, recipe);
      test::check_same(face, reduced, ten, random);
      CHECK(reduced.subset.font.size() * 4 < face->table(tag("glyf")).size() + 60'000);
    }
  }
}

TEST_CASE("a place of a variable face is that of its subset", "[subset][variations]") {
  const auto face = shipped("quillmere_sans_variable.ttf");
  const std::u32string text = U"Larkspur Halt é";
  const Reduced reduced = test::reduce(*face, text);
  REQUIRE(reduced.face->axes().size() == 1);
  CHECK(reduced.face->instances().size() == face->instances().size());
  for (const float weight : {400.0F, 520.0F, 700.0F}) {
    const AxisValue place[] = {{tag("wght"), weight}};
    const Reduced moved{reduced.subset, reduced.face->instance(place)};
    test::check_glyphs(*face->instance(place), moved, text);
    test::check_kerning(*face->instance(place), moved, text);
  }
}

TEST_CASE("all characters make a font with all of them", "[subset]") {
  const auto face = shipped("quillmere_sans.ttf");
  SubsetRecipe recipe;
  recipe.all_characters = true;
  const Reduced reduced = test::reduce(*face, recipe);
  CHECK(reduced.face->characters().size() == face->characters().size());
  CHECK(reduced.subset.character_count == face->characters().size());
  // A subset of a subset is the subset: nothing is lost on the way.
  CHECK(test::reduce(*reduced.face, recipe).subset.font == reduced.subset.font);
}

TEST_CASE("glyphs keep their order, names and parts", "[subset]") {
  const auto face = test::dejavu();
  const Reduced reduced = test::reduce(*face, U"éfi");
  CHECK(std::is_sorted(reduced.subset.glyphs.begin(), reduced.subset.glyphs.end()));
  CHECK(reduced.subset.glyphs[0] == kMissingGlyph);
  std::vector<std::string> names;
  for (std::uint32_t i = 0; i < reduced.face->glyph_count(); ++i) {
    CHECK(reduced.face->glyph_name(GlyphId{i}) == face->glyph_name(reduced.subset.glyphs[i]));
    names.push_back(reduced.face->glyph_name(GlyphId{i}));
  }
  for (const char* wanted : {"f", "i", "eacute", "e", "acute", "fi"}) {  // parts and the ligature
    CHECK(std::find(names.begin(), names.end(), wanted) != names.end());
  }
}

TEST_CASE("what shaping puts in the place of others comes along", "[subset]") {
  const auto face = test::dejavu();
  const auto maps = [&](std::u32string_view characters, char32_t wanted) {
    return test::reduce(*face, characters).face->find_glyph(wanted) != kMissingGlyph;
  };
  CHECK(maps(U"e\u0301", U'é'));  // a letter and its mark become one
  CHECK(maps(U"é\u0302", U'e'));  // before another mark they come apart
  CHECK_FALSE(maps(U"é", U'e'));  // and only then
  CHECK(maps(U"(", U')'));        // in text from right to left
  CHECK(maps(U"\u00AD", U'-'));   // where a line ends
  CHECK(maps(U"\u2003", U' '));
  CHECK(maps(U"\t", U' '));
  CHECK_FALSE(maps(U"ab", U'c'));
}

TEST_CASE("features that are not asked for go with their glyphs", "[subset]") {
  const auto face = shipped("quillmere_sans.ttf");
  SubsetRecipe recipe = recipe_of(U"0123456789");
  const Reduced all = test::reduce(*face, recipe);
  REQUIRE(holds(all.face->features(), "tnum"));
  recipe.features.emplace();
  const Reduced few = test::reduce(*face, recipe);
  CHECK_FALSE(holds(few.face->features(), "tnum"));
  CHECK(few.subset.glyphs.size() < all.subset.glyphs.size());
  recipe.features = {tag("tnum")};
  CHECK(test::reduce(*face, recipe).subset.glyphs == all.subset.glyphs);
}

TEST_CASE("tables that have nothing left to say are left out, others are told", "[subset]") {
  const auto face = test::dejavu();
  Notes notes;
  const Reduced reduced = test::reduce(*face, recipe_of(U"."), &notes);
  for (const TableSizes& table : reduced.subset.tables) {
    CHECK(table.before == face->table(table.table).size());
    CHECK(table.after == reduced.face->table(table.table).size());
  }
  test::FontBuilder builder;
  builder.table("Silf") = test::words({1, 2});
  builder.table("MATH") = test::words({1, 2});
  notes.clear();
  CHECK(test::reduce(*builder.face(), recipe_of(U"A"), &notes).face->table(tag("MATH")).empty());
  REQUIRE(notes.all().size() == 2);
  CHECK(describe(notes.all()[0]).find("MATH, rules for mathematics") != std::string::npos);
  CHECK(describe(notes.all()[1]).find("Silf") != std::string::npos);
}

TEST_CASE("missing characters are noted; none at all is refused", "[subset]") {
  Notes notes;
  const auto face = built_in_face();
  CHECK(test::reduce(*face, recipe_of(U"A\u4E00"), &notes).subset.character_count == 1);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0] == Note{.kind = NoteKind::missing_character, .character = 0x4E00});
  for (const SubsetRecipe& recipe : {SubsetRecipe{}, recipe_of(U"\u4E00")}) {
    const auto refused = make_subset(*face, recipe);
    REQUIRE_FALSE(refused.has_value());
    CHECK(refused.error().kind == ErrorKind::bad_value);
  }
}

TEST_CASE("permission bits are kept to unless someone answers for it", "[subset][license]") {
  for (const int bits : {2, 0x100, 0x200}) {
    const auto face = with_permission(bits);
    SubsetRecipe recipe = recipe_of(U"A");
    const auto refused = make_subset(*face, recipe);
    REQUIRE_FALSE(refused.has_value());
    CHECK(refused.error().kind == ErrorKind::forbidden);
    recipe.permit = true;
    CHECK(make_subset(*face, recipe).has_value());
  }
  CHECK(make_subset(*with_permission(8), recipe_of(U"A")).has_value());
}

TEST_CASE("a reserved name is not used for a changed font", "[subset][license]") {
  FontDrawing drawing;
  drawing.names.family = "Night Signs";
  drawing.names.style = "Regular";
  drawing.names.copyright = "Copyright 2026, with Reserved Font Name \"Night\".";
  drawing.names.license = "SIL Open Font License 1.1";
  drawing.lines = {800, 200, 0};
  drawing.glyphs.resize(2);
  drawing.glyphs[1].characters = {U'A'};
  drawing.glyphs[1].outline = test::polygon({{0, 0}, {0, 700}, {500, 700}});
  drawing.glyphs[1].advance = 600;
  const auto face = *Face::open(FontData::own(*make_font(drawing)));
  Notes notes;
  SubsetRecipe recipe = recipe_of(U"A");
  const auto names_of = [&](const SubsetRecipe& r) {
    const auto subset = make_subset(*face, r, &notes);
    REQUIRE(subset.has_value());
    return (*Face::open(FontData::copy(subset->font)))->names();
  };
  const FaceNames made = names_of(recipe);
  CHECK(made.family.rfind("Subset ", 0) == 0);
  for (const std::string& name : {made.full_name, made.postscript_name}) {
    CHECK(name.find("Night") == std::string::npos);
  }
  CHECK(made.copyright == drawing.names.copyright);
  CHECK(made.license == drawing.names.license);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::reserved_name);
  CHECK(describe(notes.all()[0]).find(made.family) != std::string::npos);
  recipe.family = "Harbor Board";
  CHECK(names_of(recipe).family == "Harbor Board");
  CHECK(names_of(recipe).postscript_name == "HarborBoard-Regular");
  recipe.family = "Night Board";
  CHECK(make_subset(*face, recipe).error().kind == ErrorKind::forbidden);
  recipe.permit = true;
  CHECK(names_of(recipe).family == "Night Board");
}

TEST_CASE("who watches may end the work", "[subset]") {
  SubsetRecipe recipe = recipe_of(U"A");
  std::vector<std::size_t> told;
  recipe.progress = [&told](std::size_t done, std::size_t total) {
    told.push_back(done);
    return done < total;
  };
  const auto ended = make_subset(*built_in_face(), recipe);
  REQUIRE_FALSE(ended.has_value());
  CHECK(ended.error().kind == ErrorKind::interrupted);
  CHECK(std::is_sorted(told.begin(), told.end()));
  CHECK(told.size() >= 4);
}

TEST_CASE("a composite whose part can't be read costs its outline, not the file", "[subset]") {
  test::FontBuilder builder;
  const auto whole = builder.face();
  std::vector<std::byte>& glyf = builder.table("glyf");
  // 'A' becomes a composite of a glyph that is not there.
  const std::vector<std::byte>& loca = builder.table("loca");
  const std::size_t at =
      static_cast<std::size_t>(loca[34 * 4 + 2]) << 8 | static_cast<std::size_t>(loca[34 * 4 + 3]);
  REQUIRE(whole->find_glyph(U'A') == GlyphId{34});
  const auto bad = test::words({-1, 0, 0, 100, 100, 2, 30000, 0});
  std::copy(bad.begin(), bad.end(), glyf.begin() + static_cast<std::ptrdiff_t>(at));
  Notes notes;
  const Reduced reduced = test::reduce(*builder.face(), recipe_of(U"AB"), &notes);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0] == Note{.kind = NoteKind::damaged_glyph, .position = 34});
  Contours outline;
  REQUIRE(reduced.face->read_outline(reduced.face->find_glyph(U'A'), outline).has_value());
  CHECK(outline.points.empty());
  REQUIRE(reduced.face->read_outline(reduced.face->find_glyph(U'B'), outline).has_value());
  CHECK_FALSE(outline.points.empty());
}

TEST_CASE("a lean subset draws the same without what nobody misses", "[subset]") {
  std::mt19937 random(Catch::rngSeed());
  const std::u32string text = U"Larkspur Halt é fi";
  for (const auto& face : {test::dejavu(), test::dejavu("DejaVuSerif.ttf"), shipped("quillmere_sans.ttf")}) {
    INFO(face->title());
    SubsetRecipe recipe = recipe_of(text);
    const Reduced whole = test::reduce(*face, recipe);
    recipe.lean = true;
    const Reduced lean = test::reduce(*face, recipe);
    CHECK(lean.subset.font.size() < whole.subset.font.size());
    for (const char* gone : {"fpgm", "prep", "cvt ", "kern"}) CHECK(lean.face->table(tag(gone)).empty());
    CHECK(lean.face->glyph_name(lean.face->find_glyph(U'L')).empty());
    test::check_same(face, lean, text, random);
  }
}

TEST_CASE("Quillmere Sans is compiled in, in less than 60 KB", "[subset][built-in]") {
  CHECK(built_in_sans_font().bytes().size() < 60'000);
  const auto face = built_in_sans_face();
  CHECK(face->names().family == "Quillmere Sans");
  const auto whole = shipped("quillmere_sans.ttf");
  std::u32string latin = U"–—‘’“”„…€";
  for (char32_t c = 0x20; c < 0x7F; ++c) latin += c;
  for (char32_t c = 0xA0; c < 0x180; ++c) latin += c;
  for (char32_t c = 0x1EA0; c < 0x1EFA; ++c) latin += c;
  for (const char32_t c : latin) {
    const GlyphId glyph = face->find_glyph(c), old = whole->find_glyph(c);
    INFO("U+" << std::hex << static_cast<std::uint32_t>(c));
    CHECK((glyph == kMissingGlyph) == (old == kMissingGlyph));
    Contours a, b;
    REQUIRE(face->read_outline(glyph, a).has_value());
    REQUIRE(whole->read_outline(old, b).has_value());
    CHECK(a == b);
  }
  CHECK(face->find_glyph(U'Ř') != kMissingGlyph);
  CHECK(face->find_glyph(U'α') == kMissingGlyph);
}

TEST_CASE("maps of many characters in any order of glyphs can be read", "[subset][cmap]") {
  // In order: segments of runs. Against it: an array. Too many for 16 bits: groups beside what fits.
  for (const std::size_t count : {200U, 20'000U, 40'000U}) {
    for (const bool turned : {false, true}) {
      detail::CharacterList list;
      for (std::size_t i = 0; i < count; ++i) {
        const auto glyph = static_cast<std::uint16_t>(turned ? count - i : i + 1);
        list.emplace_back(static_cast<char32_t>(0x3400 + i + i / 50), glyph);  // a gap now and then
      }
      const detail::WrittenTable table = detail::write_cmap(list);
      const auto map = detail::CharacterMap::read({tag("cmap"), table.bytes}, 65535);
      REQUIRE(map.has_value());
      std::size_t wrong = 0;
      for (const auto& [character, glyph] : list) wrong += map->find(character) == GlyphId{glyph} ? 0 : 1;
      INFO(count << (turned ? " turned" : ""));
      CHECK(wrong == 0);
      CHECK(map->all().size() == count);
      CHECK(map->find(0x3400 + 50) == kMissingGlyph);
    }
  }
}

TEST_CASE("a face that places marks says so where no kept mark is placed", "[subset]") {
  // Between characters that no rule is about, shaping must not place the mark by itself.
  const auto face = test::dejavu();
  std::mt19937 random(Catch::rngSeed());
  for (const std::u32string_view text : {U"\u2215\u0302", U"\u2022\u0483", U"\u221E\u0488"}) {
    const Reduced reduced = test::reduce(*face, text);
    test::check_shaping(face, reduced, text, random);
    CHECK(reduced.face->positions().has_feature(tag("latn"), Tag{}, tag("mark")) ==
          face->positions().has_feature(tag("latn"), Tag{}, tag("mark")));
  }
  CHECK(test::reduce(*face, U"\u2215").face->table(tag("GPOS")).empty() == face->table(tag("kern")).empty());
}
