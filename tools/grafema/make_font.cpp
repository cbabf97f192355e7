// SPDX-License-Identifier: MIT
// grafema make-font: a font from a sheet of drawn characters.
#include "grafema/write/make_font.hpp"

#include <fmt/format.h>

#include "common.hpp"

namespace grafema::tool {
namespace {

struct Options {
  std::string sheet, output;
};

int run(const Options& options) {
  check_output(options.output, {".ttf"});
  Notes notes;
  const PixelSheet sheet = value_or_give_up(load_font_sheet(options.sheet, &notes));
  const FontDrawing drawing = value_or_give_up(draw_from_sheet(sheet), options.sheet);
  const std::vector<std::byte> font = value_or_give_up(make_font(drawing), options.sheet);
  value_or_give_up(save_file(options.output, font));
  fmt::print(stderr, "{} {}: {} glyphs, {} kerning pairs, {} bytes\n", sheet.names.family, sheet.names.style,
             drawing.glyphs.size(), drawing.kerning.size(), font.size());
  return report(notes, false);
}

}  // namespace

void add_make_font(CommandLine& line) {
  auto options = std::make_shared<Options>();
  Arguments& arguments = line.add("make-font", "A TrueType font from a PNG grid of drawn characters",
                                  [options] { return run(*options); });
  arguments.input("SHEET", options->sheet, "The PNG; its description stands beside it, same name with .json",
                  Need::required);
  arguments.option("-o,--output", options->output, "FILE", "The font to write", Need::required);
  arguments.example("Example: grafema make-font data/faces/quillmere_dot.png -o quillmere_dot.ttf");
}

}  // namespace grafema::tool
