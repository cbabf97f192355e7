// SPDX-License-Identifier: MIT
// Which files a thread has read, for who must not replace them.
#pragma once

#include <cstdint>
#include <set>

namespace grafema::detail {

/// A file by what it is, not by one of its names (POSIX, st_dev and st_ino).
struct FileKey {
  std::uint64_t device = 0, number = 0;
  auto operator<=>(const FileKey&) const = default;
};

/// The set to which the thread's reads are added; null: nobody asks.
inline std::set<FileKey>*& files_read() {
  static thread_local std::set<FileKey>* list = nullptr;
  return list;
}

inline void note_read(std::uint64_t device, std::uint64_t number) {
  if (files_read() != nullptr) files_read()->insert({device, number});
}

}  // namespace grafema::detail
