// SPDX-License-Identifier: MIT
// The folders are the architecture: every include points at its own module or one named before it.
#include <algorithm>
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <regex>
#include <string>
#include <vector>

namespace {

namespace fs = std::filesystem;

/// The modules in the order of the design; the parts of `font` too, the face itself before what gathers
/// faces.
const std::vector<std::string> kModules = {"base", "unicode", "outline", "font",  "raster", "atlas", "text",
                                           "draw", "render",  "write",   "files", "sheet",  "window"};
const std::vector<std::string> kFontParts = {"container", "characters", "variation", "metrics", "outline",
                                             "layout",    "color",      "face",      "family"};

int rank(const std::vector<std::string>& names, const std::string& name) {
  const auto at = std::find(names.begin(), names.end(), name);
  return at == names.end() ? -1 : static_cast<int>(at - names.begin());
}

std::vector<std::string> parts_of(const std::string& path) {
  std::vector<std::string> parts;
  for (const fs::path& part : fs::path(path)) parts.push_back(part.string());
  return parts;
}

/// The module that an include leads to: `grafema/font/face.hpp` and `font/face_tables.hpp` both to `font`.
std::string module_of(const std::string& include) {
  const std::vector<std::string> parts = parts_of(include);
  const std::size_t at = parts[0] == "grafema" ? 1 : 0;
  return at + 1 < parts.size() ? parts[at] : "";
}

/// The part of `font` that a path below src/ stands in.
std::string font_part_of(const std::string& path) {
  const std::vector<std::string> parts = parts_of(path);
  return parts.size() > 2 ? parts[1] : "face";
}

struct Include {
  fs::path file;
  std::string path;
};

/// All includes in quotation marks below a folder.
std::vector<Include> includes_below(const fs::path& root) {
  static const std::regex pattern("^ *#include \"([^\"]+)\"");
  std::vector<Include> out;
  for (const auto& entry : fs::recursive_directory_iterator(root)) {
    if (!entry.is_regular_file()) continue;
    std::ifstream in(entry.path());
    for (std::string line; std::getline(in, line);) {
      std::smatch match;
      if (std::regex_search(line, match, pattern)) out.push_back({entry.path(), match[1]});
    }
  }
  return out;
}

/// What the whole tree below `root` breaks of the rule, one sentence each.
std::vector<std::string> upward_includes(const fs::path& root) {
  std::vector<std::string> wrong;
  for (const Include& include : includes_below(root)) {
    const std::string own = fs::relative(include.file, root).begin()->string();
    if (own == "grafema.hpp") continue;
    // New fonts are made from drawings alone: `write` reaches up to `raster` and no further.
    const int from = rank(kModules, own == "write" ? "raster" : own),
              to = rank(kModules, module_of(include.path));
    const bool inside = module_of(include.path) == own;
    if (from < 0 || to < 0 || (!inside && to > from)) {
      wrong.push_back(include.file.string() + " includes " + include.path);
    }
  }
  return wrong;
}

}  // namespace

TEST_CASE("sources include their own module or one before it", "[house]") {
  CHECK(upward_includes(GRAFEMA_SOURCE_DIR "/src") == std::vector<std::string>{});
  CHECK(includes_below(GRAFEMA_SOURCE_DIR "/src").size() > 300);
}

TEST_CASE("public headers stand in a module's folder and include none that comes later", "[house]") {
  const fs::path root = GRAFEMA_SOURCE_DIR "/include/grafema";
  CHECK(upward_includes(root) == std::vector<std::string>{});
  for (const auto& entry : fs::directory_iterator(root)) {
    INFO(entry.path());
    const std::string name = entry.path().filename().string();
    CHECK((entry.is_directory() ? rank(kModules, name) >= 0 : name == "grafema.hpp"));
  }
}

TEST_CASE("parts of the font module build on each other in one order", "[house]") {
  const fs::path root = GRAFEMA_SOURCE_DIR "/src";
  for (const Include& include : includes_below(root / "font")) {
    if (!include.path.starts_with("font/")) continue;
    const std::string from = font_part_of(fs::relative(include.file, root).string()),
                      to = font_part_of(include.path);
    INFO(include.file << " includes " << include.path);
    CHECK(rank(kFontParts, from) >= 0);
    CHECK(rank(kFontParts, to) >= 0);
    CHECK(rank(kFontParts, to) <= rank(kFontParts, from));
  }
}

TEST_CASE("drawing does not know how atlases are baked, renderers do not know labels", "[house]") {
  const fs::path root = GRAFEMA_SOURCE_DIR;
  const auto includes = [&](const char* folder, const char* header) {
    const std::vector<Include> all = includes_below(root / folder);
    return std::any_of(all.begin(), all.end(), [&](const Include& i) { return i.path == header; });
  };
  CHECK_FALSE(includes("include/grafema/render", "grafema/draw/label.hpp"));
  CHECK_FALSE(includes("src/render", "grafema/draw/label.hpp"));
  CHECK_FALSE(includes("src/render", "grafema/atlas/bake.hpp"));
  for (const Include& include : includes_below(root / "include/grafema/atlas")) {
    if (include.file.filename() != "glyph_source.hpp") continue;
    INFO(include.path);
    CHECK(include.path != "grafema/atlas/bake.hpp");
    CHECK(include.path != "grafema/font/face.hpp");
  }
}

TEST_CASE("each library is used by the modules that it is there for", "[house]") {
  static const std::regex pattern("^#include [<\"](png\\.h|nlohmann/|pugixml|unicode/[a-z]+\\.h>|CLI/)");
  for (const auto& entry : fs::recursive_directory_iterator(GRAFEMA_SOURCE_DIR "/src")) {
    if (!entry.is_regular_file()) continue;
    const std::string module = fs::relative(entry.path(), GRAFEMA_SOURCE_DIR "/src").begin()->string();
    std::ifstream in(entry.path());
    for (std::string line; std::getline(in, line);) {
      std::smatch match;
      if (!std::regex_search(line, match, pattern)) continue;
      INFO(entry.path() << ": " << line);
      CHECK(module == (match[1].str().starts_with("unicode/") ? "text" : "files"));
    }
  }
}
