// SPDX-License-Identifier: MIT
// What all subcommands share: exit codes, messages, loading of faces and texts.
#pragma once

#include <fmt/color.h>

#include <cstdio>
#include <functional>
#include <initializer_list>
#include <memory>
#include <string>
#include <vector>

#include "failure.hpp"
#include "grafema/base/color.hpp"
#include "grafema/files/files.hpp"
#include "grafema/files/font_sources.hpp"
#include "options/arguments.hpp"

namespace grafema::tool {

/// The failure for an error that `file` (may be empty) is to blame for.
[[noreturn]] void give_up(const Error& error, const std::string& file = {});
[[noreturn]] void give_up(const FileError& error);

template <class T>
T value_or_give_up(Result<T> result, const std::string& file = {}) {
  if (!result) give_up(result.error(), file);
  if constexpr (!std::is_void_v<T>) return *std::move(result);
}
template <class T>
T value_or_give_up(FileResult<T> result) {
  if (!result) give_up(result.error());
  if constexpr (!std::is_void_v<T>) return *std::move(result);
}

/// A word for a terminal in color; as it is where the stream is none, or NO_COLOR or TERM=dumb ask for it.
std::string in_color(std::FILE* stream, std::string_view word, fmt::terminal_color color);

/// A face and where it came from.
struct LoadedFace {
  std::shared_ptr<const Face> face;
  std::string path;  ///< empty for the built-in one
};

/// The faces of FONT...: files, folders, archives, family files, installed families.
struct LoadedFonts {
  std::vector<LoadedFace> faces;  ///< in fallback order, at least one
  std::vector<LoadedFace> all;    ///< every face of every FONT; of FONT#STYLE the faces of that style
  bool match_x_height = false;
  FontBook book;  ///< families of all faces, those that were passed over in `faces` included
  Notes notes;
};

/// Opens them in order, `index` being the face of each file and `axes` the place of variable ones
/// ("wght=650"); the built-in face where there are none.
LoadedFonts load_fonts(const std::vector<std::string>& paths, std::size_t index, const std::string& axes);
/// The file or folder that FONT names, without #STYLE.
std::string path_of(const std::string& font);
FontStack stack_of(const LoadedFonts& fonts);
std::vector<std::shared_ptr<const Face>> faces_of(const std::vector<LoadedFace>& loaded);

/// Refuses text that is not UTF-8; `what` names the option.
void check_text(const std::string& text, const std::string& what);

/// The text with `\n`, `\t` and `\\` as a newline, a tab and a backslash; refuses any other escape.
std::string unescaped(const std::string& text, const char* option);

/// A point of a box in fractions: `0.5,1`, or words: `center`, `top-left`, `left,bottom`.
PixelPoint to_place(const std::string& text, const char* option);

/// Refuses an output before any work is done: a name that ends otherwise than in one of `endings`, pictures
/// and fonts into a terminal. Makes its folder.
void check_output(const std::string& path, std::initializer_list<std::string_view> endings);
/// Makes the folder of files whose names begin with `prefix`, where it is not there.
void make_folder_of(const std::string& prefix);
/// After a failure: removes the folders that `make_folder_of` made, if nothing is in them.
void remove_made_folders();

/// Prints notes on standard error. The exit code: 1 where there is one and `strict` is set.
int report(const Notes& notes, bool strict);

/// Reads `1,2.5,#fff` into parts; `count` of them are expected, or any number where it is 0.
std::vector<std::string> split(const std::string& text, const char* option, std::size_t count = 0);
float to_number(const std::string& text, const char* option, float low, float high);
Color to_color(const std::string& text, const char* option);
/// `1280x800`
PageSize to_size(const std::string& text, const char* option);

// Each adds one subcommand.
void add_inspect(CommandLine& line);
void add_missing(CommandLine& line);
void add_specimen(CommandLine& line);
void add_bake(CommandLine& line);
void add_repaint(CommandLine& line);
void add_measure(CommandLine& line);
void add_contours(CommandLine& line);
void add_extrude(CommandLine& line);
void add_looks(CommandLine& line);
void add_messages(CommandLine& line);
void add_draw(CommandLine& line);
void add_view(CommandLine& line);  ///< only where there is OpenGL
void add_make_font(CommandLine& line);
void add_subset(CommandLine& line);
void add_demo(CommandLine& line);

}  // namespace grafema::tool
