// SPDX-License-Identifier: MIT
// Lists the faces of a system by the names in their files, of which nothing else is read.
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <tuple>

#include "files/fonts/font_files.hpp"
#include "font/characters/names.hpp"
#include "font/container/table.hpp"
#include "grafema/files/font_sources.hpp"

namespace grafema {
namespace {

namespace fs = std::filesystem;

constexpr std::size_t kMaxFaces = 256, kMaxTables = 512, kMaxNameBytes = std::size_t{1} << 20U,
                      kMaxWebFontBytes = std::size_t{64} << 20U;

/// Bytes of a file; fewer where it ends before.
std::vector<std::byte> read_part(std::ifstream& file, std::uint64_t offset, std::size_t size) {
  std::vector<std::byte> bytes(size);
  file.clear();
  file.seekg(static_cast<std::streamoff>(offset));
  file.read(reinterpret_cast<char*>(bytes.data()), static_cast<std::streamsize>(size));
  bytes.resize(file.gcount() > 0 ? static_cast<std::size_t>(file.gcount()) : 0);
  return bytes;
}

/// The names of the face whose table directory begins there (OpenType, "Table Directory").
FaceNames read_names_at(std::ifstream& file, std::uint64_t directory) {
  const std::vector<std::byte> head = read_part(file, directory, 12);
  const std::size_t count = std::min<std::size_t>(detail::TableView{{}, head}.u16(4), kMaxTables);
  const std::vector<std::byte> records = read_part(file, directory + 12, count * 16);
  const detail::TableView view{{}, records};
  for (std::size_t at = 0; view.holds(at, 16); at += 16) {
    if (Tag{view.u32(at)} != tag("name")) continue;
    const std::size_t size = std::min<std::size_t>(view.u32(at + 12), kMaxNameBytes);
    const std::vector<std::byte> name = read_part(file, view.u32(at + 8), size);
    return detail::read_names({tag("name"), name}, {});
  }
  return {};
}

void add_web_font(const std::string& path, std::vector<InstalledFace>& out) {
  const Result<FontData> packed = FontData::read(path, kMaxWebFontBytes);
  const auto face = packed ? Face::open(*packed) : Result<std::shared_ptr<const Face>>(fail(packed.error()));
  if (!face) return;
  const FaceNames names = (*face)->names();
  out.push_back({names.family, names.style, path, 0});
}

void add_faces(const std::string& path, std::vector<InstalledFace>& out) {
  std::ifstream file(path, std::ios::binary);
  const std::vector<std::byte> head = read_part(file, 0, 12 + kMaxFaces * 4);
  const std::optional<Container> container = find_container(head);
  if (container == Container::woff || container == Container::woff2) return add_web_font(path, out);
  if (!container) return;
  const detail::TableView view{{}, head};
  const bool several = container == Container::collection;
  const std::size_t count = several ? std::min<std::size_t>(view.u32(8), kMaxFaces) : 1;
  for (std::size_t i = 0; i < count; ++i) {
    const FaceNames names = read_names_at(file, several ? view.u32(12 + i * 4) : 0);
    if (!names.family.empty()) out.push_back({names.family, names.style, path, i});
  }
}

void add_folder(const fs::path& folder, std::vector<std::string>& out) {
  std::error_code error;
  const std::string name = folder.lexically_normal().string();
  if (fs::is_directory(folder, error) && std::find(out.begin(), out.end(), name) == out.end())
    out.push_back(name);
}

std::string environment(const char* name, const char* fallback = "") {
  const char* value = std::getenv(name);
  return value != nullptr && *value != '\0' ? value : fallback;
}

}  // namespace

std::vector<std::string> font_folders() {
  std::vector<std::string> folders;
  const std::string home = environment("HOME");
#if defined(_WIN32)
  add_folder(fs::path(environment("LOCALAPPDATA")) / "Microsoft/Windows/Fonts", folders);
  add_folder(fs::path(environment("WINDIR", "C:/Windows")) / "Fonts", folders);
#elif defined(__APPLE__)
  if (!home.empty()) add_folder(fs::path(home) / "Library/Fonts", folders);
  add_folder("/Library/Fonts", folders);
  add_folder("/System/Library/Fonts", folders);
#else
  std::string data = environment("XDG_DATA_HOME");
  if (data.empty() && !home.empty()) data = home + "/.local/share";
  if (!home.empty()) add_folder(fs::path(home) / ".fonts", folders);
  data += ':' + environment("XDG_DATA_DIRS", "/usr/local/share:/usr/share");
  for (std::size_t at = 0; at <= data.size();) {
    const std::size_t end = std::min(data.find(':', at), data.size());
    if (end > at) add_folder(fs::path(data.substr(at, end - at)) / "fonts", folders);
    at = end + 1;
  }
#endif
  return folders;
}

std::vector<InstalledFace> list_faces(std::span<const std::string> folders) {
  std::vector<InstalledFace> faces;
  for (const std::string& folder : folders) {
    for (const std::string& file : detail::files_below(folder)) {
      if (detail::named_as_font(file)) add_faces(file, faces);
    }
  }
  std::sort(faces.begin(), faces.end(), [](const InstalledFace& a, const InstalledFace& b) {
    return std::tie(a.family, a.style, a.path, a.index) < std::tie(b.family, b.style, b.path, b.index);
  });
  return faces;
}

std::vector<InstalledFace> installed_faces() { return list_faces(font_folders()); }

}  // namespace grafema
