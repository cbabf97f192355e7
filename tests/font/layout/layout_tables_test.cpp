// SPDX-License-Identifier: MIT
// Typed views of GSUB, GPOS and GDEF: lookup types, contexts, languages, feature variations.
#include "grafema/font/layout_tables.hpp"

#include <catch2/catch.hpp>

#include "font/variation/item_variations.hpp"
#include "support/cff_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::coverage;
using test::with_parts;

namespace {

using Table = std::vector<std::byte>;

GlyphId g(std::uint32_t glyph) { return GlyphId{glyph}; }

/// The one rule of a lookup of this type.
template <class Rule>
Rule substitution(int type, const Table& subtable, bool extension = false) {
  static std::vector<Table> kept;  // views refer to bytes that must outlive them
  kept.reserve(1000);
  kept.push_back(
      test::simple_layout("test", {0}, {test::make_lookup(type, {subtable}, 0, extension ? 7 : 0)}));
  const auto lookup = LayoutTable(kept.back(), nullptr, {}, 1000).substitution(0);
  CHECK(lookup.type == type);
  REQUIRE(lookup.rules.size() == 1);
  const Rule* rule = std::get_if<Rule>(&lookup.rules[0]);
  REQUIRE(rule != nullptr);
  return *rule;
}

template <class Rule>
Rule positioning(int type, const Table& subtable, const detail::ItemVariations* variations = nullptr) {
  static std::vector<Table> kept;
  kept.reserve(1000);
  kept.push_back(test::simple_layout("test", {0}, {test::make_lookup(type, {subtable}, 0, 9)}));
  const auto lookup = LayoutTable(kept.back(), variations, {}, 1000).positioning(0);
  CHECK(lookup.type == type);
  REQUIRE(lookup.rules.size() == 1);
  const Rule* rule = std::get_if<Rule>(&lookup.rules[0]);
  REQUIRE(rule != nullptr);
  return *rule;
}

Table anchor(int x, int y) { return Bytes().words(1, x, y); }

}  // namespace

TEST_CASE("sets and classes of both formats", "[layout]") {
  const Table list = coverage({3, 5, 9}), ranges = Bytes().words(2, 2, 3, 5, 0, 9, 9, 3);
  CHECK(GlyphSet(list).find(g(5)) == 1U);
  CHECK_FALSE(GlyphSet(list).find(g(4)).has_value());
  CHECK(GlyphSet(list).glyphs() == std::vector<GlyphId>{g(3), g(5), g(9)});
  CHECK(GlyphSet(ranges).find(g(4)) == 1U);
  CHECK(GlyphSet(ranges).find(g(9)) == 3U);
  CHECK(GlyphSet(ranges).glyphs() == std::vector<GlyphId>{g(3), g(4), g(5), g(9)});
  const Table array = Bytes().words(1, 4, 3, 7, 0, 8), spans = Bytes().words(2, 1, 4, 6, 2);
  CHECK(GlyphClasses(array).class_of(g(4)) == 7);
  CHECK(GlyphClasses(array).class_of(g(6)) == 8);
  CHECK(GlyphClasses(array).class_of(g(7)) == 0);
  CHECK(GlyphClasses(spans).class_of(g(5)) == 2);
  CHECK(GlyphClasses().class_of(g(5)) == 0);
}

TEST_CASE("single, multiple, alternate and ligature substitution, plain and behind an extension",
          "[layout]") {
  const bool extension = GENERATE(false, true);
  CHECK(substitution<SingleSubstitution>(1, with_parts({1, -1, -3}, {coverage({10, 12})}), extension)
            .find(g(12)) == g(9));
  const auto list =
      substitution<SingleSubstitution>(1, with_parts({2, -1, 2, 50, 51}, {coverage({10, 12})}), extension);
  CHECK(list.find(g(12)) == g(51));
  CHECK_FALSE(list.find(g(11)).has_value());
  const auto multiple = substitution<SequenceSubstitution>(
      2, with_parts({1, -1, 2, -1, -1}, {coverage({10, 12}), Bytes().words(2, 7, 8), Bytes().words(0)}),
      extension);
  CHECK(multiple.find(g(10)) == std::vector<GlyphId>{g(7), g(8)});
  CHECK(multiple.find(g(12)) == std::vector<GlyphId>{});
  CHECK_FALSE(multiple.find(g(11)).has_value());
  CHECK(substitution<SequenceSubstitution>(
            3, with_parts({1, -1, 1, -1}, {coverage({10}), Bytes().words(2, 7, 8)}), extension)
            .find(g(10))
            ->size() == 2);
  const Table set = with_parts({2, -1, -1}, {Bytes().words(90, 3, 11, 12), Bytes().words(91, 2, 11)});
  const auto ligatures =
      substitution<LigatureSubstitution>(4, with_parts({1, -1, 1, -1}, {coverage({10}), set}), extension)
          .find(g(10));
  REQUIRE(ligatures.size() == 2);
  CHECK(ligatures[0].glyph == g(90));
  CHECK(ligatures[0].rest == std::vector<GlyphId>{g(11), g(12)});
  CHECK(ligatures[1].rest == std::vector<GlyphId>{g(11)});
}

TEST_CASE("contexts of glyphs, classes and sets", "[layout]") {
  // "10 11: apply lookup 3 at place 1"
  const Table glyph_rule = Bytes().words(2, 1, 11, 1, 3);
  const auto by_glyph = substitution<ContextRules>(
      5, with_parts({1, -1, 1, -1}, {coverage({10}), with_parts({1, -1}, {glyph_rule})}));
  REQUIRE(by_glyph.find(g(10)).size() == 1);
  const ContextRule rule = by_glyph.find(g(10))[0];
  REQUIRE(rule.input.size() == 2);
  CHECK(rule.input[0].matches(g(10)));
  CHECK((rule.input[1].matches(g(11)) && !rule.input[1].matches(g(12))));
  REQUIRE(rule.actions.size() == 1);
  CHECK((rule.actions[0].place == 1 && rule.actions[0].lookup == 3));
  CHECK(by_glyph.find(g(11)).empty());

  const Table class_rule = Bytes().words(2, 1, 2, 0, 4);
  const auto by_class = substitution<ContextRules>(
      5, with_parts({2, -1, -1, 2, 0, -1}, {coverage({10, 11}), test::classes({{10, 1}, {11, 1}, {20, 2}}),
                                            with_parts({1, -1}, {class_rule})}));
  REQUIRE(by_class.find(g(11)).size() == 1);
  CHECK(by_class.find(g(11))[0].input[1].matches(g(20)));
  CHECK_FALSE(by_class.find(g(11))[0].input[1].matches(g(10)));

  const auto by_set = substitution<ContextRules>(
      5, with_parts({3, 2, 1, -1, -1, 1, 5}, {coverage({10}), coverage({20, 21})}));
  CHECK(by_set.first().holds(g(10)));
  REQUIRE(by_set.find(g(10)).size() == 1);
  CHECK(by_set.find(g(10))[0].input[1].matches(g(21)));
  CHECK(by_set.find(g(10))[0].actions[0].lookup == 5);
}

TEST_CASE("chained contexts of glyphs, classes and sets", "[layout]") {
  const Table glyph_rule = Bytes().words(1, 8, 2, 11, 1, 9, 1, 0, 6);  // after 8: 10 11 before 9
  const auto by_glyph = substitution<ContextRules>(
      6, with_parts({1, -1, 1, -1}, {coverage({10}), with_parts({1, -1}, {glyph_rule})}));
  const auto found = by_glyph.find(g(10));
  REQUIRE(found.size() == 1);
  CHECK(found[0].before.at(0).matches(g(8)));
  CHECK(found[0].input.at(1).matches(g(11)));
  CHECK(found[0].after.at(0).matches(g(9)));
  CHECK(found[0].actions.at(0).lookup == 6);

  const Table class_rule = Bytes().words(1, 1, 1, 1, 2, 1, 0, 7);
  const Table c = test::classes({{10, 1}}), before = test::classes({{30, 1}}),
              after = test::classes({{31, 2}});
  const auto by_class = substitution<ContextRules>(
      6, with_parts({2, -1, -1, -1, -1, 2, 0, -1},
                    {coverage({10}), before, c, after, with_parts({1, -1}, {class_rule})}));
  const auto classes = by_class.find(g(10));
  REQUIRE(classes.size() == 1);
  CHECK(classes[0].before.at(0).matches(g(30)));
  CHECK(classes[0].after.at(0).matches(g(31)));
  CHECK(classes[0].input.size() == 1);

  const auto by_set = positioning<ContextRules>(
      8, with_parts({3, 1, -1, 1, -1, 1, -1, 1, 0, 2}, {coverage({8}), coverage({10}), coverage({9})}));
  const auto sets = by_set.find(g(10));
  REQUIRE(sets.size() == 1);
  CHECK((sets[0].before.at(0).matches(g(8)) && sets[0].input.at(0).matches(g(10)) &&
         sets[0].after.at(0).matches(g(9))));
  CHECK(sets[0].actions.at(0).lookup == 2);
  CHECK(by_set.chained);
}

TEST_CASE("reverse chained substitution", "[layout]") {
  const auto rule = substitution<ReverseSubstitution>(
      8, with_parts({1, -1, 1, -1, 1, -1, 2, 40, 41}, {coverage({10, 11}), coverage({8}), coverage({9})}));
  CHECK(rule.find(g(11)) == g(41));
  CHECK(rule.before.at(0).holds(g(8)));
  CHECK(rule.after.at(0).holds(g(9)));
}

TEST_CASE("single adjustment, cursive attachment and marks", "[layout]") {
  CHECK(positioning<SingleAdjustment>(1, with_parts({1, -1, 5, 7, -9}, {coverage({10})})).find(g(10)) ==
        Adjustment{7, 0, -9, 0});
  CHECK(positioning<SingleAdjustment>(1, with_parts({2, -1, 2, 2, 3, 4}, {coverage({10, 11})})).find(g(11)) ==
        Adjustment{0, 4, 0, 0});
  const auto cursive =
      positioning<CursiveAttachment>(3, with_parts({1, -1, 1, -1, 0}, {coverage({10}), anchor(5, 6)}));
  CHECK(cursive.entry(g(10))->y == 6);
  CHECK_FALSE(cursive.exit(g(10)).has_value());
  // Marks 20 (class 0) and 21 (class 1) on base 10.
  const Table marks = with_parts({2, 0, -1, 1, -1}, {anchor(1, 2), anchor(3, 4)}),
              bases = with_parts({1, -1, -1}, {anchor(100, 200), anchor(300, 400)});
  const auto on_base = positioning<MarkAttachment>(
      4, with_parts({1, -1, -1, 2, -1, -1}, {coverage({20, 21}), coverage({10}), marks, bases}));
  const auto place = on_base.find(g(21), g(10));
  REQUIRE(place.has_value());
  CHECK((place->mark.x == 3 && place->base.y == 400));
  CHECK_FALSE(on_base.find(g(21), g(11)).has_value());
  // A ligature of two parts, the first without an anchor for class 1.
  const Table parts = with_parts({2, -1, 0, -1, -1}, {anchor(1, 1), anchor(2, 2), anchor(3, 3)}),
              ligatures = with_parts({1, -1}, {parts});
  const auto on_ligature = positioning<MarkAttachment>(
      5, with_parts({1, -1, -1, 2, -1, -1}, {coverage({20, 21}), coverage({10}), marks, ligatures}));
  CHECK(on_ligature.find(g(21), g(10), 1)->base.x == 3);
  CHECK_FALSE(on_ligature.find(g(21), g(10), 0).has_value());
  CHECK_FALSE(on_ligature.find(g(20), g(10), 2).has_value());
}

TEST_CASE("anchors and values move along the axes", "[layout][variations]") {
  const Table store = test::make_variation_store({{{{0, 1, 1}}}}, {{40}});
  const auto variations = detail::ItemVariations::read({tag("GDEF"), store}, {0.5F});
  const Table index = Bytes().words(0, 0, 0x8000);
  const Table moving = with_parts({3, 5, 6, -1, 0}, {index});
  CHECK(
      positioning<CursiveAttachment>(3, with_parts({1, -1, 1, -1, 0}, {coverage({10}), moving}), &variations)
          .entry(g(10))
          ->x == 25);
  // ValueFormat: advance and its device.
  CHECK(positioning<SingleAdjustment>(1, with_parts({1, -1, 0x44, 100, -1}, {coverage({10}), index}),
                                      &variations)
            .find(g(10)) == Adjustment{0, 0, 120, 0});
}

TEST_CASE("scripts, languages and required features", "[layout]") {
  const Table table = test::make_layout({{{"DFLT", {{"", {0}}}}, {"latn", {{"", {0}}, {"DEU ", {1}, 2}}}},
                                         {{"liga", {0}}, {"liga", {1}}, {"locl", {2}}},
                                         {{}, {}, {}},
                                         {}});
  const LayoutTable layout(table, nullptr, {}, 1000);
  REQUIRE(layout.scripts().size() == 2);
  CHECK(layout.scripts()[1].languages == std::vector<Tag>{tag("DEU ")});
  CHECK(layout.features() == std::vector<Tag>{tag("liga"), tag("locl")});
  using List = std::vector<std::uint16_t>;
  CHECK(layout.find_lookups(tag("latn"), tag("DEU "), tag("liga")) == List{1});
  CHECK(layout.find_lookups(tag("latn"), tag("FRA "), tag("liga")) == List{0});
  CHECK(layout.find_lookups(tag("grek"), Tag{}, tag("liga")) == List{0});
  CHECK(layout.find_required_lookups(tag("latn"), tag("DEU ")) == List{2});
  CHECK(layout.find_required_lookups(tag("latn"), Tag{}).empty());
  const Tag both[] = {tag("liga"), tag("locl")};
  CHECK(layout.find_lookups(both) == List{0, 1, 2});
}

TEST_CASE("a feature variation replaces a feature's lookups in its range of an axis",
          "[layout][variations]") {
  const Table condition = Bytes().u16(1).u16(0).f2dot14(0.5).f2dot14(1),
              set = Bytes().u16(1).u32(6).add(condition);
  const Table feature = Bytes().words(0, 1, 1),
              substitution = Bytes().u16(1).u16(0).u16(1).u16(0).u32(12).add(feature);
  const Table variations =
      Bytes().u16(1).u16(0).u32(1).u32(16).u32(static_cast<long>(16 + set.size())).add(set).add(substitution);
  const Table table = test::make_layout({{{"latn", {{"", {0}}}}}, {{"rvrn", {0}}}, {{}, {}}, variations});
  const auto at = [&](std::vector<float> place) {
    return LayoutTable(table, nullptr, std::move(place), 1000).find_lookups(tag("latn"), Tag{}, tag("rvrn"));
  };
  CHECK(at({}) == std::vector<std::uint16_t>{0});
  CHECK(at({0.4F}) == std::vector<std::uint16_t>{0});
  CHECK(at({0.6F}) == std::vector<std::uint16_t>{1});
}

TEST_CASE("flags say which glyphs a lookup does not see", "[layout]") {
  const Table table = test::simple_layout("mark", {0}, {test::make_lookup(1, {}, 0x0310 | 1 | 8, 0, 7)});
  const LookupFlags flags = LayoutTable(table, nullptr, {}, 1000).substitution(0).flags;
  CHECK((flags.right_to_left && !flags.ignore_bases && !flags.ignore_ligatures && flags.ignore_marks));
  CHECK(flags.mark_class == 3);
  CHECK(flags.mark_set == std::uint16_t{7});
}

TEST_CASE("GDEF sorts glyphs and knows marks, carets and points", "[layout]") {
  const Table kinds = test::classes({{10, 1}, {11, 2}, {12, 3}}),
              attach = with_parts({-1, 1, -1}, {coverage({10}), Bytes().words(2, 4, 9)});
  const Table carets = with_parts(
      {-1, 1, -1}, {coverage({11}), with_parts({2, -1, -1}, {Bytes().words(1, 250), Bytes().words(2, 6)})});
  const Table marks = test::classes({{12, 5}});
  const Table sets = Bytes().u16(1).u16(1).u32(8).add(coverage({12}));
  const Table table = with_parts({1, 2, -1, -1, -1, -1, -1}, {kinds, attach, carets, marks, sets});
  const GlyphDefinitions gdef(table, nullptr);
  CHECK(gdef.class_of(g(11)) == GlyphClass::ligature);
  CHECK(gdef.class_of(g(13)) == GlyphClass::none);
  CHECK(gdef.mark_class(g(12)) == 5);
  CHECK((gdef.in_mark_set(0, g(12)) && !gdef.in_mark_set(0, g(10)) && !gdef.in_mark_set(1, g(12))));
  CHECK(gdef.ligature_carets(g(11)) == std::vector<float>{250});
  CHECK(gdef.attachment_points(g(10)) == std::vector<std::uint16_t>{4, 9});
}

TEST_CASE("layout tables cut or changed anywhere can be asked anything", "[layout][property]") {
  const Table glyph_rule = Bytes().words(1, 8, 2, 11, 1, 9, 1, 0, 6);
  const Table whole = test::simple_layout(
      "calt", {0},
      {test::make_lookup(6, {with_parts({1, -1, 1, -1}, {coverage({10}), with_parts({1, -1}, {glyph_rule})})},
                         0, 7)});
  const auto use = [](const Table& table) {
    const LayoutTable layout(table, nullptr, {0.5F}, 1000);
    std::size_t rules = 0;
    for (std::size_t i = 0; i < std::min<std::size_t>(layout.lookup_count(), 100); ++i) {
      for (const auto& rule : layout.substitution(i).rules) {
        if (const auto* contexts = std::get_if<ContextRules>(&rule)) rules += contexts->find(g(10)).size();
      }
      (void)layout.positioning(i);
    }
    (void)layout.scripts();
    return rules;
  };
  CHECK(use(whole) == 1);
  for (std::size_t length = 0; length < whole.size(); ++length) {
    CHECK(use(Table(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length))) <= 1);
  }
  std::mt19937 random(13);
  for (int round = 0; round < 2000; ++round) {
    Table changed = whole;
    changed[random() % changed.size()] = static_cast<std::byte>(random());
    (void)use(changed);
  }
}

TEST_CASE("tables that lie on top of each other multiply no work", "[layout]") {
  // Every script record leads to the same table of as many languages, every language to the same features and
  // lookups.
  constexpr int kMany = 3000;
  Bytes table = Bytes().words(1, 0, 10, 10, 10);  // scripts, features and lookups all begin at 10
  table.u16(kMany);
  for (int i = 0; i < kMany; ++i) {
    table.text("latn").u16(2);
  }  // each leads two bytes further into these records
  const LayoutTable layout(table.get(), nullptr, {}, 1000);
  std::size_t languages = 0;
  for (const ScriptTags& script : layout.scripts()) languages += script.languages.size();
  CHECK(layout.scripts().size() <= 256);
  CHECK(languages <= 2048);
  CHECK(layout.find_lookups(tag("latn"), Tag{}, tag("latn")).size() <= 16384);
  const Tag features[] = {tag("latn")};
  CHECK(layout.find_lookups(features).size() <= 16384);
}

TEST_CASE("a context of endless rules is read as far as a real one would go", "[layout]") {
  // One rule of 60,000 places, listed a thousand times.
  Bytes rule = Bytes().words(60000, 1);
  for (int i = 0; i < 60000; ++i) rule.u16(11);
  Bytes set = Bytes().u16(1000);
  for (int i = 0; i < 1000; ++i) set.u16(2002);
  set.add(rule);
  const auto rules = substitution<ContextRules>(5, with_parts({1, -1, 1, -1}, {coverage({10}), set}));
  CHECK(rules.find(g(10)).size() <= 2);
}
