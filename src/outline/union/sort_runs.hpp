// SPDX-License-Identifier: MIT
// Sorts what rises and falls in few long runs, as the points along outlines do.
#pragma once

#include <algorithm>
#include <cstddef>
#include <vector>

namespace grafema::detail {

/// Turns falling runs round and merges them, two by two; quicker there than any other sort. Keeps its memory.
template <class Value>
class RunSorter {
 public:
  void sort(std::vector<Value>& values) {
    list_runs(values);
    merged_.resize(values.size());
    while (ends_.size() > 1) {
      std::size_t kept = 0, begin = 0;
      for (std::size_t i = 0; i < ends_.size(); i += 2) {
        const std::size_t middle = ends_[i], end = i + 1 < ends_.size() ? ends_[i + 1] : middle;
        merge(values.data(), begin, middle, end);
        ends_[kept++] = begin = end;
      }
      ends_.resize(kept);
      values.swap(merged_);
    }
  }

 private:
  void list_runs(std::vector<Value>& values) {
    ends_.clear();
    const std::size_t count = values.size();
    for (std::size_t i = 0; i < count;) {
      const std::size_t begin = i++;
      const bool falls = i < count && values[i] < values[begin];
      while (i < count && (values[i] < values[i - 1]) == falls) ++i;
      if (falls) std::reverse(values.data() + begin, values.data() + i);
      ends_.push_back(i);
    }
  }

  /// Without a branch that depends on the values: which is less is a toss-up.
  void merge(const Value* values, std::size_t begin, std::size_t middle, std::size_t end) {
    const Value *a = values + begin, *b = values + middle;
    const Value *const a_end = b, *const b_end = values + end;
    Value* out = merged_.data() + begin;
    while (a != a_end && b != b_end) {
      const bool takes_b = *b < *a;
      *out++ = takes_b ? *b : *a;
      b += takes_b ? 1 : 0, a += takes_b ? 0 : 1;
    }
    while (a != a_end) *out++ = *a++;  // few: no call is worth it
    while (b != b_end) *out++ = *b++;
  }

  std::vector<Value> merged_;
  std::vector<std::size_t> ends_;
};

}  // namespace grafema::detail
