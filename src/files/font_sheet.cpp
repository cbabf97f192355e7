// SPDX-License-Identifier: MIT
// Loads sheets of drawn characters and their descriptions.
#include <fmt/format.h>

#include <filesystem>

#include "files/font_description.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

using detail::Fields;
using detail::Json;

void read_blocks(const Json& list, PixelSheet& sheet, Fields& outer) {
  for (const Json& one : list) {
    if (!one.is_object()) return outer.fail_at("blocks", "objects with 'at', 'cell', 'baseline' and 'rows'");
    Fields fields(one);
    for (const char* name : {"at", "cell", "baseline", "rows"}) fields.require(name);
    PixelBlock block;
    std::tie(block.x, block.y) = fields.pair("at", {0, 0});
    std::tie(block.cell_width, block.cell_height) = fields.pair("cell", {8, 12});
    block.baseline = fields.whole("baseline", 9);
    if (const Json* rows = fields.array("rows")) {
      for (const Json& row : *rows) {
        if (!row.is_string()) return outer.fail_at("blocks", "a text for each row of cells");
        block.rows.push_back(detail::to_characters(row.get<std::string>()));
      }
    }
    if (fields.error()) return outer.fail_at("blocks", "'at', 'cell', 'baseline' and 'rows' of each");
    sheet.blocks.push_back(std::move(block));
  }
}

Result<PixelSheet> read_description(const Json& document, Notes* notes) {
  Fields fields(document);
  constexpr std::string_view kOwn[] = {"cell", "rows", "missing", "baseline", "ascender", "color", "blocks"};
  detail::check_description(document, kOwn, fields, notes);
  for (const char* name : {"cell", "rows", "baseline"}) fields.require(name);
  PixelSheet sheet;
  std::tie(sheet.cell_width, sheet.cell_height) = fields.pair("cell", {8, 12});
  if (const Json* rows = fields.array("rows")) {
    for (const Json& row : *rows) {
      if (!row.is_string()) fields.fail_at("rows", "a text for each row of cells");
      sheet.rows.push_back(row.is_string() ? detail::to_characters(row.get<std::string>())
                                           : std::u32string{});
    }
  }
  if (const Json* blocks = fields.array("blocks")) read_blocks(*blocks, sheet, fields);
  sheet.color = fields.flag("color", false);
  std::tie(sheet.missing_column, sheet.missing_row) = fields.pair("missing", {-1, -1});
  sheet.baseline = fields.whole("baseline", sheet.baseline);
  sheet.ascender = fields.whole("ascender", sheet.ascender);
  std::tie(sheet.left_bearing, sheet.right_bearing) = fields.pair("side_bearing", {0, 1});
  sheet.space = fields.whole("space", sheet.space);
  sheet.weight_class = static_cast<std::uint16_t>(std::clamp(fields.whole("weight", 400), 1, 1000));
  sheet.names = detail::read_font_names(fields, document, notes);
  sheet.kerning = detail::read_pairs(fields);
  sheet.rules = detail::read_font_rules(fields);
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
