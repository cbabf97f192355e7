// SPDX-License-Identifier: MIT
// grafema subset: a face reduced to characters.
#include <fmt/format.h>

#include <algorithm>
#include <optional>

#include "grafema/files/web_font_file.hpp"
#include "grafema/font/license.hpp"
#include "grafema/unicode/characters.hpp"
#include "grafema/write/make_subset.hpp"
#include "options/options.hpp"
#include "progress.hpp"

namespace grafema::tool {
namespace {

struct SubsetOptions {
  FontOptions fonts;
  CharacterOptions characters;
  std::string output, family;
  std::optional<std::string> features;
  bool permit = false, lean = false, tables = false, strict = false, quiet = false;
};

SubsetRecipe to_recipe(const SubsetOptions& options) {
  SubsetRecipe recipe;
  recipe.characters = options.characters.read();
  recipe.all_characters = options.characters.all;
  recipe.family = options.family;
  recipe.permit = options.permit;
  recipe.lean = options.lean;
  check_text(options.family, "--family");
  if (!options.features) return recipe;
  recipe.features.emplace();
  if (options.features->empty()) return recipe;
  for (const std::string& name : split(*options.features, "--features")) {
    if (name.empty() || name.size() > 4 || name.find('=') != std::string::npos) {
      throw Failure{wrong_usage,
                    fmt::format("--features: expected features such as smcp,onum, found '{}'", name)};
    }
    recipe.features->push_back(tag(name));
  }
  return recipe;
}

Subset reduce(const Face& face, SubsetRecipe recipe, const SubsetOptions& options, Notes& notes) {
  ProgressBar bar("subset", !options.quiet);
  recipe.progress = [&bar](std::size_t done, std::size_t total) { return bar.update(done, total); };
  Result<Subset> made = make_subset(face, recipe, &notes);
  bar.clear();
  if (made) return *std::move(made);
  if (made.error().kind == ErrorKind::interrupted)
    throw Failure{interrupted, "interrupted; nothing was written"};
  if (made.error().kind == ErrorKind::forbidden) {
    fmt::print(stderr, "note: --permit makes the file all the same; you then answer for it\n");
  }
  give_up(made.error(), options.fonts.paths.empty() ? "" : options.fonts.paths[0]);
}

/// Takes out what the face lacks and tells it in one line: a range may ask for hundreds. Gives how many.
std::size_t tell_missing(const Face& face, std::vector<char32_t>& characters) {
  constexpr std::size_t kShown = 8;
  std::vector<char32_t> missing;
  for (const char32_t c : characters) {
    if (!is_invisible(c) && face.find_glyph(c) == kMissingGlyph) missing.push_back(c);
  }
  if (missing.empty() || missing.size() == characters.size()) return missing.size();
  std::erase_if(characters,
                [&](char32_t c) { return std::binary_search(missing.begin(), missing.end(), c); });
  std::string list;
  for (std::size_t i = 0; i < std::min(missing.size(), kShown); ++i) {
    list += fmt::format("{}U+{:04X}", i == 0 ? "" : ", ", static_cast<std::uint32_t>(missing[i]));
  }
  fmt::print(stderr, "note: the face lacks {} of the characters: {}{}\n", missing.size(), list,
             missing.size() > kShown ? ", ..." : "");
  return missing.size();
}

void print_tables(const Subset& subset) {
  fmt::print("table      before       after\n");
  for (const TableSizes& table : subset.tables) {
    fmt::print("{:4} {:12} {:>11}\n", to_string(table.table), table.before,
               table.after == 0 ? "-" : std::to_string(table.after));
  }
}

void print_summary(const Face& face, const Subset& subset, std::size_t before, std::size_t after,
                   const SubsetOptions& options) {
  if (options.quiet) return;
  const double share = before == 0 ? 0 : 100.0 * static_cast<double>(after) / static_cast<double>(before);
  fmt::print("{}: {} characters, {} of {} glyphs, {} of {} bytes ({:.1f}%)\n", options.output,
             subset.character_count, subset.glyphs.size(), face.glyph_count(), after, before, share);
  if (options.tables) print_tables(subset);
  const LicenseReading license = read_license(face.names(), face.facts());
  if (license.license_needed) {
    fmt::print("its license{} asks for its text beside the file{}\n",
               license.known_as.empty() ? "" : ", " + license.known_as + ",",
               license.credit_needed ? ", with the copyright notice" : "");
  }
}

int run_subset(const SubsetOptions& options) {
  if (!options.characters.asked()) {
    throw Failure{wrong_usage,
                  "subset: say which characters: --chars, --text-from, --range, --charset or --all"};
  }
  check_output(options.output, {".ttf", ".otf", ".woff2"});
  SubsetRecipe recipe = to_recipe(options);
  LoadedFonts fonts = options.fonts.load();
  if (fonts.faces.size() != 1) {
    throw Failure{wrong_usage, fmt::format("subset: one face at a time, found {}", fonts.faces.size())};
  }
  const Face& face = *fonts.faces[0].face;
  const std::size_t missing = tell_missing(face, recipe.characters);
  const Subset subset = reduce(face, std::move(recipe), options, fonts.notes);
  std::size_t before = 0;
  for (const TableSizes& table : subset.tables) before += table.before;
  std::vector<std::byte> file = subset.font;
  if (options.output.ends_with(".woff2")) file = value_or_give_up(make_web_font(subset.font), options.output);
  value_or_give_up(save_file(options.output, file));
  print_summary(face, subset, before, file.size(), options);
  const int code = report(fonts.notes, options.strict);
  return options.strict && missing > 0 ? 1 : code;
}

}  // namespace

void add_subset(CommandLine& line) {
  auto options = std::make_shared<SubsetOptions>();
  Arguments& arguments =
      line.add("subset", "A smaller font: some characters of a face, which look and measure as before",
               [options] { return run_subset(*options); });
  options->fonts.add_to(arguments);
  options->characters.add_to(arguments);
  arguments.heading("What stays");
  arguments.option("--features", options->features, "TAG,...",
                   "Only these features, beside those that shaping applies by itself (default: all)");
  arguments.flag(
      "--lean", options->lean,
      "Without instructions for small screens, names of glyphs, and kern where GPOS kerns: neither "
      "grafema nor browsers miss them");
  arguments.option(
      "--family", options->family, "NAME",
      "The family's name in the new file; needed where the license reserves the old one, unless a "
      "made-up name will do");
  arguments.flag("--permit", options->permit,
                 "Also where the font's permission bits or license forbid it: you answer for it");
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "FILE",
                   "The font to write: .ttf, .otf, or packed for the web: .woff2", Need::required);
  arguments.flag("--tables", options->tables, "How large every table was and is");
  arguments.flag("--quiet", options->quiet, "No progress bar and no summary");
  arguments.flag("--strict", options->strict,
                 "End with 1 where there is a note, such as a missing character");
  arguments.example("Example: grafema subset Sans.ttf --text-from messages/de.json -o sans_de.woff2");
}

}  // namespace grafema::tool
