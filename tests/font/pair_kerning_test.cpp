// SPDX-License-Identifier: MIT
// Pair kerning of GPOS: formats, extension, scripts, the order of lookups.
#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::joined;
using test::words;

namespace {

constexpr int kA = 34, kB = 35, kC = 36;  // glyphs of the built-in face

/// PairPos format 1: after A, B moves by -50; after A, C by 30.
std::vector<std::byte> pair_list() {
  // header 10, one offset 2 -> the pair set at 12: count 2, two records of 4 bytes (10 bytes), coverage at 22.
  return words({1, 22, 4, 0, 1, 12, 2, kB, -50, kC, 30, 1, 1, kA});
}

/// PairPos format 2: A is class 1 on the left, C class 1 on the right, worth 77; the first value has a placement before it.
std::vector<std::byte> class_matrix() {
  // header 16, matrix of 2x2 records of two words (16 bytes), coverage at 32 (6), class table at 38 (8), another at 46.
  return words({2, 32, 5, 0, 38, 46, 2, 2, 0, 0, 0, 0, 0, 11, 5, 77, 1, 1, kA, 1, kA, 1, 1, 2, 1, kC, kC, 1});
}

/// A GPOS table: script list (tags and their default feature), features that name one lookup list each, lookups.
std::vector<std::byte> gpos(const std::vector<std::pair<std::string, int>>& scripts, const std::vector<std::vector<int>>& features,
                            const std::vector<std::vector<std::byte>>& lookups) {
  const auto tag_words = [](const std::string& t) { return words({t[0] << 8 | t[1], t[2] << 8 | t[3]}); };
  std::vector<std::byte> script_list = words({static_cast<int>(scripts.size())}), script_tables;
  for (const auto& [name, feature] : scripts) {
    script_list = joined({script_list, tag_words(name), words({2 + static_cast<int>(scripts.size()) * 6 + static_cast<int>(script_tables.size())})});
    script_tables = joined({script_tables, words({4, 0, 0, 0xFFFF, 1, feature})});
  }
  script_list = joined({script_list, script_tables});
  std::vector<std::byte> feature_list = words({static_cast<int>(features.size())}), feature_tables;
  for (const auto& indices : features) {
    feature_list = joined({feature_list, tag_words("kern"), words({2 + static_cast<int>(features.size()) * 6 + static_cast<int>(feature_tables.size())})});
    feature_tables = joined({feature_tables, words({0, static_cast<int>(indices.size())})});
    for (const int index : indices) feature_tables = joined({feature_tables, words({index})});
  }
  feature_list = joined({feature_list, feature_tables});
  std::vector<std::byte> lookup_list = words({static_cast<int>(lookups.size())}), lookup_tables;
  for (const auto& lookup : lookups) {
    lookup_list = joined({lookup_list, words({2 + static_cast<int>(lookups.size()) * 2 + static_cast<int>(lookup_tables.size())})});
    lookup_tables = joined({lookup_tables, lookup});
  }
  lookup_list = joined({lookup_list, lookup_tables});
  const int scripts_at = 10, features_at = scripts_at + static_cast<int>(script_list.size());
  return joined({words({1, 0, scripts_at, features_at, features_at + static_cast<int>(feature_list.size())}), script_list, feature_list, lookup_list});
}

/// A lookup of type 2 with these subtables, plain or each behind an extension.
std::vector<std::byte> lookup(const std::vector<std::vector<std::byte>>& subtables, bool extension = false) {
  std::vector<std::byte> head = words({extension ? 9 : 2, 0, static_cast<int>(subtables.size())}), bodies;
  const int first = 6 + static_cast<int>(subtables.size()) * 2;
  for (const auto& subtable : subtables) {
    head = joined({head, words({first + static_cast<int>(bodies.size())})});
    bodies = extension ? joined({bodies, words({1, 2, 0, 8}), subtable}) : joined({bodies, subtable});
  }
  return joined({head, bodies});
}

std::shared_ptr<const Face> face_with(const std::vector<std::byte>& table) {
  test::FontBuilder builder;
  builder.table("GPOS") = table;
  return builder.face();
}

float kern(const Face& face, int left, int right, const char* script = "latn") {
  return face.kerning(GlyphId{static_cast<std::uint32_t>(left)}, GlyphId{static_cast<std::uint32_t>(right)}, tag(script));
}

}  // namespace

TEST_CASE("glyph numbers of these tests are those of the face", "[gpos]") {
  CHECK(index_of(built_in_face()->find_glyph(U'A')) == kA);
}

TEST_CASE("pairs and class matrices kern, plain and behind an extension", "[gpos]") {
  const bool extension = GENERATE(false, true);
  const auto face = face_with(gpos({{"latn", 0}}, {{0}}, {lookup({pair_list(), class_matrix()}, extension)}));
  CHECK(face->kerning_source() == KerningSource::gpos);
  CHECK(kern(*face, kA, kB) == -50);
  CHECK(kern(*face, kA, kC) == 30);  // the first subtable that knows the pair decides
  CHECK(kern(*face, kB, kA) == 0);
}

TEST_CASE("a class matrix knows every pair of what it covers", "[gpos]") {
  const auto first = face_with(gpos({{"latn", 0}}, {{0}}, {lookup({class_matrix(), pair_list()})}));
  CHECK(kern(*first, kA, kC) == 77);
  CHECK(kern(*first, kA, kB) == 11);  // class 0 on the right is a class too; the list behind it is not asked
}

TEST_CASE("lookups add up", "[gpos]") {
  const auto face = face_with(gpos({{"latn", 0}}, {{0, 1}}, {lookup({pair_list()}), lookup({class_matrix()})}));
  CHECK(kern(*face, kA, kC) == 107);
}

TEST_CASE("each script has its own kerning, others that of DFLT", "[gpos]") {
  const auto face = face_with(gpos({{"DFLT", 0}, {"cyrl", 1}}, {{0}, {1}}, {lookup({pair_list()}), lookup({class_matrix()})}));
  CHECK(kern(*face, kA, kC, "cyrl") == 77);
  CHECK(kern(*face, kA, kC, "latn") == 30);
  const auto latin = face_with(gpos({{"latn", 0}}, {{0}}, {lookup({pair_list()})}));
  CHECK(kern(*latin, kA, kC, "grek") == 0);
  CHECK(kern(*latin, kA, kC, "DFLT") == 30);
}

TEST_CASE("where GPOS has no kerning the kern table is used", "[gpos]") {
  const std::vector<std::byte> empty = GENERATE(words({1, 0, 0, 0, 0}), words({}), words({1, 0, 10, 10, 10, 0}));
  const auto face = face_with(empty);
  CHECK(face->kerning_source() == KerningSource::kern);
  CHECK(face->kerning(face->find_glyph(U'T'), face->find_glyph(U'o'), tag("latn")) == -128);
}

TEST_CASE("offsets that lead nowhere kern nothing", "[gpos]") {
  std::vector<std::byte> table = gpos({{"latn", 0}}, {{0}}, {lookup({pair_list()})});
  for (std::size_t at = 0; at + 1 < table.size(); at += 2) {
    std::vector<std::byte> broken = table;
    broken[at] = broken[at + 1] = std::byte{0xFF};
    const auto face = face_with(broken);
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
