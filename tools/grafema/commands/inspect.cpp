// SPDX-License-Identifier: MIT
// grafema inspect: what font files, folders, archives and family files hold, and what a game may do with it.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "common.hpp"
#include "reports/inspect_report.hpp"
#include "reports/json_reports.hpp"

namespace grafema::tool {
namespace {

struct InspectOptions {
  std::string path;
  std::optional<long> face;
  bool json = false, credits = false;
};

std::string file_name(const FoundFont& font) {
  return font.path.empty() ? "built-in" : std::filesystem::path(font.path).filename().string();
}

int print_json(const FontSource& source) {
  std::vector<std::string> documents;
  for (const FoundFont& font : source.fonts) {
    documents.push_back(value_or_give_up(inspect_json(font.data, file_name(font), source), font.path));
  }
  if (!source.several) {
    fmt::print("{}", documents[0]);
    return done;
  }
  fmt::print("{{\"files\": [\n");
  for (std::size_t i = 0; i < documents.size(); ++i) {
    fmt::print("{}{}", documents[i], i + 1 < documents.size() ? "," : "");
  }
  fmt::print("]}}\n");
  return done;
}

int print_credits(const FontSource& source) {
  std::vector<CreditedFace> faces;
  for (const FoundFont& font : source.fonts) {
    const std::size_t count = value_or_give_up(Face::count(font.data), font.path);
    for (std::size_t i = 0; i < count; ++i) {
      faces.push_back(
          {value_or_give_up(Face::open(font.data, i), font.path), font.path, texts_of(source.licenses)});
    }
  }
  fmt::print("{}", make_credits(faces));
  return done;
}

/// The face of `FONT#STYLE`.
int print_styled(const InspectOptions& options, const FontSource& source) {
  const LoadedFonts loaded = load_fonts({options.path}, 0, "");
  const LoadedFace& first = loaded.faces[0];
  const auto font = std::find_if(source.fonts.begin(), source.fonts.end(),
                                 [&](const FoundFont& f) { return f.path == first.path; });
  print_face(*first.face, font == source.fonts.end() ? FoundFont{"", built_in_font()} : *font, 0, 1, source);
  return done;
}

int run_inspect(const InspectOptions& options) {
  const bool built_in = options.path.empty();
  FontSource source;
  if (built_in) {
    source.fonts.push_back({"", built_in_font()});
  } else {
    source = value_or_give_up(find_fonts(options.path));
  }
  for (const FileError& error : source.passed_over) fmt::print(stderr, "note: {}\n", describe(error));
  if (options.credits) return print_credits(source);
  if (options.json) return print_json(source);
  if (!built_in && path_of(options.path) != options.path) return print_styled(options, source);
  if (source.several && !options.face) {
    const bool is_family_file = std::filesystem::path(options.path).extension() == ".json";
    const FamilySet families = is_family_file ? value_or_give_up(load_families(options.path)) : FamilySet{};
    print_overview(source, is_family_file ? &families : nullptr);
    return done;
  }
  const FoundFont& font = source.fonts[0];
  const std::size_t count = value_or_give_up(Face::count(font.data), font.path);
  const auto first = static_cast<std::size_t>(options.face.value_or(0));
  for (std::size_t i = first; i < (options.face ? first + 1 : count); ++i) {
    const auto face = Face::open(font.data, i);
    if (!face && face.error().kind == ErrorKind::bad_value) {
      throw Failure{wrong_usage, describe(FileError{face.error(), font.path})};
    }
    if (i > first) fmt::print("\n");
    print_face(*value_or_give_up(face, font.path), font, i, count, source);
  }
  return done;
}

}  // namespace

void add_inspect(CommandLine& line) {
  auto options = std::make_shared<InspectOptions>();
  Arguments& arguments = line.add(
      "inspect",
      "What a font holds: metrics, characters, axes, features, license, and what a game may do with it",
      [options] { return run_inspect(*options); });
  arguments.input("FONT", options->path,
                  "A font file, a folder or zip archive with some, a family file, or the name of an "
                  "installed family; none: the built-in Quillmere Dot");
  arguments.whole("--face", options->face, 0, 65535, "N", "Only this face of a collection, from 0");
  arguments.flag("--json", options->json, "One JSON document on standard output");
  arguments.flag("--credits", options->credits, "A credits page in plain text: makers, copyright, licenses");
  arguments.example("Example: grafema inspect DejaVuSans.ttf --json");
}

}  // namespace grafema::tool
