// SPDX-License-Identifier: MIT
// grafema measure: boxes, lines and glyph positions of a text.
#include <fmt/format.h>

#include "options/options.hpp"
#include "reports/json_reports.hpp"

namespace grafema::tool {
namespace {

struct MeasureOptions {
  LayoutOptions layout;
  bool json = false;
};

void print_report(const LaidOut& laid) {
  const Paragraph& p = laid.paragraph;
  const Rect ink = ink_box(laid.stack, p);
  fmt::print("size    {} px per em\n", p.size);
  fmt::print("box     {} x {} px\n", p.advance_box.width(), p.advance_box.height());
  fmt::print("ink     left {}, top {}, right {}, bottom {}\n", ink.left, ink.top, ink.right, ink.bottom);
  fmt::print("line    ascent {}, descent {}, height {}\n", p.ascent, p.descent, p.line_height);
  for (const Line& line : p.lines) {
    if (p.writing != WritingMode::horizontal) {
      fmt::print("  bytes {}-{}: left {}, top {}, {} wide, {} high, baseline at {}, {} glyphs\n", line.start,
                 line.end, line.left, line.top, line.width, line.height, line.baseline,
                 line.end_glyph - line.first_glyph);
      continue;
    }
    fmt::print("  bytes {}-{}: baseline {}, left {}, width {}, {} glyphs\n", line.start, line.end,
               line.baseline, line.left, line.width, line.end_glyph - line.first_glyph);
  }
}

int run_measure(const MeasureOptions& options) {
  const LaidOut laid = lay_out(options.layout);
  if (options.json) {
    fmt::print("{}", measure_json(laid.stack, laid.text, laid.paragraph, laid.notes));
  } else {
    print_report(laid);
  }
  return report(laid.notes, options.layout.strict);
}

}  // namespace

void add_measure(CommandLine& line) {
  auto options = std::make_shared<MeasureOptions>();
  Arguments& arguments = line.add("measure", "Boxes, lines and glyph positions of a text",
                                  [options] { return run_measure(*options); });
  options->layout.add_to(arguments);
  arguments.heading("Report");
  arguments.flag("--json", options->json, "One JSON document on standard output");
  arguments.example("Example: grafema measure DejaVuSans.ttf --size 32 --text \"4 Lantern\" --json");
}

}  // namespace grafema::tool
