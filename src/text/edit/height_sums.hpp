// SPDX-License-Identifier: MIT
// Heights of many lines: where each begins, and which line stands at a height.
#pragma once

#include <cstddef>
#include <vector>

namespace grafema::detail {

class HeightSums {
 public:
  std::size_t size() const { return heights_.size(); }
  float height(std::size_t index) const { return heights_[index]; }
  void assign(std::size_t count, float height) {
    heights_.assign(count, height);
    rebuild();
  }
  void set(std::size_t index, float height) {
    const double change = static_cast<double>(height) - static_cast<double>(heights_[index]);
    if (change == 0) return;
    heights_[index] = height;
    for (std::size_t i = index + 1; i < sums_.size(); i += i & (~i + 1)) sums_[i] += change;
  }
  void insert(std::size_t index, std::size_t count, float height) {
    heights_.insert(heights_.begin() + static_cast<std::ptrdiff_t>(index), count, height);
    rebuild();
  }
  void erase(std::size_t index, std::size_t count) {
    const auto at = heights_.begin() + static_cast<std::ptrdiff_t>(index);
    heights_.erase(at, at + static_cast<std::ptrdiff_t>(count));
    rebuild();
  }
  /// The sum of all heights before a line.
  double before(std::size_t index) const {
    double sum = 0;
    for (std::size_t i = index; i > 0; i -= i & (~i + 1)) sum += sums_[i];
    return sum;
  }
  /// The line that stands at a height; the first or the last for what lies beyond.
  std::size_t find(double y) const {
    std::size_t at = 0, step = 1;
    while (step * 2 < sums_.size()) step *= 2;
    for (; step > 0; step /= 2) {
      if (at + step < sums_.size() && sums_[at + step] <= y) {
        at += step;
        y -= sums_[at];
      }
    }
    return heights_.empty() ? 0 : at < heights_.size() ? at : heights_.size() - 1;
  }

 private:
  /// A binary indexed tree: entry i sums the i & -i heights up to i.
  void rebuild() {
    sums_.assign(heights_.size() + 1, 0);
    for (std::size_t i = 1; i < sums_.size(); ++i) {
      sums_[i] += static_cast<double>(heights_[i - 1]);
      const std::size_t above = i + (i & (~i + 1));
      if (above < sums_.size()) sums_[above] += sums_[i];
    }
  }

  std::vector<float> heights_;
  std::vector<double> sums_;
};

}  // namespace grafema::detail
