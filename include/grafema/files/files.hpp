// SPDX-License-Identifier: MIT
// Pictures, descriptors and sheets on disk. Nothing here throws; outputs are written beside and then renamed.
#pragma once

#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/base/image.hpp"
#include "grafema/draw/looks.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/write/make_font.hpp"

namespace grafema {

/// An error, and the file that it is about.
struct FileError {
  Error error = {};
  std::string path = {};
};
/// A value, or the error and its file. One that is dropped unread is a warning.
template <class T>
class [[nodiscard]] FileResult : public tl::expected<T, FileError> {
 public:
  using Base = tl::expected<T, FileError>;
  using Base::Base;
  using Base::operator=;
  FileResult() = default;
  FileResult(Base other)
      : Base(std::move(other)) {}  // NOLINT(google-explicit-constructor): they are the same
};

/// One sentence with the file's absolute path.
GRAFEMA_API std::string describe(const FileError& error);

/// Opens a face of a font file; `index` counts the faces of a collection. Fails as FontData::read and
/// Face::open do.
GRAFEMA_API FileResult<std::shared_ptr<const Face>> open_face(const std::string& path, std::size_t index = 0);

/// The opened face; where that failed, the built-in one and a note that says why. Never null.
GRAFEMA_API std::shared_ptr<const Face> or_built_in(const FileResult<std::shared_ptr<const Face>>& face,
                                                    Notes* notes = nullptr);
/// The face of a font file; where it can't be opened, the built-in one and a note that says why. Never null.
GRAFEMA_API std::shared_ptr<const Face> face_or_built_in(const std::string& path, Notes* notes = nullptr);

/// Replaces the file with `bytes`, never leaving half of them: they are written beside and renamed. `-` is
/// standard output. Fails with `file_unwritable`.
GRAFEMA_API FileResult<void> save_file(const std::string& path, std::span<const std::byte> bytes);
GRAFEMA_API FileResult<void> save_text(const std::string& path, std::string_view text);

/// The most bytes of text that `load_text` takes: more than any game's texts, less than fills a memory.
constexpr std::size_t kMaxTextBytes = std::size_t{64} << 20U;

/// The whole file; `-` is standard input. Fails with `file_unreadable`, also where it has more than
/// `max_bytes`.
GRAFEMA_API FileResult<std::string> load_text(const std::string& path, std::size_t max_bytes = kMaxTextBytes);

/// Reads a PNG (ISO/IEC 15948) of any kind. Gray becomes r8 or r16, color becomes rgb or rgba; palettes and
/// transparent colors are resolved. Fails with `not_an_image` or `damaged`.
GRAFEMA_API Result<Image> read_png(std::span<const std::byte> bytes);
GRAFEMA_API FileResult<Image> load_png(const std::string& path);
GRAFEMA_API Result<std::vector<std::byte>> make_png(const Image& image);
GRAFEMA_API FileResult<void> save_png(const std::string& path, const Image& image);

/// Writes `PREFIX-0.png`, `PREFIX-1.png` ... and then `PREFIX.json` (docs/formats/atlas.md), and gives their
/// paths. Pages are compressed on the workers of `control`, whose `progress` counts pages; all are compressed
/// before the first is written. Fails with `interrupted`, nothing written, where `progress` says so, and with
/// `file_unwritable`.
GRAFEMA_API FileResult<std::vector<std::string>> save_atlas(const std::string& prefix, const Atlas& atlas,
                                                            const BakeControl& control = {});

/// Loads a descriptor and the pages beside it. Everything is checked: kinds, sizes, channels and hashes of
/// pages, cells inside them, indices, numbers in range. Fails with `damaged` and the list and row, or as
/// `load_png` does.
GRAFEMA_API FileResult<Atlas> load_atlas(const std::string& path);

/// The same from memory: the text of the descriptor, and its pages as PNG files in their order.
GRAFEMA_API Result<Atlas> read_atlas(std::string_view descriptor,
                                     std::span<const std::span<const std::byte>> pages);

/// Writes the atlas as a C++ header, for games that ship no files: `NAME::load()` gives it back. Fails with
/// `bad_value` where `name` is no C++ identifier.
GRAFEMA_API FileResult<void> save_atlas_header(const std::string& path, const std::string& name,
                                               const Atlas& atlas);

/// The loaded atlas; where that failed, the one of Quillmere Dot and a note.
inline std::shared_ptr<const Atlas> or_built_in(FileResult<Atlas> atlas, Notes* notes = nullptr) {
  return atlas ? std::make_shared<const Atlas>(*std::move(atlas))
               : or_built_in(Result<Atlas>(fail(atlas.error().error)), notes);
}

struct NamedLook {
  std::string name = {};
  Look look = {};
  std::vector<LookParameter> parameters = {};
};
/// Images that looks are filled with, by the names that stand in their file.
using ImagesByName = std::map<std::string, std::shared_ptr<const FillImage>, std::less<>>;
/// Loads all looks of a file (docs/formats/looks.md), and the images beside it; what they are based on is
/// already put in, parameters have their defaults. Fields that are not known are noted. Fails with `damaged`
/// and the name of the look, and as `load_png` and FillImage::make do.
GRAFEMA_API FileResult<std::vector<NamedLook>> load_looks(const std::string& path, Notes* notes = nullptr);
GRAFEMA_API Result<std::vector<NamedLook>> read_looks(std::string_view text, Notes* notes = nullptr,
                                                      const ImagesByName& images = {});
/// Loads all looks of a file into a book, where labels find them by name; a book that has them already is
/// changed, and shows it at once. Nothing is set where the file can't be read.
GRAFEMA_API FileResult<void> load_looks(const std::string& path, LookBook& book, Notes* notes = nullptr);
/// Loads one look, named as `FILE#NAME`; the name may be left out where the file has one look. Fails with
/// `bad_value` and the nearest name.
GRAFEMA_API FileResult<Look> load_look(const std::string& path_and_name, Notes* notes = nullptr);

/// Loads a sheet of drawn characters: the PNG and the description beside it, same name with .json
/// (docs/formats/font-sheet.md). Fields that are not known are noted.
GRAFEMA_API FileResult<PixelSheet> load_font_sheet(const std::string& png_path, Notes* notes = nullptr);
/// A sheet from its picture and the text of its description. Fails with `damaged` and the field.
GRAFEMA_API Result<PixelSheet> read_font_sheet(Image picture, std::string_view description,
                                               Notes* notes = nullptr);

/// A description to begin with, for a picture of drawn characters that has none: the size of its cells, found
/// by the lines that are free of ink in all of them, its baseline, and the characters of ASCII and Latin-1 in
/// their order. Fails with `damaged` where no such cells are found.
GRAFEMA_API Result<std::string> propose_font_sheet(const Image& picture, std::string_view family);

/// Every character that occurs in a file: in the string values of JSON (.json), in the fields of
/// comma-separated values (.csv), in the whole of any other. Fails with `bad_text` and the offset where the
/// file is not UTF-8.
GRAFEMA_API FileResult<std::vector<char32_t>> load_characters(const std::string& path);

}  // namespace grafema
