// SPDX-License-Identifier: MIT
// Rules of the house that a machine can check.
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <regex>
#include <sstream>

#include "support/support.hpp"

namespace {

namespace fs = std::filesystem;

std::string text_of(const fs::path& path) {
  std::ostringstream text;
  text << std::ifstream(path).rdbuf();
  return text.str();
}

std::vector<fs::path> sources(std::initializer_list<const char*> folders) {
  std::vector<fs::path> out;
  for (const char* folder : folders) {
    if (!fs::exists(fs::path(GRAFEMA_SOURCE_DIR) / folder)) continue;
    for (const auto& entry : fs::recursive_directory_iterator(fs::path(GRAFEMA_SOURCE_DIR) / folder)) {
      const std::string extension = entry.path().extension().string();
      if (extension == ".cpp" || extension == ".hpp" || extension == ".inc") out.push_back(entry.path());
    }
  }
  return out;
}

}  // namespace

TEST_CASE("line 1 is the license, line 2 a sentence on what the file is for", "[house]") {
  for (const fs::path& path : sources({"include", "src", "tools", "tests", "bench", "examples", "fuzz"})) {
    std::ifstream in(path);
    std::string first, second;
    std::getline(in, first);
    std::getline(in, second);
    INFO(path);
    CHECK(first == "// SPDX-License-Identifier: MIT");
    CHECK(second.starts_with("// "));
    CHECK(second.size() > 20);
    std::string third;
    std::getline(in, third);
    CHECK_FALSE((third.starts_with("//") && !third.starts_with("///")));  // one sentence, one line
  }
}

TEST_CASE("sources of the library are ASCII", "[house]") {
  for (const fs::path& path : sources({"include", "src"})) {
    const std::string text = text_of(path);
    INFO(path);
    CHECK(std::all_of(text.begin(), text.end(), [](char c) { return static_cast<unsigned char>(c) < 0x80; }));
  }
}

TEST_CASE("public headers stay under 200 lines, sources under 400", "[house]") {
  for (const fs::path& path : sources({"include", "src", "tools"})) {
    if (path.extension() == ".inc") continue;
    const std::string text = text_of(path);
    INFO(path);
    CHECK(std::count(text.begin(), text.end(), '\n') <=
          (path.string().find("/include/") != std::string::npos ? 200 : 400));
  }
}

TEST_CASE("the library prints nothing, throws nothing of its own and never ends the program", "[house]") {
  static const std::regex forbidden(
      R"(std::cout|std::cerr|\bprintf\(|std::abort|std::exit|\bthrow\b|\.value\(\))");
  for (const fs::path& path : sources({"include", "src"})) {
    std::istringstream in(text_of(path));
    for (std::string line; std::getline(in, line);) {
      if (const std::size_t comment = line.find("//"); comment != std::string::npos) line.erase(comment);
      INFO(path << ": " << line);
      CHECK_FALSE(std::regex_search(line, forbidden));
    }
  }
}

TEST_CASE("no part of the library has a symbol that prints or ends the program", "[house]") {
#ifndef GRAFEMA_SANITIZED  // sanitizers bring such symbols along
  static const std::regex forbidden(R"( (std::cout|std::cerr|printf|puts|abort|exit|_exit)(@.*)?$)");
  std::istringstream libraries(GRAFEMA_LIBRARIES);
  std::size_t count = 0;
  for (std::string library; std::getline(libraries, library, ':'); ++count) {
    const auto ran = grafema::test::run("nm -uC '" + library + "'");
    INFO(library << "\n" << ran.err);
    REQUIRE(ran.exit == 0);
    std::size_t symbols = 0;
    std::istringstream lines(ran.out);
    for (std::string line; std::getline(lines, line); ++symbols) {
      INFO(line);
      CHECK_FALSE(std::regex_search(line, forbidden));
    }
    CHECK(symbols > 20);
  }
  CHECK(count >= 4);
#endif
}

TEST_CASE("the README's picture links lead to files", "[house]") {
  const std::string readme = text_of(GRAFEMA_SOURCE_DIR "/README.md");
  static const std::regex link(R"(\]\(([^)#:]+)\))");
  std::size_t links = 0;
  for (std::sregex_iterator at(readme.begin(), readme.end(), link), end; at != end; ++at, ++links) {
    INFO((*at)[1]);
    CHECK(fs::exists(fs::path(GRAFEMA_SOURCE_DIR) / (*at)[1].str()));
  }
  CHECK(links > 5);
}
