// SPDX-License-Identifier: MIT
// grafema missing: what a German and a Greek catalog ask of faces.
#include <catch2/catch.hpp>
#include <fstream>
#include <nlohmann/json.hpp>

#include "support/scripts.hpp"

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

TEST_CASE("a face that has the letters of a script but no rules for it is told in words", "[missing]") {
  using namespace grafema;
  const test::ScriptFace& script = test::script_face("Devanagari");
  const std::string path = std::string("/usr/share/fonts/truetype/") + script.path;
  const std::string text = "'\u0906\u0916\u093C\u093F\u0930\u0940 \u091F\u094D\u0930\u093E\u092E'";
  const auto good = run(kTool + " missing " + path + " --lang hi --text " + text);
  CHECK(good.exit == 0);
  CHECK(good.out.find("writes Hindi") != std::string::npos);
  // The same face without its rules.
  const test::Folder folder;
  const std::vector<std::byte> bare = test::bytes_without(script.path, "GSUB");
  std::ofstream(folder.path("bare.ttf"), std::ios::binary)
      .write(reinterpret_cast<const char*>(bare.data()), static_cast<std::streamsize>(bare.size()));
  const auto bad = run(kTool + " missing " + folder.path("bare.ttf") + " --lang hi --text " + text);
  CHECK(bad.exit == 1);
  CHECK(bad.out.find("has the letters of Hindi, but can't join them") != std::string::npos);
  const auto document = nlohmann::json::parse(
      run(kTool + " missing " + folder.path("bare.ttf") + " --json --text " + text).out);
  REQUIRE(document["scripts"].size() == 1);
  CHECK(document["scripts"][0]["script"] == "deva");
  CHECK(document["scripts"][0]["face"] == 0);
  CHECK(document["scripts"][0]["unmet"] == nlohmann::json::array({"rules", "conjuncts"}));
  const auto inspected = run(kTool + " inspect " + folder.path("bare.ttf"));
  CHECK(inspected.out.find("has the letters of Devanagari, but can't join them") != std::string::npos);
}
