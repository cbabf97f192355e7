// SPDX-License-Identifier: MIT
// Files that are written together: all take their places at the end, or none does.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <string_view>

#include "grafema/files/files.hpp"

namespace grafema {

/// While an OutputFiles lives, files that its thread saves by any `save_...` call wait beside their places,
/// and standard output waits in memory, until `commit`. Without a commit nothing is written. A `save_...`
/// call that fails leaves the files that wait as they are. A call without an OutputFiles follows the same
/// rules alone:
/// - A regular file is replaced as a whole, keeps its permissions, and may be named by a symbolic link.
/// - Character devices, and pipes that somebody reads, are written to at the commit. Folders, sockets and
/// block
///   devices are refused.
/// - A file that the thread has read since the OutputFiles was made is not replaced, by whatever name it
/// goes.
///   No file is written twice before a commit. These calls fail with `file_unwritable`.
/// An OutputFiles within another one hands its files to the outer one at its commit.
class GRAFEMA_API OutputFiles {
 public:
  OutputFiles();
  ~OutputFiles();
  OutputFiles(const OutputFiles&) = delete;
  OutputFiles& operator=(const OutputFiles&) = delete;

  /// Puts all files into their places, in the order of the calls that saved them. If one file can't take its
  /// place, the files of this commit that replaced none are removed again. Fails with `file_unwritable`.
  FileResult<void> commit();

 private:
  struct State;
  std::unique_ptr<State> state_;
};

/// While a ReplaceableReads lives, the thread may replace the files that it reads: for files that are read to
/// be changed, or to see whether they are still right.
class GRAFEMA_API ReplaceableReads {
 public:
  ReplaceableReads();
  ~ReplaceableReads();
  ReplaceableReads(const ReplaceableReads&) = delete;
  ReplaceableReads& operator=(const ReplaceableReads&) = delete;

 private:
  void* before_;
};

}  // namespace grafema
