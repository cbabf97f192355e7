// SPDX-License-Identifier: MIT
// grafema specimen: a picture to choose a face by.
#include "grafema/sheet/specimen.hpp"

#include <fmt/format.h>

#include <map>

#include "grafema/sheet/face_rows.hpp"
#include "options/options.hpp"
#include "reports/json_lines.hpp"

namespace grafema::tool {
namespace {

constexpr std::size_t kMaxColumns = 4;

struct SpecimenCommand {
  FontOptions fonts;
  std::string text, sizes, height = "18", output;
  bool rows = false, json = false;
};

/// Pages of rows: `faces.png`, or `faces-1.png` and so on where one is not enough.
void save_rows(std::span<const std::shared_ptr<const Face>> faces, const SpecimenCommand& options) {
  FaceRowsOptions rows;
  if (!options.text.empty()) rows.text = options.text;
  rows.letter_height = to_number(options.height, "--letter-height", 4, 100);
  const std::size_t pages = count_face_pages(faces.size(), rows);
  const std::string stem = options.output.substr(0, options.output.size() - std::string_view(".png").size());
  for (std::size_t page = 0; page < pages; ++page) {
    const std::string path = pages == 1 ? options.output : fmt::format("{}-{}.png", stem, page + 1);
    value_or_give_up(save_png(path, value_or_give_up(draw_face_rows(faces, rows, page))));
  }
}

/// The glyphs of each face with their names and characters.
void print_glyphs(const std::vector<LoadedFace>& faces) {
  Json document = {{"faces", Json::array()}};
  for (const LoadedFace& loaded : faces) {
    const Face& face = *loaded.face;
    std::map<GlyphId, std::vector<std::uint32_t>> characters;
    for (const auto& [character, glyph] : face.characters()) characters[glyph].push_back(character);
    Json row = {{"family", face.names().family},
                {"style", face.names().style},
                {"file", loaded.path},
                {"glyphs", Json::array()}};
    for (std::uint32_t i = 0; i < face.glyph_count(); ++i) {
      const auto glyph = static_cast<GlyphId>(i);
      row["glyphs"].push_back(
          {{"glyph", i}, {"name", face.glyph_name(glyph)}, {"codepoints", characters[glyph]}});
    }
    document["faces"].push_back(std::move(row));
  }
  fmt::print("{}", to_lines(document));
}

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
  const LoadedFonts fonts = options.fonts.load();
  const auto faces = faces_of(fonts.all);
  if (options.rows || (faces.size() > kMaxColumns && options.sizes.empty())) {
    save_rows(faces, options);
  } else {
    value_or_give_up(save_png(options.output, value_or_give_up(draw_specimen(faces, specimen))));
  }
  if (options.json) print_glyphs(fonts.all);
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
  arguments.flag(
      "--rows", options->rows,
      "A row for each face with small letters of one height, in pages; so are more than four faces "
      "without --sizes");
  arguments.option("--letter-height", options->height, "PX", "How high the small letters of rows are");
  arguments.heading("Output");
  arguments.flag("--json", options->json, "The glyphs of each face with names and code points, as JSON");
  arguments.option("-o,--output", options->output, "PNG",
                   "The PNG to write; rows of several pages are PNG-1.png, PNG-2.png ...", Need::required);
  arguments.example(
      "Example: grafema specimen DejaVuSans.ttf --text \"Ninth Lantern\" --sizes 12,24,48 -o specimen.png");
}

}  // namespace grafema::tool
