// SPDX-License-Identifier: MIT
// Walks through folders and zip archives.
#include "files/fonts/font_files.hpp"

#include <zip.h>

#include <algorithm>
#include <filesystem>
#include <memory>

#include "files/fonts/license_texts.hpp"
#include "grafema/font/font_data.hpp"

namespace grafema {
namespace {

namespace fs = std::filesystem;

// Archives come from the net: what they may unfold into is bounded.
constexpr std::size_t kMaxFiles = 20'000, kMaxUnpackedBytes = std::size_t{1} << 30U;
constexpr int kMaxFolders = 8;

struct ZipCloser {
  void operator()(zip_t* archive) const { zip_discard(archive); }
  void operator()(zip_file_t* file) const { zip_fclose(file); }
};

std::vector<std::byte> read_entry(zip_t* archive, zip_uint64_t index, std::size_t size) {
  std::vector<std::byte> bytes(size);
  const std::unique_ptr<zip_file_t, ZipCloser> file(zip_fopen_index(archive, index, 0));
  const zip_int64_t got = file ? zip_fread(file.get(), bytes.data(), size) : -1;
  bytes.resize(got < 0 ? 0 : static_cast<std::size_t>(got));
  return bytes;
}

}  // namespace

detail::SourceKind detail::source_kind(std::span<const std::byte> bytes) {
  if (find_container(bytes)) return SourceKind::font;
  const std::string_view text(reinterpret_cast<const char*>(bytes.data()), bytes.size());
  if (text.starts_with("PK\3\4")) return SourceKind::archive;
  const std::size_t first = text.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
  const bool object = first != std::string_view::npos && text[first] == '{';
  return object && text.find("\"grafema-family\"") != std::string_view::npos ? SourceKind::family_file
                                                                             : SourceKind::none;
}

const char* detail::to_words(SourceKind kind) {
  switch (kind) {
    case SourceKind::none:
      break;
    case SourceKind::folder:
      return "a folder";
    case SourceKind::archive:
      return "a zip archive";
    case SourceKind::family_file:
      return "a family file";
    case SourceKind::font:
      return "a font file";
  }
  return "another file";
}

bool detail::named_as_font(const std::string& path) {
  const std::string extension = small_letters(fs::path(path).extension().string());
  constexpr const char* kEndings[] = {".ttf", ".otf", ".ttc", ".otc", ".woff", ".woff2", ".otb", ".dfont"};
  return std::any_of(std::begin(kEndings), std::end(kEndings),
                     [&](const char* ending) { return extension == ending; });
}

std::vector<std::string> detail::files_below(const std::string& folder) {
  std::vector<std::string> files;
  std::error_code error;
  auto at = fs::recursive_directory_iterator(folder, fs::directory_options::skip_permission_denied, error);
  for (; !error && at != fs::recursive_directory_iterator() && files.size() < kMaxFiles;
       at.increment(error)) {
    std::error_code unknown;
    if (at.depth() >= kMaxFolders || at->path().filename() == "__MACOSX") at.disable_recursion_pending();
    if (at->is_regular_file(unknown)) files.push_back(at->path().string());
  }
  std::sort(files.begin(), files.end());
  return files;
}

Result<void> detail::read_archive(const std::string& path,
                                  const std::function<std::size_t(const std::string& name)>& limit,
                                  const std::function<void(ArchiveFile)>& take) {
  int problem = 0;
  const std::unique_ptr<zip_t, ZipCloser> archive(
      zip_open(path.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &problem));
  if (!archive) return fail(make_error(ErrorKind::damaged, "a zip archive"));
  const auto count = std::clamp<zip_int64_t>(zip_get_num_entries(archive.get(), 0), 0, kMaxFiles);
  std::size_t left = kMaxUnpackedBytes;
  for (zip_uint64_t i = 0; i < static_cast<zip_uint64_t>(count); ++i) {
    zip_stat_t entry;
    zip_stat_init(&entry);
    if (zip_stat_index(archive.get(), i, 0, &entry) != 0 || (entry.valid & ZIP_STAT_NAME) == 0 ||
        (entry.valid & ZIP_STAT_SIZE) == 0 || entry.size == 0) {
      continue;
    }
    ArchiveFile file{entry.name, entry.size, {}};
    // One system keeps a file of its own beside each, under the same names.
    if (file.name.starts_with("__MACOSX/")) continue;
    const std::size_t most = limit(file.name);
    if (most == 0) continue;
    if (file.size <= std::min(most, left)) {
      left -= file.size;
      file.bytes = read_entry(archive.get(), i, file.size);
    }
    take(std::move(file));
  }
  return {};
}

}  // namespace grafema
