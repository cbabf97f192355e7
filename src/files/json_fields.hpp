// SPDX-License-Identifier: MIT
// The fields of a JSON object in the order of the document, found by their names in constant time.
#pragma once

#include <functional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <unordered_map>
#include <utility>
#include <vector>

namespace grafema::detail {

/// What nlohmann::basic_json takes as its type of objects. The library's own ordered one looks through all
/// fields for each that it adds, which takes minutes for files of a few megabytes.
template <class Key, class T, class IgnoredLess = std::less<Key>,
          class Allocator = std::allocator<std::pair<const Key, T>>>
class IndexedFields : public std::vector<std::pair<const Key, T>, Allocator> {
 public:
  using Container = std::vector<std::pair<const Key, T>, Allocator>;
  using key_type = Key;
  using mapped_type = T;
  using key_compare = std::equal_to<>;
  using typename Container::const_iterator;
  using typename Container::iterator;
  using typename Container::size_type;
  using typename Container::value_type;

  IndexedFields() = default;
  explicit IndexedFields(const Allocator& allocator) : Container(allocator) {}
  template <class Iterator>
  IndexedFields(Iterator first, Iterator last, const Allocator& allocator = Allocator())
      : Container(allocator) {
    insert(first, last);
  }
  IndexedFields(const IndexedFields&) = default;
  IndexedFields& operator=(const IndexedFields&) = default;
  IndexedFields(IndexedFields&& other) noexcept
      : Container(std::move(other)), index_(std::exchange(other.index_, {})) {}
  IndexedFields& operator=(IndexedFields&& other) noexcept {
    Container::operator=(std::move(other));
    index_ = std::exchange(other.index_, {});
    return *this;
  }
  ~IndexedFields() = default;

  iterator find(std::string_view key) { return this->begin() + static_cast<std::ptrdiff_t>(place_of(key)); }
  const_iterator find(std::string_view key) const {
    return this->begin() + static_cast<std::ptrdiff_t>(place_of(key));
  }
  size_type count(std::string_view key) const { return place_of(key) < this->size() ? 1 : 0; }

  template <class Value>
  std::pair<iterator, bool> emplace(std::string_view key, Value&& value) {
    if (const iterator there = find(key); there != this->end()) return {there, false};
    this->emplace_back(Key(key), std::forward<Value>(value));
    index_rest();
    return {std::prev(this->end()), true};
  }
  std::pair<iterator, bool> insert(const value_type& value) { return emplace(value.first, value.second); }
  template <class Iterator>
  void insert(Iterator first, Iterator last) {
    for (; first != last; ++first) insert(*first);
  }

  /// Costs as much as there are fields.
  iterator erase(const_iterator at) {
    const auto place = static_cast<std::size_t>(at - this->begin());
    Container kept;
    kept.reserve(this->size());
    for (std::size_t i = 0; i < this->size(); ++i) {
      value_type& field = this->data()[i];
      if (i != place) kept.emplace_back(field.first, std::move(field.second));
    }
    this->swap(kept);
    index_.clear();
    index_rest();
    return this->begin() + static_cast<std::ptrdiff_t>(place);
  }

  T& operator[](std::string_view key) { return emplace(key, T{}).first->second; }
  T& at(std::string_view key) { return existing(find(key), this->end()); }
  const T& at(std::string_view key) const { return existing(find(key), this->end()); }

 private:
  static constexpr std::size_t kFew = 16;  // so many are looked through

  struct Hash {
    using is_transparent = void;
    std::size_t operator()(std::string_view text) const { return std::hash<std::string_view>()(text); }
  };
  void index_rest() {
    if (this->size() <= kFew) return;
    for (std::size_t i = index_.size(); i < this->size(); ++i) index_.emplace(this->data()[i].first, i);
  }
  template <class Iterator>
  static auto& existing(Iterator at, Iterator end) {
    return at != end ? at->second : at[-1].second;
  }
  std::size_t place_of(std::string_view key) const {
    if (this->size() > kFew) {
      const auto at = index_.find(key);
      return at != index_.end() ? at->second : this->size();
    }
    std::size_t i = 0;
    while (i < this->size() && std::string_view(this->data()[i].first) != key) ++i;
    return i;
  }

  std::unordered_map<std::string, std::size_t, Hash, std::equal_to<>> index_;
};

}  // namespace grafema::detail
