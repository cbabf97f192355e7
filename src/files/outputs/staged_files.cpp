// SPDX-License-Identifier: MIT
// Writes files beside their places and renames them into those.
#include "files/outputs/staged_files.hpp"

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <iterator>
#include <system_error>

#if defined(__unix__)
#include <fcntl.h>
#include <signal.h>
#include <sys/stat.h>
#include <unistd.h>
#endif

namespace grafema::detail {
namespace {

namespace fs = std::filesystem;

tl::unexpected<FileError> unwritable(const std::string& path, const char* expected,
                                     std::string_view found = {}) {
  return tl::unexpected<FileError>({make_error(ErrorKind::file_unwritable, expected, found), path});
}

tl::unexpected<FileError> cant_write(const std::string& path, int code) {
  std::error_code ignored;
  const fs::path folder = fs::path(path).parent_path();
  if (!folder.empty() && !fs::exists(folder, ignored)) {
    return unwritable(path, "a folder that exists; make it first", folder.string());
  }
  return unwritable(path, "", std::generic_category().message(code));
}

FileResult<void> write_all(std::FILE* file, const std::string& path, std::span<const std::byte> bytes) {
  const bool written =
      std::fwrite(bytes.data(), 1, bytes.size(), file) == bytes.size() && std::fflush(file) == 0;
  if (!written) return cant_write(path, errno);
  return {};
}

/// Closes too. A file system may say only then that its disk is full.
FileResult<void> write_and_close(std::FILE* file, const std::string& path, std::span<const std::byte> bytes) {
  FileResult<void> written = write_all(file, path, bytes);
  if (std::fclose(file) != 0 && written) return cant_write(path, errno);
  return written;
}

constexpr const char* kPart = ".part-";

/// The process in the name of a part, `NAME.part-PROCESS-NUMBER`; 0 where it is none.
long process_of(const std::string& name) {
  const std::size_t at = name.rfind(kPart);
  if (at == std::string::npos) return 0;
  char* end = nullptr;
  const long process = std::strtol(name.c_str() + at + std::strlen(kPart), &end, 10);
  return *end == '-' && process > 0 ? process : 0;
}

#if defined(__unix__)
std::string part_name(const std::string& path) {
  static std::atomic<unsigned> count{0};
  return path + kPart + std::to_string(::getpid()) + "-" + std::to_string(count++);
}

bool has_ended(long process) {
  return process != ::getpid() && ::kill(static_cast<pid_t>(process), 0) != 0 && errno == ESRCH;
}

std::FILE* open_new(const std::string& path, unsigned mode) {
  const int descriptor = ::open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
  if (descriptor < 0) return nullptr;
  if (mode != 0) (void)::fchmod(descriptor, static_cast<mode_t>(mode));  // as far as the owner may
  return ::fdopen(descriptor, "wb");
}

FileResult<void> write_to_stream(const OutputPlace& place, const std::string& path,
                                 std::span<const std::byte> bytes) {
  // A pipe that nobody reads must not hold the program up.
  const int descriptor = ::open(place.path.c_str(), O_WRONLY | O_NONBLOCK | O_CLOEXEC | O_NOCTTY);
  if (descriptor < 0) {
    if (errno == ENXIO) return unwritable(path, "a pipe that somebody reads", "nobody");
    return cant_write(path, errno);
  }
  ::fcntl(descriptor, F_SETFL, ::fcntl(descriptor, F_GETFL) & ~O_NONBLOCK);
  std::FILE* file = ::fdopen(descriptor, "wb");
  return file == nullptr ? FileResult<void>(cant_write(path, errno)) : write_and_close(file, path, bytes);
}
#else
std::string part_name(const std::string& path) { return path + kPart + "0-0"; }
bool has_ended(long) { return false; }
std::FILE* open_new(const std::string& path, unsigned) { return std::fopen(path.c_str(), "wb"); }
FileResult<void> write_to_stream(const OutputPlace&, const std::string& path, std::span<const std::byte>) {
  return unwritable(path, "a file");
}
#endif

/// Follows symbolic links, also one that leads to nothing yet.
std::string behind_links(const std::string& path) {
  constexpr int kMaxLinks = 40;
  fs::path at(path);
  std::error_code error;
  for (int i = 0; i < kMaxLinks && fs::is_symlink(at, error); ++i) {
    const fs::path to = fs::read_symlink(at, error);
    if (error) break;
    at = to.is_absolute() ? to : at.parent_path() / to;
  }
  return at.string();
}

}  // namespace

FileResult<OutputPlace> find_output_place(const std::string& path) {
  if (path.find('\0') != std::string::npos) return unwritable(path.c_str(), "a name without NUL characters");
  OutputPlace place;
  place.path = path;
#if defined(__unix__)
  struct stat status = {};
  if (::stat(path.c_str(), &status) == 0) {
    if (S_ISDIR(status.st_mode)) return unwritable(path, "a file", "a folder");
    if (S_ISSOCK(status.st_mode)) return unwritable(path, "a file", "a socket");
    if (S_ISBLK(status.st_mode)) return unwritable(path, "a file", "a device of blocks");
    if (!S_ISREG(status.st_mode)) {
      place.kind = OutputPlace::Kind::stream;
      return place;
    }
    place.kind = OutputPlace::Kind::file;
    place.key = {status.st_dev, status.st_ino};
    place.mode = status.st_mode & 0777U;
  }
#else
  std::error_code error;
  if (fs::is_directory(path, error)) return unwritable(path, "a file", "a folder");
  if (fs::exists(path, error)) place.kind = OutputPlace::Kind::file;
#endif
  place.path = behind_links(path);
  return place;
}

StagedFiles::~StagedFiles() {
  for (const Staged& file : files_) {
    if (!file.beside.empty()) std::remove(file.beside.c_str());
  }
}

/// What a process that was ended in the middle of its work has left beside the place.
void StagedFiles::remove_left_over(const std::string& path) {
  const fs::path folder = fs::path(path).parent_path();
  std::error_code error;
  if (seen_folders_.insert(folder.string()).second) {
    for (fs::directory_iterator at(folder.empty() ? "." : folder, error);
         !error && at != fs::directory_iterator(); at.increment(error)) {
      const long process = process_of(at->path().filename().string());
      if (process != 0 && has_ended(process)) left_over_.push_back((folder / at->path().filename()).string());
    }
    std::sort(left_over_.begin(), left_over_.end());
  }
  const std::string first = path + kPart;
  for (auto at = std::lower_bound(left_over_.begin(), left_over_.end(), first);
       at != left_over_.end() && at->starts_with(first); ++at) {
    std::remove(at->c_str());
  }
}

FileResult<void> StagedFiles::add(const std::string& path, std::span<const std::byte> bytes,
                                  const std::string& keep_as, const std::set<FileKey>& read) {
  if (path == "-") {
    files_.push_back({path, {path, OutputPlace::Kind::stream, {}, 0}, {}, {bytes.begin(), bytes.end()}, {}});
    return {};
  }
  if (path.find('\0') != std::string::npos) return unwritable(path, "a file name without a zero byte");
  FileResult<OutputPlace> place = find_output_place(path);
  if (!place) return tl::unexpected(place.error());
  if (place->kind == OutputPlace::Kind::stream) {
    files_.push_back({path, *std::move(place), {}, {bytes.begin(), bytes.end()}, {}});
    return {};
  }
  const bool is_file = place->kind == OutputPlace::Kind::file;
  if (is_file && read.contains(place->key)) {
    return unwritable(path, "another file than those that this is made from", "one of them");
  }
  std::error_code unknown;
  const std::string name = fs::weakly_canonical(place->path, unknown).string();
  if (places_.contains(name) || (is_file && keys_.contains(place->key))) {
    return unwritable(path, "a file for each output", "the file of another one");
  }
  remove_left_over(place->path);
  const std::string beside = part_name(place->path);
  std::FILE* file = open_new(beside, place->mode);
  if (file == nullptr) return cant_write(path, errno);
  if (FileResult<void> written = write_and_close(file, path, bytes); !written) {
    std::remove(beside.c_str());
    return written;
  }
  places_.insert(name);
  if (is_file) keys_.insert(place->key);
  files_.push_back({path, *std::move(place), beside, {}, keep_as});
  return {};
}

FileResult<void> StagedFiles::commit() {
  std::vector<std::string> made;
  std::vector<const Staged*> kept;
  FileResult<void> done;
  for (Staged& file : files_) {
    if (file.beside.empty()) {
      done = file.path == "-" ? write_all(stdout, file.path, file.bytes)
                              : write_to_stream(file.place, file.path, file.bytes);
    } else {
      std::error_code error;
      if (!file.keep_as.empty() && file.place.kind == OutputPlace::Kind::file) {
        kept.push_back(&file);
        if (!fs::exists(file.keep_as, error)) {
          fs::create_hard_link(file.place.path, file.keep_as, error);
          if (error) fs::rename(file.place.path, file.keep_as, error);
        }
      }
      if (std::rename(file.beside.c_str(), file.place.path.c_str()) != 0) {
        done = cant_write(file.path, errno);
      } else {
        file.beside.clear();
        if (file.place.kind == OutputPlace::Kind::none) made.push_back(file.place.path);
      }
    }
    if (!done) break;
  }
  if (!done) {
    for (const std::string& path : made) std::remove(path.c_str());
    for (const Staged* file : kept) std::rename(file->keep_as.c_str(), file->place.path.c_str());
    return done;
  }
  for (const Staged* file : kept) std::remove(file->keep_as.c_str());
  for (const std::string& path : removed_) std::remove(path.c_str());
  files_.clear(), removed_.clear(), places_.clear(), keys_.clear();
  return {};
}

void StagedFiles::hand_to(StagedFiles& other) {
  other.files_.insert(other.files_.end(), std::make_move_iterator(files_.begin()),
                      std::make_move_iterator(files_.end()));
  other.removed_.insert(other.removed_.end(), removed_.begin(), removed_.end());
  other.places_.merge(places_), other.keys_.merge(keys_);
  files_.clear(), removed_.clear();
}

}  // namespace grafema::detail
