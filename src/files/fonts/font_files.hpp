// SPDX-License-Identifier: MIT
// What a file or folder is that somebody gives for a font, and the files of folders and archives.
#pragma once

#include <cstddef>
#include <cstdint>
#include <functional>
#include <span>
#include <string>
#include <vector>

#include "grafema/files/files.hpp"

namespace grafema::detail {

enum class SourceKind : std::uint8_t { none, folder, archive, family_file, font };

/// By the first bytes, whatever the file is called.
SourceKind source_kind(std::span<const std::byte> bytes);
/// "a zip archive", for an error.
const char* to_words(SourceKind kind);

/// Whether a file's name ends as those of fonts do.
bool named_as_font(const std::string& path);

/// The files in a folder and in those below it, eight deep, sorted; at most 20,000. None where it can't be
/// read.
std::vector<std::string> files_below(const std::string& folder);

/// A file of an archive that is to be unpacked, or is too large for that.
struct ArchiveFile {
  std::string name = {};              ///< with its folders inside the archive
  std::size_t size = 0;               ///< bytes when unpacked
  std::vector<std::byte> bytes = {};  ///< empty where it was not unpacked
};

/// Unpacks those files of a zip archive for which `limit` gives at least their size, at most 1 GB in all, and
/// hands each that has a limit to `take`. Fails with `damaged`.
Result<void> read_archive(const std::string& path,
                          const std::function<std::size_t(const std::string& name)>& limit,
                          const std::function<void(ArchiveFile)>& take);

}  // namespace grafema::detail
