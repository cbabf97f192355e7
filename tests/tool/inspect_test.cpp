// SPDX-License-Identifier: MIT
// grafema inspect from the outside.
#include <zip.h>
#include <catch2/catch.hpp>

#include <filesystem>
#include <fstream>

#include "support/font_builder.hpp"
#include "tool/tool.hpp"

using namespace grafema;
using test::run;

TEST_CASE("inspect prints facts of a real face as JSON", "[tool][inspect]") {
  const auto document = test::json_of("inspect --json " + test::dejavu_path());
  CHECK(document["file"] == "DejaVuSans.ttf");
  const auto& face = document["faces"][0];
  CHECK(face["family"] == "DejaVu Sans");
  CHECK(face["glyph_count"] == 6253);
  CHECK(face["kerning"] == "gpos");
  CHECK(face["cap_height"] == 1493);
  CHECK(face["codepoint_count"] == face["codepoint_count"].get<int>());
  bool greek = false;
  for (const auto& block : face["blocks"]) greek = greek || block["name"] == "Greek and Coptic";
  CHECK(greek);
}

TEST_CASE("inspect reads with pleasure, and shows the built-in face by default", "[tool][inspect]") {
  const auto ran = test::grafema_command("inspect");
  CHECK(ran.exit == 0);
  CHECK_THAT(ran.out, Catch::StartsWith("Quillmere Dot Regular") && Catch::Contains("crisp at      12 px") &&
                          Catch::Contains("installable"));
}

namespace {

/// A folder with two faces, a file that is none, and a license text.
struct FontFolder {
  grafema::test::Folder folder;
  FontFolder() {
    std::filesystem::create_directory(folder.path("ttf"));
    std::filesystem::copy(grafema::test::dejavu_path("DejaVuSans.ttf"), folder.path("ttf/Signs.ttf"));
    std::filesystem::copy(grafema::test::dejavu_path("DejaVuSans-Bold.ttf"),
                          folder.path("ttf/Signs-Bold.ttf"));
    std::ofstream(folder.path("ttf/broken.ttf")) << "not a font";
    std::ofstream(folder.path("LICENSE.txt")) << "This face may not be redistributed.";
  }
};

}  // namespace

TEST_CASE("a folder lists its faces, what their licenses say, and what could not be read", "[inspect]") {
  const FontFolder f;
  const auto ran = run(std::string(GRAFEMA_TOOL) + " inspect " + f.folder.path());
  CHECK(ran.exit == 0);
  CHECK(ran.out.find("Signs-Bold.ttf") != std::string::npos);
  CHECK(ran.out.find("license text: LICENSE.txt") != std::string::npos);
  CHECK(ran.err.find("broken.ttf") != std::string::npos);
  const auto json =
      nlohmann::json::parse(run(std::string(GRAFEMA_TOOL) + " inspect --json " + f.folder.path()).out);
  REQUIRE(json["files"].size() == 2);
  CHECK(json["files"][0]["faces"][0]["license_files"][0] == "LICENSE.txt");
  CHECK(json["files"][0]["faces"][0]["style"] == "Bold");
}

TEST_CASE("a zip archive is as good as the folder", "[inspect]") {
  const FontFolder f;
  const std::string zip = f.folder.path("fonts.zip");
  zip_t* archive = zip_open(zip.c_str(), ZIP_CREATE, nullptr);
  REQUIRE(archive != nullptr);
  for (const std::string name : {"ttf/Signs.ttf", "ttf/Signs-Bold.ttf", "ttf/broken.ttf", "LICENSE.txt"}) {
    REQUIRE(zip_file_add(archive, name.c_str(), zip_source_file(archive, f.folder.path(name).c_str(), 0, -1),
                         0) >= 0);
  }
  REQUIRE(zip_close(archive) == 0);
  const auto ran = run(std::string(GRAFEMA_TOOL) + " inspect " + zip);
  CHECK(ran.exit == 0);
  CHECK(ran.out.find("fonts.zip/ttf/Signs.ttf") != std::string::npos);
  CHECK(ran.out.find("LICENSE.txt") != std::string::npos);
  CHECK(run(std::string(GRAFEMA_TOOL) + " measure " + zip + " --text A --json").exit == 0);
  REQUIRE(run("head -c 5000 " + zip + " > " + f.folder.path("cut.zip")).exit == 0);
  const auto cut = run(std::string(GRAFEMA_TOOL) + " inspect " + f.folder.path("cut.zip"));
  CHECK(cut.exit == 3);
  CHECK(cut.err.find("cut.zip") != std::string::npos);
}

TEST_CASE("a family file is inspected by its fonts and gives a credits page", "[inspect]") {
  const FontFolder f;
  std::ofstream(f.folder.path("fonts.json"))
      << R"({"format": "grafema-family", "version": 1, "families": {"Night": {"styles": {"Regular": {"file": "ttf/Signs.ttf"}, "Bold": {"file": "ttf/Signs-Bold.ttf"}}}}})";
  const auto credits = run(std::string(GRAFEMA_TOOL) + " inspect --credits " + f.folder.path("fonts.json"));
  CHECK(credits.exit == 0);
  CHECK(credits.out.starts_with("FONTS"));
  CHECK(credits.out.find("DejaVu Sans") != std::string::npos);
  const auto width = [&](const std::string& style) {
    return nlohmann::json::parse(run(std::string(GRAFEMA_TOOL) + " measure '" + f.folder.path("fonts.json") +
                                     style + "' --text Lantern --json")
                                     .out)["width"]
        .get<double>();
  };
  CHECK(width("#Bold") > width(""));
  const auto overview = test::grafema_command("inspect " + f.folder.path("fonts.json"));
  CHECK_THAT(overview.out, Catch::Contains("Night   Regular") && Catch::Contains("Night   Bold"));
  const auto bold = test::grafema_command("inspect '" + f.folder.path("fonts.json") + "#Bold'");
  CHECK_THAT(bold.out, Catch::StartsWith("DejaVu Sans Bold"));
  const auto wrong = test::grafema_command("draw '" + f.folder.path("fonts.json") + "#Blod' --text A -o " +
                                           f.folder.path("x.png"));
  CHECK(wrong.exit == 2);
  CHECK_THAT(wrong.err, Catch::Contains("did you mean 'Bold'?"));
}

TEST_CASE("installed faces are named as they are called", "[tool][inspect]") {
  const auto by_name = test::grafema_command("measure 'DejaVu Sans#Bold' --text Lantern --json"),
             by_path = test::grafema_command("measure " + test::dejavu_path("DejaVuSans-Bold.ttf") +
                                             " --text Lantern --json");
  CHECK(by_name.exit == 0);
  CHECK(by_name.out == by_path.out);
  const auto near = test::grafema_command("measure 'DejaVu Snas' --text Lantern");
  CHECK(near.exit == 3);
  CHECK_THAT(near.err, Catch::Contains("did you mean 'DejaVu Sans'?"));
}

TEST_CASE("web fonts say what they are packed in", "[inspect]") {
  const FontFolder f;
  const auto document = nlohmann::json::parse(run(std::string(GRAFEMA_TOOL) + " inspect --json").out);
  CHECK(document["container"] == "sfnt");
  CHECK(document["faces"][0]["axes"].empty());
  CHECK(document["faces"][0]["color"].empty());
  CHECK(document["faces"][0]["terms"]["ship_file"].is_string());
}

TEST_CASE("the document holds every field that the interface page names", "[tool][inspect]") {
  const auto document = test::json_of("inspect --json");
  CHECK(document["container"] == "sfnt");
  const auto& face = document["faces"][0];
  for (const char* field :
       {"index",       "family",       "style",        "full_name",       "version",     "outlines",
        "glyph_count", "units_per_em", "ascent",       "descent",         "line_gap",    "cap_height",
        "x_height",    "weight_class", "width_class",  "italic",          "monospaced",  "crisp_sizes",
        "scripts",     "features",     "kerning",      "embedding",       "bitmap_only", "subsetting",
        "copyright",   "license",      "license_url",  "codepoint_count", "blocks",      "axes",
        "instances",   "color",        "license_files"}) {
    INFO(field);
    CHECK(face.contains(field));
  }
  CHECK(face["crisp_sizes"][0] == 12.0);
  CHECK(face["kerning"] == "gpos");
}

TEST_CASE("what readme files beside a face say counts as much as a license file", "[tool][inspect]") {
  const test::Folder folder;
  // A face that says nothing of its license: only the text beside it can.
  test::FontBuilder builder;
  builder.remove("name");
  const std::vector<std::byte> bytes = builder.bytes();
  REQUIRE(save_text(folder.path("sign.ttf"), {reinterpret_cast<const char*>(bytes.data()), bytes.size()})
              .has_value());
  const auto sold = [&] {
    const auto ran = test::grafema_command("inspect " + folder.path("sign.ttf"));
    INFO(ran.err);
    REQUIRE(ran.exit == 0);
    return ran.out + ran.err;
  };
  const std::string silent = sold();
  CHECK_THAT(silent, !Catch::Contains("personal use"));
  for (const char* name : {"readme.txt", "Read Me.txt", "README", "about this font.txt"}) {
    INFO(name);
    REQUIRE(save_text(folder.path(name), "Thanks!\nFree for personal use only, 10 dollars for a game.\n")
                .has_value());
    const std::string words = sold();
    CHECK_THAT(words, Catch::Contains("Free for personal use") && Catch::Contains("10 dollars for a game"));
    CHECK_THAT(words, Catch::Contains(name));
    std::filesystem::remove(folder.path(name));
  }
  REQUIRE(save_text(folder.path("story.txt"), "The last tram leaves at two.").has_value());
  CHECK_THAT(sold(), Catch::Contains("story.txt (says nothing about terms)") &&
                         Catch::Contains("and be sold   not said"));
  REQUIRE(save_text(folder.path("readme.txt"), std::string(100000, 'x')).has_value());
  CHECK_THAT(sold(), Catch::Contains("readme.txt (not read: too large"));
}
