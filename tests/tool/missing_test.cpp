// SPDX-License-Identifier: MIT
// grafema missing: what a German and a Greek catalog ask of faces.
#include <catch2/catch.hpp>
#include <fstream>
#include <nlohmann/json.hpp>

#include "support/support.hpp"

using grafema::test::run;

namespace {

const std::string kTool = GRAFEMA_TOOL;

struct Catalogs {
  grafema::test::Folder folder;
  Catalogs() {
    std::ofstream(folder.path("de.json"))
        << R"({"next": "Nächster Halt: Örnhild-Stufen", "late": "drei Minuten zu spät"})";
    std::ofstream(folder.path("el.csv")) << "key,text\nnext,\"Επόμενη στάση\"\n";
  }
};

}  // namespace

TEST_CASE("nothing is missing where the face has all", "[missing]") {
  const Catalogs c;
  const auto ran = run(kTool + " missing --text-from " + c.folder.path("de.json"));
  CHECK(ran.exit == 0);
  CHECK(ran.out.find("nothing is missing") != std::string::npos);
}

TEST_CASE("what is missing is named with its character, its name and the file that asks for it",
          "[missing]") {
  const Catalogs c;
  const auto ran =
      run(kTool + " missing --text-from " + c.folder.path("de.json") + " " + c.folder.path("el.csv"));
  CHECK(ran.exit == 1);
  CHECK(ran.out.find("GREEK CAPITAL LETTER EPSILON") != std::string::npos);
  CHECK(ran.out.find("in " + c.folder.path("el.csv")) != std::string::npos);
  CHECK(ran.out.find("U+0395") != std::string::npos);
  const auto both = run(kTool + " missing /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf --text-from " +
                        c.folder.path("el.csv"));
  CHECK(both.exit == 0);
}

TEST_CASE("the report as JSON", "[missing]") {
  const auto ran = run(kTool + " missing --text 'Café \xE2\x98\x83' --json");
  CHECK(ran.exit == 1);
  const auto document = nlohmann::json::parse(ran.out);
  CHECK(document["characters"] == 6);
  CHECK(document["faces"][0]["supplies"].size() == 5);
  REQUIRE(document["trouble"].size() == 1);
  CHECK(document["trouble"][0]["character"] == "U+2603");
  CHECK(document["trouble"][0]["fate"] == "missing");
}

TEST_CASE("fallback faces are told what they supply", "[missing]") {
  const auto ran = run("cd /usr/share/fonts/truetype/dejavu && " + kTool +
                       " missing DejaVuSansMono.ttf DejaVuSans.ttf --charset ascii");
  CHECK(ran.exit == 0);
  CHECK(ran.out.find("(not needed)") != std::string::npos);
}

TEST_CASE("clusters are told with the face that shows them", "[missing]") {
  const std::string text = " --text 'q\xCC\x81' ";
  const auto alone = run(kTool + " missing" + text);
  CHECK(alone.exit == 1);
  CHECK_THAT(alone.out, Catch::Contains("U+0071 U+0301  Quillmere Dot Regular, which lacks U+0301"));
  const auto both = run(kTool + " missing " GRAFEMA_SOURCE_DIR "/data/faces/quillmere_dot.ttf " +
                        grafema::test::dejavu_path() + text + "--json");
  const auto report = nlohmann::json::parse(both.out);
  REQUIRE(report["clusters"].size() == 1);
  CHECK(report["clusters"][0]["face"] == 1);
  CHECK(report["clusters"][0]["missing"].empty());
}
