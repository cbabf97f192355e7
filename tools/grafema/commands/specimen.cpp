// SPDX-License-Identifier: MIT
// grafema specimen: a picture to choose a face by.
#include "grafema/sheet/specimen.hpp"
#include "options/options.hpp"

namespace grafema::tool {
namespace {

struct SpecimenCommand {
  FontOptions fonts;
  std::string text, sizes, output;
};

int run_specimen(const SpecimenCommand& options) {
  check_output(options.output, {".png"});
  SpecimenOptions specimen;
  check_text(options.text, "--text");
  if (!options.text.empty()) specimen.text = options.text;
  if (!options.sizes.empty()) {
    specimen.sizes.clear();
    for (const std::string& size : split(options.sizes, "--sizes")) {
      specimen.sizes.push_back(to_number(size, "--sizes", kMinSize, 512));
    }
  }
  const auto faces = faces_of(options.fonts.load().all);
  value_or_give_up(save_png(options.output, value_or_give_up(draw_specimen(faces, specimen))));
  return done;
}

}  // namespace

void add_specimen(CommandLine& line) {
  auto options = std::make_shared<SpecimenCommand>();
  Arguments& arguments = line.add("specimen", "The words in each face and size, metrics lines, characters",
                                  [options] { return run_specimen(*options); });
  options->fonts.add_to(arguments);
  arguments.heading("What is shown");
  arguments.option("--text", options->text, "S", "The words to show");
  arguments.option("--sizes", options->sizes, "PX,...", "Pixels per em, such as 12,24,48");
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "PNG", "The PNG to write", Need::required);
  arguments.example(
      "Example: grafema specimen DejaVuSans.ttf --text \"Ninth Lantern\" --sizes 12,24,48 -o specimen.png");
}

}  // namespace grafema::tool
