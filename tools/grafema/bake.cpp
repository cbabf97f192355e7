// SPDX-License-Identifier: MIT
// grafema bake: glyphs into packed pages and a descriptor.
#include <fmt/format.h>

#include "grafema/atlas.hpp"
#include "options.hpp"

namespace grafema::tool {
namespace {

struct Options {
  FontOptions fonts;
  CharacterOptions characters;
  std::string output, kind = "distance", size = "48", fit, page = "2048x2048", reach = "6", padding = "0";
  int gap = 1, bits = 8;
  bool strict = false, quiet = false;
};

PictureKind to_kind(const std::string& name) {
  const std::optional<PictureKind> kind = find_picture_kind(name);
  if (kind && *kind != PictureKind::color) return *kind;
  throw Failure{wrong_usage, fmt::format("--kind: expected coverage or distance, found '{}'", name)};
}

AtlasRecipe to_recipe(const Options& options) {
  AtlasRecipe recipe;
  recipe.faces = faces_of(options.fonts.load().faces);
  recipe.characters = options.characters.read();
  recipe.all_glyphs = options.characters.all;
  recipe.kind = to_kind(options.kind);
  recipe.size = to_number(options.size, "--size", kMinSize, kMaxSize);
  if (!options.fit.empty()) recipe.fit = to_size(options.fit, "--fit");
  recipe.max_page = to_size(options.page, "--page");
  recipe.reach = to_number(options.reach, "--reach", 0.5F, 128);
  recipe.padding = to_number(options.padding, "--padding", 0, 128);
  recipe.gap = options.gap;
  recipe.bits = options.bits;
  return recipe;
}

int run(const Options& options) {
  const AtlasRecipe recipe = to_recipe(options);
  Notes notes(4096);
  const Atlas atlas = value_or_give_up(bake(recipe, &notes));
  const std::vector<std::string> paths = value_or_give_up(save_atlas(options.output, atlas));
  if (!options.quiet) {
    fmt::print("{} glyphs at {} px as {}, {} page{}", atlas.glyphs.size(), atlas.strikes[0].size, to_string(recipe.kind),
               atlas.pages.size(), atlas.pages.size() == 1 ? "" : "s");
    if (!atlas.pages.empty()) {
      const Image& page = atlas.pages[0].image;
      fmt::print(" of {}x{}, {:.1f}% used", page.width(), page.height(), 100 * atlas.used_area(recipe.gap));
    }
    fmt::print("\n");
    for (const std::string& path : paths) fmt::print("  {}\n", path);
  }
  return report(notes, options.strict);
}

}  // namespace

Registered add_bake(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("bake", "Glyphs as pictures on packed pages, with a descriptor");
  options->fonts.add_to(*command);
  options->characters.add_to(*command);
  command->add_option("-o,--output", options->output, "PREFIX.json and PREFIX-0.png ... are written")->type_name("PREFIX")->required();
  command->add_option("--kind", options->kind, "coverage or distance")->type_name("KIND")->capture_default_str();
  command->add_option("--size", options->size, "Pixels per em")->type_name("PX")->capture_default_str();
  command->add_option("--fit", options->fit, "Instead of --size: the largest size that fills one page of WxH")->type_name("WxH");
  command->add_option("--page", options->page, "Largest page; more are opened")->type_name("WxH")->capture_default_str();
  command->add_option("--reach", options->reach, "How far a distance picture sees on either side of the outline")->type_name("PX")->capture_default_str();
  command->add_option("--padding", options->padding, "Empty room inside a coverage cell, for painting")->type_name("PX")->capture_default_str();
  command->add_option("--gap", options->gap, "Between cells")->type_name("PX")->capture_default_str();
  command->add_option("--bits", options->bits, "8 or 16 bits a channel")->type_name("N")->capture_default_str();
  command->add_flag("--strict", options->strict, "Exit with 1 where there is any note");
  command->add_flag("--quiet", options->quiet, "Print nothing where all went well");
  command->footer("Example: grafema bake DejaVuSans.ttf --kind distance --size 48 --charset latin1 -o out/signs");
  return {command, [options] { return run(*options); }};
}

}  // namespace grafema::tool
