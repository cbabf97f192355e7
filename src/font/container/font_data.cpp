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

Result<FontData> FontData::read(const std::string& path, std::size_t max_bytes) {
  const std::unique_ptr<std::FILE, FileCloser> file(std::fopen(path.c_str(), "rb"));
  if (!file) return unreadable();
  std::vector<std::byte> bytes;
  constexpr std::size_t kStep = std::size_t{1} << 20;
  std::size_t size = 0;
  while (true) {
    bytes.resize(size + kStep);
    const std::size_t got = std::fread(bytes.data() + size, 1, kStep, file.get());
    size += got;
    if (got < kStep) break;
    if (size > max_bytes) {
      return fail(make_error(ErrorKind::file_unreadable, "a file below the size limit",
                             "more than " + std::to_string(max_bytes) + " bytes"));
    }
  }
  if (std::ferror(file.get()) != 0) return unreadable();
  bytes.resize(size);
  bytes.shrink_to_fit();
  return own(std::move(bytes));
}

#if defined(__unix__)
Result<FontData> FontData::map(const std::string& path) {
  const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (descriptor < 0) return unreadable();
  struct stat status = {};
  const bool regular = ::fstat(descriptor, &status) == 0 && S_ISREG(status.st_mode);
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
