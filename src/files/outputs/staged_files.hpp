// SPDX-License-Identifier: MIT
// A list of files that wait beside their places.
#pragma once

#include <set>
#include <vector>

#include "base/files_read.hpp"
#include "grafema/files/files.hpp"

namespace grafema::detail {

/// One place, looked at before anything is written there.
struct OutputPlace {
  enum class Kind : std::uint8_t { none, file, stream };  ///< nothing there, a regular file, a device or pipe
  std::string path;                                       ///< behind all symbolic links
  Kind kind = Kind::none;
  FileKey key;        ///< of a file
  unsigned mode = 0;  ///< permission bits of a file
};
/// Fails with `file_unwritable` where nothing can be written there.
FileResult<OutputPlace> find_output_place(const std::string& path);

class StagedFiles {
 public:
  StagedFiles() = default;
  StagedFiles(const StagedFiles&) = delete;
  StagedFiles& operator=(const StagedFiles&) = delete;
  ~StagedFiles();  ///< removes what was not committed

  /// `keep_as`: while the rest of the list takes its places, what stood there is to be found under this name.
  FileResult<void> add(const std::string& path, std::span<const std::byte> bytes, const std::string& keep_as,
                       const std::set<FileKey>& read);
  FileResult<void> commit();
  /// After a commit, removes the file.
  void remove_at_end(const std::string& path) { removed_.push_back(path); }
  /// Moves all to the end of `other`.
  void hand_to(StagedFiles& other);

 private:
  struct Staged {
    std::string path;  ///< as the caller has it
    OutputPlace place;
    std::string beside;            ///< where it waits; empty for a stream
    std::vector<std::byte> bytes;  ///< of a stream
    std::string keep_as;
  };
  void remove_left_over(const std::string& path);

  std::vector<Staged> files_;
  std::vector<std::string> removed_;
  std::set<std::string> places_;
  std::set<FileKey> keys_;
  std::set<std::string> seen_folders_;
  std::vector<std::string> left_over_;  ///< parts of ended processes in those folders, sorted
};

/// The list of the thread's innermost OutputFiles; null where it has none.
StagedFiles* staged_here();

/// Saves by that list, or at once where there is none. `keep_as` as in StagedFiles::add.
FileResult<void> save_keeping(const std::string& path, std::span<const std::byte> bytes,
                              const std::string& keep_as);

}  // namespace grafema::detail
