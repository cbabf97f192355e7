// SPDX-License-Identifier: MIT
// grafema specimen: a picture to choose a face by.
#include "grafema/sheet/sheet.hpp"
#include "options.hpp"

namespace grafema::tool {
namespace {

struct Options {
  FontOptions fonts;
  std::string text, sizes, output;
};

int run(const Options& options) {
  SpecimenOptions specimen;
  check_text(options.text, "--text");
  if (!options.text.empty()) specimen.text = options.text;
  if (!options.sizes.empty()) {
    specimen.sizes.clear();
    for (const std::string& size : split(options.sizes, "--sizes")) {
      specimen.sizes.push_back(to_number(size, "--sizes", kMinSize, 512));
    }
  }
  const auto faces = faces_of(options.fonts.load().faces);
  value_or_give_up(save_png(options.output, value_or_give_up(draw_specimen(faces, specimen))));
  return done;
}

}  // namespace

Registered add_specimen(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* command =
      app.add_subcommand("specimen", "The words in each face and size, metrics lines, characters");
  options->fonts.add_to(*command);
  command->add_option("--text", options->text, "The words to show")->type_name("S");
  command->add_option("--sizes", options->sizes, "Pixels per em, such as 12,24,48")->type_name("PX,...");
  command->add_option("-o,--output", options->output, "The PNG to write")->type_name("PNG")->required();
  command->footer(
      "Example: grafema specimen DejaVuSans.ttf --text \"Ninth Lantern\" --sizes 12,24,48 -o specimen.png");
  return {command, [options] { return run(*options); }};
}

}  // namespace grafema::tool
