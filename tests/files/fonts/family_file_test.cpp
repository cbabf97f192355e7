// SPDX-License-Identifier: MIT
// Family files: styles, fallback, what is wrong named, credits.
#include "grafema/files/family_file.hpp"

#include <fmt/format.h>
#include <catch2/catch.hpp>

#include <filesystem>
#include <fstream>

#include "support/support.hpp"

using namespace grafema;

namespace {

Result<FontData> open_file_named(const std::string& file) { return FontData::read(test::dejavu_path(file)); }

FileResult<FamilySet> read(const std::string& families, const std::string& rest = "") {
  return read_families(R"({"format": "grafema-family", "version": 1, "families": )" + families + rest + "}",
                       open_file_named);
}

const std::string kTwo =
    R"({"Night Signs": {"styles": {"Regular": {"file": "DejaVuSans.ttf"}, "Bold": {"file": "DejaVuSans-Bold.ttf"}}},
                             "Ticket": {"styles": {"Regular": {"built_in": true}}}})";

}  // namespace

TEST_CASE("a family file gives each style its own face, bold the real bold", "[family_file]") {
  const auto set = read(kTwo);
  REQUIRE(set.has_value());
  REQUIRE(set->families.size() == 2);
  CHECK(set->families[0].name() == "Night Signs");
  CHECK(set->files == std::vector<std::string>{"DejaVuSans.ttf", "DejaVuSans-Bold.ttf"});
  const FontStack regular = make_stack(*set), bold = make_stack(*set, "bold");
  REQUIRE(bold.size() == 2);
  CHECK(bold[0]->face()->names().style == "Bold");
  CHECK(regular[0]->face()->facts().weight_class == 400);
  CHECK(bold[1]->face()->names().family == "Quillmere Dot");
}

TEST_CASE("the fallback tells the order, and heights are matched where that is asked", "[family_file]") {
  const auto set = read(kTwo, R"(, "fallback": ["Ticket", "Night Signs"], "match_x_height": true)");
  REQUIRE(set.has_value());
  const FontStack stack = make_stack(*set);
  CHECK(stack[0]->face()->names().family == "Quillmere Dot");
  CHECK(stack[1].scale != 1);
  const auto one = read(kTwo, R"(, "fallback": ["Ticket"])");
  REQUIRE(one.has_value());
  CHECK(make_stack(*one).size() == 1);
}

TEST_CASE("what is wrong in a family file is named", "[family_file]") {
  const auto complaint = [](const FileResult<FamilySet>& set) {
    REQUIRE_FALSE(set.has_value());
    return describe(set.error());
  };
  const auto contains = [](const std::string& text, const std::string& part) {
    return text.find(part) != std::string::npos;
  };
  CHECK(contains(complaint(read_families("{}", open_file_named)), "grafema-family"));
  CHECK(contains(complaint(read_families("[", open_file_named)), "JSON"));
  CHECK(contains(complaint(read("{}")), "families"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {}}})")), "'A'"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {}}}})")), "'Bold' of 'A'"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"built_in": true, "weight": 2000}}}})")),
                 "weight"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"built_in": true, "slant": "left"}}}})")),
                 "slant"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"built_in": true, "axes": {"wghts": 1}}}}})")),
                 "axis tag"));
  CHECK(
      contains(complaint(read(R"({"A": {"styles": {"Bold": {"built_in": true, "axes": {"wght": 1e308}}}}})")),
               "32768"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"built_in": true, "weight": 1e999}}}})")),
                 "1e999"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"built_in": true, "file": "a.ttf"}}}})")),
                 "either a 'file' or"));
  CHECK(contains(complaint(read(kTwo, R"(, "fallback": ["Tickets"])")), "did you mean 'Ticket'"));
  CHECK(contains(complaint(read(kTwo, R"(, "fallback": ["Ticket", "Ticket"])")), "once"));
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"file": "none.ttf"}}}})")), "none.ttf"));
  for (const char* index : {"\"a.ttf\"", "-1", "1e9", "null"}) {  // no number of a face
    CHECK(contains(
        complaint(read(fmt::format(
            R"({{"A": {{"styles": {{"Bold": {{"file": "DejaVuSans.ttf", "face": {}}}}}}}}})", index))),
        "'face'"));
  }
  CHECK(contains(complaint(read(R"({"A": {"styles": {"Bold": {"file": "DejaVuSans.ttf", "face": 3}}}})")),
                 "DejaVuSans.ttf"));
}

TEST_CASE("fonts are found beside the family file", "[family_file]") {
  const test::Folder folder;
  std::filesystem::create_directory(folder.path("night"));
  std::filesystem::copy(test::dejavu_path(), folder.path("night/signs.ttf"));
  std::ofstream(folder.path("fonts.json"))
      << R"({"format": "grafema-family", "version": 1, "families": {"Night": {"styles": {"Regular": {"file": "night/signs.ttf"}}}}})";
  const auto set = load_families(folder.path("fonts.json"));
  REQUIRE(set.has_value());
  CHECK(make_stack(*set)[0]->find_glyph(U'A') != kMissingGlyph);
  std::filesystem::remove(folder.path("night/signs.ttf"));
  CHECK(load_families(folder.path("fonts.json")).error().path == folder.path("night/signs.ttf"));
}

TEST_CASE("a credits page names each family once, with its license and the texts beside it",
          "[family_file]") {
  const CreditedFace faces[] = {{test::dejavu("DejaVuSans.ttf"), "a.ttf", {"The whole license."}},
                                {test::dejavu("DejaVuSans-Bold.ttf"), "b.ttf", {"The whole license."}},
                                {built_in_face(), "", {}}};
  const std::string page = make_credits(faces);
  const auto count = [&](const std::string& part) {
    std::size_t n = 0;
    for (std::size_t at = page.find(part); at != std::string::npos; at = page.find(part, at + 1)) ++n;
    return n;
  };
  CHECK(count("\nDejaVu Sans\n") == 1);
  CHECK(count("\nQuillmere Dot\n") == 1);
  CHECK(count("The whole license.") == 1);
  CHECK(count(built_in_face()->names().copyright) == 1);
}

TEST_CASE("a family file that once broke the reader is refused", "[family_file]") {
  const FileResult<std::string> text =
      load_text(GRAFEMA_SOURCE_DIR "/tests/damaged/family_face_not_a_number.json");
  REQUIRE(text.has_value());
  const auto set =
      read_families(*text, [](const std::string&) -> Result<FontData> { return built_in_font(); });
  REQUIRE_FALSE(set.has_value());
  CHECK(describe(set.error()).find("'face'") != std::string::npos);
}

TEST_CASE("fields of a family file that are not known are noted with the nearest", "[family_file]") {
  Notes notes;
  const auto set = read_families(
      R"({"format": "grafema-family", "version": 1, "falback": [], "families": {"Dot": {"styles":
         {"Regular": {"built_in": true, "wieght": 400}}}}})",
      [](const std::string&) { return FontData(); }, &notes);
  REQUIRE(set.has_value());
  REQUIRE(notes.all().size() == 2);
  CHECK_THAT(describe(notes.all()[0]), Catch::Contains("'falback'") && Catch::Contains("'fallback'"));
  CHECK_THAT(describe(notes.all()[1]), Catch::Contains("'wieght'") && Catch::Contains("'weight'"));
}
