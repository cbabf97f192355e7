// SPDX-License-Identifier: MIT
// Pictures, descriptors and sheets on disk. Nothing here throws; outputs are written beside and then renamed.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/base/image.hpp"
#include "grafema/draw/look.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/write/make_font.hpp"

namespace grafema {

/// An error and the file that it stands in.
struct FileError {
  Error error;
  std::string path;
};
template <class T>
using FileResult = tl::expected<T, FileError>;

/// One sentence with the file's absolute path.
GRAFEMA_API std::string describe(const FileError& error);

/// Replaces the file with `bytes`, never leaving half of them: they are written beside and renamed. `-` is
/// standard output. Fails with `file_unwritable`.
GRAFEMA_API FileResult<void> save_file(const std::string& path, std::span<const std::byte> bytes);
GRAFEMA_API FileResult<void> save_text(const std::string& path, std::string_view text);

/// The whole file; `-` is standard input. Fails with `file_unreadable`.
GRAFEMA_API FileResult<std::string> load_text(const std::string& path);

/// PNG (ISO/IEC 15948) of any kind. Gray becomes r8 or r16, color rgb or rgba; palettes and transparent
/// colors are resolved. Fails with `not_an_image` or `damaged`.
GRAFEMA_API Result<Image> read_png(std::span<const std::byte> bytes);
GRAFEMA_API FileResult<Image> load_png(const std::string& path);
GRAFEMA_API Result<std::vector<std::byte>> make_png(const Image& image);
GRAFEMA_API FileResult<void> save_png(const std::string& path, const Image& image);

/// Writes `PREFIX-0.png`, `PREFIX-1.png` ... and then `PREFIX.json` (docs/formats/atlas.md). The paths
/// written. Pages are packed on the workers of `control`, whose progress is told of pages; all are packed
/// before the first is written. Fails with `interrupted`, nothing written, where it says so.
GRAFEMA_API FileResult<std::vector<std::string>> save_atlas(const std::string& prefix, const Atlas& atlas,
                                                            const BakeControl& control = {});

/// Loads a descriptor and the pages beside it. Everything is checked: kinds, sizes, channels and hashes of
/// pages, cells inside them, indices, numbers in range. Fails with `damaged` and the list and row, or as
/// `load_png` does.
GRAFEMA_API FileResult<Atlas> load_atlas(const std::string& path);

/// The same from memory: the descriptor's text and its pages as PNG files, in order. Fails likewise.
GRAFEMA_API Result<Atlas> read_atlas(std::string_view descriptor,
                                     std::span<const std::span<const std::byte>> pages);

/// The atlas as a C++ header without includes beyond `read_atlas`: `NAME::load()` gives it, for games that
/// ship no files. Fails with `bad_value` where `name` is no C++ identifier.
GRAFEMA_API FileResult<void> save_atlas_header(const std::string& path, const std::string& name,
                                               const Atlas& atlas);

/// The loaded atlas; where that failed, the one of Quillmere Dot and a note.
inline std::shared_ptr<const Atlas> or_built_in(FileResult<Atlas> atlas, Notes* notes = nullptr) {
  return atlas ? std::make_shared<const Atlas>(*std::move(atlas))
               : or_built_in(Result<Atlas>(fail(atlas.error().error)), notes);
}

struct NamedLook {
  std::string name;
  Look look;
};
/// Loads all looks of a file (docs/formats/looks.md), those that they are based on resolved. Fails with
/// `damaged` and the look's name.
GRAFEMA_API FileResult<std::vector<NamedLook>> load_looks(const std::string& path);
GRAFEMA_API Result<std::vector<NamedLook>> read_looks(std::string_view text);
/// One look as `FILE#NAME`; the name may be left out where there is one look. Fails with `bad_value` and the
/// nearest name.
GRAFEMA_API FileResult<Look> load_look(const std::string& path_and_name);

/// Loads a sheet of drawn characters: the PNG and the description beside it, same name with .json
/// (docs/formats/font-sheet.md).
GRAFEMA_API FileResult<PixelSheet> load_font_sheet(const std::string& png_path);
/// A sheet from its picture and the text of its description. Fails with `damaged` and the field.
GRAFEMA_API Result<PixelSheet> read_font_sheet(Image picture, std::string_view description);

/// Every character that occurs in the text of a file: in the string values of JSON (.json), in the fields of
/// comma-separated values (.csv), in all of any other. Fails with `bad_text` and the offset where it is not
/// UTF-8.
GRAFEMA_API FileResult<std::vector<char32_t>> load_characters(const std::string& path);

}  // namespace grafema
