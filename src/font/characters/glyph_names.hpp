// SPDX-License-Identifier: MIT
// Names of glyphs, for people who look at a font.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

constexpr std::size_t kStandardStringCount = 391;
/// A standard string of CFF; empty past the last.
std::string_view standard_string(std::size_t id);

/// The names in `post` (formats 1 and 2).
class PostNames {
 public:
  PostNames() = default;
  explicit PostNames(const TableView& post);
  /// Empty where the glyph has none.
  std::string find(std::uint32_t glyph) const;

 private:
  TableView post_;
  std::vector<std::uint32_t> texts_;  ///< where each name's length byte stands
};

}  // namespace grafema::detail
