// SPDX-License-Identifier: MIT
// Things with ids that are not given out twice: an index, and how often it was given out before.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

namespace grafema::detail {

/// Thing 0 is always there and has id 0. An id is an index in its lowest bits and a generation above.
template <class T>
class IdBook {
 public:
  explicit IdBook(unsigned bits) : bits_(bits) {}

  std::size_t size() const { return things_.size(); }
  T& operator[](std::size_t at) { return things_[at].thing; }
  const T& operator[](std::size_t at) const { return things_[at].thing; }
  /// The index of a new thing; 0 where there is no more room.
  std::uint32_t take() {
    std::uint32_t at = 1;
    while (at < things_.size() && things_[at].is_there) ++at;
    if (at >= std::uint32_t{1} << bits_) return 0;
    if (at == things_.size()) things_.emplace_back();
    things_[at].thing = {}, things_[at].is_there = true;
    return at;
  }
  void give_back(std::uint32_t at) {
    things_[at].is_there = false;
    ++things_[at].generation;
    things_[at].thing = {};
  }
  std::uint32_t id_of(std::uint32_t at) const { return at | things_[at].generation << bits_; }
  std::optional<std::uint32_t> find(std::uint32_t id) const {
    const std::uint32_t at = id & ((std::uint32_t{1} << bits_) - 1);
    if (at >= things_.size() || !things_[at].is_there || id_of(at) != id) return std::nullopt;
    return at;
  }

 private:
  struct Held {
    T thing = {};
    std::uint32_t generation = 0;
    bool is_there = true;
  };
  unsigned bits_;
  std::vector<Held> things_ = std::vector<Held>(1);
};

}  // namespace grafema::detail
