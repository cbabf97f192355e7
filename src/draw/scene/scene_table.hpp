// SPDX-License-Identifier: MIT
// A table that renderers keep a copy of: it knows which of its blocks changed at which revision.
#pragma once

#include <algorithm>
#include <cstdint>
#include <span>
#include <vector>

#include "grafema/draw/scene_memory.hpp"

namespace grafema::detail {

/// When blocks of a table changed last.
class BlockChanges {
 public:
  /// Blocks of 2^`shift` items.
  explicit BlockChanges(unsigned shift) : shift_(shift) {}

  void resize(std::size_t items) { revisions_.resize((items + (std::size_t{1} << shift_) - 1) >> shift_); }
  void mark(std::size_t item, std::uint64_t revision) {
    revisions_[item >> shift_] = revision;
    last_ = revision;
  }
  void mark(std::size_t first, std::size_t end, std::uint64_t revision) {
    if (first >= end) return;
    for (std::size_t b = first >> shift_; b <= (end - 1) >> shift_; ++b) revisions_[b] = revision;
    last_ = revision;
  }
  /// Of all blocks, for who marks many; `mark_any` then tells that some were.
  std::uint64_t* blocks() { return revisions_.data(); }
  unsigned shift() const { return shift_; }
  void mark_any(std::uint64_t revision) { last_ = revision; }
  /// As SceneMemory::changes_since.
  std::size_t since(std::uint64_t revision, std::size_t items, std::span<IndexRange> out) const;

 private:
  unsigned shift_;
  std::vector<std::uint64_t> revisions_;
  std::uint64_t last_ = 0;
};

template <class T>
class SceneTableOf {
 public:
  explicit SceneTableOf(unsigned shift) : changes_(shift) {}

  std::size_t size() const { return items_.size(); }
  std::span<const T> all() const { return items_; }
  const T& operator[](std::size_t i) const { return items_[i]; }
  /// To be written: the item counts as changed.
  T& change(std::size_t i, std::uint64_t revision) {
    changes_.mark(i, revision);
    return items_[i];
  }
  std::span<T> change(std::size_t first, std::size_t count, std::uint64_t revision) {
    changes_.mark(first, first + count, revision);
    return std::span(items_).subspan(first, count);
  }
  /// Changes many items one after the other. Good until the table is resized.
  class Writer {
   public:
    Writer(SceneTableOf& rows, std::uint64_t revision)
        : items_(rows.items_.data()),
          blocks_(rows.changes_.blocks()),
          shift_(rows.changes_.shift()),
          revision_(revision) {
      rows.changes_.mark_any(revision);
    }
    T& operator[](std::size_t i) const {
      blocks_[i >> shift_] = revision_;
      return items_[i];
    }

   private:
    T* items_;
    std::uint64_t* blocks_;
    unsigned shift_;
    std::uint64_t revision_;
  };
  /// Takes a fifth more than is wanted where it must take more, not twice as much.
  void resize(std::size_t count, const T& value = {}) {
    if (count > items_.capacity()) items_.reserve(std::max(count, items_.capacity() + items_.capacity() / 4));
    items_.resize(count, value);
    changes_.resize(count);
  }
  void reserve(std::size_t count) { items_.reserve(count); }
  void assign(std::vector<T>& from, std::uint64_t revision) {
    items_.swap(from);
    changes_.resize(items_.size());
    changes_.mark(0, items_.size(), revision);
  }
  std::size_t since(std::uint64_t revision, std::span<IndexRange> out) const {
    return changes_.since(revision, items_.size(), out);
  }

 private:
  std::vector<T> items_;
  BlockChanges changes_;
};

/// Gives out ranges of a table; what was given back is given out again.
class RangeBook {
 public:
  /// How many items a range for `count` really has.
  static std::uint32_t room_for(std::uint32_t count) {
    return count <= 64 ? (count + 3) / 4 * 4 : count + count / 4;
  }
  /// The first of a range of `room` items, at `end()` where none is free; then the table must grow.
  std::uint32_t take(std::uint32_t room);
  void give_back(std::uint32_t first, std::uint32_t room);
  std::uint32_t end() const { return end_; }
  void clear(std::uint32_t begin = 0) { free_.clear(), end_ = begin; }

 private:
  struct Free {
    std::uint32_t room;
    std::vector<std::uint32_t> firsts;
  };
  std::vector<Free> free_;
  std::uint32_t end_ = 0;
};

}  // namespace grafema::detail
