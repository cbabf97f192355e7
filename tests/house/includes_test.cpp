// SPDX-License-Identifier: MIT
// Every include of src/ points at the own module or one named before it.
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <vector>

namespace {

namespace fs = std::filesystem;

/// The modules in the order of the design, each with its public headers.
const std::vector<std::pair<std::string, std::vector<std::string>>> kModules = {
    {"base", {"color", "error", "export", "geometry", "image", "notes", "utf8", "workers"}},
    {"outline", {"contours"}},
    {"font", {"character_sets", "color_glyphs", "face", "family", "font_data", "font_stack", "glyph_metrics", "layout_rules", "layout_tables", "license", "reachable", "variations"}},
    {"raster", {"color_paint", "fill", "raster"}},
    {"atlas", {"atlas", "glyph_cache", "glyph_source", "repaint"}},
    {"text", {"character_check", "paragraph", "text_style", "unicode_blocks"}},
    {"draw", {"label", "late_face", "look", "look_painter", "looks", "motion", "paint", "placement", "quads", "text_context", "view"}},
    {"render", {"blending", "opengl_offscreen", "opengl_renderer", "software_renderer"}},
    {"write", {"make_font"}},
    {"files", {"family_file", "files", "missing_report", "painted_letters"}},
    {"sheet", {"sheet"}},
};

int rank(const std::string& module) {
  for (std::size_t i = 0; i < kModules.size(); ++i) {
    if (kModules[i].first == module) return static_cast<int>(i);
  }
  return -1;
}

std::map<std::string, int> header_ranks() {
  std::map<std::string, int> ranks;
  for (std::size_t i = 0; i < kModules.size(); ++i) {
    for (const std::string& header : kModules[i].second) ranks["grafema/" + header + ".hpp"] = static_cast<int>(i);
  }
  return ranks;
}

/// Where an include leads: the rank of its module, -1 where it is not ours.
int target_of(const std::string& include) {
  static const std::map<std::string, int> ranks = header_ranks();
  if (const auto at = ranks.find(include); at != ranks.end()) return at->second;
  return rank(include.substr(0, include.find('/')));
}

/// `own` may always be included, else what stands at `limit` or before.
void check_file(const fs::path& file, int own, int limit) {
  static const std::regex pattern("^#include \"([^\"]+)\"");
  std::ifstream in(file);
  for (std::string line; std::getline(in, line);) {
    std::smatch match;
    if (!std::regex_search(line, match, pattern)) continue;
    const int target = target_of(match[1]);
    INFO(file << " includes " << match[1]);
    CHECK(target >= 0);
    CHECK((target == own || target <= limit));
  }
}

}  // namespace

TEST_CASE("includes of src/ follow the table of modules", "[house]") {
  const fs::path root = GRAFEMA_SOURCE_DIR "/src";
  std::size_t files = 0;
  for (const auto& entry : fs::recursive_directory_iterator(root)) {
    if (!entry.is_regular_file()) continue;
    const std::string module = fs::relative(entry.path(), root).begin()->string();
    INFO(entry.path());
    REQUIRE(rank(module) >= 0);
    // New fonts are made from drawings alone: `write` reaches up to `raster` and no further.
    check_file(entry.path(), rank(module), rank(module == "write" ? "raster" : module));
    ++files;
  }
  CHECK(files > 50);
}

TEST_CASE("public headers belong to a module and include none that comes later", "[house]") {
  const auto ranks = header_ranks();
  for (const auto& entry : fs::directory_iterator(GRAFEMA_SOURCE_DIR "/include/grafema")) {
    const std::string name = "grafema/" + entry.path().filename().string();
    INFO(name);
    REQUIRE(ranks.count(name) == 1);
    check_file(entry.path(), ranks.at(name), ranks.at(name));
  }
}

TEST_CASE("files, PNG and JSON are touched by the files module alone, Unicode services by text", "[house]") {
  static const std::regex pattern("^#include [<\"](png\\.h|nlohmann/|pugixml|unicode/|CLI/)");
  for (const auto& entry : fs::recursive_directory_iterator(GRAFEMA_SOURCE_DIR "/src")) {
    if (!entry.is_regular_file()) continue;
    std::ifstream in(entry.path());
    for (std::string line; std::getline(in, line);) {
      std::smatch match;
      if (!std::regex_search(line, match, pattern)) continue;
      const std::string module = entry.path().parent_path().filename().string();
      INFO(entry.path() << ": " << line);
      CHECK(module == (match[1] == "unicode/" ? "text" : "files"));
    }
  }
}
