// SPDX-License-Identifier: MIT
// Loads sheets of painted letters.
#include "grafema/files/painted_letters.hpp"

#include <filesystem>

#include "files/json.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema {
namespace {

using detail::Fields;
using detail::Json;

constexpr int kNewestVersion = 1;

std::vector<char32_t> to_characters(const std::string& text) {
  std::vector<char32_t> characters;
  add_characters(text, characters);
  return characters;
}

/// As rgba8: paint of a picture without alpha covers its whole cell.
Image with_alpha(Image picture) {
  if (picture.format() == PixelFormat::rgba8) return picture;
  Result<Image> made = Image::make(picture.width(), picture.height(), PixelFormat::rgba8);
  if (!made) return {};
  const int channels = channel_count(picture.format()), shift = bits_per_channel(picture.format()) - 8;
  for (int y = 0; y < picture.height(); ++y) {
    std::uint8_t* to = made->row(y);
    for (int x = 0; x < picture.width(); ++x, to += 4) {
      for (int c = 0; c < 4; ++c) {
        to[c] = static_cast<std::uint8_t>(
            c == 3 && channels != 4 ? 255 : picture.value(x, y, channels == 1 ? 0 : c) >> shift);
      }
    }
  }
  return *std::move(made);
}

void read_letter(const Json& row, PaintedLetters& sheet, Fields& outer) {
  Fields fields(row);
  for (const char* name : {"characters", "cell"}) fields.require(name);
  PaintedLetter letter;
  letter.characters = to_characters(fields.text("characters"));
  const Json* cell = fields.array("cell");
  if (cell != nullptr && cell->size() == 4 && std::all_of(cell->begin(), cell->end(), [](const Json& v) {
        return v.is_number_integer() && v >= 0 && v <= 65535;
      })) {
    letter.cell = {(*cell)[0].get<int>(), (*cell)[1].get<int>(), (*cell)[2].get<int>(),
                   (*cell)[3].get<int>()};
  } else {
    fields.fail_at("cell", "x, y, width and height of a cell");
  }
  letter.baseline = static_cast<float>(fields.decimal("baseline", sheet.lines.ascent));
  letter.left = static_cast<float>(fields.decimal("left", 0));
  letter.advance = static_cast<float>(fields.decimal("advance", letter.cell.width + 1));
  if (letter.characters.empty()) fields.fail_at("characters", "one character or more");
  if (fields.error()) outer.fail_at("letters", fields.error()->expected);
  sheet.letters.push_back(std::move(letter));
}

Result<PaintedLetters> read_description(const Json& document) {
  Fields fields(document);
  for (const char* name : {"image", "size", "ascent", "letters"}) fields.require(name);
  if (fields.text("format") != "grafema-painted-letters") {
    fields.fail_at("format", "\"grafema-painted-letters\"");
  }
  if (fields.whole("version", 1) > kNewestVersion) fields.fail_at("version", "version 1");
  PaintedLetters sheet;
  sheet.family = fields.text("family", "Painted letters");
  sheet.copyright = fields.text("copyright");
  sheet.license = fields.text("license");
  sheet.size = static_cast<float>(fields.decimal("size", 0));
  sheet.lines = {static_cast<float>(fields.decimal("ascent", 0)),
                 static_cast<float>(fields.decimal("descent", 0)),
                 static_cast<float>(fields.decimal("line_gap", 0))};
  if (const Json* letters = fields.array("letters")) {
    for (const Json& row : *letters) read_letter(row, sheet, fields);
  }
  if (const Json* kerning = fields.object("kerning")) {
    for (const auto& [key, value] : kerning->items()) {
      const std::vector<char32_t> pair = to_characters(key);
      if (pair.size() != 2 || !value.is_number()) {
        fields.fail_at("kerning", "pairs of two characters and a number of pixels");
        break;
      }
      sheet.kerning.push_back({pair[0], pair[1], value.get<float>()});
    }
  }
  if (fields.error()) return fail(*fields.error());
  return sheet;
}

}  // namespace

bool describes_painted_letters(std::string_view text) {
  const Result<Json> document = detail::read_json(text);
  return document && Fields(*document).text("format") == "grafema-painted-letters";
}

Result<PaintedLetters> read_painted_letters(std::string_view description, Image picture) {
  const Result<Json> document = detail::read_json(description);
  if (!document) return fail(document.error());
  Result<PaintedLetters> sheet = read_description(*document);
  if (sheet) sheet->image = with_alpha(std::move(picture));
  return sheet;
}

FileResult<PaintedLetters> load_painted_letters(const std::string& path) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  const auto refuse = [&path](const Error& error) { return tl::unexpected<FileError>({error, path}); };
  const Result<Json> document = detail::read_json(*text);
  if (!document) return refuse(document.error());
  const std::string image = Fields(*document).text("image");
  // The picture stands beside the description; a name with folders in it could lead anywhere.
  if (image.empty() || image.find_first_of("/\\") != std::string::npos) {
    return refuse(make_error(ErrorKind::damaged, "the name of a picture beside the description", image));
  }
  FileResult<Image> picture = load_png((std::filesystem::path(path).parent_path() / image).string());
  if (!picture) return tl::unexpected(picture.error());
  Result<PaintedLetters> sheet = read_painted_letters(*text, *std::move(picture));
  if (!sheet) return refuse(sheet.error());
  return *std::move(sheet);
}

}  // namespace grafema
