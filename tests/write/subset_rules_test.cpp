// SPDX-License-Identifier: MIT
// Subsets of faces with rules made at random: whatever a text becomes, it becomes from the subset too.
#include <algorithm>
#include <catch2/catch.hpp>
#include <set>

#include "grafema/files/files.hpp"
#include "grafema/write/make_font.hpp"
#include "support/bytes.hpp"
#include "support/cff_builder.hpp"
#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/same_face.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::coverage;
using test::make_lookup;
using test::with_parts;

namespace {

using Table = std::vector<std::byte>;

constexpr int kFirst = 34, kCount = 40;  // capitals and what follows them

/// Makes subtables of glyphs drawn at random.
class RandomRules {
 public:
  explicit RandomRules(std::mt19937& random) : random_(random) {}

  int below(int n) { return static_cast<int>(random_() % static_cast<unsigned>(n)); }
  int glyph() { return kFirst + below(kCount); }
  std::vector<int> glyphs(int most) {
    std::set<int> out;
    for (int i = 0; i <= below(most); ++i) out.insert(glyph());
    return {out.begin(), out.end()};
  }
  std::vector<int> some(int most) {
    std::vector<int> out;
    for (int i = 0; i < below(most + 1); ++i) out.push_back(glyph());
    return out;
  }
  Table class_table(int classes) {
    std::vector<std::pair<int, int>> out;
    for (int g = kFirst; g < kFirst + kCount; ++g) {
      if (const int c = below(classes); c != 0) out.emplace_back(g, c);
    }
    return test::classes(out);
  }

  Table single() {
    const std::vector<int> from = glyphs(8);
    if (below(2) == 0) return with_parts({1, -1, below(5)}, {coverage(from)});
    std::vector<int> values = {2, -1, static_cast<int>(from.size())};
    for (std::size_t i = 0; i < from.size(); ++i) values.push_back(glyph());
    return with_parts(values, {coverage(from)});
  }
  Table list_of(const std::vector<Table>& parts) {
    std::vector<int> values = {static_cast<int>(parts.size())};
    values.insert(values.end(), parts.size(), -1);
    return with_parts(values, parts);
  }
  /// A table of format 1 whose entries stand in the order of a coverage.
  Table by_glyph(const std::vector<int>& from, const std::vector<Table>& entries) {
    std::vector<int> values = {1, -1, static_cast<int>(entries.size())};
    values.insert(values.end(), entries.size(), -1);
    std::vector<Table> parts = {coverage(from)};
    parts.insert(parts.end(), entries.begin(), entries.end());
    return with_parts(values, parts);
  }
  Table sequences() {
    const std::vector<int> from = glyphs(4);
    std::vector<Table> entries;
    for (std::size_t i = 0; i < from.size(); ++i) {
      Bytes list;
      const int count = 1 + below(3);
      list.u16(count);
      for (int k = 0; k < count; ++k) list.u16(glyph());
      entries.push_back(list);
    }
    return by_glyph(from, entries);
  }
  Table ligatures() {
    const std::vector<int> from = glyphs(6);
    std::vector<Table> entries;
    for (std::size_t i = 0; i < from.size(); ++i) {
      std::vector<Table> list;
      for (int k = 0; k <= below(3); ++k) {
        const std::vector<int> rest = some(2);
        Bytes one = Bytes().u16(glyph()).u16(static_cast<long>(rest.size() + 1));
        for (const int g : rest) one.u16(g);
        list.push_back(one);
      }
      entries.push_back(list_of(list));
    }
    return by_glyph(from, entries);
  }
  Table reverse() {
    const std::vector<int> from = glyphs(6);
    std::vector<int> values = {1, -1};
    std::vector<Table> parts = {coverage(from)};
    for (int side = 0; side < 2; ++side) {
      const int count = below(2);
      values.push_back(count);
      for (int i = 0; i < count; ++i) values.push_back(-1), parts.push_back(coverage(glyphs(20)));
    }
    values.push_back(static_cast<int>(from.size()));
    for (std::size_t i = 0; i < from.size(); ++i) values.push_back(glyph());
    return with_parts(values, parts);
  }

  /// A context of any format; its actions call lookups below `lookups`.
  Table context(bool chained, int lookups) {
    const int format = 1 + below(3);
    if (format == 3) return set_context(chained, lookups);
    const std::vector<int> from = glyphs(10);
    const int classes = 4;
    std::vector<Table> parts = {coverage(from)};
    std::vector<int> values = {format, -1};
    if (format == 2) {
      for (int i = 0; i < (chained ? 3 : 1); ++i) values.push_back(-1), parts.push_back(class_table(classes));
    }
    const auto value = [&] { return format == 1 ? glyph() : below(classes); };
    const std::size_t sets = format == 1 ? from.size() : classes;
    values.push_back(static_cast<int>(sets));
    for (std::size_t s = 0; s < sets; ++s) {
      if (below(4) == 0) {
        values.push_back(0);
        continue;
      }
      std::vector<Table> rules;
      for (int r = 0; r <= below(3); ++r) rules.push_back(rule(chained, lookups, value));
      values.push_back(-1), parts.push_back(list_of(rules));
    }
    return with_parts(values, parts);
  }

  Table value_record(int format) {
    Bytes out;
    for (int bit = 0; bit < 4; ++bit) {
      if ((format >> bit & 1) != 0) out.u16(below(200) - 100);
    }
    return out;
  }
  Table adjustments() {
    const std::vector<int> from = glyphs(10);
    const int format = 1 + below(15);
    const auto values = [&](int kind, int count) {
      Bytes out = Bytes().u16(kind).u16(0).u16(format);
      if (kind == 2) out.u16(count);
      for (int i = 0; i < (kind == 1 ? 1 : count); ++i) out.add(value_record(format));
      return out;
    };
    return ending_with(values(1 + below(2), static_cast<int>(from.size())), {2}, {coverage(from)});
  }
  Table pair_lists() {
    const std::vector<int> from = glyphs(8);
    const int first = 1 + below(15), second = below(2) == 0 ? 0 : 1 + below(15);
    Bytes out = Bytes().u16(1).u16(0).u16(first).u16(second).u16(static_cast<long>(from.size()));
    std::vector<std::size_t> at = {2};
    std::vector<Table> parts = {coverage(from)};
    for (std::size_t i = 0; i < from.size(); ++i) {
      at.push_back(out.size());
      out.u16(0);
      const std::vector<int> to = glyphs(8);
      Bytes set = Bytes().u16(static_cast<long>(to.size()));
      for (const int g : to) set.u16(g).add(value_record(first)).add(value_record(second));
      parts.push_back(set);
    }
    return ending_with(out, at, parts);
  }
  Table pair_matrix() {
    const int rows = 4, columns = 5, first = 1 + below(15), second = below(2) == 0 ? 0 : 4;
    Bytes out = Bytes().u16(2).u16(0).u16(first).u16(second).u16(0).u16(0).u16(rows).u16(columns);
    for (int i = 0; i < rows * columns; ++i) out.add(value_record(first)).add(value_record(second));
    return ending_with(out, {2, 8, 10}, {coverage(glyphs(20)), class_table(rows), class_table(columns)});
  }
  Table anchor() {
    const int x = below(500), y = below(500);
    return below(3) == 0 ? Bytes().u16(2).u16(x).u16(y).u16(1) : Bytes().u16(1).u16(x).u16(y);
  }
  Table cursive() {
    const std::vector<int> from = glyphs(12);
    std::vector<int> values = {1, -1, static_cast<int>(from.size())};
    std::vector<Table> parts = {coverage(from)};
    for (std::size_t i = 0; i < from.size() * 2; ++i) {
      const bool there = below(4) != 0;
      values.push_back(there ? -1 : 0);
      if (there) parts.push_back(anchor());
    }
    return with_parts(values, parts);
  }
  Table marks(const std::vector<int>& mark_glyphs, const std::vector<int>& bases, bool ligatures) {
    const int classes = 3;
    std::vector<int> array = {static_cast<int>(mark_glyphs.size())};
    std::vector<Table> anchors;
    for (std::size_t i = 0; i < mark_glyphs.size(); ++i) {
      array.push_back(below(classes)), array.push_back(-1), anchors.push_back(anchor());
    }
    const auto rows = [&](int count) {
      std::vector<int> values = {count};
      std::vector<Table> parts;
      for (int i = 0; i < count * classes; ++i) {
        const bool there = below(4) != 0;
        values.push_back(there ? -1 : 0);
        if (there) parts.push_back(anchor());
      }
      return with_parts(values, parts);
    };
    Table base_array = rows(static_cast<int>(bases.size()));
    if (ligatures) {
      std::vector<Table> parts;
      for (std::size_t i = 0; i < bases.size(); ++i) parts.push_back(rows(1 + below(2)));
      base_array = list_of(parts);
    }
    return with_parts({1, -1, -1, classes, -1, -1},
                      {coverage(mark_glyphs), coverage(bases), with_parts(array, anchors), base_array});
  }

 private:
  /// Sets the offsets at `at` to the parts, which are appended.
  static Table ending_with(const Bytes& head, const std::vector<std::size_t>& at,
                           const std::vector<Table>& parts) {
    Table out = head.get();
    for (std::size_t i = 0; i < at.size(); ++i) {
      const Table offset = Bytes().u16(static_cast<long>(out.size()));
      std::copy(offset.begin(), offset.end(), out.begin() + static_cast<std::ptrdiff_t>(at[i]));
      out.insert(out.end(), parts[i].begin(), parts[i].end());
    }
    return out;
  }

  void add_actions(Bytes& out, int count, int places, int lookups) {
    for (int i = 0; i < count; ++i) out.u16(below(places)).u16(below(lookups));
  }

  template <class Value>
  Table rule(bool chained, int lookups, Value value) {
    const int rest = below(2), actions = below(3);
    Bytes out;
    const auto list = [&](int count) {
      for (int i = 0; i < count; ++i) out.u16(value());
    };
    if (chained) {
      const int before = below(2), after = below(2);
      out.u16(before), list(before), out.u16(rest + 1), list(rest), out.u16(after), list(after),
          out.u16(actions);
    } else {
      out.u16(rest + 1).u16(actions), list(rest);
    }
    add_actions(out, actions, rest + 1, lookups);
    return out;
  }

  Table set_context(bool chained, int lookups) {
    std::vector<int> values = {3};
    std::vector<Table> parts;
    const auto sets = [&](int count) {
      for (int i = 0; i < count; ++i) values.push_back(-1), parts.push_back(coverage(glyphs(20)));
    };
    const int inputs = 1 + below(2), actions = below(3);
    if (chained) {
      const int before = below(2), after = below(2);
      values.push_back(before), sets(before), values.push_back(inputs), sets(inputs), values.push_back(after),
          sets(after);
      values.push_back(actions);
    } else {
      values.push_back(inputs), values.push_back(actions), sets(inputs);
    }
    for (int i = 0; i < actions; ++i) values.push_back(below(inputs)), values.push_back(below(lookups));
    return with_parts(values, parts);
  }

  std::mt19937& random_;
};

/// A face whose letters are letters, marks or ligatures by chance and whose rules are made at random.
std::shared_ptr<const Face> random_face(std::mt19937& random) {
  RandomRules rules(random);
  std::vector<std::pair<int, int>> kinds, mark_classes;
  std::vector<int> marks, letters, ligatures;
  for (int g = kFirst; g < kFirst + kCount; ++g) {
    const int kind = rules.below(4) == 0 ? 3 : rules.below(3) == 0 ? 2 : 1;
    kinds.emplace_back(g, kind);
    (kind == 3 ? marks : kind == 2 ? ligatures : letters).push_back(g);
    if (kind == 3) mark_classes.emplace_back(g, rules.below(3));
  }
  test::FontBuilder builder;
  const Table sets = [&] {
    Bytes out = Bytes().u16(1).u16(2).u32(12);
    const Table one = coverage(rules.glyphs(10)), other = coverage(rules.glyphs(10));
    return out.u32(static_cast<long>(12 + one.size())).add(one).add(other);
  }();
  builder.table("GDEF") =
      with_parts({1, 2, -1, 0, 0, -1, -1}, {test::classes(kinds), test::classes(mark_classes), sets});
  const auto make = [&](bool positions) {
    test::LayoutDrawing drawing;
    const int count = 12;
    for (int i = 0; i < count; ++i) {
      const int types[] = {1, 2, 3, 4, 5, 6, 8}, kinds_of[] = {1, 2, 3, 4, 5, 6, 7, 8};
      const int type = positions ? kinds_of[rules.below(8)] : types[rules.below(7)];
      std::vector<Table> subtables;
      for (int s = 0; s <= rules.below(2); ++s) {
        if (positions) {
          subtables.push_back(type == 1   ? rules.adjustments()
                              : type == 2 ? (rules.below(2) == 0 ? rules.pair_lists() : rules.pair_matrix())
                              : type == 3 ? rules.cursive()
                              : type == 4 ? rules.marks(marks, letters, false)
                              : type == 5 ? rules.marks(marks, ligatures, true)
                              : type == 6 ? rules.marks(marks, marks, false)
                                          : rules.context(type == 8, count));
        } else {
          subtables.push_back(type == 1   ? rules.single()
                              : type <= 3 ? rules.sequences()
                              : type == 4 ? rules.ligatures()
                              : type == 8 ? rules.reverse()
                                          : rules.context(type == 6, count));
        }
      }
      const int kind = rules.below(6), flags = kind == 0   ? 8
                                               : kind == 1 ? 0x100
                                               : kind == 2 ? 0x10
                                               : kind == 3 ? 1
                                                           : 0;
      drawing.lookups.push_back(make_lookup(type, subtables, flags,
                                            rules.below(3) == 0 ? (positions ? 9 : 7) : 0,
                                            (flags & 0x10) != 0 ? rules.below(2) : -1));
    }
    const std::vector<std::string> names =
        positions ? std::vector<std::string>{"kern", "mark", "mkmk", "curs", "dist"}
                  : std::vector<std::string>{"ccmp", "liga", "calt", "salt", "smcp"};
    std::vector<int> all;
    for (std::size_t f = 0; f < names.size(); ++f) {
      std::set<int> used;
      for (int i = 0; i < 3; ++i) used.insert(rules.below(count));
      drawing.features.push_back({names[f], {used.begin(), used.end()}});
      all.push_back(static_cast<int>(f));
    }
    drawing.scripts = {{"DFLT", {{"", all}, {"TRK ", {0, 2}, 1}}}, {"latn", {{"", all}}}};
    return test::make_layout(drawing);
  };
  builder.table("GSUB") = make(false), builder.table("GPOS") = make(true);
  return builder.face();
}

}  // namespace

TEST_CASE("rules at random say the same of what is kept", "[subset][property]") {
  std::mt19937 random(Catch::rngSeed());
  for (int i = 0; i < 60; ++i) {
    INFO("face " << i);
    const auto face = random_face(random);
    std::vector<char32_t> characters;
    for (int k = 0; k < 8; ++k) characters.push_back(U'A' + random() % kCount);
    std::erase_if(characters, [&](char32_t c) { return face->find_glyph(c) == kMissingGlyph; });
    SubsetRecipe recipe;
    recipe.characters = characters;
    const test::Reduced reduced = test::reduce(*face, recipe);
    test::check_shaping(face, reduced, characters, random);
    for (const GlyphId old : reduced.subset.glyphs) {
      const auto own = static_cast<std::uint32_t>(
          std::find(reduced.subset.glyphs.begin(), reduced.subset.glyphs.end(), old) -
          reduced.subset.glyphs.begin());
      CHECK(face->definitions().class_of(old) == reduced.face->definitions().class_of(GlyphId{own}));
      CHECK(face->definitions().mark_class(old) == reduced.face->definitions().mark_class(GlyphId{own}));
      for (const std::uint16_t set : {0, 1}) {
        CHECK(face->definitions().in_mark_set(set, old) ==
              reduced.face->definitions().in_mark_set(set, GlyphId{own}));
      }
    }
  }
}

TEST_CASE("rules larger than 16 bits reach stand behind longer offsets", "[subset]") {
  // Pairs of every letter with every other, in many subtables: about 150,000 bytes.
  test::FontBuilder builder;
  std::vector<int> glyphs;
  for (int g = 2; g < 129; ++g) glyphs.push_back(g);
  std::vector<Table> subtables;
  for (int s = 0; s < 5; ++s) {
    std::vector<int> values = {1, -1, 4, 0, 0};
    std::vector<Table> parts = {};
    std::vector<int> lefts;
    for (const int left : glyphs) {
      if (left % 5 != s) continue;
      Bytes set = Bytes().u16(static_cast<long>(glyphs.size()));
      for (const int right : glyphs) set.u16(right).u16((left * 7 + right * 13) % 200 - 100);
      lefts.push_back(left), parts.push_back(set), values.push_back(-1);
    }
    values[4] = static_cast<int>(lefts.size());
    parts.insert(parts.begin(), coverage(lefts));
    subtables.push_back(with_parts(values, parts));
  }
  builder.table("GPOS") = test::simple_layout("kern", {0}, {make_lookup(2, subtables, 0, 9)});
  const auto face = builder.face();
  SubsetRecipe recipe;
  recipe.all_characters = true;
  const test::Reduced reduced = test::reduce(*face, recipe);
  CHECK(reduced.face->table(tag("GPOS")).size() > 60'000);
  std::vector<char32_t> characters;
  for (const auto& [character, glyph] : face->characters()) characters.push_back(character);
  test::check_kerning(*face, reduced, characters);
}

TEST_CASE("pairs of kern stay, as lists and as classes", "[subset][kern]") {
  auto open = open_face(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans.ttf");
  REQUIRE(open.has_value());
  const auto bytes = load_text(GRAFEMA_SOURCE_DIR "/data/faces/quillmere_sans.ttf");
  const auto* begin = reinterpret_cast<const std::byte*>(bytes->data());
  test::FontBuilder builder(Table(begin, begin + bytes->size()));
  builder.remove("GPOS");
  const auto face = builder.face();
  REQUIRE(face->kerning_source() == KerningSource::kern);
  std::mt19937 random(Catch::rngSeed());
  for (int i = 0; i < 20; ++i) {
    const std::vector<char32_t> ten = test::ten_of(*face, random, i % 2 == 0);
    SubsetRecipe recipe;
    recipe.characters = ten;
    test::check_same(face, test::reduce(*face, recipe), ten, random);
  }
}

TEST_CASE("outlines of CFF keep the subroutines that they call, and no others", "[subset][cff]") {
  const auto drawn = [](bool keyed) {
    test::FontBuilder builder;
    builder.remove("glyf"), builder.remove("loca");
    test::CffDrawing drawing;
    drawing.keyed = keyed;
    const Table nothing = test::Charstring().op({}, 14).get();
    for (int g = 0; g < 131; ++g) {
      test::Charstring s;
      s.op({1, 2, 3, 4}, 18).op({5, 6}, 23).raw({20, 0xE0});  // stems and a mask of one byte
      s.op({10.0 + g, 20}, 21).number(g % 3 - 107).op({}, 10).number(g % 2 - 107).op({}, 29).op({}, 14);
      drawing.glyphs.push_back(g == 0 ? nothing : s.get());
      if (g > 0) drawing.names.push_back("g" + std::to_string(g));
    }
    drawing.local = {test::Charstring().op({100, 50}, 6).op({}, 11).get(),
                     test::Charstring().op({80, 40}, 7).op({}, 11).get(),
                     test::Charstring().op({30, 30}, 5).number(1 - 107).op({}, 29).op({}, 11).get(),
                     test::Charstring().op({1, 1}, 5).op({}, 11).get()};
    drawing.global = {test::Charstring().op({7, 9}, 5).op({}, 11).get(),
                      test::Charstring().op({-20, 3}, 5).op({}, 11).get(),
                      test::Charstring().op({2, 2}, 5).op({}, 11).get()};
    builder.table("CFF ") = test::make_cff(drawing);
    return builder.face();
  };
  std::mt19937 random(Catch::rngSeed());
  for (const bool keyed : {false, true}) {
    const auto face = drawn(keyed);
    for (int i = 0; i < 10; ++i) {
      const std::vector<char32_t> ten = test::ten_of(*face, random, false);
      SubsetRecipe recipe;
      recipe.characters = ten;
      const test::Reduced reduced = test::reduce(*face, recipe);
      test::check_same(face, reduced, ten, random);
      for (std::uint32_t g = 1; g < reduced.face->glyph_count(); ++g) {
        CHECK(reduced.face->glyph_name(GlyphId{g}) == face->glyph_name(reduced.subset.glyphs[g]));
      }
    }
    CHECK(test::reduce(*face, U"A").face->table(tag("CFF ")).size() * 4 < face->table(tag("CFF ")).size());
  }
}

TEST_CASE("a letter with an accent of CFF brings both along", "[subset][cff]") {
  test::FontBuilder builder;
  builder.remove("glyf"), builder.remove("loca");
  test::CffDrawing drawing;
  const Table stroke = test::Charstring().op({10, 20}, 21).op({5, 0, 0, 7}, 5).op({}, 14).get();
  drawing.glyphs.assign(131, stroke);
  drawing.charset.resize(130);
  for (int g = 1; g < 131; ++g) drawing.charset[static_cast<std::size_t>(g - 1)] = g;  // standard names
  // 'A' is put together from the standard encoding's 'B' and '!'.
  drawing.glyphs[34] = test::Charstring().op({30, 40, 66, 33}, 14).get();
  builder.table("CFF ") = test::make_cff(drawing);
  const auto face = builder.face();
  Contours outline;
  REQUIRE(face->read_outline(GlyphId{34}, outline).has_value());
  REQUIRE(outline.points.size() == 6);
  const test::Reduced reduced = test::reduce(*face, U"A");
  CHECK(reduced.subset.glyphs.size() == 4);
  test::check_glyphs(*face, reduced, std::u32string_view(U"A"));
}
