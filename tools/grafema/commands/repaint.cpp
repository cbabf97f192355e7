// SPDX-License-Identifier: MIT
// grafema repaint: pages that were painted in an image editor become an atlas again.
#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "common.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/painted_letters.hpp"

namespace grafema::tool {
namespace {

struct RepaintOptions {
  std::string input, output;
  std::vector<std::string> painted;
  long enlarge = 1, guide_times = 4;
  bool guide = false, quiet = false;
};

/// A picture in the place of a page, and its file.
struct LoadedPage {
  std::size_t page = 0;
  std::string path;
  Image image;
};

/// `0=EDITED.png`, or the picture alone for an atlas of one page. Refuses a picture of another size.
LoadedPage load_page(const std::string& text, const Atlas& atlas) {
  const std::size_t equals = text.find('=');
  const bool numbered = equals != 0 && equals != std::string::npos && equals <= 5 &&
                        text.find_first_not_of("0123456789") == equals;
  if (!numbered && atlas.pages.size() != 1) {
    throw Failure{wrong_usage,
                  fmt::format("--painted: expected the number of a page and a picture, such as 0=EDITED.png "
                              "(the atlas has {} pages), found '{}'",
                              atlas.pages.size(), text)};
  }
  LoadedPage out{numbered ? static_cast<std::size_t>(std::stoul(text.substr(0, equals))) : 0,
                 numbered ? text.substr(equals + 1) : text,
                 {}};
  out.image = value_or_give_up(load_png(out.path));
  if (out.page >= atlas.pages.size()) return out;
  const Image& page = atlas.pages[out.page].image;
  if (page.width() != out.image.width() || page.height() != out.image.height()) {
    give_up(make_error(ErrorKind::damaged, "a picture of the page's size",
                       fmt::format("{} x {}, the page has {} x {}", out.image.width(), out.image.height(),
                                   page.width(), page.height())),
            out.path);
  }
  return out;
}

std::string name_of(const AtlasGlyph& glyph) {
  if (glyph.codepoints.empty()) return fmt::format("glyph {}", index_of(glyph.glyph));
  std::string text;
  append_utf8(text, glyph.codepoints.front());
  return fmt::format("U+{:04X} '{}'", static_cast<std::uint32_t>(glyph.codepoints.front()), text);
}

Atlas open(const std::string& path) {
  const std::string text = value_or_give_up(load_text(path));
  if (!describes_painted_letters(text)) return value_or_give_up(load_atlas(path));
  return value_or_give_up(make_atlas(value_or_give_up(load_painted_letters(path))), path);
}

/// A line for each glyph beside which paint lies, or one for each page where those are many.
void print_spills(const Repainted& made) {
  constexpr std::size_t kFew = 8;
  std::map<std::size_t, std::vector<SpilledPaint>> by_page;
  for (const SpilledPaint& spill : made.spills)
    by_page[made.atlas.glyphs[spill.glyph].page.value_or(0)].push_back(spill);
  for (const auto& [page, spills] : by_page) {
    if (spills.size() > kFew) {
      int pixels = 0;
      for (const SpilledPaint& spill : spills) pixels += spill.pixels;
      fmt::print(
          stderr,
          "spilled: {} cells of page {}, glyphs {} to {}, are painted beyond their edge, {} pixels in all: "
          "was the picture saved without transparency?\n",
          spills.size(), page, spills.front().glyph, spills.back().glyph, pixels);
      continue;
    }
    for (const SpilledPaint& spill : spills) {
      const AtlasGlyph& glyph = made.atlas.glyphs[spill.glyph];
      fmt::print(
          stderr,
          "spilled: {} pixel{} of paint outside the cell of {} at {},{} of page {}; they will not be shown\n",
          spill.pixels, spill.pixels == 1 ? "" : "s", name_of(glyph), glyph.cell.x, glyph.cell.y, page);
    }
  }
}

int run_repaint(const RepaintOptions& options) {
  make_folder_of(options.output);
  Atlas atlas = open(options.input);
  if (options.enlarge != 1) atlas = value_or_give_up(enlarged(atlas, static_cast<int>(options.enlarge)));
  std::vector<PaintedPage> pages;
  for (const std::string& text : options.painted) {
    LoadedPage page = load_page(text, atlas);
    pages.push_back({page.page, std::move(page.image)});
  }
  const Repainted made = value_or_give_up(repaint(atlas, std::move(pages)));
  std::vector<std::string> paths = value_or_give_up(save_atlas(options.output, made.atlas));
  for (std::size_t i = 0; i < made.pages.size(); ++i) {
    paths.push_back(fmt::format("{}-difference-{}.png", options.output, made.pages[i]));
    value_or_give_up(save_png(paths.back(), made.differences[i]));
  }
  for (std::size_t page = 0; options.guide && page < made.atlas.pages.size(); ++page) {
    paths.push_back(fmt::format("{}-guide-{}.png", options.output, page));
    value_or_give_up(save_png(paths.back(), value_or_give_up(draw_page_guide(
                                                made.atlas, page, static_cast<int>(options.guide_times)))));
  }
  if (!options.quiet) {
    for (const std::string& path : paths) fmt::print("{}\n", path);
  }
  print_spills(made);
  return made.spills.empty() ? done : answered_no;
}

}  // namespace

void add_repaint(CommandLine& line) {
  auto options = std::make_shared<RepaintOptions>();
  Arguments& arguments = line.add("repaint", "Pages painted in an image editor become an atlas again",
                                  [options] { return run_repaint(*options); });
  arguments.input(
      "ATLAS", options->input,
      "A baked atlas of kind coverage or color, or the description of letters painted without a font",
      Need::required);
  arguments.option("-o,--output", options->output, "PREFIX2",
                   "PREFIX2.json and its pages are written, and a picture of what has changed",
                   Need::required);
  arguments.option(
      "--painted", options->painted, "N=PNG",
      "The number of a page and the picture that takes its place; the picture alone where there is "
      "one page");
  arguments.whole("--enlarge", options->enlarge, 1, 4, "N",
                  "2 or 4: pages and cells that much larger first, for a finer brush");
  arguments.flag("--guide", options->guide,
                 "Also a picture of each page with its cells, padding and baselines, to paint by");
  arguments.whole("--guide-times", options->guide_times, 1, 16, "N", "How much that is magnified");
  arguments.flag("--quiet", options->quiet, "Print nothing where all went well");
  arguments.example("Example: grafema repaint out/board.json --painted 0=board-0-painted.png -o out/painted");
}

}  // namespace grafema::tool
