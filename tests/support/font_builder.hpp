// SPDX-License-Identifier: MIT
// Fonts for tests: tables taken from a font, changed, and put together again.
#pragma once

#include <cstddef>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema::test {

/// Big-endian bytes from numbers of 16 bits; negative ones are allowed.
std::vector<std::byte> words(std::initializer_list<int> values);
std::vector<std::byte> joined(std::initializer_list<std::vector<std::byte>> parts);

class FontBuilder {
 public:
  /// Starts from the built-in face: 131 glyphs, space is 1, '!' is 2 and so on through ASCII. Its rules are
  /// left out but for `kern`.
  FontBuilder();
  /// Starts from the tables of any plain font file.
  explicit FontBuilder(const std::vector<std::byte>& file);

  std::vector<std::byte>& table(const std::string& tag) { return tables_[tag]; }
  void remove(const std::string& tag) { tables_.erase(tag); }
  void put16(const std::string& tag, std::size_t at, int value);
  std::vector<std::byte> bytes() const;
  /// Opens it; the test fails where that does.
  std::shared_ptr<const Face> face() const;

 private:
  std::map<std::string, std::vector<std::byte>> tables_;
};

}  // namespace grafema::test
