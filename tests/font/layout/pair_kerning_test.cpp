// SPDX-License-Identifier: MIT
// Pair kerning of GPOS: formats, extension, scripts, the order of lookups.
#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::words;

namespace {

constexpr int kA = 34, kB = 35, kC = 36;  // glyphs of the built-in face

/// PairPos format 1: after A, B moves by -50; after A, C by 30.
std::vector<std::byte> pair_list() {
  // header 10, one offset 2 -> the pair set at 12: count 2, two records of 4 bytes (10 bytes), coverage
  // at 22.
  return words({1, 22, 4, 0, 1, 12, 2, kB, -50, kC, 30, 1, 1, kA});
}

/// PairPos format 2: A is class 1 on the left, C class 1 on the right, worth 77; the first value has a
/// placement before it.
std::vector<std::byte> class_matrix() {
  // header 16, matrix of 2x2 records of two words (16 bytes), coverage at 32 (6), class table at 38 (8),
  // another at 46.
  return words({2, 32, 5, 0, 38, 46, 2, 2, 0, 0, 0, 0, 0, 11, 5, 77, 1, 1, kA, 1, kA, 1, 1, 2, 1, kC, kC, 1});
}

/// A GPOS table: scripts with the number of their one feature, features with their lookups, all named kern.
std::vector<std::byte> gpos(const std::vector<std::pair<std::string, int>>& scripts,
                            const std::vector<std::vector<int>>& features,
                            const std::vector<std::vector<std::byte>>& lookups) {
  test::LayoutDrawing drawing;
  for (const auto& [script, feature] : scripts) drawing.scripts.push_back({script, {{"", {feature}}}});
  for (const auto& indices : features) drawing.features.push_back({"kern", indices});
  drawing.lookups = lookups;
  return test::make_layout(drawing);
}

/// A lookup of type 2 with these subtables, plain or each behind an extension.
std::vector<std::byte> lookup(const std::vector<std::vector<std::byte>>& subtables, bool extension = false) {
  return test::make_lookup(2, subtables, 0, extension ? 9 : 0);
}

std::shared_ptr<const Face> face_with_pairs(const std::vector<std::byte>& table) {
  test::FontBuilder builder;
  builder.table("GPOS") = table;
  return builder.face();
}

float kern(const Face& face, int left, int right, const char* script = "latn") {
  return face.kerning(GlyphId{static_cast<std::uint32_t>(left)}, GlyphId{static_cast<std::uint32_t>(right)},
                      tag(script));
}

}  // namespace

TEST_CASE("glyph numbers of these tests are those of the face", "[gpos]") {
  CHECK(index_of(built_in_face()->find_glyph(U'A')) == kA);
}

TEST_CASE("pairs and class matrices kern, plain and behind an extension", "[gpos]") {
  const bool extension = GENERATE(false, true);
  const auto face =
      face_with_pairs(gpos({{"latn", 0}}, {{0}}, {lookup({pair_list(), class_matrix()}, extension)}));
  CHECK(face->kerning_source() == KerningSource::gpos);
  CHECK(kern(*face, kA, kB) == -50);
  CHECK(kern(*face, kA, kC) == 30);  // the first subtable that knows the pair decides
  CHECK(kern(*face, kB, kA) == 0);
}

TEST_CASE("lists of pairs that do not ascend are searched all the same", "[gpos]") {
  // The pair of B stands behind that of C, and twice: the first counts.
  const std::vector<std::byte> list = words({1, 26, 4, 0, 1, 12, 3, kC, 30, kB, -50, kB, -70, 1, 1, kA});
  const auto face = face_with_pairs(gpos({{"latn", 0}}, {{0}}, {lookup({list})}));
  CHECK(kern(*face, kA, kB) == -50);
  CHECK(kern(*face, kA, kC) == 30);
  CHECK(kern(*face, kB, kA) == 0);
}

TEST_CASE("a class matrix knows every pair of what it covers", "[gpos]") {
  const auto first = face_with_pairs(gpos({{"latn", 0}}, {{0}}, {lookup({class_matrix(), pair_list()})}));
  CHECK(kern(*first, kA, kC) == 77);
  CHECK(kern(*first, kA, kB) == 11);  // class 0 on the right is a class too; the list behind it is not asked
}

TEST_CASE("lookups add up", "[gpos]") {
  const auto face =
      face_with_pairs(gpos({{"latn", 0}}, {{0, 1}}, {lookup({pair_list()}), lookup({class_matrix()})}));
  CHECK(kern(*face, kA, kC) == 107);
}

TEST_CASE("each script has its own kerning, others that of DFLT", "[gpos]") {
  const auto face = face_with_pairs(
      gpos({{"DFLT", 0}, {"cyrl", 1}}, {{0}, {1}}, {lookup({pair_list()}), lookup({class_matrix()})}));
  CHECK(kern(*face, kA, kC, "cyrl") == 77);
  CHECK(kern(*face, kA, kC, "latn") == 30);
  const auto latin = face_with_pairs(gpos({{"latn", 0}}, {{0}}, {lookup({pair_list()})}));
  CHECK(kern(*latin, kA, kC, "grek") == 30);  // without DFLT, what is under Latin serves all
  CHECK(kern(*latin, kA, kC, "DFLT") == 30);
}

TEST_CASE("a script whose GPOS has no kern feature takes the kern table", "[gpos]") {
  // Cyrillic is listed with a feature that is not kern, Latin kerns by GPOS.
  const auto table = test::make_layout({{{"cyrl", {{"", {1}}}}, {"latn", {{"", {0}}}}},
                                        {{"kern", {0}}, {"mark", {1}}},
                                        {lookup({pair_list()}), lookup({class_matrix()})}});
  const auto face = face_with_pairs(table);
  const GlyphId t = face->find_glyph(U'T'), o = face->find_glyph(U'o');
  CHECK(face->kerning_source() == KerningSource::gpos);
  CHECK(face->kerning(t, o, tag("latn")) == 0);
  CHECK(face->kerning(t, o, tag("cyrl")) == -128);
  CHECK(kern(*face, kA, kC) == 30);
  const std::vector<GlyphId> lefts = face->left_glyphs();
  CHECK(std::binary_search(lefts.begin(), lefts.end(), t));
  CHECK(std::binary_search(lefts.begin(), lefts.end(), GlyphId{kA}));
}

TEST_CASE("where GPOS has no kerning the kern table is used", "[gpos]") {
  const std::vector<std::byte> empty =
      GENERATE(words({1, 0, 0, 0, 0}), words({}), words({1, 0, 10, 10, 10, 0}));
  const auto face = face_with_pairs(empty);
  CHECK(face->kerning_source() == KerningSource::kern);
  CHECK(face->kerning(face->find_glyph(U'T'), face->find_glyph(U'o'), tag("latn")) == -128);
}

TEST_CASE("offsets that lead nowhere kern nothing", "[gpos]") {
  std::vector<std::byte> table = gpos({{"latn", 0}}, {{0}}, {lookup({pair_list()})});
  for (std::size_t at = 0; at + 1 < table.size(); at += 2) {
    std::vector<std::byte> broken = table;
    broken[at] = broken[at + 1] = std::byte{0xFF};
    const auto face = face_with_pairs(broken);
    const float value = kern(*face, kA, kB);
    CHECK((value == 0 || value == -50 || value == 30 || value == -1));
  }
}

TEST_CASE("kerning of a real face is that of its own kern table", "[gpos][property]") {
  // DejaVu carries the same pairs twice: by GPOS and, for old readers, in `kern`.
  const auto data = FontData::read(test::dejavu_path());
  const auto face = *Face::open(*data);
  CHECK(face->kerning_source() == KerningSource::gpos);
  const auto glyph = [&](char32_t c) { return face->find_glyph(c); };
  CHECK(face->kerning(glyph(U'A'), glyph(U'V'), tag("latn")) == -131);
  CHECK(face->kerning(glyph(U'T'), glyph(U'y'), tag("latn")) != 0);
  CHECK(face->kerning(glyph(U'H'), glyph(U'H'), tag("latn")) == 0);
}

TEST_CASE("both glyphs of a pair, and what Device tables add at their size", "[gpos]") {
  // First value: advance with a device; second value: placement.
  const auto device = test::words({12, 13, 2, 0x3D00});  // +3 pixels at 12, -3 at 13
  const auto set = test::with_parts({1, kB, -50, -1, 7}, {device});
  const auto face = face_with_pairs(
      gpos({{"latn", 0}}, {{0}},
           {lookup({test::with_parts({1, -1, 0x44, 1, 1, -1}, {test::coverage({kA}), set})})}));
  const GlyphId a{kA}, b{kB};
  CHECK(face->pair_adjustment(a, b, tag("latn")) == PairAdjustment{{0, 0, -50, 0}, {7, 0, 0, 0}});
  const float pixel = face->units_per_em() / 12;
  CHECK(face->pair_adjustment(a, b, tag("latn"), Tag{}, 12).first.x_advance == Approx(-50 + 3 * pixel));
  CHECK(face->pair_adjustment(a, b, tag("latn"), Tag{}, 13).first.x_advance < -50);
  CHECK(face->pair_adjustment(a, b, tag("latn"), Tag{}, 20).first.x_advance == -50);
}

TEST_CASE("a language may kern in its own way", "[gpos]") {
  const auto face = face_with_pairs(test::make_layout({{{"latn", {{"", {0}}, {"NLD ", {1}}}}},
                                                       {{"kern", {0}}, {"kern", {1}}},
                                                       {lookup({pair_list()}), lookup({class_matrix()})},
                                                       {}}));
  const GlyphId a{kA}, c{kC};
  CHECK(face->kerning(a, c, tag("latn")) == 30);
  CHECK(face->kerning(a, c, tag("latn"), tag("NLD ")) == 77);
  CHECK(face->kerning(a, c, tag("latn"), tag("DEU ")) == 30);
}

TEST_CASE("compiled kerning says what the tables say, pair by pair", "[gpos][property]") {
  std::mt19937 random(17);
  for (int round = 0; round < 40; ++round) {
    std::vector<std::vector<std::byte>> lookups;
    for (unsigned l = 0; l <= random() % 2; ++l) {
      std::vector<std::vector<std::byte>> subtables;
      for (unsigned s = 0; s <= random() % 3; ++s) {
        std::vector<int> covered;
        for (int g = 0; g < 131; ++g) {
          if (random() % 4 == 0) covered.push_back(g);
        }
        if (random() % 2 == 0) {  // a matrix of 3 rows and 3 columns
          std::vector<std::pair<int, int>> rows, columns;
          for (int g = 0; g < 131; ++g) {
            if (random() % 2 == 0) rows.emplace_back(g, random() % 4);
            if (random() % 2 == 0) columns.emplace_back(g, random() % 4);
          }
          std::vector<int> values = {2, -1, 4, 0, -1, -1, 3, 3};
          std::vector<std::byte> matrix;
          for (int i = 0; i < 9; ++i) values.push_back(static_cast<int>(random() % 200) + 1);
          subtables.push_back(test::with_parts(
              values, {test::coverage(covered), test::classes(rows), test::classes(columns)}));
        } else {
          std::vector<int> values = {1, -1, 4, 0, static_cast<int>(covered.size())};
          std::vector<std::vector<std::byte>> parts = {test::coverage(covered)};
          for (std::size_t i = 0; i < covered.size(); ++i) {
            values.push_back(-1);
            std::vector<std::byte> set = test::words({2});
            for (const int right : {static_cast<int>(random() % 60), 60 + static_cast<int>(random() % 60)}) {
              const auto pair = test::words({right, static_cast<int>(random() % 100) + 1});
              set.insert(set.end(), pair.begin(), pair.end());
            }
            parts.push_back(set);
          }
          subtables.push_back(test::with_parts(values, parts));
        }
      }
      lookups.push_back(lookup(subtables));
    }
    std::vector<std::byte> table =
        gpos({{"latn", 0}}, {lookups.size() == 1 ? std::vector<int>{0} : std::vector<int>{0, 1}}, lookups);
    // Every other table is damaged, behind its scripts and features.
    for (int i = 0; i < (round % 2) * 20; ++i) {
      table[60 + random() % (table.size() - 60)] = static_cast<std::byte>(random());
    }
    const auto face = face_with_pairs(table);
    for (std::uint32_t pair = 0; pair < 131 * 131; ++pair) {
      const GlyphId left{pair / 131}, right{pair % 131};
      const float fast = face->kerning(left, right, tag("latn")),
                  plain = face->pair_adjustment(left, right, tag("latn")).first.x_advance;
      if (fast != plain) {
        FAIL("round " << round << ": " << pair / 131 << " " << pair % 131 << ": " << fast << " instead of "
                      << plain);
      }
    }
  }
  SUCCEED();
}

TEST_CASE("a table whose sets are out of order kerns alike compiled and plain", "[gpos]") {
  const auto bytes = FontData::read(GRAFEMA_SOURCE_DIR "/tests/damaged/gpos_sets_out_of_order.bin");
  REQUIRE(bytes.has_value());
  const auto face = face_with_pairs({bytes->bytes().begin(), bytes->bytes().end()});
  for (std::uint32_t pair = 0; pair < 40 * 40; ++pair) {
    const GlyphId left{pair / 40}, right{pair % 40};
    CHECK(face->kerning(left, right, tag("latn")) ==
          face->pair_adjustment(left, right, tag("latn")).first.x_advance);
  }
}
