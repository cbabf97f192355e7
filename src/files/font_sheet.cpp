// SPDX-License-Identifier: MIT
// Loads sheets of drawn characters and their descriptions.
#include <fmt/format.h>

#include <filesystem>

#include "files/json.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/files.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema {
namespace {

using detail::Fields;
using detail::Json;

constexpr int kNewestVersion = 1;

std::u32string to_characters(const std::string& text) {
  std::vector<char32_t> characters;
  add_characters(text, characters);
  return {characters.begin(), characters.end()};
}

void read_names(const Json& object, FaceNames& names, Fields& outer) {
  Fields fields(object);
  names.family = fields.text("family");
  names.style = fields.text("style", "Regular");
  names.version = fields.text("version", "Version 1.0");
  names.copyright = fields.text("copyright");
  names.license = fields.text("license");
  names.license_url = fields.text("license_url");
  if (fields.error() || names.family.empty()) outer.fail_at("names", "texts, among them a family");
}

/// `"AV": -2`: two characters and quarter pixels.
void read_kerning(const Json& object, PixelSheet& sheet, Fields& outer) {
  for (const auto& [key, value] : object.items()) {
    const std::u32string pair = to_characters(key);
    if (pair.size() != 2 || !value.is_number()) {
      outer.fail_at("kerning", "pairs of two characters and a number of quarter pixels");
      return;
    }
    sheet.kerning.push_back({pair[0], pair[1], value.get<float>()});
  }
}

Result<PixelSheet> read_description(const Json& document, Notes* notes) {
  Fields fields(document);
  constexpr std::string_view kKnown[] = {"format",   "version",      "cell",  "rows",   "missing", "baseline",
                                         "ascender", "side_bearing", "space", "weight", "names",   "kerning"},
                             kNames[] = {"family", "style", "version", "copyright", "license", "license_url"};
  detail::note_unknown_fields(document, kKnown, "the description", notes);
  if (document.contains("names")) detail::note_unknown_fields(document["names"], kNames, "'names'", notes);
  for (const char* name : {"cell", "rows", "baseline", "names"}) fields.require(name);
  if (fields.text("format") != "grafema-font-sheet") fields.fail_at("format", "\"grafema-font-sheet\"");
  if (fields.whole("version", 1) > kNewestVersion) fields.fail_at("version", "version 1");
  PixelSheet sheet;
  std::tie(sheet.cell_width, sheet.cell_height) = fields.pair("cell", {8, 12});
  if (const Json* rows = fields.array("rows")) {
    for (const Json& row : *rows) {
      if (!row.is_string()) fields.fail_at("rows", "a text for each row of cells");
      sheet.rows.push_back(row.is_string() ? to_characters(row.get<std::string>()) : std::u32string{});
    }
  }
  std::tie(sheet.missing_column, sheet.missing_row) = fields.pair("missing", {-1, -1});
  sheet.baseline = fields.whole("baseline", sheet.baseline);
  sheet.ascender = fields.whole("ascender", sheet.ascender);
  std::tie(sheet.left_bearing, sheet.right_bearing) = fields.pair("side_bearing", {0, 1});
  sheet.space = fields.whole("space", sheet.space);
  sheet.weight_class = static_cast<std::uint16_t>(std::clamp(fields.whole("weight", 400), 1, 1000));
  if (const Json* names = fields.object("names")) read_names(*names, sheet.names, fields);
  if (const Json* kerning = fields.object("kerning")) read_kerning(*kerning, sheet, fields);
  if (fields.error()) return fail(*fields.error());
  return sheet;
}

}  // namespace

Result<PixelSheet> read_font_sheet(Image picture, std::string_view description, Notes* notes) {
  const Result<Json> document = detail::read_json(description);
  if (!document) return fail(document.error());
  Result<PixelSheet> sheet = read_description(*document, notes);
  if (sheet) sheet->sheet = std::move(picture);
  return sheet;
}

FileResult<PixelSheet> load_font_sheet(const std::string& png_path, Notes* notes) {
  const std::string json_path = std::filesystem::path(png_path).replace_extension(".json").string();
  FileResult<Image> image = load_png(png_path);
  if (!image) return tl::unexpected(image.error());
  const FileResult<std::string> text = load_text(json_path);
  if (!text) return tl::unexpected(text.error());
  Result<PixelSheet> sheet = read_font_sheet(*std::move(image), *text, notes);
  if (!sheet) return tl::unexpected<FileError>({sheet.error(), json_path});
  return *std::move(sheet);
}

}  // namespace grafema
