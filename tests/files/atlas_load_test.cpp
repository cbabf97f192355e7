// SPDX-License-Identifier: MIT
// Descriptors read back, and everything that can be wrong with them.
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "support/scene.hpp"

using namespace grafema;
using nlohmann::json;

namespace {

/// A saved atlas whose descriptor can be changed.
struct Saved {
  test::Folder folder;
  json document;

  explicit Saved(const std::shared_ptr<const Atlas>& atlas) {
    REQUIRE(save_atlas(folder.path("a"), *atlas).has_value());
    document = json::parse(*load_text(folder.path("a.json")));
  }
  FileResult<Atlas> load() const {
    REQUIRE(save_text(folder.path("a.json"), document.dump()).has_value());
    return load_atlas(folder.path("a.json"));
  }
};

}  // namespace

TEST_CASE("an atlas is saved and loaded the same", "[atlas_load][property]") {
  const int bits = GENERATE(8, 16);
  const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance, 24, bits);
  Saved saved(atlas);
  const auto loaded = saved.load();
  REQUIRE(loaded.has_value());
  REQUIRE(loaded->glyphs.size() == atlas->glyphs.size());
  for (std::size_t i = 0; i < atlas->glyphs.size(); ++i) {
    CHECK(loaded->glyphs[i].cell == atlas->glyphs[i].cell);
    CHECK(loaded->glyphs[i].offset == atlas->glyphs[i].offset);
    CHECK(loaded->glyphs[i].advance == atlas->glyphs[i].advance);
    CHECK(loaded->glyphs[i].codepoints == atlas->glyphs[i].codepoints);
  }
  CHECK(pixel_hash(loaded->pages[0].image) == pixel_hash(atlas->pages[0].image));
  CHECK(loaded->faces[0].id == atlas->faces[0].id);
  CHECK(loaded->strikes[0].lines == atlas->strikes[0].lines);
  CHECK(loaded->kerning[0].pairs.size() == atlas->kerning[0].pairs.size());
  CHECK(loaded->kerning[0].values == atlas->kerning[0].values);
}

TEST_CASE("fields that are not known are passed over", "[atlas_load]") {
  Saved saved(test::color_atlas());
  saved.document["later"] = 1;
  saved.document["glyphs"][0]["phase"] = 2;
  CHECK(saved.load().has_value());
}

TEST_CASE("descriptors that are wrong are refused and name where", "[atlas_load]") {
  Saved saved(test::atlas_of(built_in_face(), PictureKind::coverage, 12));
  const auto [pointer, value, named] =
      GENERATE(table<std::string, json, std::string>({{"/format", "other", "format"},
                                                      {"/version", 2, "version"},
                                                      {"/version", "1", "version"},
                                                      {"/pages/0/kind", "pretty", "pages"},
                                                      {"/pages/0/hash", "0000000000000000", "hash"},
                                                      {"/pages/0/width", 7, "size"},
                                                      {"/pages/0/image", "../x.png", "pages"},
                                                      {"/pages/0/kind", "color", "channels"},
                                                      {"/faces/0/id", "xyz", "faces"},
                                                      {"/strikes/0/face", 9, "strikes"},
                                                      {"/strikes/0/size", 0, "strikes"},
                                                      {"/strikes/0/ascent", "a", "strikes"},
                                                      {"/glyphs/5/cell/0", 99999, "cell"},
                                                      {"/glyphs/5/cell/2", 0, "cell"},
                                                      {"/glyphs/5/page", 3, "page"},
                                                      {"/glyphs/5/advance", nullptr, "advance"},
                                                      {"/glyphs/5/strike", 0.5, "strike"},
                                                      {"/glyphs/5/codepoints", "A", "codepoints"},
                                                      {"/glyphs/5/offset", json::array({1}), "offset"},
                                                      {"/kerning/0/values", json::array({1, 2}), "values"},
                                                      {"/kerning/0/first", 4, "first"},
                                                      {"/kerning/0/pairs", json::array({{1, 2}}), "pairs"},
                                                      {"/glyphs", 1, "glyphs"}}));
  saved.document[json::json_pointer(pointer)] = value;
  const auto loaded = saved.load();
  INFO(pointer);
  REQUIRE_FALSE(loaded.has_value());
  CHECK_THAT(describe(loaded.error()), Catch::Contains(named));
}

TEST_CASE("a missing page is named; text that is no document is damaged", "[atlas_load]") {
  Saved saved(test::color_atlas());
  std::filesystem::remove(saved.folder.path("a-0.png"));
  CHECK_THAT(describe(saved.load().error()), Catch::Contains("a-0.png can't be read"));
  for (const char* text : {"", "[]", "{}", "nul", "{\"format\":\"grafema-atlas\",\"version\":1}"}) {
    REQUIRE(save_text(saved.folder.path("a.json"), text).has_value());
    CHECK_FALSE(load_atlas(saved.folder.path("a.json")).has_value());
  }
}
