// SPDX-License-Identifier: MIT
// Errors of files in words, and whole files as text or faces.
#include <cstdio>
#include <filesystem>
#include <memory>
#include <system_error>

#include "files/fonts/font_files.hpp"
#include "grafema/files/files.hpp"

namespace grafema {

std::string describe(const FileError& error) {
  if (error.path.empty() || error.path == "-") {
    const bool output = error.error.kind == ErrorKind::file_unwritable;
    return describe(error.error, error.path.empty() ? "" : output ? "standard output" : "standard input");
  }
  std::error_code ignored;
  const std::filesystem::path absolute = std::filesystem::absolute(error.path, ignored).lexically_normal();
  return describe(error.error, absolute.empty() ? error.path : absolute.string());
}

std::shared_ptr<const Face> or_built_in(const FileResult<std::shared_ptr<const Face>>& face, Notes* notes) {
  if (face) return *face;
  if (notes != nullptr) notes->add({.kind = NoteKind::built_in_face, .text = describe(face.error())});
  return built_in_face();
}

std::shared_ptr<const Face> face_or_built_in(const std::string& path, Notes* notes) {
  return or_built_in(open_face(path), notes);
}

FileResult<std::shared_ptr<const Face>> open_face(const std::string& path, std::size_t index) {
  std::error_code unknown;
  const bool is_folder = std::filesystem::is_directory(path, unknown);
  const Result<FontData> data = FontData::read(path);
  const detail::SourceKind kind = is_folder ? detail::SourceKind::folder
                                  : data    ? detail::source_kind(data->bytes())
                                            : detail::SourceKind::none;
  if (kind != detail::SourceKind::none && kind != detail::SourceKind::font) {
    constexpr const char* kExpected = "one font file (load_fonts loads folders, archives and family files)";
    return tl::unexpected<FileError>(
        {make_error(ErrorKind::not_a_font, kExpected, detail::to_words(kind)), path});
  }
  if (!data) return tl::unexpected<FileError>({data.error(), path});
  Result<std::shared_ptr<const Face>> face = Face::open(*data, index);
  if (!face) return tl::unexpected<FileError>({face.error(), path});
  return *std::move(face);
}

FileResult<std::string> load_text(const std::string& path, std::size_t max_bytes) {
  if (path == "-") {
    std::string text;
    char buffer[4096];
    while (const std::size_t got = std::fread(buffer, 1, sizeof buffer, stdin)) {
      text.append(buffer, got);
      if (text.size() <= max_bytes) continue;
      return tl::unexpected<FileError>({make_error(ErrorKind::file_unreadable, "text below the size limit",
                                                   "more than " + std::to_string(max_bytes) + " bytes"),
                                        path});
    }
    return text;
  }
  const Result<FontData> data = FontData::read(path, max_bytes);
  if (!data) return tl::unexpected<FileError>({data.error(), path});
  const auto bytes = data->bytes();
  return std::string(reinterpret_cast<const char*>(bytes.data()), bytes.size());
}

}  // namespace grafema
