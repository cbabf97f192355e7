// SPDX-License-Identifier: MIT
// grafema inspect: what a font file holds.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <sstream>

#include "common.hpp"
#include "grafema/unicode_blocks.hpp"

namespace grafema::tool {
namespace {

struct Options {
  std::string path;
  std::optional<std::size_t> face;
  bool json = false;
};

std::string joined(const std::vector<Tag>& tags) {
  std::string text;
  for (const Tag tag : tags) text += fmt::format("{}{}", text.empty() ? "" : " ", to_string(tag));
  return text.empty() ? "none" : text;
}

const char* words_for(Embedding embedding) {
  switch (embedding) {
    case Embedding::installable: return "installable: may be embedded and installed";
    case Embedding::editable: return "editable: may be embedded in documents that can be edited";
    case Embedding::preview: return "preview and print: may be embedded in documents to be read";
    case Embedding::restricted: return "restricted: not without the owner's permission";
  }
  return "";
}

/// One line for each line of the value, the first few of a long one.
void print_row(const char* name, const std::string& value) {
  constexpr std::ptrdiff_t kLines = 4;
  std::istringstream in(value);
  std::ptrdiff_t shown = 0;
  for (std::string line; shown < kLines && std::getline(in, line); ++shown) fmt::print("  {:<14}{}\n", shown == 0 ? name : "", line);
  const std::ptrdiff_t left = std::count(value.begin(), value.end(), '\n') + 1 - shown;
  if (shown == kLines && left > 0) fmt::print("  {:<14}({} lines more; --json has them all)\n", "", left);
}

void print_metrics(const Face& face, const FaceFacts& facts) {
  const LineMetrics m = face.line_metrics();
  print_row("glyphs", fmt::format("{}", facts.glyph_count));
  print_row("em", fmt::format("{} units", face.units_per_em()));
  print_row("line", fmt::format("ascent {}, descent {}, gap {}", m.ascent, m.descent, m.line_gap));
  print_row("heights", fmt::format("capitals {}, small letters {}", facts.cap_height, facts.x_height));
  print_row("weight", fmt::format("{}, width {}{}{}", facts.weight_class, facts.width_class, facts.italic ? ", italic" : "", facts.monospaced ? ", monospaced" : ""));
  if (facts.crisp_size > 0) print_row("crisp at", fmt::format("{} px and its multiples", facts.crisp_size));
}

void print_coverage(const Face& face) {
  fmt::print("  characters    {}\n", face.characters().size());
  for (const BlockCoverage& block : block_coverage(face)) {
    constexpr std::size_t kBarWidth = 20;
    const std::size_t full = block.assigned == 0 ? 0 : block.covered * kBarWidth / block.assigned;
    std::string bar(std::min(full, kBarWidth), '#');
    bar.resize(kBarWidth, '.');
    fmt::print("    {:<40} {} {:>5} of {}\n", block.name, bar, block.covered, block.assigned);
  }
}

void print_face(const Face& face, std::size_t index, std::size_t count) {
  const FaceNames names = face.names();
  const FaceFacts facts = face.facts();
  constexpr const char* kOutlines[] = {"none", "TrueType", "CFF", "CFF2"};
  constexpr const char* kKerning[] = {"none", "kern table", "GPOS"};
  fmt::print("{} {}{}\n", names.family, names.style, count > 1 ? fmt::format("  (face {} of {})", index, count) : "");
  print_row("version", names.version);
  print_row("outlines", kOutlines[static_cast<std::size_t>(facts.outlines)]);
  print_metrics(face, facts);
  print_row("kerning", kKerning[static_cast<std::size_t>(face.kerning_source())]);
  print_row("scripts", joined(face.scripts()));
  print_row("features", joined(face.features()));
  print_row("embedding", words_for(facts.embedding));
  if (facts.bitmap_only) print_row("", "bitmaps only: outlines may not be embedded");
  if (!facts.subsetting) print_row("", "may not be subset");
  print_row("copyright", names.copyright);
  print_row("license", names.license);
  print_row("license at", names.license_url);
  print_coverage(face);
}

int run(const Options& options) {
  FontData data = built_in_font();
  if (!options.path.empty()) {
    const Result<FontData> read = FontData::read(options.path);
    if (!read) give_up(FileError{read.error(), options.path});
    data = *read;
  }
  if (options.json) {
    const std::string file = options.path.empty() ? "built-in" : std::filesystem::path(options.path).filename().string();
    fmt::print("{}", value_or_give_up(inspect_json(data, file), options.path));
    return done;
  }
  const std::size_t count = value_or_give_up(Face::count(data), options.path);
  for (std::size_t i = options.face.value_or(0); i < (options.face ? *options.face + 1 : count); ++i) {
    print_face(*value_or_give_up(Face::open(data, i), options.path), i, count);
  }
  return done;
}

}  // namespace

Registered add_inspect(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("inspect", "What a font file holds: metrics, characters, features, license");
  command->add_option("FONT", options->path, "A font file; none: the built-in Quillmere Dot");
  command->add_option("--face", options->face, "Only this face of a collection, from 0")->type_name("N");
  command->add_flag("--json", options->json, "One JSON document on standard output");
  command->footer("Example: grafema inspect DejaVuSans.ttf --json");
  return {command, [options] { return run(*options); }};
}

}  // namespace grafema::tool
