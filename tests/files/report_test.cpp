// SPDX-License-Identifier: MIT
// The documents of measure and inspect.
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "grafema/files.hpp"
#include "support/support.hpp"

using namespace grafema;

TEST_CASE("measure_json holds the paragraph", "[report]") {
  const FontStack stack{{test::dejavu()}};
  ShapeCache cache;
  Paragraph p;
  Notes notes;
  const std::string text = "Ty\n\xE4\xB8\x80\xFF";
  REQUIRE(lay_out(stack, text, {.size = 24}, cache, p, &notes).has_value());
  const auto document = nlohmann::json::parse(measure_json(stack, text, p, notes));
  CHECK(document["width"].get<float>() == p.advance_box.width());
  CHECK(document["lines"].size() == 2);
  CHECK(document["lines"][1]["start"] == 3);
  CHECK(document["glyphs"].size() == p.glyphs.size());
  CHECK(document["glyphs"][1]["x"].get<float>() == p.glyphs[1].pen.x);
  CHECK(document["missing"] == nlohmann::json::array({"U+4E00"}));
  CHECK(document["notes"].size() == 1);
  CHECK(document["ink"]["right"].get<float>() == ink_box(stack, p).right);
}

TEST_CASE("inspect_json holds what the interface page names", "[report]") {
  const auto text = inspect_json(built_in_font(), "dot.ttf");
  REQUIRE(text.has_value());
  const auto document = nlohmann::json::parse(*text);
  CHECK(document["container"] == "sfnt");
  const auto& face = document["faces"][0];
  for (const char* field : {"index", "family", "style", "full_name", "version", "outlines", "glyph_count", "units_per_em", "ascent", "descent", "line_gap",
                            "cap_height", "x_height", "weight_class", "width_class", "italic", "monospaced", "crisp_sizes", "scripts", "features", "kerning",
                            "embedding", "bitmap_only", "subsetting", "copyright", "license", "license_url", "codepoint_count", "blocks", "axes", "instances", "color", "license_files"}) {
    INFO(field);
    CHECK(face.contains(field));
  }
  CHECK(face["crisp_sizes"][0] == 12.0);
  CHECK(face["kerning"] == "kern");
}
