// SPDX-License-Identifier: MIT
// Loads what commands need and turns failures into words and exit codes.
#include "common.hpp"

#include <fmt/format.h>

#include <cmath>
#include <cstdio>

#include "grafema/utf8.hpp"

namespace grafema::tool {
namespace {

int exit_for(ErrorKind kind) {
  switch (kind) {
    case ErrorKind::file_unwritable: return bad_output;
    case ErrorKind::forbidden: return answered_no;
    case ErrorKind::bad_value:
    case ErrorKind::does_not_fit: return wrong_usage;
    default: return bad_input;
  }
}

[[noreturn]] void refuse(const char* option, const std::string& expected, const std::string& found) {
  throw Failure{wrong_usage, fmt::format("{}: expected {}, found '{}'", option, expected, found)};
}

}  // namespace

void give_up(const Error& error, const std::string& file) {
  if (file.empty()) throw Failure{exit_for(error.kind), describe(error)};
  give_up(FileError{error, file});
}

void give_up(const FileError& error) {
  // A value that a file holds is the file's fault, not the command line's.
  const int code = exit_for(error.error.kind);
  throw Failure{code == wrong_usage && !error.path.empty() ? int{bad_input} : code, describe(error)};
}

std::vector<LoadedFace> load_faces(const std::vector<std::string>& paths, std::size_t index) {
  std::vector<LoadedFace> faces;
  if (paths.empty()) return {{value_or_give_up(Face::open(built_in_font(), index)), ""}};
  for (const std::string& path : paths) {
    const Result<FontData> data = FontData::read(path);
    if (!data) give_up(FileError{data.error(), path});
    const auto face = Face::open(*data, index);
    if (!face && face.error().kind == ErrorKind::bad_value) throw Failure{wrong_usage, describe(FileError{face.error(), path})};
    if (!face) give_up(FileError{face.error(), path});
    faces.push_back({*face, path});
  }
  return faces;
}

std::vector<std::shared_ptr<const Face>> faces_of(const std::vector<LoadedFace>& loaded) {
  std::vector<std::shared_ptr<const Face>> faces;
  for (const LoadedFace& face : loaded) faces.push_back(face.face);
  return faces;
}

void check_text(const std::string& text, const std::string& what) {
  if (const std::optional<std::size_t> at = find_invalid_utf8(text)) {
    throw Failure{wrong_usage, fmt::format("{} is not UTF-8 at byte {}: found {:02X}; save or type it as UTF-8", what, *at,
                                           static_cast<unsigned char>(text[*at]))};
  }
}

int report(const Notes& notes, bool strict) {
  for (const Note& note : notes.all()) fmt::print(stderr, "note: {}\n", describe(note));
  if (notes.dropped() > 0) fmt::print(stderr, "note: and {} more\n", notes.dropped());
  return strict && !notes.empty() ? answered_no : done;
}

std::vector<std::string> split(const std::string& text, const char* option, std::size_t count) {
  std::vector<std::string> parts(1);
  int depth = 0;  // commas inside rgb() belong to the color
  for (const char c : text) {
    depth += c == '(' ? 1 : c == ')' ? -1 : 0;
    if (c == ',' && depth == 0) {
      parts.emplace_back();
    } else {
      parts.back() += c;
    }
  }
  if (count != 0 && parts.size() != count) refuse(option, fmt::format("{} values with commas between them", count), text);
  return parts;
}

float to_number(const std::string& text, const char* option, float low, float high) {
  const std::string expected = fmt::format("a number from {} to {}", low, high);
  if (text.empty() || text.find_first_not_of("0123456789+-.eE") != std::string::npos) refuse(option, expected, text);
  char* end = nullptr;
  const float value = std::strtof(text.c_str(), &end);
  if (*end != '\0' || !(value >= low && value <= high)) refuse(option, expected, text);
  return value;
}

Color to_color(const std::string& text, const char* option) {
  const Result<Color> color = read_color(text);
  if (!color) refuse(option, color.error().expected, text);
  return *color;
}

PageSize to_size(const std::string& text, const char* option) {
  const std::size_t cross = text.find('x');
  const std::string expected = "WIDTHxHEIGHT in pixels, such as 1280x800";
  if (cross == std::string::npos) refuse(option, expected, text);
  PageSize size;
  size.width = static_cast<int>(to_number(text.substr(0, cross), option, 1, 16384));
  size.height = static_cast<int>(to_number(text.substr(cross + 1), option, 1, 16384));
  return size;
}

}  // namespace grafema::tool
