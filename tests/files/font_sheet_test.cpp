// SPDX-License-Identifier: MIT
// Descriptions of sheets.
#include <fmt/format.h>

#include <catch2/catch.hpp>

#include "grafema/files/files.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

const std::string kGood =
    R"({"format": "grafema-font-sheet", "version": 1, "cell": [4, 4], "rows": ["ab"], "baseline": 3,
  "side_bearing": [1, 2], "space": 3, "names": {"family": "F"}, "kerning": {"ab": -3}})";

/// Writes a sheet of two cells and this description, and loads it.
FileResult<PixelSheet> loaded(const test::Folder& folder, const std::string& description) {
  Image image = *Image::make(8, 4, PixelFormat::r8);
  REQUIRE(save_png(folder.path("s.png"), image).has_value());
  REQUIRE(save_text(folder.path("s.json"), description).has_value());
  return load_font_sheet(folder.path("s.png"));
}

std::string replaced(const std::string& from, const std::string& to) {
  std::string text = kGood;
  const std::size_t at = text.find(from);
  REQUIRE(at != std::string::npos);
  return text.replace(at, from.size(), to);
}

}  // namespace

TEST_CASE("a description is read whole", "[font_sheet]") {
  const test::Folder folder;
  const auto sheet = loaded(folder, kGood);
  REQUIRE(sheet.has_value());
  CHECK(sheet->cell_width == 4);
  CHECK(sheet->rows == std::vector<std::u32string>{U"ab"});
  CHECK(sheet->left_bearing == 1);
  CHECK(sheet->right_bearing == 2);
  CHECK(sheet->space == 3);
  CHECK(sheet->names.style == "Regular");
  REQUIRE(sheet->kerning.size() == 1);
  CHECK(sheet->kerning[0].value == -3);
}

TEST_CASE("a wrong description names the file and the field", "[font_sheet]") {
  const auto [from, to, named] =
      GENERATE(table<std::string, std::string, std::string>({{"grafema-font-sheet", "other", "format"},
                                                             {"\"version\": 1", "\"version\": 2", "version"},
                                                             {"[4, 4]", "\"4x4\"", "cell"},
                                                             {"[\"ab\"]", "[1]", "rows"},
                                                             {"\"baseline\": 3", "\"base\": 3", "baseline"},
                                                             {"\"F\"", "7", "names"},
                                                             {"{\"ab\": -3}", "{\"abc\": -3}", "kerning"},
                                                             {"{\"ab\": -3}", "{\"ab\": \"-3\"}", "kerning"},
                                                             {"\"space\": 3", "\"space\": 3.5", "space"}}));
  const test::Folder folder;
  const auto sheet = loaded(folder, replaced(from, to));
  REQUIRE_FALSE(sheet.has_value());
  CHECK_THAT(describe(sheet.error()), Catch::Contains("s.json") && Catch::Contains("'" + named + "'"));
}

TEST_CASE("a sheet without a description, or that is no PNG, is named", "[font_sheet]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("a.png"), "no picture").has_value());
  CHECK(load_font_sheet(folder.path("a.png")).error().error.kind == ErrorKind::not_an_image);
  REQUIRE(save_png(folder.path("b.png"), *Image::make(4, 4, PixelFormat::r8)).has_value());
  CHECK_THAT(describe(load_font_sheet(folder.path("b.png")).error()),
             Catch::Contains("b.json can't be read"));
}

TEST_CASE("the schema of sheets names every field that is read, and the shipped descriptions follow it",
          "[font_sheet]") {
  const FileResult<std::string> schema = load_text(GRAFEMA_SOURCE_DIR "/docs/schema/font-sheet.schema.json");
  REQUIRE(schema.has_value());
  for (const char* field : {"names",
                            "weight",
                            "permission",
                            "space",
                            "side_bearing",
                            "kerning",
                            "kerning_groups",
                            "ligatures",
                            "name_ligatures",
                            "alternates",
                            "tabular",
                            "compose",
                            "cell",
                            "rows",
                            "missing",
                            "blocks",
                            "baseline",
                            "ascender",
                            "em",
                            "units_per_em",
                            "ascent",
                            "descent",
                            "line_gap",
                            "heights",
                            "styles",
                            "color"}) {
    CHECK_THAT(*schema, Catch::Contains("\"" + std::string(field) + "\": {"));
  }
  for (const char* name : {"dot", "sans", "signs"}) {
    const auto ran = test::run(fmt::format(
        "python3 -c \"import json,jsonschema,sys; jsonschema.validate(json.load(open(sys.argv[1])), "
        "json.load(open(sys.argv[2])))\" " GRAFEMA_SOURCE_DIR
        "/data/faces/quillmere_{}.json " GRAFEMA_SOURCE_DIR "/docs/schema/font-sheet.schema.json",
        name));
    INFO(ran.err);
    CHECK(ran.exit == 0);
  }
}
