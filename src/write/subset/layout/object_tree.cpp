// SPDX-License-Identifier: MIT
// Orders tables so that short offsets reach: near ones first, each behind all that refer to it.
#include "write/subset/layout/object_tree.hpp"

#include <algorithm>
#include <queue>

#include "base/hash.hpp"

namespace grafema::detail {

std::uint32_t ObjectTree::add(TreeObject object) {
  Fnv1a hash;
  hash.add(std::span<const std::byte>(object.bytes()));
  for (const TreeObject::Link& link : object.links())
    hash.add_number(std::uint64_t{link.at} << 32 | link.target);
  const auto [first, last] = known_.equal_range(hash.result());
  for (auto it = first; it != last; ++it) {
    TreeObject& other = objects_[it->second];
    const auto same = [](const TreeObject::Link& a, const TreeObject::Link& b) {
      return a.at == b.at && a.target == b.target && a.bytes == b.bytes;
    };
    if (other.bytes() == object.bytes() && std::equal(other.links().begin(), other.links().end(),
                                                      object.links().begin(), object.links().end(), same)) {
      return it->second;
    }
  }
  objects_.push_back(std::move(object));
  const auto number = static_cast<std::uint32_t>(objects_.size() - 1);
  known_.emplace(hash.result(), number);
  return number;
}

std::uint32_t ObjectTree::add(std::vector<std::byte> bytes) {
  TreeObject object;
  object.bytes() = std::move(bytes);
  return add(std::move(object));
}

/// Objects are numbered after those that they refer to, so that a walk down the numbers meets every object
/// before what it refers to. Distances count bytes from the root; what a long offset leads to is far.
std::vector<std::uint32_t> ObjectTree::order_of(std::uint32_t root) const {
  constexpr std::uint64_t kFar = std::uint64_t{1} << 40;
  struct Seen {
    std::uint64_t distance = ~std::uint64_t{0};
    std::uint32_t waits = 0;
  };
  std::map<std::uint32_t, Seen, std::greater<>> seen = {{root, {0, 0}}};
  for (auto it = seen.begin(); it != seen.end(); ++it) {
    for (const TreeObject::Link& link : objects_[it->first].links()) {
      Seen& target = seen[link.target];
      target.distance = std::min(
          target.distance, it->second.distance + objects_[link.target].size() + (link.bytes == 2 ? 0 : kFar));
      ++target.waits;
    }
  }
  using Ready = std::pair<std::uint64_t, std::uint32_t>;
  std::priority_queue<Ready, std::vector<Ready>, std::greater<>> ready;
  ready.emplace(0, root);
  std::vector<std::uint32_t> order;
  while (!ready.empty()) {
    const std::uint32_t i = ready.top().second;
    ready.pop();
    order.push_back(i);
    for (const TreeObject::Link& link : objects_[i].links()) {
      Seen& target = seen[link.target];
      if (--target.waits == 0) ready.emplace(target.distance, link.target);
    }
  }
  return order;
}

std::optional<std::vector<std::byte>> ObjectTree::pack(std::uint32_t root) const {
  const std::vector<std::uint32_t> order = order_of(root);
  std::vector<std::size_t> place(root + std::size_t{1}, 0);
  std::size_t at = 0;
  for (const std::uint32_t i : order) {
    place[i] = at;
    at += objects_[i].size();
  }
  TableWriter out;
  out.bytes().reserve(at);
  for (const std::uint32_t i : order) {
    out.append(objects_[i].bytes());
    for (const TreeObject::Link& link : objects_[i].links()) {
      const std::size_t offset = place[link.target] - place[i];
      if (offset >> (link.bytes * 8U) != 0) return std::nullopt;
      for (std::size_t b = 0; b < link.bytes; ++b) {
        out.bytes()[place[i] + link.at + b] = static_cast<std::byte>(offset >> (8 * (link.bytes - 1 - b)));
      }
    }
  }
  return std::move(out.bytes());
}

}  // namespace grafema::detail
