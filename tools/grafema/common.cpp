// SPDX-License-Identifier: MIT
// Loads what commands need and turns failures into words and exit codes.
#include "common.hpp"

#include <fmt/color.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cctype>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <map>

#include "font_sources.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/family_file.hpp"

namespace grafema::tool {
namespace {

int exit_for(ErrorKind kind) {
  switch (kind) {
    case ErrorKind::file_unwritable:
      return bad_output;
    case ErrorKind::forbidden:
      return answered_no;
    case ErrorKind::bad_value:
    case ErrorKind::does_not_fit:
      return wrong_usage;
    default:
      return bad_input;
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

std::string in_color(std::FILE* stream, std::string_view word, fmt::terminal_color color) {
  const char *no_color = std::getenv("NO_COLOR"), *terminal = std::getenv("TERM");
  const bool plain = (no_color != nullptr && *no_color != '\0') || terminal == nullptr ||
                     std::string_view(terminal) == "dumb" || ::isatty(::fileno(stream)) == 0;
  return plain ? std::string(word) : fmt::format(fmt::emphasis::bold | fmt::fg(color), "{}", word);
}

namespace {

std::vector<AxisValue> read_place(const std::string& axes) {
  std::vector<AxisValue> place;
  if (axes.empty()) return place;
  for (const std::string& part : split(axes, "--axes")) {
    const std::size_t equals = part.find('=');
    if (equals == 0 || equals == std::string::npos || equals > 4) {
      refuse("--axes", "axes with values, such as wght=650,wdth=80", part);
    }
    place.push_back(
        {tag(part.substr(0, equals)), to_number(part.substr(equals + 1), "--axes", -32768, 32767)});
  }
  return place;
}

/// `single` gathers the faces of files that were named by themselves.
void add_file(const FoundFont& font, std::size_t index, std::span<const AxisValue> place, LoadedFonts& out,
              std::vector<std::shared_ptr<const Face>>& single) {
  const auto face = Face::open(font.data, index, place, &out.notes);
  if (!face && face.error().kind == ErrorKind::bad_value) {
    throw Failure{wrong_usage, describe(FileError{face.error(), font.path})};
  }
  if (!face) give_up(FileError{face.error(), font.path});
  out.faces.push_back({*face, font.path});
  single.push_back(*face);
}

/// Of a folder or archive: each family's regular face, families in the order of their files.
void add_families(const FontSource& source, std::span<const AxisValue> place, LoadedFonts& out) {
  std::vector<std::shared_ptr<const Face>> all;
  std::map<const Face*, std::string> paths;
  for (const FoundFont& font : source.fonts) {
    const Result<std::size_t> count = Face::count(font.data);
    for (std::size_t i = 0; count && i < *count; ++i) {
      const auto face = Face::open(font.data, i);
      if (!face) continue;
      all.push_back(*face);
      paths[face->get()] = font.path;
    }
  }
  for (const Family& family : gather_families(all)) {
    out.book.add(family);
    const std::shared_ptr<const Face> regular = family.find(FaceStyle{});
    const auto path = paths.find(regular.get());
    out.faces.push_back({place.empty() ? regular : regular->instance(place),
                         path == paths.end() ? family.name() : path->second});
  }
}

}  // namespace

LoadedFonts load_fonts(const std::vector<std::string>& paths, std::size_t index, const std::string& axes) {
  LoadedFonts out;
  const std::vector<AxisValue> place = read_place(axes);
  std::vector<std::shared_ptr<const Face>> single;
  if (paths.empty()) out.faces.push_back({value_or_give_up(Face::open(built_in_font(), index)), ""});
  for (const std::string& path : paths) {
    if (path == "built-in:sans" || path == "built-in:dot") {
      add_file({path, path == "built-in:sans" ? built_in_sans_font() : built_in_font()}, index, place, out,
               single);
      continue;
    }
    if (is_family_file(path)) {
      const std::size_t hash = path.find('#');
      const FamilySet set = value_or_give_up(load_families(path.substr(0, hash), &out.notes));
      const FontStack stack = make_stack(set, hash == std::string::npos ? "Regular" : path.substr(hash + 1));
      const FontBook book = make_book(set);
      for (std::size_t i = 0; i < book.families().size(); ++i)
        out.book.add(book.families()[i], i < set.fallback_count);
      for (const auto& metrics : stack) out.faces.push_back({metrics->face()->shared_from_this(), path});
      out.match_x_height = out.match_x_height || set.match_x_height;
      continue;
    }
    const FontSource source = open_source(path);
    if (source.several) {
      add_families(source, place, out);
    } else {
      add_file(source.fonts[0], index, place, out, single);
    }
  }
  for (Family& family : gather_families(single)) out.book.add(std::move(family));
  return out;
}

FontStack stack_of(const LoadedFonts& fonts) {
  FontStack stack;
  for (const LoadedFace& loaded : fonts.faces) stack.add(loaded.face);
  if (fonts.match_x_height) match_x_heights(stack);
  return stack;
}

std::vector<std::shared_ptr<const Face>> faces_of(const std::vector<LoadedFace>& loaded) {
  std::vector<std::shared_ptr<const Face>> faces;
  for (const LoadedFace& face : loaded) faces.push_back(face.face);
  return faces;
}

void check_text(const std::string& text, const std::string& what) {
  if (const std::optional<std::size_t> at = find_invalid_utf8(text)) {
    throw Failure{wrong_usage,
                  fmt::format("{} is not UTF-8 at byte {}: found {:02X}; save or type it as UTF-8", what, *at,
                              static_cast<unsigned char>(text[*at]))};
  }
}

std::string unescaped(const std::string& text, const char* option) {
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] != '\\') {
      out += text[i];
      continue;
    }
    const char next = ++i < text.size() ? text[i] : '\0';
    if (next != 'n' && next != 't' && next != '\\') {
      throw Failure{wrong_usage, fmt::format("{}: expected \\n, \\t or \\\\ at byte {}, found '\\{}'", option,
                                             i - 1, next == '\0' ? "" : text.substr(i, 1))};
    }
    out += next == 'n' ? '\n' : next == 't' ? '\t' : '\\';
  }
  return out;
}

PixelPoint to_place(const std::string& text, const char* option) {
  constexpr std::pair<std::string_view, PixelPoint> kWords[] = {{"left", {0, -1}},    {"right", {1, -1}},
                                                                {"top", {-1, 0}},     {"bottom", {-1, 1}},
                                                                {"center", {-1, -1}}, {"middle", {-1, -1}}};
  const std::string expected = "two fractions such as 0.5,1, or words such as center, top-left, bottom";
  const auto word = [&](std::string_view part) -> const PixelPoint* {
    for (const auto& [name, place] : kWords) {
      if (name == part) return &place;
    }
    return nullptr;
  };
  const bool has_letters = text.find_first_of("abcdefghijklmnopqrstuvwxyz") != std::string::npos &&
                           text.find_first_not_of("+-.,0123456789eE") != std::string::npos;
  if (!has_letters) {
    const auto parts = split(text, option, 2);
    return {to_number(parts[0], option, -1000, 1000), to_number(parts[1], option, -1000, 1000)};
  }
  PixelPoint out{0.5F, 0.5F};
  std::size_t at = 0, count = 0;
  while (at <= text.size()) {
    const std::size_t end = std::min(text.find_first_of(",- ", at), text.size());
    const PixelPoint* place = word(std::string_view(text).substr(at, end - at));
    if (place == nullptr || ++count > 2) refuse(option, expected, text);
    if (place->x >= 0) out.x = place->x;
    if (place->y >= 0) out.y = place->y;
    at = end + 1;
  }
  return out;
}

void check_output(const std::string& path, std::initializer_list<std::string_view> endings) {
  namespace fs = std::filesystem;
  if (path == "-") {
    if (::isatty(STDOUT_FILENO) == 0) return;
    throw Failure{wrong_usage, "standard output is a terminal; name a file, or lead it into a pipe"};
  }
  std::error_code none;
  if (fs::exists(path, none) && !fs::is_regular_file(path, none)) return;  // a device or pipe has any name
  std::string name = fs::path(path).filename().string(), known;
  for (char& c : name) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c;
  for (const std::string_view ending : endings) {
    if (name.ends_with(ending)) return make_folder_of(path);
    known += (known.empty() ? "" : " or ") + std::string(ending);
  }
  throw Failure{wrong_usage, fmt::format("-o: expected a name that ends in {}, found '{}'", known, path)};
}

namespace {

/// Folders that this run made, the outermost first.
std::vector<std::filesystem::path> made_folders;

}  // namespace

void remove_made_folders() {
  std::error_code not_empty;
  for (auto at = made_folders.rbegin(); at != made_folders.rend(); ++at)
    std::filesystem::remove(*at, not_empty);
}

void make_folder_of(const std::string& prefix) {
  namespace fs = std::filesystem;
  const fs::path folder = fs::path(prefix).parent_path();
  std::error_code problem;
  std::vector<fs::path> missing;
  for (fs::path at = folder; !at.empty() && !fs::exists(at, problem); at = at.parent_path())
    missing.push_back(at);
  made_folders.insert(made_folders.end(), missing.rbegin(), missing.rend());
  if (!folder.empty()) fs::create_directories(folder, problem);
  if (problem)
    throw Failure{bad_output, fmt::format("{} can't be made: {}", folder.string(), problem.message())};
}

int report(const Notes& notes, bool strict) {
  const std::string word = in_color(stderr, "note:", fmt::terminal_color::yellow);
  for (const Note& note : notes.all()) fmt::print(stderr, "{} {}\n", word, describe(note));
  if (notes.dropped() > 0) fmt::print(stderr, "{} and {} more\n", word, notes.dropped());
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
  if (count != 0 && parts.size() != count) {
    refuse(option, fmt::format("{} values with commas between them", count), text);
  }
  return parts;
}

float to_number(const std::string& text, const char* option, float low, float high) {
  std::string expected = fmt::format("a number from {} to {}", low, high);
  const std::size_t unit = text.find_first_not_of("0123456789+-.");
  if (unit > 0 && unit != std::string::npos && unit < text.size() &&
      (text[unit] == '%' || std::isalpha(static_cast<unsigned char>(text[unit])) != 0)) {
    expected += " without a unit (sizes and lengths are pixels)";
  }
  if (text.empty() || text.find_first_not_of("0123456789+-.eE") != std::string::npos) {
    refuse(option, expected, text);
  }
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
