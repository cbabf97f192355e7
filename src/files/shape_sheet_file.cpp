// SPDX-License-Identifier: MIT
// Loads drawings in SVG files and their description.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "files/font_description.hpp"
#include "grafema/files/svg_drawings.hpp"

namespace grafema {
namespace {

using detail::Fields;
using detail::Json;

void read_styles(const Json& list, ShapeSheet& sheet, Fields& outer) {
  sheet.styles.clear();
  for (const Json& one : list) {
    if (!one.is_object())
      return outer.fail_at("styles", "objects with 'name', 'weight', 'pen', 'widen', 'bearings'");
    Fields fields(one);
    SheetStyle style;
    style.name = fields.text("name", "Regular");
    style.weight_class = static_cast<std::uint16_t>(std::clamp(fields.whole("weight", 400), 1, 1000));
    style.pen = static_cast<float>(fields.decimal("pen", 1));
    style.widen = static_cast<float>(fields.decimal("widen", 1));
    style.bearings = static_cast<float>(fields.decimal("bearings", 1));
    if (fields.error())
      return outer.fail_at("styles", "a name, and numbers for weight, pen, widen and bearings");
    sheet.styles.push_back(std::move(style));
  }
  if (sheet.styles.empty()) outer.fail_at("styles", "at least one style");
}

std::vector<float> read_numbers(const Json* list, const char* name, Fields& outer) {
  std::vector<float> numbers;
  if (list == nullptr) return numbers;
  for (const Json& one : *list) {
    if (!one.is_number()) {
      outer.fail_at(name, "numbers");
      break;
    }
    numbers.push_back(one.get<float>());
  }
  return numbers;
}

/// The files of drawings of a folder, in the order of their names.
std::vector<std::filesystem::path> list_files(const std::string& folder) {
  std::vector<std::filesystem::path> files;
  std::error_code error;
  for (auto at = std::filesystem::directory_iterator(folder, error);
       !error && at != std::filesystem::directory_iterator(); at.increment(error)) {
    if (at->path().extension() == ".svg") files.push_back(at->path());
  }
  std::sort(files.begin(), files.end());
  return files;
}

FileResult<void> add_file(const std::string& path, SvgSheet kind, const std::string& name,
                          ShapeSheet& sheet) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  Result<std::vector<CharacterDrawing>> drawings = read_svg_drawings(*text, kind, name);
  if (!drawings) return tl::unexpected<FileError>({drawings.error(), path});
  for (CharacterDrawing& drawing : *drawings) sheet.drawings.push_back(std::move(drawing));
  return {};
}

}  // namespace

Result<ShapeSheet> read_shape_description(std::string_view description, Notes* notes) {
  const Result<Json> document = detail::read_json(description);
  if (!document) return fail(document.error());
  Fields fields(*document);
  constexpr std::string_view kOwn[] = {"em",       "units_per_em", "baseline", "ascent", "descent",
                                       "line_gap", "heights",      "styles",   "color"};
  detail::check_description(*document, kOwn, fields, notes);
  ShapeSheet sheet;
  sheet.names = detail::read_font_names(fields, *document, notes);
  const int units = fields.whole("units_per_em", 1000);
  if (units < 16 || units > 16384) fields.fail_at("units_per_em", "16 to 16384");
  sheet.units_per_em = static_cast<std::uint16_t>(std::clamp(units, 16, 16384));
  const auto decimal = [&fields](const char* name, double fallback) {
    return static_cast<float>(fields.decimal(name, fallback));
  };
  sheet.em = decimal("em", 1000);
  if (!(sheet.em > 0)) fields.fail_at("em", "a number above 0");
  sheet.baseline = decimal("baseline", 0);
  sheet.ascent = decimal("ascent", sheet.em * 0.8), sheet.descent = decimal("descent", sheet.em * 0.2);
  sheet.line_gap = decimal("line_gap", 0), sheet.space = decimal("space", sheet.em * 0.25);
  const std::vector<float> bearings = read_numbers(fields.array("side_bearing"), "side_bearing", fields);
  if (bearings.size() == 2) sheet.left_bearing = bearings[0], sheet.right_bearing = bearings[1];
  if (bearings.empty()) sheet.left_bearing = sheet.right_bearing = sheet.em * 0.05F;
  if (bearings.size() == 1 || bearings.size() > 2) fields.fail_at("side_bearing", "two numbers");
  sheet.heights = read_numbers(fields.array("heights"), "heights", fields);
  sheet.styles[0].name = sheet.names.style;
  sheet.styles[0].weight_class = static_cast<std::uint16_t>(std::clamp(fields.whole("weight", 400), 1, 1000));
  if (const Json* styles = fields.array("styles")) read_styles(*styles, sheet, fields);
  sheet.color = fields.flag("color", false);
  sheet.kerning = detail::read_pairs(fields);
  sheet.rules = detail::read_font_rules(fields);
  if (fields.error()) return fail(*fields.error());
  return sheet;
}

FileResult<ShapeSheet> load_shape_sheet(const std::vector<std::string>& paths, Notes* notes) {
  if (paths.empty()) return ShapeSheet{};
  const std::filesystem::path first(paths[0]);
  const std::string json_path = std::filesystem::path(first.has_filename() ? first : first.parent_path())
                                    .replace_extension(".json")
                                    .string();
  const FileResult<std::string> description = load_text(json_path);
  if (!description) return tl::unexpected(description.error());
  Result<ShapeSheet> sheet = read_shape_description(*description, notes);
  if (!sheet) return tl::unexpected<FileError>({sheet.error(), json_path});
  for (const std::string& path : paths) {
    std::error_code error;
    if (!std::filesystem::is_directory(path, error)) {
      if (FileResult<void> added = add_file(path, SvgSheet::groups, {}, *sheet); !added)
        return tl::unexpected(added.error());
      continue;
    }
    for (const std::filesystem::path& file : list_files(path)) {
      if (FileResult<void> added = add_file(file.string(), SvgSheet::whole, file.stem().string(), *sheet);
          !added)
        return tl::unexpected(added.error());
    }
  }
  if (sheet->drawings.empty())
    return tl::unexpected<FileError>(
        {make_error(ErrorKind::damaged, "at least one drawing", "none"), paths[0]});
  return *std::move(sheet);
}

}  // namespace grafema
