// SPDX-License-Identifier: MIT
// Writes fuzz/seeds, small right inputs from which fuzzing starts; run by hand when a target changes.
#include <filesystem>
#include <fstream>
#include <string>

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/files/files.hpp"

#include <algorithm>
#include "support/bytes.hpp"
#include "support/cff_builder.hpp"
#include "support/color_builder.hpp"
#include "support/font_builder.hpp"

#include "support/layout_builder.hpp"
#include "support/support.hpp"
#include "support/web_font_builder.hpp"

namespace {

using namespace grafema;
using test::Bytes;
using test::coverage;
using test::with_parts;
using Table = std::vector<std::byte>;

std::string root;

void write(const std::string& target, const std::string& name, const Table& bytes) {
  std::filesystem::create_directories(root + "/" + target);
  std::ofstream(root + "/" + target + "/" + name, std::ios::binary)
      .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
}

Table after(int first, const Table& bytes) { return Bytes().u8(first).add(bytes); }

Table variation_data() {
  const Bytes tuple =
      Bytes().u8(2).u8(0x81 - 0x80).u8(0).u8(2).u8(0x41).words(10, 110).u8(0x41).words(20, 60);
  const Bytes data = Bytes()
                         .u16(2)
                         .u16(4 + 8 + 16)
                         .u16(static_cast<long>(tuple.size()))
                         .u16(0xA000)
                         .f2dot14(1)
                         .f2dot14(0)
                         .u16(static_cast<long>(tuple.size()))
                         .u16(0xE000)
                         .f2dot14(0.5)
                         .f2dot14(0)
                         .f2dot14(0.2)
                         .f2dot14(0)
                         .f2dot14(0.9)
                         .f2dot14(0)
                         .add(tuple)
                         .add(tuple);
  Bytes out = Bytes().u16(1).u16(0).u16(2).u16(0).u32(0).u16(2).u16(1).u32(32).u32(0).u32(0).u32(
      static_cast<long>(data.size()));
  return out.add(data);
}

Table colors() {
  const Bytes solid = Bytes().u8(2).u16(1).f2dot14(1),
              line = Bytes().u8(0).u16(2).f2dot14(0).u16(0).f2dot14(1).f2dot14(1).u16(1).f2dot14(1);
  const Bytes gradient = Bytes().u8(4).u24(16).words(1, 2, 3, 4, 5, 6).add(line),
              turned = Bytes().u8(26).u24(10).f2dot14(0.3).words(50, 60).add(gradient);
  const Bytes glyph = Bytes().u8(10).u24(6).u16(7).add(turned),
              both =
                  Bytes().u8(32).u24(8).u8(3).u24(static_cast<long>(8 + glyph.size())).add(glyph).add(solid);
  const Bytes layers = Bytes().u32(2).u32(12).u32(static_cast<long>(12 + both.size())).add(both).add(solid);
  const Bytes bases = Bytes().u32(2).u16(5).u32(16).u16(6).u32(22).u8(1).u8(2).u32(0).u8(11).u16(5);
  const Bytes clips = Bytes().u8(1).u32(1).u16(5).u16(6).u24(12).u8(1).words(-10, -20, 30, 40);
  const long at = 34 + static_cast<long>(bases.size()), at_clips = at + static_cast<long>(layers.size());
  return Bytes()
      .u16(1)
      .u16(0)
      .u32(0)
      .u32(0)
      .u16(0)
      .u32(34)
      .u32(at)
      .u32(at_clips)
      .u32(0)
      .u32(0)
      .add(bases)
      .add(layers)
      .add(clips);
}

void write_layout() {
  const Table marks = with_parts({1, 0, -1}, {Bytes().words(1, 1, 2)}),
              bases = with_parts({1, -1}, {Bytes().words(3, 5, 6, 0, 0)});
  const Table pair = with_parts({1, -1, 4, 0, 1, -1}, {coverage({10}), Bytes().words(2, 11, -50, 12, 30)});
  const Table matrix = with_parts({2, -1, 4, 0, -1, -1, 2, 2, 0, 0, 0, -70},
                                  {coverage({10, 13}), test::classes({{13, 1}}), test::classes({{14, 1}})});
  write("layout", "pairs",
        after(1, test::simple_layout(
                     "kern", {0, 1},
                     {test::make_lookup(2, {pair, matrix}), test::make_lookup(2, {matrix}, 0, 9)})));
  write("layout", "marks",
        after(1, test::simple_layout(
                     "mark", {0},
                     {test::make_lookup(4, {with_parts({1, -1, -1, 1, -1, -1},
                                                       {coverage({20}), coverage({10}), marks, bases})})})));
  const Table set = with_parts({1, -1}, {Bytes().words(30, 2, 11)}),
              rule = Bytes().words(1, 8, 2, 11, 1, 9, 1, 0, 0);
  write("layout", "ligatures",
        after(0, test::simple_layout(
                     "liga", {0, 1},
                     {test::make_lookup(4, {with_parts({1, -1, 1, -1}, {coverage({10}), set})}),
                      test::make_lookup(
                          6, {with_parts({1, -1, 1, -1}, {coverage({10}), with_parts({1, -1}, {rule})})}, 0,
                          7)})));
  write("layout", "definitions",
        after(2, with_parts({1, 2, -1, 0, 0, -1, 0},
                            {test::classes({{10, 1}, {11, 2}}), test::classes({{12, 5}})})));
}

/// Options, a text, and GDEF, GPOS and GSUB of one length each.
Table text_seed(int options, int more, const std::string& text, Table definitions, Table positions,
                Table substitutions) {
  const std::size_t each = std::max({definitions.size(), positions.size(), substitutions.size()}) + 4;
  for (Table* table : {&definitions, &positions, &substitutions}) table->resize(each);
  // The target takes this share of what follows for each of the first two.
  const int share = static_cast<int>((512 + 2) / 3) + 1;
  substitutions.resize(each * 512 / static_cast<std::size_t>(share) - 2 * each + 8);
  return Bytes()
      .u8(options)
      .u8(more)
      .u8(static_cast<long>(text.size()))
      .u8(share)
      .text(text)
      .add(definitions)
      .add(positions)
      .add(substitutions);
}

void write_text() {
  constexpr int kA = 34, kB = 35, kC = 36, kD = 37;
  const Table definitions =
      with_parts({1, 0, -1, 0, 0, 0}, {test::classes({{kA, 1}, {kB, 1}, {kC, 2}, {kD, 3}})});
  const Table marks = with_parts({1, 0, -1}, {Bytes().words(1, 1, 2)}),
              bases = with_parts({1, -1}, {Bytes().words(1, 5, 6)});
  const Table pair = with_parts({1, -1, 4, 0, 1, -1}, {coverage({kA}), Bytes().words(1, kB, -50)});
  const Table positions = test::make_layout(
      {{{"latn", {{"", {0, 1}}}}},
       {{"kern", {0}}, {"mark", {1}}},
       {test::make_lookup(2, {pair}),
        test::make_lookup(
            4, {with_parts({1, -1, -1, 1, -1, -1}, {coverage({kD}), coverage({kA}), marks, bases})})},
       {}});
  const Table set = with_parts({1, -1}, {Bytes().words(kC, 2, kB)}),
              rule = Bytes().words(1, kA, 1, 1, kB, 1, 0, 0);
  const Table substitutions = test::make_layout(
      {{{"latn", {{"", {0, 1}}}}},
       {{"calt", {1}}, {"liga", {0}}},
       {test::make_lookup(4, {with_parts({1, -1, 1, -1}, {coverage({kA}), set})}),
        test::make_lookup(6, {with_parts({1, -1, 1, -1}, {coverage({kC}), with_parts({1, -1}, {rule})})})},
       {}});
  write("text", "plain", text_seed(0, 0, "ABCD AB DABCAB\tA", definitions, positions, substitutions));
  write("text", "wrapped",
        text_seed(0x43, 60,
                  "AB\xC2\xAD"
                  "CD \xD8\xA8\xD8\xA8 A\xCC\x81 \xD7\x90(AB)",
                  definitions, positions, substitutions));
  write("text", "box",
        text_seed(0x51, 29,
                  "AB CD\nAB \xE2\x80\xAE"
                  "CD ABAB",
                  definitions, positions, substitutions));
}

void write_fonts() {
  const Table dot = test::dot_bytes();
  write("font", "plain", dot);
  test::FontBuilder builder;
  builder.table("fvar") = Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(16)
                              .u16(2)
                              .u16(2)
                              .u16(20)
                              .u16(0)
                              .u16(12)
                              .text("wght")
                              .fixed(100)
                              .fixed(400)
                              .fixed(900)
                              .u16(0)
                              .u16(1)
                              .text("wdth")
                              .fixed(50)
                              .fixed(100)
                              .fixed(200)
                              .u16(0)
                              .u16(1);
  builder.table("gvar") = variation_data();
  builder.table("COLR") = colors();
  builder.table("CPAL") = Bytes().words(0, 2, 1, 2).u32(14).u16(0).u32(0xFF0000FF).u32(0x00FF00FF);
  builder.table("GSUB") =
      test::simple_layout("liga", {0}, {test::make_lookup(1, {with_parts({1, -1, 1}, {coverage({34})})})});
  builder.table("GPOS") = test::simple_layout(
      "kern", {0},
      {test::make_lookup(2,
                         {with_parts({1, -1, 4, 0, 1, -1}, {coverage({34}), Bytes().words(1, 35, -50)})})});
  write("font", "variable", builder.bytes());
  test::FontBuilder cff;
  cff.remove("glyf"), cff.remove("loca");
  cff.table("CFF ") =
      test::make_cff({{test::Charstring().op({}, 14).get(),
                       test::Charstring().op({1, 1}, 21).op({5, 0, 0, 7}, 5).op({}, 14).get()},
                      {},
                      {},
                      {"a"}});
  write("font", "cff", cff.bytes());
  write("subset", "plain", test::dot_bytes());
  write("subset", "variable", builder.bytes());
  write("subset", "cff", cff.bytes());
  test::CffDrawing calls;
  for (int g = 0; g < 131; ++g) {
    calls.glyphs.push_back(test::Charstring()
                               .op({10.0 + g, 20}, 21)
                               .number(g % 2 - 107)
                               .op({}, g % 3 == 0 ? 10 : 29)
                               .op({}, 14)
                               .get());
    if (g > 0) calls.names.push_back("g" + std::to_string(g));
  }
  calls.local = {test::Charstring().op({100, 50}, 6).op({}, 11).get(),
                 test::Charstring().op({30, 30}, 5).number(1 - 107).op({}, 29).op({}, 11).get()};
  calls.global = {calls.local[0], test::Charstring().op({2, 2}, 5).op({}, 11).get()};
  cff.table("CFF ") = test::make_cff(calls);
  write("subset", "cff_calls", cff.bytes());
  calls.local.clear(), calls.global.clear();
  cff.table("CFF ") = test::make_cff(calls);
  write("subset", "cff_no_subroutines", cff.bytes());
  test::FontBuilder pictures;
  pictures.table("sbix") = test::sbix();
  test::add_bitmaps(pictures, 1, 17);
  write("subset", "pictures", pictures.bytes());
  cff.remove("CFF ");
  cff.table("CFF2") =
      test::make_cff2({test::Charstring().get(),
                       test::Charstring().op({10, 20, 40, 0, 2}, 16).op({}, 21).op({-107}, 29).get()},
                      {test::Charstring().op({50, 12.5, 1}, 16).op({}, 7).get()});
  cff.table("fvar") = builder.table("fvar");
  write("subset", "cff2", cff.bytes());
  const Table woff = test::to_woff(dot), woff2 = test::to_woff2({dot}, false);
  write("woff2", "woff", woff);
  write("woff2", "woff2", woff2);
  write("woff2", "woff2_transformed", test::to_woff2({dot}, true));
  write("woff2", "collection", test::to_woff2({dot, dot}, true));
  write("font", "woff2", test::to_woff2({dot}, true));
  const Bytes outlines = Bytes()
                             .u16(0)
                             .u16(0)
                             .u16(3)
                             .u16(0)
                             .u32(6)
                             .u32(1)
                             .u32(3)
                             .u32(4)
                             .u32(0)
                             .u32(4)
                             .u32(0)
                             .words(0, 1, 0)
                             .u8(3)
                             .u8(21)
                             .u8(22)
                             .u8(23)
                             .u8(17)
                             .u8(34)
                             .u8(51)
                             .u8(0)
                             .u32(0);
  write("woff2", "outlines", after('T', outlines));
  write("woff2", "metrics", Bytes().u8('M').u8(3).u8(2).u8(3).words(500, 600));
}

void write_tables() {
  const test::Charstring draw = test::Charstring()
                                    .op({1, 2, 3, 4}, 18)
                                    .op({1, 1}, 19)
                                    .raw({0})
                                    .op({0, 0}, 21)
                                    .op({1, 2, 3, 4}, 31)
                                    .op({1, 2, 3, 4, 5, 6, 7}, 1234)
                                    .op({-107}, 29)
                                    .op({}, 14);
  test::CffDrawing drawing{{test::Charstring().op({}, 14).get(), draw.get()},
                           {test::Charstring().op({5, 5}, 5).op({}, 11).get()},
                           {},
                           {"a"}};
  write("cff", "names", after(0, test::make_cff(drawing)));
  drawing.keyed = true;
  drawing.dict_matrices = {"0.001 0 0 0.001 0 0", "0.002 0 0 0.001 0 0"};
  write("cff", "keyed", after(0, test::make_cff(drawing)));
  write("cff", "cff2",
        after(1, test::make_cff2({test::Charstring()
                                      .op({100, 40, 1}, 16)
                                      .op({0}, 21)
                                      .op({10, 0, 20, 0, 2}, 16)
                                      .op({}, 5)
                                      .get()})));
  write("gvar", "two_tuples", variation_data());
  write("colr", "graph", after(0, colors()));
  write("colr", "layers",
        after(0, Bytes().u16(0).u16(1).u32(14).u32(20).u16(2).words(5, 0, 2).words(20, 0, 21, 0xFFFF)));
  write("colr", "palettes",
        after(1, Bytes().words(0, 2, 1, 2).u32(14).u16(0).u32(0xFF0000FF).u32(0x00FF00FF)));
  test::FontBuilder dot;
  write("cmap", "segments", dot.table("cmap"));
  const Bytes variants = Bytes().u16(14).u32(0).u32(1).u24(0xFE00).u32(0).u32(21).u32(1).u24('A').u16(60),
              groups = Bytes().u16(12).u16(0).u32(28).u32(0).u32(1).u32(0x41).u32(0x5A).u32(34);
  write("cmap", "groups_and_variants",
        Bytes()
            .u16(0)
            .u16(2)
            .u16(0)
            .u16(5)
            .u32(20)
            .u16(3)
            .u16(10)
            .u32(static_cast<long>(20 + variants.size()))
            .add(variants)
            .add(groups));
  write("cmap", "trimmed", Bytes().words(0, 1, 1, 0, 0, 12).words(6, 14, 0, 0x40, 2, 7, 8));
  write(
      "family", "two",
      Bytes().text(
          R"({"format": "grafema-family", "version": 1, "families": {"A": {"styles": {"Regular": {"file": "a.ttf"}, "Bold": {"file": "b.ttf", "axes": {"wght": 700}, "weight": 700, "slant": "italic"}}}, "B": {"styles": {"Regular": {"built_in": true}}}}, "fallback": ["B", "A"], "match_x_height": true})"));
  write(
      "sheet", "small",
      Bytes().text(
          R"({"format": "grafema-font-sheet", "version": 1, "cell": [8, 12], "rows": ["ABCDEFGH", "abcdefgh"], "baseline": 9, "side_bearing": [0, 1], "space": 4, "missing": [0, 2], "names": {"family": "T"}, "kerning": {"AB": -2}})"));
}

/// The descriptor of the atlas that atlas_fuzz has the page of.
void write_atlas() {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = {U'A', U'B'};
  recipe.kind = PictureKind::coverage;
  recipe.size = 12;
  const test::Folder folder;
  REQUIRE(save_atlas(folder.path("a"), *bake(recipe)).has_value());
  write("atlas", "two_letters", Bytes().text(*load_text(folder.path("a.json"))));
}

void write_drawings() {
  write("looks", "demo", Bytes().text(*load_text(GRAFEMA_SOURCE_DIR "/data/demo/looks.json")));
  write(
      "painted", "two",
      Bytes().text(
          R"({"format": "grafema-painted-letters", "version": 1, "image": "l.png", "size": 16, "ascent": 13, "descent": 3, "letters": [{"characters": "a", "cell": [0, 0, 16, 16]}, {"characters": "bB", "cell": [16, 0, 16, 16], "baseline": 12, "left": -1, "advance": 14}], "kerning": {"ab": -2}})"));
  write("outline", "square",
        Bytes()
            .u8(0)
            .u8(8)
            .u8(8)
            .u8(1)
            .u8(40)
            .u8(8)
            .u8(1)
            .u8(40)
            .u8(40)
            .u8(1)
            .u8(8)
            .u8(40)
            .u8(0)
            .u8(0)
            .u8(0)
            .u8(0));
  write("outline", "curves",
        Bytes()
            .u8(0)
            .u8(8)
            .u8(8)
            .u8(6)
            .u8(60)
            .u8(0)
            .u8(60)
            .u8(60)
            .u8(8)
            .u8(50)
            .u8(4)
            .u8(30)
            .u8(20)
            .u8(12)
            .u8(9)
            .u8(0)
            .u8(20)
            .u8(20)
            .u8(5)
            .u8(60)
            .u8(10)
            .u8(40)
            .u8(50)
            .u8(0)
            .u8(0)
            .u8(0)
            .u8(0)
            .u8(0)
            .u8(0)
            .u8(0));
}

/// Texts one after the other: a script, a length less 1, letters by their places in the block, what joins
/// them (from 0x80), and others (from 0xD0).
void write_syllables() {
  Bytes all;
  all.u8(0).u8(3).u8(0x15).u8(0x80).u8(0x37).u8(0x3F);         // a conjunct with a vowel on its left
  all.u8(15).u8(3).u8(0x00).u8(0x80).u8(0x1A).u8(0x41);        // a subscript that is moved
  all.u8(14).u8(4).u8(0x04).u8(0x3A).u8(0x39).u8(2).u8(0x31);  // kinzi
  all.u8(0x81).u8(3).u8(0x3F).u8(0xD0).u8(0x15).u8(0xD1);      // a mark without a letter, upright
  write("syllables", "texts", all);
}

}  // namespace

TEST_CASE("the seeds are written") {
  root = GRAFEMA_SOURCE_DIR "/fuzz/seeds";
  write_fonts();
  write_layout();
  write_text();
  write_tables();
  write_atlas();
  write_drawings();
  write_syllables();
  CHECK(std::filesystem::exists(root + "/font/plain"));
}
