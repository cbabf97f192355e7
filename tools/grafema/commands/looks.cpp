// SPDX-License-Identifier: MIT
// grafema looks: a swatch of each look of a file, and how well its letters stand out.
#include <fmt/format.h>

#include "grafema/draw/ready_looks.hpp"
#include "grafema/sheet/swatches.hpp"
#include "options/options.hpp"

namespace grafema::tool {
namespace {

struct LooksOptions {
  std::string file, text, output, size = "36";
  std::vector<std::string> fonts;
  bool strict = false;
};

std::vector<Swatch> read_swatches(const LooksOptions& options, Notes& notes) {
  std::vector<Swatch> swatches;
  if (options.file.empty()) {
    for (const std::string_view name : look_names()) {
      swatches.push_back({std::string(name), value_or_give_up(read_ready_look(name)), {}});
    }
    return swatches;
  }
  for (NamedLook& look : value_or_give_up(load_looks(options.file, &notes))) {
    swatches.push_back({std::move(look.name), look.look, {}});
  }
  return swatches;
}

int run_looks(const LooksOptions& options) {
  check_output(options.output, {".png"});
  SwatchOptions swatch;
  check_text(options.text, "--text");
  if (!options.text.empty()) swatch.text = options.text;
  swatch.size = to_number(options.size, "--size", 8, 128);
  Notes notes;
  std::vector<Swatch> swatches = read_swatches(options, notes);
  const FontStack fonts = stack_of(load_fonts(options.fonts, 0, ""));
  value_or_give_up(find_contrasts(swatches, fonts, swatch, &notes));
  value_or_give_up(save_png(options.output, value_or_give_up(draw_swatches(swatches, fonts, swatch))));
  return report(notes, options.strict);
}

}  // namespace

void add_looks(CommandLine& line) {
  auto options = std::make_shared<LooksOptions>();
  Arguments& arguments = line.add("looks", "Each look on light, dark and busy backdrops, with its contrast",
                                  [options] { return run_looks(*options); });
  arguments.input("FILE", options->file, "A looks file; none: the ready-made looks");
  arguments.heading("What is shown");
  arguments.option("--font", options->fonts, "FONT", "The face of the letters; may be given again");
  arguments.option("--text", options->text, "S", "The words to show");
  arguments.option("--size", options->size, "PX", "Pixels per em, 8 to 128");
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "PNG", "The PNG to write", Need::required);
  arguments.flag("--strict", options->strict, "Exit with 1 where there are notes: a contrast below 4.5");
  arguments.example("Example: grafema looks data/demo/looks.json --font DejaVuSans.ttf -o swatches.png");
}

}  // namespace grafema::tool
