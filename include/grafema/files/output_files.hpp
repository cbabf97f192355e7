// SPDX-License-Identifier: MIT
// Files that are written together: all take their places at the end, or none does.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <string_view>

#include "grafema/files/files.hpp"

namespace grafema {

/// While one lives, what its thread saves by any `save_...` call waits beside its place, and standard output
/// waits in memory, until `commit`. Without a commit nothing was written. The same rules hold of each single
/// `save_...` call outside:
/// - A regular file is replaced as a whole, keeps its permissions, and may be named by a symbolic link.
/// - Character devices and pipes that somebody reads are written to at the commit. Folders, sockets and block
///   devices are refused.
/// A file that the thread has read since this began is not replaced, by whatever name it goes, nor is a file
/// written twice: that call fails with `file_unwritable`. One may live inside another,
/// to which its commit hands what it has.
class GRAFEMA_API OutputFiles {
 public:
  OutputFiles();
  ~OutputFiles();
  OutputFiles(const OutputFiles&) = delete;
  OutputFiles& operator=(const OutputFiles&) = delete;

  /// Puts everything in its place, in the order of the calls that saved it. Where one file fails the others
  /// that were not there before are removed again. Fails with `file_unwritable`.
  FileResult<void> commit();

 private:
  struct State;
  std::unique_ptr<State> state_;
};

/// While one lives, files that the thread reads may be replaced: those that are read to be changed, or to see
/// whether they are still right.
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
