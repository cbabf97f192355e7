// SPDX-License-Identifier: MIT
// Descriptors on disk.
#include <fmt/format.h>

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "grafema/atlas/bake.hpp"
#include "grafema/base/workers.hpp"
#include "grafema/files/files.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// A set of characters at 20 px on small pages.
Atlas several_pages(const char* characters) {
  AtlasRecipe recipe;
  recipe.faces = {test::dejavu()};
  recipe.characters = *read_character_set(characters);
  recipe.size = 20;
  recipe.max_page = {128, 128};
  return *bake(recipe);
}

}  // namespace

TEST_CASE("the descriptor says what the atlas holds", "[atlas_file]") {
  const Atlas atlas = several_pages("ascii");
  const test::Folder folder;
  const auto paths = save_atlas(folder.path("board"), atlas);
  REQUIRE(paths.has_value());
  CHECK(paths->size() == atlas.pages.size() + 1);
  CHECK(folder.file_count() == paths->size());
  const auto document = nlohmann::json::parse(*load_text(folder.path("board.json")));
  CHECK(document["format"] == "grafema-atlas");
  CHECK(document["version"] == 1);
  CHECK(document["key"] == atlas.key);
  REQUIRE(document["pages"].size() == atlas.pages.size());
  for (std::size_t i = 0; i < atlas.pages.size(); ++i) {
    const Image page = *load_png(folder.path(document["pages"][i]["image"].get<std::string>()));
    CHECK(page.width() == document["pages"][i]["width"]);
    CHECK(document["pages"][i]["hash"] == fmt::format("{:016x}", pixel_hash(page)));
  }
  REQUIRE(document["glyphs"].size() == atlas.glyphs.size());
  for (std::size_t i = 0; i < atlas.glyphs.size(); ++i) {
    const auto& row = document["glyphs"][i];
    const AtlasGlyph& glyph = atlas.glyphs[i];
    CHECK(row["glyph"] == index_of(glyph.glyph));
    CHECK(row["advance"].get<float>() == glyph.advance);
    CHECK(row.contains("page") == glyph.page.has_value());
    CHECK(row.contains("cell") == glyph.page.has_value());
    if (glyph.page) CHECK(row["offset"][1].get<float>() == glyph.offset.y);
  }
  CHECK(document["strikes"][0]["reach"] == 6.0);
  CHECK(document["strikes"][0]["ascent"].get<float>() == atlas.strikes[0].lines.ascent);
  CHECK(document["faces"][0]["family"] == "DejaVu Sans");
  CHECK_FALSE(document["faces"][0]["license"].get<std::string>().empty());
  CHECK(document["kerning"][0]["strike"] == 0);
}

TEST_CASE("an output folder that is not there leaves nothing", "[atlas_file]") {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = {U'a'};
  const test::Folder folder;
  CHECK(save_atlas(folder.path("none/board"), *bake(recipe)).error().error.kind ==
        ErrorKind::file_unwritable);
  CHECK(folder.file_count() == 0);
}

TEST_CASE("pages are packed on workers, the same bytes; who ends it finds nothing written", "[atlas_file]") {
  const Atlas atlas = several_pages("latin1");
  REQUIRE(atlas.pages.size() > 3);
  const test::Folder folder;
  REQUIRE(save_atlas(folder.path("alone"), atlas).has_value());
  ThreadWorkers workers(2);
  std::size_t calls = 0, last = 0;
  REQUIRE(save_atlas(folder.path("board"), atlas,
                     {&workers,
                      [&](std::size_t done, std::size_t total) {
                        ++calls, last = done;
                        return total == atlas.pages.size() && done <= total;
                      }})
              .has_value());
  CHECK(calls == atlas.pages.size() + 1);
  CHECK(last == atlas.pages.size());
  for (std::size_t i = 0; i < atlas.pages.size(); ++i) {
    CHECK(*load_text(folder.path(fmt::format("alone-{}.png", i))) ==
          *load_text(folder.path(fmt::format("board-{}.png", i))));
  }
  const std::size_t before = folder.file_count();
  for (const std::size_t after : {0U, 2U}) {
    const auto ended = save_atlas(folder.path("ended"), atlas,
                                  {&workers, [&](std::size_t done, std::size_t) { return done < after; }});
    REQUIRE_FALSE(ended.has_value());
    CHECK(ended.error().error.kind == ErrorKind::interrupted);
    CHECK(folder.file_count() == before);
  }
}
