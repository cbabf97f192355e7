// SPDX-License-Identifier: MIT
// Loads what commands need and turns failures into words and exit codes.
#include "common.hpp"

#include <fmt/color.h>
#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <filesystem>

#include "grafema/base/utf8.hpp"

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

}  // namespace

LoadedFonts load_fonts(const std::vector<std::string>& paths, std::size_t index, const std::string& axes) {
  LoadedFonts out;
  const FaceChoice choice{index, read_place(axes)};
  std::vector<std::shared_ptr<const Face>> single;
  for (const std::string& path : paths.empty() ? std::vector<std::string>{"built-in:dot"} : paths) {
    FileResult<FamilySet> loaded = grafema::load_fonts(path, &out.notes, choice);
    if (!loaded && loaded.error().error.kind == ErrorKind::bad_value) {
      throw Failure{wrong_usage, describe(loaded.error())};
    }
    const FamilySet set = value_or_give_up(std::move(loaded));
    out.match_x_height = out.match_x_height || set.match_x_height;
    const bool styled = path_of(path) != path;
    for (std::size_t i = 0; i < set.families.size(); ++i) {
      const Family& family = set.families[i];
      for (const Family::Member& member : family.members()) {
        if (!styled) out.all.push_back({member.face, member.file});
      }
      const bool alone = set.families.size() == 1 && family.members().size() == 1;
      if (alone) single.push_back(family.members()[0].face);
      if (!alone) out.book.add(family, i < set.fallback_count);
      if (i >= set.fallback_count) continue;
      std::shared_ptr<const Face> face = family.find(std::string_view(set.style));
      const auto member = std::find_if(family.members().begin(), family.members().end(),
                                       [&](const Family::Member& m) { return m.face == face; });
      const bool is_variable = member == family.members().end();
      if (!choice.place.empty() && !alone && !styled) face = face->instance(choice.place);
      out.faces.push_back({std::move(face), is_variable ? family.members()[0].file : member->file});
      if (styled) out.all.push_back(out.faces.back());
    }
  }
  for (Family& family : gather_families(single)) out.book.add(std::move(family));
  return out;
}

std::string path_of(const std::string& font) {
  std::error_code unknown;
  return font.substr(0, std::filesystem::exists(font, unknown) ? std::string::npos : font.rfind('#'));
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
