// SPDX-License-Identifier: MIT
// grafema bake: glyphs into packed pages and a descriptor.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <set>

#include "grafema/atlas/bake.hpp"
#include "grafema/draw/look_painter.hpp"
#include "grafema/files/output_files.hpp"
#include "grafema/font/reachable.hpp"
#include "grafema/text/character_check.hpp"
#include "options/options.hpp"
#include "progress.hpp"

namespace grafema::tool {
namespace {

struct BakeOptions {
  FontOptions fonts;
  CharacterOptions characters;
  LookOptions look;
  std::string output, kind = "distance_rgba", size = "48", fit, page = "2048x2048", reach = "6",
                      padding = "0", features, header, depfile;
  long gap = 1, bits = 8, phases = 1, palette = 0, threads = 0;
  bool fit_rows = false, no_closure = false, no_color = false, strict = false, quiet = false, again = false;
};

PictureKind to_kind(const std::string& name) {
  if (const std::optional<PictureKind> kind = find_picture_kind(name)) return *kind;
  throw Failure{
      wrong_usage,
      fmt::format("--kind: expected coverage, distance, distance_rgb, distance_rgba or color, found '{}'",
                  name)};
}

/// `liga=0,ss01=1` changes what shaping applies by default.
std::vector<Tag> read_feature_tags(const std::string& text) {
  const auto standard = default_features();
  std::vector<Tag> features(standard.begin(), standard.end());
  if (text.empty()) return {};
  for (const std::string& part : split(text, "--features")) {
    const std::size_t equals = part.find('=');
    const std::string name = part.substr(0, equals),
                      value = equals == std::string::npos ? "1" : part.substr(equals + 1);
    if (name.empty() || name.size() > 4 || value.empty()) {
      throw Failure{
          wrong_usage,
          fmt::format("--features: expected features with values, such as liga=0,ss01=1, found '{}'", part)};
    }
    std::erase(features, tag(name));
    if (value != "0") features.push_back(tag(name));
  }
  return features;
}

AtlasRecipe to_recipe(const BakeOptions& options, const LoadedFonts& fonts,
                      const CharacterOptions::Wanted& wanted) {
  AtlasRecipe recipe;
  recipe.faces = faces_of(fonts.faces);
  recipe.characters = wanted.characters;
  const FontStack stack = stack_of(fonts);
  for (const CheckedCluster& cluster : check_clusters(stack, wanted.texts)) {
    for (const char32_t c : cluster.characters) {
      if (stack.find(c).face != cluster.face) recipe.of_clusters.push_back({cluster.face, c});
    }
  }
  recipe.all_glyphs = options.characters.all;
  recipe.closure = !options.no_closure;
  recipe.features = read_feature_tags(options.features);
  recipe.kind = to_kind(options.kind);
  std::vector<float> sizes;
  for (const std::string& size : split(options.size, "--size")) {
    sizes.push_back(to_number(size, "--size", kMinSize, kMaxSize));
  }
  recipe.size = sizes[0];
  recipe.other_sizes.assign(sizes.begin() + 1, sizes.end());
  if (!options.fit.empty()) recipe.fit = to_size(options.fit, "--fit");
  recipe.max_page = to_size(options.page, "--page");
  recipe.reach = to_number(options.reach, "--reach", 0.5F, 128);
  recipe.padding = to_number(options.padding, "--padding", 0, 128);
  recipe.gap = static_cast<int>(options.gap);
  recipe.bits = static_cast<int>(options.bits);
  recipe.phases = static_cast<int>(options.phases);
  recipe.fit_rows = options.fit_rows;
  recipe.palette = static_cast<std::size_t>(options.palette);
  recipe.read_picture = read_png;
  recipe.color_glyphs = !options.no_color;
  if (recipe.kind == PictureKind::color) {
    if (options.look.asked()) {
      Look look = options.look.read();
      look.opacity *= options.look.whole_opacity();
      recipe.painter = make_painter(look, *std::max_element(sizes.begin(), sizes.end()));
    }
  } else if (options.look.asked()) {
    throw Failure{
        wrong_usage,
        "a look is painted into pictures of --kind color alone; other kinds take it when they are drawn"};
  }
  return recipe;
}

/// Says which file asked for each character that no face has.
void name_askers(const CharacterOptions::Wanted& wanted, const Notes& notes) {
  for (const Note& note : notes.all()) {
    const auto asker = note.kind == NoteKind::missing_character
                           ? wanted.asked_by.find(static_cast<char32_t>(note.character))
                           : wanted.asked_by.end();
    if (asker != wanted.asked_by.end()) {
      fmt::print(stderr, "note: U+{:04X} is asked for by {}\n", note.character, asker->second);
    }
  }
}

/// A rule for make and ninja: the header and the descriptor are made from these files.
void save_depfile(const BakeOptions& options, const LoadedFonts& fonts) {
  const auto escaped = [](const std::string& path) {
    std::string out;
    for (const char c : path) {
      if (c == ' ' || c == '#' || c == '\\') out += '\\';
      out += c == '$' ? "$$" : std::string(1, c);
    }
    return out;
  };
  std::string text =
      (options.header.empty() ? "" : escaped(options.header) + " ") + escaped(options.output + ".json") + ":";
  const auto add = [&](const std::string& path) {
    if (!path.empty()) text += " \\\n  " + escaped(std::filesystem::absolute(path).string());
  };
  std::set<std::string> files;
  for (const std::string& font : options.fonts.paths) files.insert(path_of(font));
  for (const LoadedFace& face : fonts.faces) files.insert(face.path);
  for (const std::string& file : files) {
    std::error_code unknown;
    if (std::filesystem::exists(file, unknown)) add(file);
  }
  for (const std::string& path : options.characters.files) add(path);
  add(options.look.base.substr(0, options.look.base.find('#')));
  // The command itself: another version of it may give other pixels. A rule of nothing would also be lost on
  // CMake.
  std::error_code none;
  const std::filesystem::path self = std::filesystem::read_symlink("/proc/self/exe", none);
  if (!none) add(self.string());
  value_or_give_up(save_text(options.depfile, text + "\n"));
}

void print_summary(const Atlas& atlas, const AtlasRecipe& recipe, const std::vector<std::string>& paths,
                   bool unchanged) {
  std::string sizes;
  for (const Strike& strike : atlas.strikes) {
    const std::string size = fmt::format("{}", strike.size);
    if (sizes.find(size) == std::string::npos) sizes += sizes.empty() ? size : ", " + size;
  }
  // The missing-glyph shape has no character either.
  const auto by_shaping = static_cast<std::size_t>(std::count_if(
      atlas.glyphs.begin(), atlas.glyphs.end(),
      [](const AtlasGlyph& glyph) { return glyph.codepoints.empty() && glyph.glyph != kMissingGlyph; }));
  const std::string shaped =
      by_shaping == 0 || recipe.all_glyphs ? "" : fmt::format(" ({} that only shaping yields)", by_shaping);
  fmt::print("{} glyphs{} at {} px as {}, {} page{}", atlas.glyphs.size(), shaped, sizes,
             to_string(recipe.kind), atlas.pages.size(), atlas.pages.size() == 1 ? "" : "s");
  if (!atlas.pages.empty()) {
    const Image& page = atlas.pages[0].image;
    fmt::print(" of {}x{}, {:.1f}% used", page.width(), page.height(), 100 * atlas.used_area(recipe.gap));
  }
  fmt::print("{}\n", unchanged ? "; nothing has changed" : "");
  if (atlas.faces.size() > 1) {
    for (std::size_t face = 0; face < atlas.faces.size(); ++face) {
      const auto count =
          std::count_if(atlas.glyphs.begin(), atlas.glyphs.end(),
                        [&](const AtlasGlyph& glyph) { return atlas.strikes[glyph.strike].face == face; });
      fmt::print("  {:>6} glyphs of {}\n", count, atlas.faces[face].family + " " + atlas.faces[face].style);
    }
  }
  for (const std::string& path : paths) fmt::print("  {}\n", path);
}

/// The atlas that is there already, where it is whole and was made from the same.
std::optional<Atlas> find_same(const std::string& path, const std::string& key) {
  std::error_code none;
  if (!std::filesystem::exists(path, none)) return std::nullopt;
  const ReplaceableReads looked_at;
  FileResult<Atlas> atlas = load_atlas(path);
  if (!atlas || atlas->key != key) return std::nullopt;
  // A run that was ended may have left a page of another atlas in the place of this one's.
  const std::string prefix = path.substr(0, path.size() - std::string_view(".json").size());
  for (std::size_t i = 0; i < atlas->pages.size(); ++i) {
    const std::string kept = fmt::format("{}-{}.png.{:016x}", prefix, i, pixel_hash(atlas->pages[i].image));
    if (std::filesystem::exists(kept, none)) return std::nullopt;
  }
  return std::optional(*std::move(atlas));
}

const Error& error_of(const Error& error) { return error; }
const Error& error_of(const FileError& error) { return error.error; }

/// What came of work that Ctrl-C may have ended.
template <class Outcome>
auto value_unless_interrupted(Outcome outcome) {
  if (!outcome && error_of(outcome.error()).kind == ErrorKind::interrupted) {
    throw Failure{interrupted, "interrupted; nothing was written"};
  }
  return value_or_give_up(std::move(outcome));
}

struct Baked {
  Atlas atlas;
  std::vector<std::string> paths;
};

Baked bake_with_bar(const AtlasRecipe& recipe, const BakeOptions& options, Notes& notes) {
  ThreadWorkers workers(static_cast<unsigned>(options.threads));
  const auto control = [&workers](ProgressBar& bar) {
    return BakeControl{&workers,
                       [&bar](std::size_t done, std::size_t total) { return bar.update(done, total); }};
  };
  Baked baked;
  {
    ProgressBar bar("bake", !options.quiet);
    Result<Atlas> atlas = bake(recipe, &notes, control(bar));
    bar.clear();
    baked.atlas = value_unless_interrupted(std::move(atlas));
  }
  ProgressBar bar("pages", !options.quiet);
  FileResult<std::vector<std::string>> paths = save_atlas(options.output, baked.atlas, control(bar));
  bar.clear();
  baked.paths = value_unless_interrupted(std::move(paths));
  return baked;
}

int run_bake(const BakeOptions& options) {
  if (!options.characters.asked()) {
    throw Failure{wrong_usage,
                  "expected characters: --chars S, --text-from FILE, --range R, --charset NAME or --all"};
  }
  if (options.output == "-")
    throw Failure{wrong_usage, "-o: expected the beginning of the names of several files, found '-'"};
  make_folder_of(options.output);
  const LoadedFonts fonts = options.fonts.load();
  const CharacterOptions::Wanted wanted = options.characters.read_wanted();
  const AtlasRecipe recipe = to_recipe(options, fonts, wanted);
  Notes notes(4096);
  for (const Note& note : fonts.notes.all()) notes.add(note);
  std::vector<std::string> paths;
  std::optional<Atlas> atlas =
      options.again ? std::nullopt : find_same(options.output + ".json", recipe_key(recipe));
  const bool unchanged = atlas.has_value();
  if (!atlas) {
    Baked baked = bake_with_bar(recipe, options, notes);
    atlas = std::move(baked.atlas), paths = std::move(baked.paths);
  }
  if (!options.header.empty()) {
    value_or_give_up(
        save_atlas_header(options.header, std::filesystem::path(options.output).filename().string(), *atlas));
    paths.push_back(options.header);
  }
  if (!options.depfile.empty()) save_depfile(options, fonts);
  if (!options.quiet) print_summary(*atlas, recipe, paths, unchanged);
  const int exit = report(notes, options.strict);
  name_askers(wanted, notes);
  return exit;
}

void add_picture_options(Arguments& arguments, BakeOptions& options) {
  arguments.heading("Pictures");
  arguments.option("--kind", options.kind, "KIND",
                   "coverage, distance, distance_rgb, distance_rgba or color");
  arguments.option("--size", options.size, "PX[,PX...]", "Pixels per em; several make strikes of their own");
  arguments.option("--fit", options.fit, "WxH", "Instead of --size: the largest size that fills one page");
  arguments.option("--page", options.page, "WxH", "Largest page; more are opened");
  arguments.option("--reach", options.reach, "PX",
                   "How far a distance picture sees on either side of the outline");
  arguments.option("--padding", options.padding, "PX",
                   "Empty room inside a coverage or color cell, for painting");
  arguments.whole("--gap", options.gap, 0, 64, "PX", "Between cells");
  arguments.whole("--bits", options.bits, 8, 16, "N", "8 or 16 bits a channel");
  arguments.whole("--phases", options.phases, 1, 4, "N",
                  "Coverage: 1, 2 or 4 pictures a glyph at parts of a pixel, for small text that moves");
  arguments.flag("--fit-rows", options.fit_rows,
                 "Coverage: x-height and capitals end on whole rows of pixels");
  arguments.flag("--no-color", options.no_color, "Glyphs in color too become pictures of --kind");
  arguments.whole("--palette", options.palette, 0, 65535, "N", "Which palette of color glyphs, from 0");
  arguments.option("--features", options.features, "TAG=N,...",
                   "What shaping will apply: off with =0, on with =1");
  arguments.flag("--no-closure", options.no_closure,
                 "Only the characters' own glyphs, not those that shaping makes of them");
}

}  // namespace

void add_bake(CommandLine& line) {
  auto options = std::make_shared<BakeOptions>();
  Arguments& arguments = line.add("bake", "Glyphs as pictures on packed pages, with a descriptor",
                                  [options] { return run_bake(*options); });
  options->fonts.add_to(arguments);
  options->characters.add_to(arguments);
  add_picture_options(arguments, *options);
  options->look.add_to(arguments);
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "PREFIX", "PREFIX.json and PREFIX-0.png ... are written",
                   Need::required);
  arguments.option("--header", options->header, "FILE.hpp", "Also the atlas as a C++ header");
  arguments.option("--depfile", options->depfile, "FILE", "Also what it was made from, for make and ninja");
  arguments.whole("--threads", options->threads, 0, 256, "N", "0: as many as there are cores");
  arguments.flag("--again", options->again, "Bake even where nothing has changed");
  arguments.flag("--strict", options->strict, "Exit with 1 where there is any note");
  arguments.flag("--quiet", options->quiet, "Print nothing where all went well");
  arguments.example("Example: grafema bake DejaVuSans.ttf --size 48 --charset latin1 -o out/signs");
}

}  // namespace grafema::tool
