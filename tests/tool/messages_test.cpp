// SPDX-License-Identifier: MIT
// grafema messages, and the options of draw and measure for rich text, from the outside.
#include <catch2/catch.hpp>

#include "tool/tool.hpp"

using namespace grafema;

namespace {

const std::string kData = std::string(GRAFEMA_SOURCE_DIR) + "/data/demo/";
const std::string kCatalogs = kData + "messages/";

std::string all_catalogs() {
  std::string out;
  for (const char* file :
       {"en.json", "de.json", "el.json", "uk.json", "ar.json", "he.json", "hi.json", "th.po", "ja.json"}) {
    out += kCatalogs + file + " ";
  }
  return out;
}
std::string fonts() {
  return " --fonts " + test::dejavu_path() + " --fonts " + test::dejavu_path("DejaVuSans-Bold.ttf");
}

}  // namespace

TEST_CASE(
    "the demo's nine languages have nothing wrong but characters and scripts of faces that are not given",
    "[tool][messages]") {
  const test::Ran plain = test::grafema_command("messages " + all_catalogs());
  INFO(plain.out);
  CHECK(plain.exit == 0);
  const test::Ran ran = test::grafema_command("messages --json " + all_catalogs() + fonts() + " --styles " +
                                              kData + "styles.json");
  CHECK(ran.exit == 1);
  const auto document = nlohmann::json::parse(ran.out);
  for (const auto& fault : document["faults"]) {
    INFO(fault.dump());
    CHECK((fault["kind"] == "character" || fault["kind"] == "script"));
    CHECK((fault["language"] == "hi" || fault["language"] == "th" || fault["language"] == "ja"));
  }
}

TEST_CASE("every deliberate fault of the faulty catalog is found, with its line", "[tool][messages]") {
  const test::Ran ran =
      test::grafema_command("messages --json " + kCatalogs + "en.json " + kCatalogs + "faulty_pl.json" +
                            fonts() + " --styles " + kData + "styles.json");
  REQUIRE(ran.exit == 1);
  std::map<std::string, std::string> found;
  const auto document = nlohmann::json::parse(ran.out);
  for (const auto& fault : document["faults"]) {
    CHECK(fault["language"] == "pl");
    found[fault["kind"].get<std::string>()] += fault["id"].get<std::string>() + " ";
  }
  CHECK(found["plural-form"] == "board.late ");
  CHECK(found["values"].find("board.platform") != std::string::npos);
  CHECK(found["pattern"] == "board.next ");
  CHECK(found["markup"].find("speech.mind") != std::string::npos);
  CHECK(found["overflow"].find("speech.driver") != std::string::npos);
  CHECK(found["missing"] == "clock.date ");
  CHECK(found["spare"] == "badge.open ");
  const test::Ran words =
      test::grafema_command("messages " + kCatalogs + "en.json " + kCatalogs + "faulty_pl.json");
  CHECK(words.out.find("board.next, line 4: ") != std::string::npos);
  CHECK(words.out.find("line 1, column 11") != std::string::npos);
}

TEST_CASE("messages draws the worst, saves the invented language, and completes PO files",
          "[tool][messages]") {
  const test::Folder folder;
  CHECK(test::grafema_command("messages " + kCatalogs + "en.json " + kCatalogs + "faulty_pl.json" + fonts() +
                              " --styles " + kData + "styles.json -o " + folder.path("w.png"))
            .exit == 1);
  CHECK(load_png(folder.path("w.png"))->width() > 1000);
  CHECK(test::grafema_command("messages --pseudo " + kCatalogs + "en.json -o " + folder.path("en-XA.json"))
            .exit == 0);
  CHECK(test::grafema_command("messages " + kCatalogs + "en.json " + folder.path("en-XA.json")).exit == 0);
  REQUIRE(
      save_text(folder.path("fr.po"), "msgctxt \"badge.closed\"\nmsgid \"Closed\"\nmsgstr \"Ferm\xC3\xA9\"\n")
          .has_value());
  CHECK(
      test::grafema_command("messages --add-missing " + kCatalogs + "en.json " + folder.path("fr.po")).exit ==
      1);
  const std::string po = *load_text(folder.path("fr.po"));
  CHECK(po.find("msgctxt \"board.late\"") != std::string::npos);
  CHECK(po.find("Ferm\xC3\xA9") != std::string::npos);
}

TEST_CASE("catalogs that can't be read are errors that name the file", "[tool][messages]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("de.json"), "{\"a\": \"x\", \"a\": \"y\"}").has_value());
  const test::Ran ran = test::grafema_command("messages " + kCatalogs + "en.json " + folder.path("de.json"));
  CHECK(ran.exit == 3);
  CHECK(ran.err.find(folder.path("de.json")) != std::string::npos);
  CHECK(ran.err.find("'a' again") != std::string::npos);
  CHECK(test::grafema_command("messages").exit == 2);
  CHECK(test::grafema_command("messages " + kCatalogs + "en.json -o x.json").exit == 2);
}

TEST_CASE("markup on the command line is measured, and a fault in it shows plain text with a note",
          "[tool][markup]") {
  const auto plain = test::json_of("measure --json --size 24 --text 'Mind the gap'");
  const auto rich = test::json_of("measure --json --size 24 --markup --text 'Mind <span>the</span> gap'");
  CHECK(rich["width"] == plain["width"]);
  const auto large = test::json_of("measure --json --size 24 --markup --text 'Mind <small>the</small> gap'");
  CHECK(large["width"] < plain["width"]);
  CHECK(large["glyphs"][5]["span"] == 1);
  CHECK(large["glyphs"][0]["span"] == 0);
  CHECK_FALSE(plain["glyphs"][0].contains("span"));
  const test::Ran wrong =
      test::grafema_command("measure --json --size 24 --markup --text 'Mind <b>the gap' --strict");
  CHECK(wrong.exit == 1);
  CHECK(wrong.err.find("line 1, column") != std::string::npos);
  CHECK(nlohmann::json::parse(wrong.out)["width"] == plain["width"]);
}

TEST_CASE("a named style sets what the options do not", "[tool][styles]") {
  const std::string style = "measure --json --text 'Line N1' --style " + kData + "styles.json#announcement";
  CHECK(test::json_of(style)["size"] == 28);
  CHECK(test::json_of(style + " --size 20")["size"] == 20);
  const test::Ran wrong =
      test::grafema_command("measure --text x --style " + kData + "styles.json#anouncement");
  CHECK(wrong.exit != 0);
  CHECK(wrong.err.find("did you mean 'announcement'") != std::string::npos);
}

TEST_CASE("values make a message of the text", "[tool][messages]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("v.json"), "{\"n\": 3}").has_value());
  const std::string text =
      " --text '{n, plural, one {# Minute} other {# Minuten}}' --lang de --values " + folder.path("v.json");
  CHECK(test::json_of("measure --json" + text)["text"] == "3 Minuten");
}

TEST_CASE("a reveal shows the first clusters where they stand in the whole", "[tool][draw]") {
  const test::Folder folder;
  const auto draw = [&](const std::string& reveal) {
    REQUIRE(test::grafema_command("draw --size 24 --text 'Mind        the gap' --canvas 260x40 " + reveal +
                                  " -o " + folder.path("r.png"))
                .exit == 0);
    return *load_png(folder.path("r.png"));
  };
  const auto lit = [](const Image& image, int from, int to) {
    int count = 0;
    for (int y = 0; y < image.height(); ++y) {
      for (int x = from; x < to; ++x) count += image.value(x, y, 3) > 0 ? 1 : 0;
    }
    return count;
  };
  const Image all = draw("--reveal 1000"), some = draw("--reveal 4");
  const int end = 60;  // behind the first word
  CHECK(lit(some, 0, end) == lit(all, 0, end));
  CHECK(lit(some, end, 260) == 0);
  CHECK(lit(all, end, 260) > 0);
}

TEST_CASE("the clock of a message is now, or as asked", "[tool][messages]") {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("v.json"), R"({"t": {"clock": true}})").has_value());
  const std::string command =
      "measure --text '{t, date, ::yMMMd}' --values " + folder.path("v.json") + " --json";
  const auto width = [&](const std::string& more) { return test::json_of(command + more)["glyphs"].size(); };
  CHECK(width(" --clock 2026-10-02T21:40") == std::string_view("Oct 2, 2026").size());
  CHECK(width(" --clock 1970-01-01") == std::string_view("Jan 1, 1970").size());
  const auto now =
      test::grafema_command("measure --text '{t, date, ::y}' --strict --values " + folder.path("v.json"));
  CHECK(now.exit == 0);
  CHECK(test::grafema_command(command + " --clock soon").exit == 2);
}
