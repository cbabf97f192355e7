// SPDX-License-Identifier: MIT
// Tables that refer to each other by offsets: kept apart until all are there, then put in a row.
#pragma once

#include <map>
#include <optional>
#include <utility>
#include <vector>

#include "write/tables/table_writer.hpp"

namespace grafema::detail {

/// One table of a tree in the making; where it refers to another, its offset is written when all are packed.
class TreeObject : public TableWriter {
 public:
  static constexpr std::uint32_t kNone = 0xFFFFFFFF;
  struct Link {
    std::uint32_t at = 0, target = 0;
    std::uint8_t bytes = 2;
  };

  /// An offset of 16, 24 or 32 bits to the object of that number; `kNone`: an offset of 0.
  void link16(std::uint32_t target) { link(target, 2); }
  void link24(std::uint32_t target) { link(target, 3); }
  void link32(std::uint32_t target) { link(target, 4); }
  const std::vector<Link>& links() const { return links_; }

 private:
  void link(std::uint32_t target, std::uint8_t bytes) {
    if (target != kNone) links_.push_back({static_cast<std::uint32_t>(size()), target, bytes});
    for (std::uint8_t i = 0; i < bytes; ++i) u8(0);
  }
  std::vector<Link> links_;
};

/// Offsets count from the object that holds them. Objects that are the same are held once.
class ObjectTree {
 public:
  static constexpr std::uint32_t kNone = TreeObject::kNone;

  /// Gives the object's number.
  std::uint32_t add(TreeObject object);
  std::uint32_t add(std::vector<std::byte> bytes);
  /// The object and all that it refers to, each behind those that refer to it; nothing where an offset would
  /// not fit its bits.
  std::optional<std::vector<std::byte>> pack(std::uint32_t root) const;

 private:
  std::vector<std::uint32_t> order_of(std::uint32_t root) const;

  std::vector<TreeObject> objects_;
  std::multimap<std::uint64_t, std::uint32_t> known_;  ///< by a hash of what they hold
};

}  // namespace grafema::detail
