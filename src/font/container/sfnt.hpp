// SPDX-License-Identifier: MIT
// The container of OpenType faces: header, table directory, collections (OpenType, "The OpenType font file").
#pragma once

#include <vector>

#include "font/container/table.hpp"

namespace grafema::detail {

/// The tables of one face.
class Directory {
 public:
  /// Reads the directory of face `index`.
  static Result<Directory> read(std::span<const std::byte> file, std::size_t index);

  /// The table; empty bytes where there is none or it starts outside the file. A table that the file cuts
  /// short has what is left of it.
  TableView find(Tag tag) const;
  std::vector<Tag> tags() const;  ///< ascending, each once
  std::uint64_t hash() const { return hash_; }

 private:
  std::vector<TableView> tables_;
  std::uint64_t hash_ = 0;
};

/// How many faces the file holds: 1, or a collection's count.
Result<std::size_t> read_face_count(std::span<const std::byte> file);

}  // namespace grafema::detail
