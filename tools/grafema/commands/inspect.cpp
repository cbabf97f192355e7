// SPDX-License-Identifier: MIT
// grafema inspect: what font files, folders, archives and family files hold, and what a game may do with it.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "font_sources.hpp"
#include "reports/inspect_report.hpp"
#include "reports/json_reports.hpp"

namespace grafema::tool {
namespace {

struct InspectOptions {
  std::string path;
  std::optional<long> face;
  bool json = false, credits = false;
};

/// The source of FONT; a family file's fonts are those that it names.
FontSource read_source(const InspectOptions& options, std::vector<std::string>& damaged) {
  if (options.path.empty()) {
    FontSource source;
    source.fonts.push_back({"", built_in_font()});
    return source;
  }
  if (!is_family_file(options.path)) return open_source(options.path, &damaged);
  const std::filesystem::path file = options.path.substr(0, options.path.find('#'));
  FontSource source;
  source.several = true;
  for (const std::string& name : value_or_give_up(load_families(file.string())).files) {
    FontSource one = open_source((file.parent_path() / name).string(), &damaged);
    std::move(one.fonts.begin(), one.fonts.end(), std::back_inserter(source.fonts));
    for (LicenseText& license : one.licenses) {
      const bool there =
          std::any_of(source.licenses.begin(), source.licenses.end(),
                      [&](const LicenseText& l) { return l.name == license.name && l.text == license.text; });
      if (!there) source.licenses.push_back(std::move(license));
    }
  }
  return source;
}

std::string file_name(const FoundFont& font) {
  return font.path.empty() ? "built-in" : std::filesystem::path(font.path).filename().string();
}

int print_json(const FontSource& source) {
  std::vector<std::string> names, documents;
  for (const LicenseText& license : source.licenses) names.push_back(license.name);
  for (const FoundFont& font : source.fonts) {
    documents.push_back(value_or_give_up(
        inspect_json(font.data, file_name(font), names, texts_of(source.licenses)), font.path));
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

int run_inspect(const InspectOptions& options) {
  std::vector<std::string> damaged;
  const FontSource source = read_source(options, damaged);
  for (const std::string& message : damaged) fmt::print(stderr, "note: {}\n", message);
  if (options.credits) return print_credits(source);
  if (options.json) return print_json(source);
  if (source.several && !options.face) {
    print_overview(source);
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
    print_face(*value_or_give_up(face, font.path), font, i, count, source.licenses);
  }
  for (const std::string& name : source.unread) {
    fmt::print(stderr, "note: {} was not read: it is too large, or no text in UTF-8\n", name);
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
  arguments.input(
      "FONT", options->path,
      "A font file, a folder or zip archive with some, or a family file; none: the built-in Quillmere Dot");
  arguments.whole("--face", options->face, 0, 65535, "N", "Only this face of a collection, from 0");
  arguments.flag("--json", options->json, "One JSON document on standard output");
  arguments.flag("--credits", options->credits, "A credits page in plain text: makers, copyright, licenses");
  arguments.example("Example: grafema inspect DejaVuSans.ttf --json");
}

}  // namespace grafema::tool
