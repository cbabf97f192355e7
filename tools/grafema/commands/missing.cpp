// SPDX-License-Identifier: MIT
// grafema missing: which face supplies which characters of a game's texts, and which none does.
#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "grafema/base/utf8.hpp"
#include "grafema/text/character_check.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "options/options.hpp"
#include "reports/json_reports.hpp"

namespace grafema::tool {
namespace {

struct MissingOptions {
  FontOptions fonts;
  CharacterOptions characters;
  std::string language;
  bool json = false;
};

/// The characters that were asked for, each with the files that ask for it.
std::map<char32_t, std::vector<std::string>> read_wanted(const MissingOptions& options) {
  std::map<char32_t, std::vector<std::string>> wanted;
  if (!options.characters.asked()) {
    throw Failure{wrong_usage,
                  "expected a text: --text S, --text-from FILE, --chars S, --range R or --charset NAME"};
  }
  for (const char32_t c : options.characters.read()) {
    if (c >= 0x20) wanted[c];
  }
  for (const std::string& file : options.characters.files) {
    for (const char32_t c : value_or_give_up(load_characters(file))) wanted[c].push_back(file);
  }
  return wanted;
}

std::string shown(char32_t c) {
  std::string text;
  append_utf8(text, c);
  return text;
}

const char* sentence(CharacterFate fate) {
  switch (fate) {
    case CharacterFate::supplied:
      return "";
    case CharacterFate::missing:
      return "no face has";
    case CharacterFate::empty:
      return "mapped to a glyph that paints nothing";
    case CharacterFate::missing_shape:
      return "mapped to the missing-glyph shape";
    case CharacterFate::capital_shape:
      return "small letters that look as their capitals";
  }
  return "";
}

std::string face_name(const LoadedFace& loaded) {
  const FaceNames names = loaded.face->names();
  return fmt::format("{} {}", names.family, names.style);
}

using Wanted = std::map<char32_t, std::vector<std::string>>;

void print_supplied(const LoadedFonts& fonts, const std::vector<CheckedCharacter>& checked) {
  for (std::size_t face = 0; face < fonts.faces.size(); ++face) {
    std::string characters;
    std::size_t count = 0;
    for (const CheckedCharacter& c : checked) {
      if (c.fate == CharacterFate::missing || c.face != face) continue;
      constexpr std::size_t kShown = 64;
      if (count++ < kShown && c.character > 0x20) characters += shown(c.character);
    }
    fmt::print("{:>6}  {}{}\n", count, face_name(fonts.faces[face]),
               count == 0  ? "  (not needed)"
               : face == 0 ? ""
                           : fmt::format(": {}", characters));
  }
}

void print_trouble(const Wanted& wanted, const std::vector<CheckedCharacter>& checked, CharacterFate fate) {
  constexpr std::size_t kShown = 40;
  std::size_t count = 0;
  for (const CheckedCharacter& c : checked) {
    if (c.fate != fate) continue;
    if (count == 0) {
      const auto all = std::count_if(checked.begin(), checked.end(),
                                     [fate](const CheckedCharacter& other) { return other.fate == fate; });
      fmt::print("\n{} ({}):\n", sentence(fate), all);
    }
    if (++count > kShown) continue;
    std::string files;
    for (const std::string& file : wanted.at(c.character)) {
      files += fmt::format("{}{}", files.empty() ? "  in " : ", ", file);
    }
    fmt::print("  U+{:04X}  {}  {}{}\n", static_cast<unsigned>(c.character), shown(c.character),
               character_name(c.character), files);
  }
  if (count > kShown) fmt::print("  and {} more; --json has them all\n", count - kShown);
}

/// Clusters that fallback shows by another face than that of their first character alone, and what that face
/// lacks.
void print_clusters(const LoadedFonts& fonts, const std::vector<CheckedCluster>& clusters) {
  constexpr std::size_t kShown = 40;
  std::size_t count = 0;
  for (const CheckedCluster& cluster : clusters) {
    if (cluster.missing.empty() && cluster.face == 0) continue;
    if (count == 0) fmt::print("\nclusters, each shown by one face:\n");
    if (++count > kShown) continue;
    std::string text, points, lacks;
    for (const char32_t c : cluster.characters) {
      append_utf8(text, c);
      points += fmt::format(" U+{:04X}", static_cast<unsigned>(c));
    }
    for (const char32_t c : cluster.missing) lacks += fmt::format(" U+{:04X}", static_cast<unsigned>(c));
    fmt::print("  {} {}  {}{}\n", text, points, face_name(fonts.faces[cluster.face]),
               lacks.empty() ? "" : ", which lacks" + lacks);
  }
  if (count > kShown) fmt::print("  and {} more; --json has them all\n", count - kShown);
}

/// How each face writes the scripts of the characters that it supplies.
std::vector<FaceScript> check_writing(const LoadedFonts& fonts, const std::vector<CheckedCharacter>& checked,
                                      const std::string& language) {
  std::vector<FaceScript> out;
  for (std::size_t face = 0; face < fonts.faces.size(); ++face) {
    std::vector<char32_t> own;
    for (const CheckedCharacter& c : checked) {
      if (c.fate != CharacterFate::missing && c.face == face) own.push_back(c.character);
    }
    for (CheckedScript& script : check_scripts(*fonts.faces[face].face, own, language)) {
      out.push_back({face, std::move(script)});
    }
  }
  return out;
}

void print_writing(const LoadedFonts& fonts, const std::vector<FaceScript>& scripts) {
  bool first = true;
  for (const FaceScript& one : scripts) {
    if (one.checked.met.empty() && one.checked.unmet.empty()) continue;  // letters are all that it takes
    fmt::print("{}  {} {}\n", first ? "\nwriting:\n" : "", face_name(fonts.faces[one.face]),
               describe(one.checked));
    first = false;
  }
}

int run_missing(const MissingOptions& options) {
  const Wanted wanted = read_wanted(options);
  const LoadedFonts fonts = options.fonts.load();
  std::vector<char32_t> characters;
  for (const auto& [c, files] : wanted) characters.push_back(c);
  const std::vector<CheckedCharacter> checked = check_characters(stack_of(fonts), characters);
  const std::vector<CheckedCluster> clusters =
      check_clusters(stack_of(fonts), options.characters.read_wanted().texts);
  const bool torn = std::any_of(clusters.begin(), clusters.end(),
                                [](const CheckedCluster& c) { return !c.missing.empty(); });
  const std::vector<FaceScript> scripts = check_writing(fonts, checked, options.language);
  const bool unwritten = std::any_of(scripts.begin(), scripts.end(),
                                     [](const FaceScript& s) { return !s.checked.unmet.empty(); });
  const bool missing =
      torn || unwritten || std::any_of(checked.begin(), checked.end(), [](const CheckedCharacter& c) {
        return c.fate == CharacterFate::missing || c.fate == CharacterFate::empty ||
               c.fate == CharacterFate::missing_shape;
      });
  if (options.json) {
    std::vector<MissingReportFace> faces;
    for (const LoadedFace& loaded : fonts.faces) faces.push_back({face_name(loaded), loaded.path});
    fmt::print("{}", missing_json(faces, checked, clusters, scripts, wanted));
    return missing ? answered_no : done;
  }
  fmt::print("{} characters\n", checked.size());
  print_supplied(fonts, checked);
  for (const CharacterFate fate : {CharacterFate::missing, CharacterFate::missing_shape, CharacterFate::empty,
                                   CharacterFate::capital_shape}) {
    print_trouble(wanted, checked, fate);
  }
  print_clusters(fonts, clusters);
  print_writing(fonts, scripts);
  if (!missing) fmt::print("\nnothing is missing\n");
  return missing ? answered_no : done;
}

}  // namespace

void add_missing(CommandLine& line) {
  auto options = std::make_shared<MissingOptions>();
  Arguments& arguments = line.add("missing",
                                  "Which characters of a game's texts the faces lack, and which scripts they "
                                  "can't write; exit code 1 where there are any",
                                  [options] { return run_missing(*options); });
  options->fonts.add_to(arguments);
  arguments.heading("Characters");
  options->characters.add_to(arguments);
  arguments.option("--lang", options->language, "BCP47",
                   "The text's language, by which it is named in words");
  arguments.heading("Report");
  arguments.flag("--json", options->json, "One JSON document on standard output");
  arguments.example("Example: grafema missing fonts.json --text-from strings_de.json strings_el.json");
}

}  // namespace grafema::tool
