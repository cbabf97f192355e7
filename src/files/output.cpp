// SPDX-License-Identifier: MIT
// Reads whole files and writes them beside, then renames.
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <memory>
#include <system_error>

#if defined(__unix__)
#include <unistd.h>
#endif

#include "files/fonts/font_files.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

struct Closer {
  void operator()(std::FILE* file) const { std::fclose(file); }
};
using File = std::unique_ptr<std::FILE, Closer>;

tl::unexpected<FileError> system_failure(ErrorKind kind, const std::string& path, int code) {
  return tl::unexpected<FileError>({make_error(kind, "", std::generic_category().message(code)), path});
}

tl::unexpected<FileError> cant_write(const std::string& path, int code) {
  namespace fs = std::filesystem;
  std::error_code ignored;
  const fs::path folder = fs::path(path).parent_path();
  if (!folder.empty() && !fs::exists(folder, ignored)) {
    return tl::unexpected<FileError>(
        {make_error(ErrorKind::file_unwritable, "a folder that exists; make it first", folder.string()),
         path});
  }
  return system_failure(ErrorKind::file_unwritable, path, code);
}

/// A name beside the file that no other process chooses.
std::string name_beside(const std::string& path) {
#if defined(__unix__)
  return path + ".part-" + std::to_string(::getpid());
#else
  return path + ".part";
#endif
}

FileResult<void> write_all(std::FILE* file, const std::string& path, std::span<const std::byte> bytes) {
  const bool written =
      std::fwrite(bytes.data(), 1, bytes.size(), file) == bytes.size() && std::fflush(file) == 0;
  if (!written) return cant_write(path, errno);
  return {};
}

}  // namespace

std::string describe(const FileError& error) {
  if (error.path.empty() || error.path == "-") {
    return describe(error.error, error.path == "-" ? "standard input" : "");
  }
  std::error_code ignored;
  const std::filesystem::path absolute = std::filesystem::absolute(error.path, ignored).lexically_normal();
  return describe(error.error, absolute.empty() ? error.path : absolute.string());
}

void print_error(const FileError& error) { std::fprintf(stderr, "grafema: %s\n", describe(error).c_str()); }

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

FileResult<void> save_file(const std::string& path, std::span<const std::byte> bytes) {
  if (path == "-") return write_all(stdout, path, bytes);
  const std::string beside = name_beside(path);
  File file(std::fopen(beside.c_str(), "wb"));
  if (!file) return cant_write(path, errno);
  FileResult<void> written = write_all(file.get(), path, bytes);
  file.reset();
  if (written && std::rename(beside.c_str(), path.c_str()) != 0) written = cant_write(path, errno);
  if (!written) std::remove(beside.c_str());
  return written;
}

FileResult<void> save_text(const std::string& path, std::string_view text) {
  return save_file(path, std::as_bytes(std::span(text.data(), text.size())));
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
