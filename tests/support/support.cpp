// SPDX-License-Identifier: MIT
// Faces, folders and commands for tests.
#include "support/support.hpp"

#include <sys/wait.h>
#include <unistd.h>

#include <atomic>
#include <cstdlib>
#include <fstream>
#include <sstream>

namespace grafema::test {

std::string dejavu_path(const std::string& file) { return "/usr/share/fonts/truetype/dejavu/" + file; }

std::shared_ptr<const Face> dejavu(const std::string& file) {
  const auto data = FontData::read(dejavu_path(file));
  REQUIRE(data.has_value());
  const auto face = Face::open(*data);
  REQUIRE(face.has_value());
  return *face;
}

std::vector<std::byte> dot_bytes() {
  const FontData data = built_in_font();
  return {data.bytes().begin(), data.bytes().end()};
}

Folder::Folder() {
  static std::atomic<int> count{0};
  root_ = std::filesystem::temp_directory_path() /
          ("grafema-test-" + std::to_string(::getpid()) + "-" + std::to_string(count++));
  std::filesystem::create_directories(root_);
}

Folder::~Folder() {
  std::error_code ignored;
  std::filesystem::remove_all(root_, ignored);
}

std::size_t Folder::file_count() const {
  return static_cast<std::size_t>(
      std::distance(std::filesystem::directory_iterator(root_), std::filesystem::directory_iterator()));
}

Ran run(const std::string& command_line) {
  const Folder folder;
  const std::string whole =
      "( " + command_line + " ) >" + folder.path("out") + " 2>" + folder.path("err") + " </dev/null";
  const int status = std::system(whole.c_str());
  const auto read = [](const std::string& path) {
    std::ostringstream text;
    text << std::ifstream(path, std::ios::binary).rdbuf();
    return text.str();
  };
  return {WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status), read(folder.path("out")),
          read(folder.path("err"))};
}

void add_polygon(Contours& contours, std::span<const FontPoint> points) {
  contours.move_to(points[0]);
  for (const FontPoint p : points.subspan(1)) contours.line_to(p);
  contours.close();
}

Contours polygon(std::initializer_list<FontPoint> points) {
  Contours contours;
  add_polygon(contours, std::span(points.begin(), points.size()));
  return contours;
}

}  // namespace grafema::test
