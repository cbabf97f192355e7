// SPDX-License-Identifier: MIT
// Rules of the house that a machine can check.
#include <array>
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
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
  // Plain words first: the expression is slow.
  constexpr std::array kSuspect = {"cout",  "cerr",  "clog", "print", "puts",  "putc",   "putw",  "perror",
                                   "write", "abort", "exit", "throw", "value", "stderr", "stdout"};
  static const std::regex forbidden(
      R"(std::(cout|cerr|clog)|\b(v?f?printf|f?puts|f?putc|putchar|perror)\(|fmt::v?print|\bstd(err|out)\b|)"
      R"(\bwrite\([12],|std::abort|std::exit|\bthrow\b|\.value\(\))");
  for (const fs::path& path : sources({"include", "src"})) {
    std::istringstream in(text_of(path));
    for (std::string line; std::getline(in, line);) {
      if (const std::size_t comment = line.find("//"); comment != std::string::npos) line.erase(comment);
      const bool suspect = std::any_of(kSuspect.begin(), kSuspect.end(), [&](const char* word) {
        return line.find(word) != std::string::npos;
      });
      // `-o -` is written by the one source that writes files.
      const bool is_writer =
          path.filename() == "staged_files.cpp" && line.find("write_all(stdout") != std::string::npos;
      if (suspect && !is_writer && std::regex_search(line, forbidden)) FAIL_CHECK(path << ": " << line);
    }
  }
}

TEST_CASE("no part of the library has a symbol that prints or ends the program", "[house]") {
#ifndef GRAFEMA_SANITIZED  // sanitizers bring such symbols along
  static const std::regex forbidden(
      R"( (std::c(out|err|log)|v?f?printf|f?puts|f?putc|putchar|perror|fmt::.*print\(.*|stderr|abort|exit|_exit)(@.*)?$)");
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

TEST_CASE("every source has a test of its name, or its folder of tests says what holds it", "[house]") {
  const fs::path top = GRAFEMA_SOURCE_DIR;
  std::size_t count = 0;
  for (const fs::path& source : sources({"src"})) {
    if (source.extension() != ".cpp") continue;
    ++count;
    const fs::path inside = fs::relative(source, top / "src").replace_extension();
    const std::string module = inside.begin()->string(),
                      name = fs::relative(source, top / "src" / module).replace_extension().string();
    if (fs::exists(top / "tests" / (inside.string() + "_test.cpp"))) continue;
    std::ifstream table(top / "tests" / module / "README.md");
    bool is_there = false;
    for (std::string row; std::getline(table, row);) {
      if (row.find("`" + name + "`") == std::string::npos) continue;
      static const std::regex test("`([a-z0-9_/]+_test\\.cpp)`");
      for (std::sregex_iterator at(row.begin(), row.end(), test), end; at != end; ++at) {
        INFO(row);
        CHECK(fs::exists(top / "tests" / (*at)[1].str()));
        is_there = true;
      }
    }
    INFO(inside << " has no test, and tests/" << module << "/README.md has no row for " << name);
    CHECK(is_there);
  }
  CHECK(count > 250);
}

TEST_CASE("tests' READMEs name only sources that are there", "[house]") {
  const fs::path top = GRAFEMA_SOURCE_DIR;
  for (const auto& folder : fs::directory_iterator(top / "tests")) {
    std::ifstream table(folder.path() / "README.md");
    for (std::string row; std::getline(table, row);) {
      if (!row.starts_with("| `")) continue;
      const std::string first = row.substr(0, row.find('|', 2));
      static const std::regex source("`([a-z0-9_/]+)`");
      for (std::sregex_iterator at(first.begin(), first.end(), source), end; at != end; ++at) {
        INFO(folder.path() << ": " << (*at)[1]);
        CHECK(fs::exists(top / "src" / folder.path().filename() / ((*at)[1].str() + ".cpp")));
      }
    }
  }
}

namespace {

/// What git would keep: tracked files, and new ones that nothing ignores; none where there is no git.
std::vector<std::string> kept_files() {
  const auto ran =
      grafema::test::run("git -C '" GRAFEMA_SOURCE_DIR "' ls-files --cached --others --exclude-standard");
  std::vector<std::string> files;
  std::istringstream lines(ran.exit == 0 ? ran.out : "");
  for (std::string line; std::getline(lines, line);) {
    if (fs::exists(fs::path(GRAFEMA_SOURCE_DIR) / line)) files.push_back(line);
  }
  return files;
}

}  // namespace

TEST_CASE("no program, object or large file is kept", "[house]") {
  for (const std::string& file : kept_files()) {
    INFO(file);
    const fs::path path = fs::path(GRAFEMA_SOURCE_DIR) / file;
    std::array<char, 4> head{};
    std::ifstream(path, std::ios::binary).read(head.data(), head.size());
    const std::string_view magic(head.data(), head.size());
    const bool is_program = magic ==
                                "\x7f"
                                "ELF" ||
                            magic == "!<ar" || magic.starts_with("MZ") || magic == "\xcf\xfa\xed\xfe";
    CHECK_FALSE(is_program);
    CHECK(fs::file_size(path) <= 1U << 20U);
  }
}

TEST_CASE("folders of code have at most thirty files", "[house]") {
  // Folders that are rebuilt with the scene.
  const std::map<std::string, std::size_t> larger = {{"src/draw", 41}, {"examples", 35}};
  std::map<std::string, std::size_t> counts;
  for (const std::string& file : kept_files()) {
    const fs::path path = file;
    if (path.extension() == ".cpp" || path.extension() == ".hpp") ++counts[path.parent_path().string()];
  }
  for (const auto& [folder, count] : counts) {
    INFO(folder);
    CHECK(count <= (larger.contains(folder) ? larger.at(folder) : 30));
  }
}

TEST_CASE("CMake's lists are a screen each, with lines under 120 columns", "[house]") {
  for (const std::string& file : kept_files()) {
    const fs::path path = file;
    const bool is_list = path.filename() == "CMakeLists.txt";
    if (!is_list && path.extension() != ".cmake") continue;
    std::ifstream in(fs::path(GRAFEMA_SOURCE_DIR) / file);
    std::size_t lines = 0;
    for (std::string line; std::getline(in, line); ++lines) {
      INFO(file << ": " << line);
      CHECK(line.size() < 120);
    }
    INFO(file);
    if (is_list && file.starts_with("src/")) CHECK(lines <= 70);
  }
}

TEST_CASE("fields of public aggregates have initializers: a user names those that matter", "[house]") {
  // What renderers and readers fill by the million, and views of a font's bytes.
  static const std::set<std::string> filled_by_us = {"quads.hpp", "set_memory.hpp", "layout_rules.hpp",
                                                     "layout_tables.hpp"};
  static const std::regex opening("^ *(struct|class|enum|namespace|union)\\b[^;]*\\{"),
      field("^ +[A-Za-z_:]+(<.*>)? [a-z_, ]+;");
  std::size_t structs = 0;
  for (const fs::path& path : sources({"include"})) {
    if (filled_by_us.contains(path.filename().string())) continue;
    std::istringstream in(text_of(path));
    std::vector<std::string> around;
    for (std::string line; std::getline(in, line);) {
      if (const std::size_t comment = line.find("//"); comment != std::string::npos) line.erase(comment);
      std::smatch match;
      const auto opened = std::count(line.begin(), line.end(), '{'),
                 closed = std::count(line.begin(), line.end(), '}');
      const bool opens = std::regex_search(line, match, opening) && opened > closed;
      if (!around.empty() && around.back() == "struct" && !opens && opened == closed &&
          std::regex_match(line, field)) {
        INFO(path << ": " << line);
        CHECK(line.find_first_of("=(") != std::string::npos);
      }
      structs += opens && match[1] == "struct" ? 1 : 0;
      if (opened > closed) around.push_back(opens ? match[1].str() : "other");
      for (auto i = opened; i < closed && !around.empty(); ++i) around.pop_back();
    }
  }
  CHECK(structs > 100);
}

TEST_CASE("each promise about any file names a test that there is", "[house]") {
  std::istringstream page(text_of(fs::path(GRAFEMA_SOURCE_DIR) / "docs/robustness.md"));
  static const std::regex row("\\| `(tests/[a-z_/]+\\.cpp)`: (.+) \\|");
  std::size_t promises = 0;
  for (std::string line; std::getline(page, line);) {
    std::smatch match;
    if (!std::regex_search(line, match, row)) continue;
    INFO(line);
    const std::string source = text_of(fs::path(GRAFEMA_SOURCE_DIR) / match[1].str());
    CHECK(source.find("TEST_CASE(\"" + match[2].str() + '"') != std::string::npos);
    ++promises;
  }
  CHECK(promises >= 25);
}
