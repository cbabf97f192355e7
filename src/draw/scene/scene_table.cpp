// SPDX-License-Identifier: MIT
// Changes of tables as ranges, and ranges that are used again.
#include "draw/scene/scene_table.hpp"

namespace grafema::detail {

std::size_t BlockChanges::since(std::uint64_t revision, std::size_t items, std::span<IndexRange> out) const {
  if (out.empty() || items == 0 || (revision != 0 && last_ <= revision)) return 0;
  if (revision == 0) {
    out[0] = {0, static_cast<std::uint32_t>(items)};
    return 1;
  }
  // Two ranges with little between them are sent faster as one.
  constexpr std::uint32_t kBetween = 4;
  std::size_t count = 0;
  std::uint32_t last = 0;  // the block behind the last range
  for (std::uint32_t b = 0; b < revisions_.size(); ++b) {
    if (revisions_[b] <= revision) continue;
    const auto end = static_cast<std::uint32_t>(std::min<std::size_t>(items, std::size_t{b + 1} << shift_));
    if (count > 0 && (b - last <= kBetween || count == out.size())) {
      out[count - 1].end = end;
    } else {
      out[count++] = {b << shift_, end};
    }
    last = b + 1;
  }
  return count;
}

std::uint32_t RangeBook::take(std::uint32_t room) {
  for (Free& free : free_) {
    if (free.room != room || free.firsts.empty()) continue;
    const std::uint32_t first = free.firsts.back();
    free.firsts.pop_back();
    return first;
  }
  const std::uint32_t first = end_;
  end_ += room;
  return first;
}

void RangeBook::give_back(std::uint32_t first, std::uint32_t room) {
  if (room == 0) return;
  const auto at =
      std::find_if(free_.begin(), free_.end(), [room](const Free& free) { return free.room == room; });
  if (at != free_.end()) {
    at->firsts.push_back(first);
  } else {
    free_.push_back({room, {first}});
  }
}

}  // namespace grafema::detail
