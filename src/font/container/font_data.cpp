// SPDX-License-Identifier: MIT
// Brings the bytes of font files into memory.
#include "grafema/font/font_data.hpp"

#include <cerrno>
#include <cstdio>
#include <cstring>

#if defined(__unix__)
#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>
#endif

#include "base/files_read.hpp"

namespace grafema {
namespace {

tl::unexpected<Error> unreadable() {
  return fail(make_error(ErrorKind::file_unreadable, "", std::strerror(errno)));
}

struct FileCloser {
  void operator()(std::FILE* file) const { std::fclose(file); }
};

}  // namespace

FontData FontData::own(std::vector<std::byte> bytes) {
  FontData data;
  const auto owner = std::make_shared<const std::vector<std::byte>>(std::move(bytes));
  data.bytes_ = *owner;
  data.owner_ = owner;
  return data;
}

FontData FontData::copy(std::span<const std::byte> bytes) {
  return own(std::vector<std::byte>(bytes.begin(), bytes.end()));
}

FontData FontData::borrow(std::span<const std::byte> bytes) {
  FontData data;
  data.bytes_ = bytes;
  return data;
}

namespace {

tl::unexpected<Error> too_large(std::uint64_t limit, const std::string& found) {
  static constexpr const char* kExpected = "a file below the size limit";
  return fail(make_error(ErrorKind::file_unreadable, kExpected,
                         found + " bytes; at most " + std::to_string(limit) + " are read"));
}

/// C would open what stands before the zero byte.
bool has_zero_byte(const std::string& path) { return path.find('\0') != std::string::npos; }
tl::unexpected<Error> refuse_zero_byte() {
  return fail(make_error(ErrorKind::file_unreadable, "a file name without a zero byte"));
}

#if defined(__unix__)
/// Opens what can be read to an end: files and pipes, below the limit where the size is known. A pipe without
/// a writer does not block.
Result<std::FILE*> open_readable(const std::string& path, std::size_t max_bytes) {
  const auto refuse = [](const char* found) {
    return fail(make_error(ErrorKind::file_unreadable, "a file or a pipe with a writer", found));
  };
  const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
  if (descriptor < 0) return unreadable();
  std::FILE* file = ::fdopen(descriptor, "rb");
  if (file == nullptr) return ::close(descriptor), unreadable();
  std::unique_ptr<std::FILE, FileCloser> owner(file);
  struct stat status = {};
  if (::fstat(descriptor, &status) != 0) return unreadable();
  if (S_ISDIR(status.st_mode)) return refuse("a folder");
  detail::note_read(status.st_dev, status.st_ino);
  if (S_ISCHR(status.st_mode) && ::isatty(descriptor) == 0) return refuse("a device");
  if (S_ISREG(status.st_mode) && static_cast<std::uint64_t>(status.st_size) > max_bytes) {
    return too_large(max_bytes, std::to_string(status.st_size));
  }
  if (S_ISFIFO(status.st_mode)) {
    // With a writer that has not written yet reading would block; without any it is at its end.
    char first = 0;
    const ssize_t got = ::read(descriptor, &first, 1);
    if (got == 0) return refuse("a pipe without one, or with nothing in it");
    if (got == 1) std::ungetc(static_cast<unsigned char>(first), file);
  }
  ::fcntl(descriptor, F_SETFL, ::fcntl(descriptor, F_GETFL) & ~O_NONBLOCK);
  return owner.release();
}
#else
Result<std::FILE*> open_readable(const std::string& path, std::size_t) {
  std::FILE* file = std::fopen(path.c_str(), "rb");
  if (file == nullptr) return unreadable();
  return file;
}
#endif

}  // namespace

Result<FontData> FontData::read(const std::string& path, std::size_t max_bytes) {
  if (has_zero_byte(path)) return refuse_zero_byte();
  const Result<std::FILE*> opened = open_readable(path, max_bytes);
  if (!opened) return fail(opened.error());
  const std::unique_ptr<std::FILE, FileCloser> file(*opened);
  std::vector<std::byte> bytes;
  constexpr std::size_t kStep = std::size_t{1} << 20;
  std::size_t size = 0;
  while (true) {
    bytes.resize(size + kStep);
    const std::size_t got = std::fread(bytes.data() + size, 1, kStep, file.get());
    size += got;
    if (size > max_bytes) return too_large(max_bytes, "more");
    if (got < kStep) break;
  }
  if (std::ferror(file.get()) != 0) return unreadable();
  bytes.resize(size);
  bytes.shrink_to_fit();
  return own(std::move(bytes));
}

#if defined(__unix__)
Result<FontData> FontData::map(const std::string& path) {
  if (has_zero_byte(path)) return refuse_zero_byte();
  const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (descriptor < 0) return unreadable();
  struct stat status = {};
  const bool regular = ::fstat(descriptor, &status) == 0 && S_ISREG(status.st_mode);
  if (regular) detail::note_read(status.st_dev, status.st_ino);
  const auto size = regular ? static_cast<std::size_t>(status.st_size) : 0;
  void* memory = size > 0 ? ::mmap(nullptr, size, PROT_READ, MAP_PRIVATE, descriptor, 0) : MAP_FAILED;
  ::close(descriptor);
  if (memory == MAP_FAILED) return read(path);  // pipes, empty files and file systems without mapping
  FontData data;
  data.owner_ =
      std::shared_ptr<const void>(memory, [size](const void* m) { ::munmap(const_cast<void*>(m), size); });
  data.bytes_ = {static_cast<const std::byte*>(memory), size};
  return data;
}
#else
Result<FontData> FontData::map(const std::string& path) { return read(path); }
#endif

}  // namespace grafema
