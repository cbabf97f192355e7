// SPDX-License-Identifier: MIT
// What tests share: faces, folders that clean up after themselves, random numbers that print their seed.
#pragma once

#include <catch2/catch.hpp>
#include <filesystem>
#include <memory>
#include <random>
#include <string>

#include "grafema/files/files.hpp"
#include "grafema/font/face.hpp"

namespace grafema::test {

/// Of many alike letters a test takes every so many-th. Sanitizers make each ten times slower, and the other
/// builds take all of them.
#ifdef GRAFEMA_SANITIZED
inline constexpr std::uint32_t kStride = 4;
#else
inline constexpr std::uint32_t kStride = 1;
#endif

/// A face of Debian's fonts-dejavu-core, such as "DejaVuSans.ttf".
std::shared_ptr<const Face> dejavu(const std::string& file = "DejaVuSans.ttf");
std::string dejavu_path(const std::string& file = "DejaVuSans.ttf");

/// The bytes of the built-in face, for tests that damage them.
std::vector<std::byte> dot_bytes();

/// A folder of its own that is removed at the end.
class Folder {
 public:
  Folder();
  ~Folder();
  Folder(const Folder&) = delete;
  Folder& operator=(const Folder&) = delete;
  std::string path(const std::string& name = "") const { return (root_ / name).string(); }
  std::size_t file_count() const;

 private:
  std::filesystem::path root_;
};

struct Ran {
  int exit = -1;
  std::string out, err;
};

/// Runs a shell command line and gathers what it prints.
Ran run(const std::string& command_line);

/// Contours of straight lines through the points, closed.
Contours polygon(std::initializer_list<FontPoint> points);
void add_polygon(Contours& contours, std::span<const FontPoint> points);

}  // namespace grafema::test
