// SPDX-License-Identifier: MIT
// Moves the gap of a buffer of glyphs and merges clusters.
#include "text/shaping/engine/shape_buffer.hpp"

#include <algorithm>

namespace grafema::detail {

void ShapeBuffer::move_gap(std::size_t at) {
  const auto begin = items_.begin();
  const auto offset = [](std::size_t i) { return static_cast<std::ptrdiff_t>(i); };
  if (at < gap_at_) {
    std::move_backward(begin + offset(at), begin + offset(gap_at_), begin + offset(gap_at_ + gap_));
  } else {
    std::move(begin + offset(gap_at_ + gap_), begin + offset(at + gap_), begin + offset(gap_at_));
  }
  gap_at_ = at;
}

bool ShapeBuffer::replace(std::size_t at, std::size_t count, std::span<const ShapeItem> with) {
  if (with.size() == count) {
    for (std::size_t i = 0; i < count; ++i) (*this)[at + i] = with[i];
    return true;
  }
  if (size() - count + with.size() > largest_) return false;
  move_gap(at);
  gap_ += count;
  if (with.size() > gap_) {
    const std::size_t more = with.size() - gap_ + items_.size() / 2 + 8;
    const std::size_t tail = gap_at_ + gap_, old = items_.size();
    items_.resize(old + more);
    std::move_backward(items_.begin() + static_cast<std::ptrdiff_t>(tail),
                       items_.begin() + static_cast<std::ptrdiff_t>(old), items_.end());
    gap_ += more;
  }
  std::copy(with.begin(), with.end(), items_.begin() + static_cast<std::ptrdiff_t>(gap_at_));
  gap_at_ += with.size();
  gap_ -= with.size();
  return true;
}

std::span<ShapeItem> ShapeBuffer::close_gap() {
  if (gap_ == 0) return items_;
  move_gap(size());
  items_.resize(items_.size() - gap_);
  gap_ = 0;
  return items_;
}

void ShapeBuffer::join_clusters(std::size_t first, std::size_t end) {
  if (end - first < 2) return;
  ShapeBuffer& items = *this;
  std::uint32_t least = items[first].cluster;
  bool differs = false;
  for (std::size_t i = first + 1; i < end; ++i) {
    differs = differs || items[i].cluster != least;
    least = std::min(least, items[i].cluster);
  }
  if (!differs) return;
  const std::uint32_t head = items[first].cluster, tail = items[end - 1].cluster;
  while (end < size() && items[end].cluster == tail) ++end;
  while (first > 0 && items[first - 1].cluster == head) --first;
  for (std::size_t i = first; i < end; ++i) items[i].cluster = least;
}

void ShapeBuffer::keep_together(std::size_t first, std::size_t end) {
  if (end - first < 2) return;
  ShapeBuffer& items = *this;
  std::uint32_t least = items[first].cluster;
  for (std::size_t i = first + 1; i < end; ++i) least = std::min(least, items[i].cluster);
  for (std::size_t i = first; i < end; ++i) {
    if (items[i].cluster != least) items[i].flags |= ShapeItem::kNoCutBefore;
  }
}

}  // namespace grafema::detail
