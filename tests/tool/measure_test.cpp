// SPDX-License-Identifier: MIT
// grafema measure from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;
using test::json_of;

namespace {

const std::string kTramway = " --size 32 --text 'TRAMWAY Ty. LT' --json ";

}  // namespace

TEST_CASE("kerned and plain widths differ by what the tables say", "[tool][measure]") {
  const std::string base = "measure " + test::dejavu_path() + kTramway;
  const auto kerned = json_of(base), plain = json_of(base + "--no-kerning"),
             feature = json_of(base + "--features kern=0");
  CHECK(plain == feature);
  const auto face = test::dejavu();
  const std::string text = "TRAMWAY Ty. LT";
  double units = 0;
  for (std::size_t i = 1; i < text.size(); ++i) {
    units += face->kerning(face->find_glyph(static_cast<char32_t>(text[i - 1])),
                           face->find_glyph(static_cast<char32_t>(text[i])), tag("latn"));
  }
  CHECK(kerned["width"].get<double>() - plain["width"].get<double>() ==
        Approx(units * 32 / 2048).margin(1e-4));
  CHECK(kerned["glyphs"].size() == 14);
  CHECK(kerned["line_height"] == 37.25);
}

TEST_CASE("several lines, alignment and missing characters are told", "[tool][measure]") {
  const auto document = json_of("measure --align right --json --text 'wide line\nw\xE4\xB8\x80'");
  REQUIRE(document["lines"].size() == 2);
  CHECK(document["lines"][1]["left"].get<double>() > 0);
  CHECK(document["missing"] == nlohmann::json::array({"U+4E00"}));
  CHECK(test::grafema_command("measure --strict --text '\xE4\xB8\x80'").exit == 1);
}

TEST_CASE("sizes are asked for by what is seen", "[tool][measure]") {
  CHECK(json_of("measure --cap-height 14 --text H --json")["size"] == 24.0);
  CHECK(json_of("measure --x-height 5 --text H --json")["size"] == 12.0);
  CHECK(json_of("measure --line-height 36 --text H --json")["height"] == 36.0);
  CHECK(test::grafema_command("measure --size 3 --cap-height 14 --text H").exit == 2);
}

TEST_CASE("text comes from a file or standard input", "[tool][measure]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("t.txt"), "Marrow Hill").has_value());
  CHECK(json_of("measure --json --text-from " + folder.path("t.txt"))["text"] == "Marrow Hill");
  const auto piped =
      test::run("printf Quay | " + std::string(GRAFEMA_TOOL) + " measure --json --text-from -");
  CHECK(nlohmann::json::parse(piped.out)["text"] == "Quay");
}

TEST_CASE("the report in words names its boxes", "[tool][measure]") {
  const auto ran = test::grafema_command("measure --text Quay --size 24");
  CHECK(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::Contains("box     48 x 24 px") && Catch::Contains("bytes 0-4"));
}

TEST_CASE("the document holds the paragraph that the library lays out", "[tool][measure]") {
  const test::Folder folder;
  const std::string text = "Ty\n\xE4\xB8\x80";
  REQUIRE(save_text(folder.path("t.txt"), text).has_value());
  const auto document =
      json_of("measure --json --size 24 " + test::dejavu_path() + " --text-from " + folder.path("t.txt"));
  const FontStack stack{test::dejavu()};
  ShapeCache cache;
  Paragraph p;
  REQUIRE(lay_out(stack, text, {.size = 24}, cache, p).has_value());
  CHECK(document["width"].get<float>() == p.advance_box.width());
  CHECK(document["lines"].size() == 2);
  CHECK(document["lines"][1]["start"] == 3);
  CHECK(document["glyphs"].size() == p.glyphs.size());
  CHECK(document["glyphs"][1]["x"].get<float>() == p.glyphs[1].pen.x);
  CHECK(document["missing"] == nlohmann::json::array({"U+4E00"}));
  CHECK(document["ink"]["right"].get<float>() == ink_box(stack, p).right);
}

TEST_CASE("lines say their direction, glyphs their offset and cluster", "[tool][measure]") {
  const auto document =
      json_of("measure " + test::dejavu_path() + " --json --wrap 400 --text '\xD7\x99\xD7\x9D 7\nq\xCC\x81'");
  REQUIRE(document["lines"].size() == 2);
  CHECK(document["lines"][0]["direction"] == "rtl");
  CHECK(document["lines"][1]["direction"] == "ltr");
  CHECK(document["lines"][1]["top"].get<double>() ==
        Approx(document["lines"][0]["height"].get<double>()).margin(2));
  const auto& mark = document["glyphs"].back();
  CHECK(mark["cluster"] == nlohmann::json::array({7, 10}));
  CHECK(mark["offset"].size() == 2);
  CHECK_FALSE(document["glyphs"][0].contains("cluster"));
}

TEST_CASE("an atlas alone wraps and aligns as a font does", "[tool][measure]") {
  const test::Folder folder;
  REQUIRE(test::grafema_command("bake " + test::dejavu_path() + " --size 24 --charset ascii --quiet -o " +
                                folder.path("a"))
              .exit == 0);
  const std::string options =
      " --json --size 24 --wrap 200 --align right --text 'Passengers may ride the ferry AV To'";
  const auto atlas = json_of("measure --atlas " + folder.path("a.json") + options),
             font = json_of("measure " + test::dejavu_path() + options);
  REQUIRE(atlas["lines"].size() == font["lines"].size());
  for (std::size_t i = 0; i < atlas["lines"].size(); ++i) {
    CHECK(atlas["lines"][i]["start"] == font["lines"][i]["start"]);
    CHECK(atlas["lines"][i]["left"].get<double>() ==
          Approx(font["lines"][i]["left"].get<double>()).margin(0.05));
  }
}

TEST_CASE("both built-in faces can be asked for by name", "[tool][measure]") {
  const auto width = [](const std::string& font) {
    return grafema::test::json_of("measure " + font + " --json --size 32 --text 'Pale Orchard'")["width"]
        .get<double>();
  };
  const std::string faces = GRAFEMA_SOURCE_DIR "/data/faces/";
  CHECK(width("built-in:dot") == width(""));
  CHECK(width("built-in:sans") == Approx(width(faces + "quillmere_sans.ttf")));
  CHECK(width("built-in:sans built-in:dot") == Approx(width("built-in:sans")));
}

TEST_CASE("vertical lines are told with their glyphs going down", "[tool][measure]") {
  const std::string font = "/usr/share/fonts/opentype/ipaexfont-gothic/ipaexg.ttf";
  const auto document =
      test::json_of("measure " + font +
                    " --size 40 --text '\u7D42\u96FB12N' --writing vertical-rl --digits-across 2 --json");
  CHECK(document["writing"] == "vertical-rl");
  REQUIRE(document["glyphs"].size() == 5);
  CHECK(document["glyphs"][1]["y"] == 40.0);
  CHECK(document["glyphs"][1]["x"] == document["glyphs"][0]["x"]);
  CHECK(document["glyphs"][2]["text_start"] == 6);
  CHECK(document["glyphs"][3]["text_start"] == 6);
  CHECK_FALSE(document["glyphs"][3].contains("turned"));
  CHECK(document["glyphs"][4]["turned"] == true);
  CHECK(document["lines"][0]["height"].get<double>() == document["height"].get<double>());
  const auto wrong = test::run(std::string(GRAFEMA_TOOL) + " measure --text a --writing sideways-lr");
  CHECK(wrong.exit == 2);
  CHECK(wrong.err.find("horizontal, vertical-rl or vertical-lr") != std::string::npos);
}

TEST_CASE("a mark without a letter is noted where it stands", "[tool][measure]") {
  const auto document = test::json_of(
      "measure /usr/share/fonts/truetype/lohit-devanagari/Lohit-Devanagari.ttf --json --text '\u0915 "
      "\u093F'");
  REQUIRE(document["notes"].size() == 1);
  CHECK(document["notes"][0] == "mark U+093F at byte 4 has no letter to stand on; a dotted circle shows it");
}

TEST_CASE("escapes in --text are characters, and the newline that ends a file is not text",
          "[tool][measure]") {
  const test::Folder folder;
  const auto escaped = test::json_of("measure --json --text 'Pale\\nOrchard\\t4\\\\7'");
  CHECK(escaped["text"] == "Pale\nOrchard\t4\\7");
  CHECK(escaped["lines"].size() == 2);
  for (const char* end : {"", "\n", "\r\n"}) {
    REQUIRE(save_text(folder.path("t.txt"), std::string("Pale\nOrchard") + end).has_value());
    const auto file = test::json_of("measure --json --text-from " + folder.path("t.txt"));
    CHECK(file["text"] == "Pale\nOrchard");
    CHECK(file["lines"].size() == 2);
  }
  REQUIRE(save_text(folder.path("t.txt"), "Pale\n\n").has_value());  // an empty line that was meant
  CHECK(test::json_of("measure --json --text-from " + folder.path("t.txt"))["lines"].size() == 2);
}
